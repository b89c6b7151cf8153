<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use Closure;

/**
 * A front that spreads outward from a blow or an opening, with a soft edge ahead of it. At its first frame it stands at the
 * rim, at its last everything within its reach is fully changed; what is farther than that and the soft edge never changes.
 */
final readonly class Spread implements WeightSource
{
    /**
     * @param Closure(float, float, float): float $distance from the blow or the opening's rim, m; negative inside the opening
     * @param float $reach m
     * @param float $softness width of the edge, m
     */
    public function __construct(
        private Closure $distance,
        private float $from,
        private float $to,
        private float $reach,
        private float $softness,
    ) {
    }

    /** How far it has got; below 0: it has not begun. */
    private function share(float $frame): float
    {
        $span = $this->to - $this->from;
        $t = $span > 0.0 ? ($frame - $this->from) / $span : ($frame >= $this->to ? 1.0 : 0.0);

        return $t < 0.0 ? -1.0 : min(1.0, $t);
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $span = $this->to - $this->from;
        $t = $this->share($frame);
        if ($t < 0.0) {
            return array_fill(0, count($at->x), 0.0);
        }
        // Where it is fully changed; the edge lies before it.
        $front = $t * ($this->reach + $this->softness) - $this->softness;
        $weights = [];
        foreach ($at->x as $i => $x) {
            $ahead = ($this->distance)($x, $at->y[$i], $at->z[$i]) - $front;
            if ($ahead <= 0.0) {
                $weights[] = $t > 0.0 || $span <= 0.0 ? 1.0 : 0.0;
            } elseif ($ahead >= $this->softness) {
                $weights[] = 0.0;
            } else {
                $s = 1.0 - $ahead / $this->softness;
                $weights[] = $s * $s * (3.0 - 2.0 * $s);
            }
        }

        return $weights;
    }

    public function still(): array
    {
        return [$this->reach, $this->softness, $this->to > $this->from];
    }

    public function sample(float $frame): array
    {
        return [$this->share($frame)];
    }
}
