<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** Accelerates what is loose, or moves the air that carries what is light. */
interface ForceField
{
    /**
     * Adds its acceleration at many places at once, m/s2.
     *
     * @param list<float> $x places in the world, m
     * @param list<float> $y
     * @param list<float> $z
     * @param float $frame may lie between two
     * @param array<int, float> $ax
     * @param array<int, float> $ay
     * @param array<int, float> $az
     */
    public function accelerate(array $x, array $y, array $z, float $frame, array &$ax, array &$ay, array &$az): void;

    /**
     * Adds the velocity it gives the air at many places at once, m/s.
     *
     * @param list<float> $x places in the world, m
     * @param list<float> $y
     * @param list<float> $z
     * @param array<int, float> $u
     * @param array<int, float> $v
     * @param array<int, float> $w
     */
    public function air(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void;

    /**
     * Its acceleration at a frame, if it is the same everywhere.
     *
     * @return array{float, float, float}|null
     */
    public function uniform(float $frame): ?array;

    /**
     * All numbers that decide what it does at a frame, and only at that frame.
     *
     * @return list<float>
     */
    public function sample(float $frame): array;

    /** @return list<float> frames at which it begins to change */
    public function changes(): array;
}
