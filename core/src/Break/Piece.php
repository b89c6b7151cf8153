<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/** One closed part of a broken prop. The mesh is in the prop's space, not about its own centre. */
final readonly class Piece
{
    public function __construct(
        public TriangleMesh $mesh,
        public MassProperties $mass,
        public int $cell,
    ) {
    }
}
