<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;
use App\Remote\Collecting;

/** Why a bake does not go on, in words. */
final class Waiting
{
    /** Nobody wonders before, s. */
    private const SOON = 8;

    /** Null: it goes on, or has only just been asked for. */
    public static function why(Bake $bake): ?string
    {
        $lack = $bake->isLive() ? Room::lack() : null;
        if ($lack !== null || $bake->status !== 'queued' || $bake->created_at === null || $bake->created_at->getTimestamp() > time() - self::SOON) {
            return $lack;
        }
        $others = Bake::where('status', 'running')->count();
        $trouble = config()->boolean('yard.remote') ? Collecting::trouble($others) : null;

        return $trouble ?? match ($others) {
            0 => 'No worker has taken it yet. If that stays so, workers have stopped; storage/logs/worker.log says why.',
            1 => 'It waits for another bake.',
            default => "It waits for {$others} other bakes.",
        };
    }
}
