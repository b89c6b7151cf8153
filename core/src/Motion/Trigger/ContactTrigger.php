<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Motion\Trigger;

/** It lets go when it strikes something fast enough, or is struck: all of it, or what is near the touch. */
final readonly class ContactTrigger implements Trigger
{
    public function __construct(private float $speed, private float $within)
    {
    }

    public function due(float $frame, array $weights): array
    {
        return array_fill_keys(array_keys($weights), false);
    }

    public function hasBegun(float $frame): bool
    {
        return false;
    }

    public function still(): array
    {
        return [$this->speed, $this->within];
    }

    public function threshold(int $part): ?float
    {
        return null;
    }

    public function touchSpeed(): float
    {
        return $this->speed;
    }

    public function touchReach(): float
    {
        return $this->within;
    }

    public function delay(int $part): float
    {
        return 0.0;
    }
}
