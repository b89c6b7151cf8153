<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** The whole prop at once, at a frame; infinity: never. */
final readonly class Step implements Weight
{
    public function __construct(private float $frame)
    {
    }

    public function at(float $x, float $y, float $z, float $frame): float
    {
        return $frame >= $this->frame ? 1.0 : 0.0;
    }
}
