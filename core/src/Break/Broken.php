<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** What a break gives. */
final readonly class Broken
{
    /**
     * @param list<Piece> $pieces
     * @param array<int, array<int, float>> $shared area each piece shares with each neighbour, m2
     * @param int $joined how many slivers were joined to a neighbour
     * @param float $discarded volume of joints and openings, m3
     * @param list<string> $notes what an artist should know of it, in words
     */
    public function __construct(
        public array $pieces,
        public array $shared,
        public int $joined,
        public float $discarded,
        public array $notes = [],
    ) {
    }
}
