<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** A weight that goes by what has been seen of others: nothing is known beyond the last frame, so until the next one it stays as it was there. */
final readonly class Witnessed implements WeightSource
{
    public function __construct(private WeightSource $of, private Sightings $seen)
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        return $this->of->evaluate($at, min($frame, (float) max(1, $this->seen->last())));
    }

    public function still(): array
    {
        return $this->of->still();
    }

    public function sample(float $frame): array
    {
        return $this->of->sample($frame);
    }
}
