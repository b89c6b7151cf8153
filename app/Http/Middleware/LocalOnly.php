<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Support\Problem;
use App\Support\Shield;
use Closure;
use Illuminate\Foundation\Vite;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * There is no sign-in yet, so only this machine's own browser may talk to us: the host must be a loopback name, and a change
 * must come from our own pages (no other web page may send one).
 */
final class LocalOnly
{
    public function __construct(private readonly Vite $vite)
    {
    }

    public function handle(Request $request, Closure $next): Response
    {
        $response = $this->refused($request) ?? $next($request);
        assert($response instanceof Response);
        foreach (Shield::HEADERS as $name => $value) {
            // While the interface is being worked on, its scripts come from elsewhere.
            if ($name !== 'Content-Security-Policy' || ! $this->vite->isRunningHot()) {
                $response->headers->set($name, $value);
            }
        }
        header_remove('X-Powered-By');

        return $response;
    }

    private function refused(Request $request): ?Response
    {
        if (! Shield::isOurs($request->getHttpHost())) {
            return Problem::from(new Problem(403, 'Only for this machine', 'Open Yard Break under http://127.0.0.1.'));
        }
        $origin = $request->headers->get('Origin');
        $elsewhere = ($origin !== null && $origin !== $request->getSchemeAndHttpHost()) || in_array($request->headers->get('Sec-Fetch-Site'), ['cross-site', 'same-site'], true);

        return $elsewhere && ! $request->isMethodSafe() ? Problem::from(new Problem(403, 'Not from here', 'Changes can only be made from Yard Break’s own pages.')) : null;
    }
}
