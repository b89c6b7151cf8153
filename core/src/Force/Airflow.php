<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** Where air goes, but for the eddies in it. */
interface Airflow
{
    /**
     * Adds its speed at places in the world, m/s.
     *
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     * @param array<int, float> $u
     * @param array<int, float> $v
     * @param array<int, float> $w
     */
    public function add(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void;

    /** @return list<float> all numbers that decide it at a frame */
    public function sample(float $frame): array;

    /** @return list<Animated> what may change over time */
    public function animated(): array;
}
