<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use Closure;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Falloff;

/** Full near other things, none beyond a distance; the nearest of them counts. Both distances may change over time. */
final readonly class Reach implements WeightSource
{
    /**
     * @param list<Closure(Samples, float, float): list<float>> $things distances (m) of places at a frame to each thing; INF where it is farther than the limit, m
     * @param Animated $full m
     * @param Animated $none m; where it is less than full, it counts as full
     * @param list<mixed> $inputs what decides those distances and does not change over time
     */
    public function __construct(private array $things, private Animated $full, private Animated $none, private Falloff $edge, private array $inputs = [])
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $full = $this->full->at($frame);
        $none = max($full, $this->none->at($frame));
        $nearest = array_fill(0, count($at->x), INF);
        foreach ($this->things as $distances) {
            foreach ($distances($at, $frame, $none) as $i => $far) {
                $nearest[$i] = $far < $nearest[$i] ? $far : $nearest[$i];
            }
        }
        $per = $none > $full ? 1.0 / ($none - $full) : 0.0;
        $weights = [];
        foreach ($nearest as $far) {
            $weights[] = $far <= $full ? 1.0 : ($far >= $none ? 0.0 : $this->edge->at(($none - $far) * $per));
        }

        return $weights;
    }

    public function still(): array
    {
        return [$this->edge->inputs(), $this->inputs];
    }

    public function sample(float $frame): array
    {
        return [$this->full->at($frame), $this->none->at($frame)];
    }
}
