<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Motion\Trigger;

/** Each piece lets go when its weight has passed a threshold. */
final readonly class WeightTrigger implements Trigger
{
    public function __construct(private float $threshold)
    {
    }

    public function due(float $frame, array $weights): array
    {
        return array_map(fn (float $weight): bool => $weight >= $this->threshold, $weights);
    }

    public function still(): array
    {
        return [$this->threshold];
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
