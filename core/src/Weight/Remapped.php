<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Math\Curve;

/** A weight put through a curve. */
final readonly class Remapped implements WeightSource
{
    public function __construct(private WeightSource $of, private Curve $curve)
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        return array_map($this->curve->at(...), $this->of->evaluate($at, $frame));
    }

    public function still(): array
    {
        return [$this->of->still(), $this->curve->points];
    }

    public function sample(float $frame): array
    {
        return $this->of->sample($frame);
    }
}
