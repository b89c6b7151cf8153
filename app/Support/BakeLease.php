<?php

declare(strict_types=1);

namespace App\Support;

use App\Jobs\BakeStopped;
use App\Jobs\LeaseLost;
use App\Models\Bake;

/**
 * A worker's right to write a bake. It ends with the worker: on the same machine at once, on another when the lease runs out,
 * since it is renewed several times a second. A worker that lives keeps it, however long a step of its work takes; where the
 * database has no room it waits, and goes on by itself.
 */
final class BakeLease implements Lease
{
    /** How often the database is asked whether to go on, s. */
    private const BEAT = 0.25;

    private float $lastBeat = 0.0;

    private function __construct(private readonly string $bakeId, private readonly string $owner, private readonly float $seconds)
    {
    }

    /** Takes a bake that nobody owns; null if somebody does. */
    public static function take(Bake $bake): ?self
    {
        if (! self::isFree($bake)) {
            return null;
        }
        $owner = WorkerId::own();
        $now = microtime(true);
        $seconds = (float) config()->integer('yard.lease_seconds');
        $taken = StoreFull::waiting(static fn (): int => Bake::where('id', $bake->id)->whereIn('status', ['queued', 'running'])->where('owner', $bake->owner)
            ->update(['owner' => $owner, 'lease_until' => $now + $seconds, 'status' => 'running', 'started_at' => $now, 'frames_done' => -$bake->preRoll()]));

        return $taken === 1 ? new self($bake->id, $owner, $seconds) : null;
    }

    /** Whether nobody works at a bake: it has no owner, or its owner is gone. */
    public static function isFree(Bake $bake): bool
    {
        return $bake->owner === null || ! (WorkerId::lives($bake->owner) ?? $bake->lease_until >= microtime(true));
    }

    public function check(): void
    {
        $now = microtime(true);
        if ($now - $this->lastBeat < self::BEAT) {
            return;
        }
        $this->lastBeat = $now;
        if ($this->update(['lease_until' => $now + $this->seconds]) !== 1) {
            throw new LeaseLost();
        }
        if (Bake::where('id', $this->bakeId)->value('cancel')) {
            throw new BakeStopped();
        }
    }

    /** @param int $at the frame it goes on after; below 1 in the pre-roll */
    public function started(int $pieces, int $kept, int $at): void
    {
        $this->update(['pieces' => $pieces, 'kept' => $kept, 'frames_done' => $at]);
    }

    /** @param int $frames the last frame that was computed; below 1 in the pre-roll */
    public function progress(int $frames): void
    {
        if ($this->update(['frames_done' => $frames]) !== 1) {
            throw new LeaseLost();
        }
    }

    public function end(string $status, ?string $error = null): void
    {
        $this->update(['status' => $status, 'error' => $error, 'finished_at' => microtime(true), 'owner' => null, 'lease_until' => 0]);
    }

    /** @param array<string, mixed> $values */
    private function update(array $values): int
    {
        return StoreFull::waiting(fn (): int => Bake::where('id', $this->bakeId)->where('owner', $this->owner)->update($values));
    }
}
