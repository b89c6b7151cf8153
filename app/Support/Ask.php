<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Http\Request;

/** What a request says, as what it ought to be. */
final class Ask
{
    /** @throws Problem 422 if something else than a text was sent */
    public static function text(Request $request, string $name, string $default = ''): string
    {
        $value = $request->input($name, $default);
        if (is_string($value) || is_int($value) || is_float($value)) {
            return (string) $value;
        }
        if ($value === null) {
            return $default;
        }
        $detail = "Send a text as \"{$name}\".";
        throw new Problem(422, 'A text was expected', $detail, ['errors' => [['pointer' => "/{$name}", 'detail' => $detail]]]);
    }
}
