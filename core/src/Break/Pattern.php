<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** A way for a prop to come apart. */
interface Pattern
{
    /**
     * @param Fracture $fracture the prop in one piece; the pattern cuts it up
     * @param TriangleMesh $mesh the same prop, closed
     *
     * @throws BreakFailed
     */
    public function cut(Fracture $fracture, TriangleMesh $mesh, Progress $progress): void;
}
