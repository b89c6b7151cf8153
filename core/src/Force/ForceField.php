<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** Accelerates what is loose, moves the air that carries what is light, or slows what goes through it. */
interface ForceField
{
    /**
     * Adds what it does at many places at once.
     *
     * @param list<float> $x places in the world, m
     * @param list<float> $y
     * @param list<float> $z
     * @param float $frame may lie between two
     * @param float $seconds for how long it will act like this; what changes faster gives its mean over that time
     */
    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void;

    /**
     * Its acceleration at a frame, if that is all it does and it is the same everywhere.
     *
     * @return array{float, float, float}|null
     */
    public function uniform(float $frame): ?array;

    /** Whether what it does is by way of the air: through that, everything is slowed as far as it is light for its size. */
    public function movesAir(): bool;

    /**
     * All numbers that decide what it does at a frame, and only at that frame.
     *
     * @return list<float>
     */
    public function sample(float $frame): array;

    /** @return list<float> frames at which it begins to change */
    public function changes(): array;
}
