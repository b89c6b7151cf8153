<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** A way for a prop to come apart. */
interface Pattern
{
    /**
     * @param int $piece the one to cut up: the prop in one piece, or a piece that is broken again
     * @param TriangleMesh $mesh that piece, closed
     *
     * @throws BreakFailed
     */
    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void;
}
