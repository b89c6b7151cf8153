<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Motion\Strike;
use YardBreak\Core\Motion\Trigger;

/** It lets go when it strikes something hard enough, or is struck: all of it, or what is near the touch. */
final readonly class ContactTrigger implements Trigger
{
    /** @param float $impulse N s */
    public function __construct(private float $speed, private float $impulse, private float $within)
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
        return [$this->speed, $this->impulse, $this->within];
    }

    public function threshold(int $part): ?float
    {
        return null;
    }

    public function strike(): Strike
    {
        return new Strike($this->speed, $this->impulse, $this->within);
    }

    public function delay(int $part): float
    {
        return 0.0;
    }
}
