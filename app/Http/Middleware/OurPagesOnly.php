<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Support\People;
use App\Support\Problem;
use App\Support\Shield;
use Closure;
use Illuminate\Foundation\Vite;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/**
 * The host must be a name of ours: this machine's own, or one that was given at the start, where everybody signs in. A change
 * must come from our own pages; no other web page may send one.
 */
final class OurPagesOnly
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
        $names = People::signIn() ? config()->array('yard.hosts') : [];
        if (! Shield::isOurs($request->getHttpHost(), array_values(array_filter($names, is_string(...))))) {
            return Problem::from($names === [] ? new Problem(403, 'Only for this machine', 'Open Yard Break under http://127.0.0.1.') : new Problem(403, 'Not this name', 'Open Yard Break under the name that it was started with.'));
        }
        $origin = $request->headers->get('Origin');
        $ours = [$request->getSchemeAndHttpHost(), ...config()->string('yard.url') === '' ? [] : [config()->string('yard.url')]];
        $elsewhere = ($origin !== null && ! in_array($origin, $ours, true)) || in_array($request->headers->get('Sec-Fetch-Site'), ['cross-site', 'same-site'], true);

        return $elsewhere && ! $request->isMethodSafe() ? Problem::from(new Problem(403, 'Not from here', 'Changes can only be made from Yard Break’s own pages.')) : null;
    }
}
