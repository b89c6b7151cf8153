<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** A way for a prop's skin to come apart, over a core that stays whole. */
interface SkinPattern
{
    /**
     * @param TriangleMesh $mesh need not be closed; with normals
     *
     * @return iterable<int, TriangleMesh> the flakes, made as they are taken: there may be very many
     *
     * @throws BreakFailed
     */
    public function flakes(TriangleMesh $mesh, Progress $progress): iterable;

    /** Whether what it comes off is there too, as the first piece. */
    public function keepsCore(): bool;
}
