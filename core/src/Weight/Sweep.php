<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use Closure;
use YardBreak\Core\Math\Easing;

/**
 * A front that travels along some way through a prop, with a soft edge in front of it. At its first frame it has touched nothing,
 * at its last everything is fully changed.
 */
final class Sweep implements WeightSource
{
    private ?Samples $at = null;

    /** @var list<float> */
    private array $ways = [];

    /**
     * @param Closure(Samples): list<float> $way how far along each place lies, m from where the front enters
     * @param float $length of the way, m
     * @param string $ease how it goes from the one frame to the other, as {@see Easing} has them
     * @param float $softness width of the edge, m
     * @param list<mixed> $inputs what decides the way
     */
    public function __construct(
        private readonly Closure $way,
        public readonly float $length,
        private readonly float $from,
        private readonly float $to,
        private readonly string $ease,
        private readonly float $softness,
        private readonly array $inputs,
    ) {
    }

    /** Where the edge begins, m along the way; up to one softness past its end. */
    public function front(float $frame): float
    {
        $t = $this->to > $this->from ? ($frame - $this->from) / ($this->to - $this->from) : ($frame >= $this->to ? 1.0 : 0.0);

        return Easing::at($this->ease, $t) * ($this->length + $this->softness);
    }

    public function evaluate(Samples $at, float $frame): array
    {
        if ($this->at !== $at) {
            [$this->at, $this->ways] = [$at, ($this->way)($at)];
        }
        $front = $this->front($frame);
        $weights = [];
        foreach ($this->ways as $way) {
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
        return [$this->inputs, $this->length, $this->softness];
    }

    public function sample(float $frame): array
    {
        return [$this->front($frame)];
    }
}
