<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** Walls that part space into cells, and a way to cut a closed mesh along them. */
interface Cutting
{
    /** @throws BreakFailed if the surface crosses itself */
    public function cut(TriangleMesh $mesh): CutUp;
}
