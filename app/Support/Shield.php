<?php

declare(strict_types=1);

namespace App\Support;

/** What every answer says to the browser, files too, and which hosts are this machine. */
final class Shield
{
    /**
     * Nothing from elsewhere is loaded, run, framed or sent to. Styles may be inline: menus are put in their places by them. Pictures may come from the
     * page itself: what is drawn there is shown before it is stored. Of its own code the page may compile WebAssembly: what writes EXRs is that.
     */
    private const POLICY = "default-src 'none'; script-src 'self' 'wasm-unsafe-eval'; style-src 'self' 'unsafe-inline'; img-src 'self' data: blob:; font-src 'self' data:; connect-src 'self' blob: data:; worker-src 'self' blob:; base-uri 'none'; form-action 'self'; frame-ancestors 'none'";

    public const HEADERS = [
        'Content-Security-Policy' => self::POLICY,
        'X-Content-Type-Options' => 'nosniff',
        'X-Frame-Options' => 'DENY',
        'Referrer-Policy' => 'same-origin',
        'Cross-Origin-Resource-Policy' => 'same-origin',
        'Cross-Origin-Opener-Policy' => 'same-origin',
    ];

    /**
     * Whether a host, with or without a port, is this machine's, or one of the names under which it is reached.
     *
     * @param list<string> $names
     */
    public static function isOurs(string $host, array $names = []): bool
    {
        $ours = implode('|', array_map(static fn (string $name): string => preg_quote($name, '/'), ['127.0.0.1', 'localhost', '[::1]', ...$names]));

        return preg_match("/^({$ours})(:\d{1,5})?$/Di", $host) === 1;
    }
}
