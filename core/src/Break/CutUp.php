<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A mesh cut along walls: its surface in parts, and the caps that close them along each wall. */
final readonly class CutUp
{
    /**
     * @param array<int, list<int>> $caps triangles (three vertices of the cut each) by wall, facing from the low cell to the
     *                                    high one
     * @param int $cells how many there are
     * @param array<int, int> $low cell by wall
     * @param array<int, int> $high cell by wall
     * @param array<int, array{float, float, float}> $normal of length 1, from the low cell to the high one, of each wall that has a cap
     * @param int $corners how many of the cut's last vertices are corners of walls inside the mesh
     * @param array<int, true> $seams walls that only helped to tell cells apart: what they part stays in one piece
     */
    public function __construct(
        public SurfaceCut $cut,
        public array $caps,
        public int $cells,
        public array $low,
        public array $high,
        public array $normal,
        public int $corners,
        public array $seams = [],
    ) {
    }
}
