<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Support\Computing;
use Closure;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** Previews are computed in turn. Changes are not: what is saved is saved, however busy the machine is. */
final class ComputesInTurn
{
    public function __construct(private readonly Computing $computing)
    {
    }

    public function handle(Request $request, Closure $next): Response
    {
        $this->computing->takeTurns($request->isMethodSafe());
        try {
            $response = $next($request);
            assert($response instanceof Response);

            return $response;
        } finally {
            $this->computing->takeTurns(false);
        }
    }
}
