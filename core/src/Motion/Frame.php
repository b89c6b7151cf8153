<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** One frame of a bake: where every piece is, and the readout. Pieces run through all props in the document's order. */
final readonly class Frame
{
    public const RELEASED = 1;

    public const ASLEEP = 2;

    /**
     * @param list<float> $poses seven numbers a piece: place of its centre, turn (x, y, z, w)
     * @param list<float> $weights
     * @param list<int> $flags
     * @param int $released pieces that have let go so far
     * @param int $moving pieces that move faster than the settle speed
     * @param float $kinetic energy of all pieces, J
     */
    public function __construct(
        public int $number,
        public array $poses,
        public array $weights,
        public array $flags,
        public int $released,
        public int $moving,
        public float $kinetic,
    ) {
    }
}
