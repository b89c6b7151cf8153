<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Pieces that are where the frame says, whatever is in their way. */
interface KnownWay
{
    /** @return array{list<float>, list<float>} poses and scales of all pieces at a frame */
    public function placesAt(float $frame): array;

    /** @return array{float, float} frames between which the step under way leads */
    public function step(): array;

    /** The frame that has been reached within the step. */
    public function now(): float;
}
