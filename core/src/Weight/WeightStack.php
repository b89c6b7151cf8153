<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Math\Animated;

/** Sources mixed in order. An empty stack is 0 everywhere. */
final readonly class WeightStack implements WeightSource
{
    /** @param list<array{WeightSource, string, Animated, bool}> $layers source, how it is mixed in (not used of the first), amount, whether it is inverted */
    public function __construct(private array $layers)
    {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $mixed = array_fill(0, count($at->x), 0.0);
        foreach ($this->layers as $k => [$source, $mix, $animated, $invert]) {
            $amount = $animated->at($frame);
            $values = $source->evaluate($at, $frame);
            foreach ($values as $i => $value) {
                $value = $amount * ($invert ? 1.0 - $value : $value);
                $before = $mixed[$i];
                $value = $k === 0 ? $value : match ($mix) {
                    'add' => $before + $value,
                    'subtract' => $before - $value,
                    // At no amount it multiplies by 1: nothing.
                    'multiply' => $before * (1.0 - $amount + $value),
                    'smaller' => $value < $before ? $value : $before,
                    default => $value > $before ? $value : $before,
                };
                $mixed[$i] = $value < 0.0 ? 0.0 : ($value > 1.0 ? 1.0 : $value);
            }
        }

        return array_values($mixed);
    }

    public function still(): array
    {
        return array_map(static fn (array $layer): array => [$layer[0]::class, $layer[0]->still(), $layer[1], $layer[3]], $this->layers);
    }

    public function sample(float $frame): array
    {
        return array_merge(...array_map(static fn (array $layer): array => [$layer[2]->at($frame), ...$layer[0]->sample($frame)], $this->layers));
    }
}
