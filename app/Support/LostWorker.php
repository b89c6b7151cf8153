<?php

declare(strict_types=1);

namespace App\Support;

use App\Models\Bake;

/** What becomes of a bake whose worker is gone: another goes on with it, unless several have ended at the same place. */
final class LostWorker
{
    /** So many in a row after one and the same frame are no accident ... */
    private const MOST = 3;

    /** ... but where they had hardly begun, somebody may be starting and stopping them. */
    private const HARDLY_BEGUN = 20;

    /** s */
    private const BEGINNING = 3.0;

    /**
     * @param int $after the last frame that was computed
     *
     * @return array<string, mixed> the bake's new values
     */
    public static function leaves(Bake $bake, int $after): array
    {
        $lost = $bake->lost_at === $after ? $bake->lost + 1 : 1;
        $values = ['owner' => null, 'lease_until' => 0, 'lost' => $lost, 'lost_at' => $after];
        $lived = microtime(true) - ($bake->started_at ?? 0.0);
        if ($lost < ($lived < self::BEGINNING ? self::HARDLY_BEGUN : self::MOST)) {
            return ['status' => 'queued', ...$values];
        }
        $where = $after < 1 ? 'before the first frame' : "after frame {$after}";

        return ['status' => 'failed', 'finished_at' => microtime(true), ...$values, 'error' => "{$lost} workers in a row ended {$where} without saying why. Most often there is not enough memory: make what bends of fewer vertices, or break it into fewer pieces, then bake again. What was computed is kept."];
    }
}
