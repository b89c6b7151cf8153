<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use Closure;

/** A mover whose parts are where they are by the frame alone: it remembers nothing, and unless it says otherwise nobody meets it. */
abstract class FrameMover implements Mover
{
    public function release(float $frame): void
    {
    }

    public function meet(array $others): void
    {
    }

    public function drive(float $from, float $to, float $dt): void
    {
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
    }

    public function substep(int $number): void
    {
    }

    public function colliders(): array
    {
        return [];
    }

    public function end(bool $over): void
    {
    }

    public function save(): string
    {
        return '';
    }

    public function restore(string $state): void
    {
    }
}
