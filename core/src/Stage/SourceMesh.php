<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Mesh\TriangleMesh;

/** A mesh as its source gives it. */
final readonly class SourceMesh
{
    /** @param list<string>|null $repairs what a repair did, in words; null: none was asked for */
    public function __construct(public TriangleMesh $mesh, public ?array $repairs = null)
    {
    }
}
