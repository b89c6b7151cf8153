<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** The same at every place and frame. */
final readonly class Everywhere implements WeightSource
{
    public function __construct(private float $weight)
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        return array_fill(0, count($at->x), $this->weight);
    }

    public function still(): array
    {
        return [$this->weight];
    }

    public function sample(float $frame): array
    {
        return [];
    }
}
