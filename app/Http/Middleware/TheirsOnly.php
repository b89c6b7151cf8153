<?php

declare(strict_types=1);

namespace App\Http\Middleware;

use App\Models\Bake;
use App\Models\Export;
use App\Models\Shot;
use App\Support\People;
use Closure;
use Illuminate\Database\Eloquent\ModelNotFoundException;
use Illuminate\Http\Request;
use Symfony\Component\HttpFoundation\Response;

/** What belongs to a shot that somebody may not see is not there for them. */
final class TheirsOnly
{
    public function handle(Request $request, Closure $next): Response
    {
        foreach (People::signIn() ? $request->route()->parameters() : [] as $name => $of) {
            $shot = match (true) {
                $of instanceof Shot => $of,
                $of instanceof Bake => $of->shot,
                $of instanceof Export => $of->bake->shot,
                $name === 'id' => Shot::withTrashed()->find($of),
                default => null,
            };
            $seen = match (true) {
                $shot instanceof Shot => People::sees($shot),
                $name === 'sha' => is_string($of) && People::seesAsset($of),
                // Names of props and formats say nothing by themselves.
                default => ! $of instanceof Bake && ! $of instanceof Export && $name !== 'id',
            };
            if (! $seen) {
                throw new ModelNotFoundException();
            }
        }
        $response = $next($request);
        assert($response instanceof Response);

        return $response;
    }
}
