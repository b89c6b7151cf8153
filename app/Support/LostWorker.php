<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;

/** What becomes of a bake whose worker is gone: another goes on with it, unless three have ended at the same place. */
final class LostWorker
{
    /** So many in a row after one and the same frame are no accident. */
    private const MOST = 3;

    /** One that had it for less may have been stopped before it got to where the last one was, and does not count, s. */
    private const BEGINNING = 3.0;

    /**
     * @param int $after the last frame that was computed
     *
     * @return array<string, mixed> the bake's new values
     */
    public static function leaves(Bake $bake, int $after): array
    {
        $left = ['status' => 'queued', 'owner' => null, 'lease_until' => 0];
        if (microtime(true) - ($bake->started_at ?? 0.0) < self::BEGINNING) {
            return $left;
        }
        $lost = $bake->lost_at === $after ? $bake->lost + 1 : 1;
        $left = [...$left, 'lost' => $lost, 'lost_at' => $after];
        if ($lost < self::MOST) {
            return $left;
        }
        $where = $after < 1 ? 'before the first frame' : "after frame {$after}";

        return [...$left, 'status' => 'failed', 'finished_at' => microtime(true), 'error' => "Three workers in a row ended {$where} without saying why. Most often there is not enough memory: make what bends of fewer vertices, or break it into fewer pieces, then bake again. What was computed is kept."];
    }
}
