<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/**
 * A plane that travels along an axis through the prop's bounds, with a soft edge in front of it. At its first frame it has
 * touched nothing, at its last everything is fully changed.
 */
final readonly class Sweep implements WeightSource
{
    /**
     * @param int $axis 0, 1, 2 for x, y, z
     * @param float $low the prop's bounds along the axis, m
     * @param float $softness width of the edge, m
     */
    public function __construct(
        private int $axis,
        private bool $backwards,
        private float $low,
        private float $high,
        private float $from,
        private float $to,
        private float $softness,
    ) {
    }

    /** Where the edge begins, m along the axis from the side it enters; up to one softness past the far side. */
    public function front(float $frame): float
    {
        $t = $this->to > $this->from ? ($frame - $this->from) / ($this->to - $this->from) : ($frame >= $this->to ? 1.0 : 0.0);
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);

        return $t * ($this->high - $this->low + $this->softness);
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $front = $this->front($frame);
        $along = $this->axis === 0 ? $at->x : ($this->axis === 1 ? $at->y : $at->z);
        $weights = [];
        foreach ($along as $place) {
            $way = $this->backwards ? $this->high - $place : $place - $this->low;
            if ($this->softness <= 0.0) {
                $weights[] = $front > 0.0 && $front >= $way ? 1.0 : 0.0;
                continue;
            }
            $s = ($front - $way) / $this->softness;
            $s = $s < 0.0 ? 0.0 : ($s > 1.0 ? 1.0 : $s);
            $weights[] = $s * $s * (3.0 - 2.0 * $s);
        }

        return $weights;
    }

    public function still(): array
    {
        return [$this->axis, $this->backwards, $this->low, $this->high, $this->softness];
    }

    public function sample(float $frame): array
    {
        return [$this->front($frame)];
    }
}
