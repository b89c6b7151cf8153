<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Strike;
use YardBreak\Core\Motion\Trigger;

/** Each piece lets go when its weight has passed a threshold, which may differ from piece to piece. */
final class WeightTrigger implements Trigger
{
    /** @var array<int, float> by part */
    private array $own = [];

    /** @param float $variety how far thresholds lie above or below at most, 0 to 1 */
    public function __construct(private readonly float $threshold, private readonly float $variety = 0.0, private readonly int $seed = 0)
    {
    }

    public function due(float $frame, array $weights): array
    {
        $due = [];
        foreach ($weights as $piece => $weight) {
            $due[$piece] = $weight >= $this->threshold($piece);
        }

        return $due;
    }

    /** Never beyond what a weight can reach, nor so low that it is passed from the first. */
    public function threshold(int $part): float
    {
        if ($this->variety <= 0.0) {
            return $this->threshold;
        }

        return $this->own[$part] ??= max(0.01, min(0.99, $this->threshold + $this->variety * RandomStream::named($this->seed, 'threshold', $part)->between(-1.0, 1.0)));
    }

    public function hasBegun(float $frame): bool
    {
        return false;
    }

    public function still(): array
    {
        return [$this->threshold, $this->variety, $this->variety > 0.0 ? $this->seed : 0];
    }

    public function strike(): ?Strike
    {
        return null;
    }

    public function delay(int $part): float
    {
        return 0.0;
    }
}
