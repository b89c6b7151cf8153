<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Mesh\SurfaceTree;

/** A piece as it was seen at some frame: its surface in axes of its own, and where those stood. */
final readonly class SeenPiece
{
    /**
     * @param float $times as large as its surface it was
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     * @param array{float, float, float} $middle its centre of mass, in the world, m
     * @param float $bulk how much it counts among others, m3
     */
    public function __construct(public SurfaceTree $surface, public float $times, public array $position, public array $rotation, public array $middle, public float $bulk)
    {
    }
}
