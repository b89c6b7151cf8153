<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\RunBake;
use App\Models\Bake;
use Illuminate\Support\Facades\DB;

/**
 * Finds bakes that nobody works at any more, and queues them again: the worker died, or the job was lost. Workers call it
 * between jobs.
 */
final class BakeRescue
{
    /** How often a worker looks, s. */
    private const EVERY = 1.0;

    /** A bake that has been queued this long without a job lost it, s. */
    private const LOST = 5;

    private static float $last = 0.0;

    public static function nowAndThen(): void
    {
        $now = microtime(true);
        if ($now - self::$last >= self::EVERY) {
            self::$last = $now;
            self::run();
        }
    }

    public static function run(): void
    {
        if (config()->boolean('yard.remote')) {
            // Workers elsewhere have them; RemoteBakes looks after those.
            return;
        }
        foreach (Bake::where('status', 'running')->get() as $bake) {
            if (! BakeLease::isFree($bake)) {
                continue;
            }
            $left = LostWorker::leaves($bake, $bake->frames_done);
            // Only one of several workers that look at the same time finds the owner unchanged.
            $taken = Bake::where('id', $bake->id)->where('status', 'running')->where('owner', $bake->owner)->update($left);
            if ($taken === 1 && $left['status'] === 'queued') {
                RunBake::handOut($bake);
            }
        }
        if (config('queue.default') !== 'database') {
            return;
        }
        foreach (Bake::where('status', 'queued')->where('updated_at', '<', now()->subSeconds(self::LOST))->get() as $bake) {
            if (! DB::table('jobs')->where('payload', 'like', "%{$bake->id}%")->exists()) {
                $bake->touch();
                RunBake::handOut($bake);
            }
        }
    }
}
