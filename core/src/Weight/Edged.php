<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use Closure;
use YardBreak\Core\Math\Falloff;

/** Full in some region, none past a soft edge around it. */
final class Edged implements WeightSource
{
    private ?Samples $at = null;

    /** @var list<float> what the weights known were made of */
    private array $made = [];

    /** @var list<float> */
    private array $weights = [];

    /**
     * @param Closure(Samples, float): array<int, float> $beyond how far each place is past where it is full, at a frame; 0 or less: it is full
     * @param float $softness how far past it there is none, in the same unit
     * @param list<mixed> $still what decides that distance and is the same at all frames
     * @param (Closure(float): list<float>)|null $sample what decides it and changes; null: nothing does
     */
    public function __construct(
        private readonly Closure $beyond,
        private readonly float $softness,
        private readonly Falloff $edge,
        private readonly array $still,
        private readonly ?Closure $sample = null,
    ) {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $now = $this->sample($frame);
        if ($this->at === $at && $this->made === $now) {
            return $this->weights;
        }
        $softness = $this->softness;
        $weights = [];
        foreach (($this->beyond)($at, $frame) as $beyond) {
            $weights[] = $beyond <= 0.0 ? 1.0 : ($beyond >= $softness ? 0.0 : $this->edge->at(1.0 - $beyond / $softness));
        }
        [$this->at, $this->made, $this->weights] = [$at, $now, $weights];

        return $weights;
    }

    public function still(): array
    {
        return [$this->softness, $this->edge->inputs(), $this->still];
    }

    public function sample(float $frame): array
    {
        return $this->sample === null ? [] : ($this->sample)($frame);
    }
}
