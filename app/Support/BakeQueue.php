<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\RunBake;
use App\Models\Bake;
use App\Remote\RemoteBakes;
use Throwable;

/** Hands a bake to a worker: of this machine, or, where the yard has workers elsewhere, to one of those. */
final class BakeQueue
{
    public static function offer(Bake $bake): void
    {
        if (! config()->boolean('yard.remote')) {
            RunBake::dispatch($bake->id);

            return;
        }
        try {
            app(RemoteBakes::class)->offer($bake);
        } catch (Throwable $error) {
            // It stays queued; yard:collect hands it out as soon as they can be reached.
            report($error);
        }
    }
}
