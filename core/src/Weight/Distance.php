<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use Closure;

/** Full near something that does not move, none beyond a soft edge. */
final class Distance implements WeightSource
{
    private ?Samples $at = null;

    /** @var list<float> */
    private array $weights = [];

    /**
     * @param Closure(Samples): list<float> $distance of each place, m
     * @param float $within where it is full, m
     * @param float $softness width of the edge beyond, m
     * @param list<mixed> $inputs what decides that distance
     */
    public function __construct(private readonly Closure $distance, private readonly float $within, private readonly float $softness, private readonly array $inputs = [])
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        if ($this->at !== $at) {
            $this->weights = array_map($this->weight(...), ($this->distance)($at));
            $this->at = $at;
        }

        return $this->weights;
    }

    private function weight(float $distance): float
    {
        $beyond = $distance - $this->within;
        if ($beyond <= 0.0 || $beyond >= $this->softness) {
            return $beyond <= 0.0 ? 1.0 : 0.0;
        }
        $s = 1.0 - $beyond / $this->softness;

        return $s * $s * (3.0 - 2.0 * $s);
    }

    public function still(): array
    {
        return [$this->within, $this->softness, $this->inputs];
    }

    public function sample(float $frame): array
    {
        return [];
    }
}
