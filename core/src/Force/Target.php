<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** What everything is drawn to. */
interface Target
{
    /**
     * @param list<float> $x places in the world, m
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} the shortest way there from each of them, m
     */
    public function ways(array $x, array $y, array $z, float $frame): array;

    /** @return list<float> all numbers that decide where it is at a frame */
    public function sample(float $frame): array;

    /** @return list<Animated> those of them that may have keys of the force's own */
    public function animated(): array;
}
