<?php

declare(strict_types=1);

namespace App\Remote;

use App\Jobs\BakeStopped;
use App\Jobs\LeaseLost;
use App\Support\Lease;
use App\Support\WorkerId;

/** The right to write a bake of a yard elsewhere. It runs out some time after its worker was last heard of. */
final class RemoteLease implements Lease
{
    /** How often the board is asked whether to go on, s. */
    private const BEAT = 0.25;

    private float $lastBeat = 0.0;

    private function __construct(private readonly Board $board, private readonly string $bake, private readonly string $worker, private readonly float $seconds)
    {
    }

    /** Null: somebody has it. */
    public static function take(Board $board, string $bake): ?self
    {
        $worker = WorkerId::own();
        $seconds = (float) config()->integer('yard.lease_seconds');
        if (! $board->take($bake, $worker, $seconds)) {
            return null;
        }
        $board->note($bake, $worker, $seconds, ['status' => 'running']);

        return new self($board, $bake, $worker, $seconds);
    }

    public function check(): void
    {
        $now = microtime(true);
        if ($now - $this->lastBeat < self::BEAT) {
            return;
        }
        $this->lastBeat = $now;
        $this->say([]);
        if (($this->board->seen($this->bake)['cancel'] ?? '') !== '') {
            throw new BakeStopped();
        }
    }

    /** @param int $at the frame it goes on after; below 1 in the pre-roll */
    public function started(int $pieces, int $kept, int $at): void
    {
        $this->say(['pieces' => $pieces, 'kept' => $kept, 'frames_done' => $at]);
    }

    /** @param int $frames the last frame that was computed; below 1 in the pre-roll */
    public function progress(int $frames): void
    {
        $this->say(['frames_done' => $frames]);
    }

    public function end(string $status, ?string $error = null): void
    {
        $this->board->note($this->bake, $this->worker, $this->seconds, ['status' => $status, 'error' => $error ?? '']);
        $this->board->leave($this->bake, $this->worker);
    }

    /**
     * @param array<string, string|int> $fields
     *
     * @throws LeaseLost
     */
    public function say(array $fields): void
    {
        if (! $this->board->note($this->bake, $this->worker, $this->seconds, $fields)) {
            throw new LeaseLost();
        }
    }
}
