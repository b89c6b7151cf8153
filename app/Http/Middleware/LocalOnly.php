<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Support\Problem;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * There is no sign-in yet, so only this machine's own browser may talk to us: the host must be a loopback name, and a change
 * must come from our own pages (no other web page may send one).
 */
final class LocalOnly
{
    public function handle(Request $request, Closure $next): Response
    {
        if (! in_array($request->getHost(), ['127.0.0.1', 'localhost', '[::1]'], true)) {
            return Problem::from(new Problem(403, 'Only for this machine', 'Open Yard Break under http://127.0.0.1.'));
        }
        $origin = $request->headers->get('Origin');
        if ($origin !== null && ! $request->isMethodSafe() && $origin !== $request->getSchemeAndHttpHost()) {
            return Problem::from(new Problem(403, 'Not from here', 'Changes can only be made from Yard Break’s own pages.'));
        }
        $response = $next($request);
        assert($response instanceof Response);
        $response->headers->set('X-Content-Type-Options', 'nosniff');
        $response->headers->set('X-Frame-Options', 'DENY');
        $response->headers->set('Referrer-Policy', 'same-origin');

        return $response;
    }
}
