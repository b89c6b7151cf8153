<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Motion\Trigger;

/** All of it lets go at once. */
final readonly class FrameTrigger implements Trigger
{
    public function __construct(private float $frame)
    {
    }

    public function due(float $frame, array $weights): array
    {
        return array_fill_keys(array_keys($weights), $frame >= $this->frame);
    }

    public function still(): array
    {
        return [];
    }

    public function threshold(int $part): ?float
    {
        return null;
    }

    public function touchSpeed(): ?float
    {
        return null;
    }

    public function touchReach(): float
    {
        return 0.0;
    }
}
