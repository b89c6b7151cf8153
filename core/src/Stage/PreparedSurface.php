<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * The surface of a prop, to be asked for its nearest place.
 *
 * @implements Stage<SurfaceTree>
 */
final class PreparedSurface implements Stage
{
    /**
     * @param string $prepared hash of the mesh
     * @param Closure(): TriangleMesh $mesh
     */
    public function __construct(private readonly string $prepared, private readonly Closure $mesh)
    {
    }

    public function name(): string
    {
        return 'surface';
    }

    public function version(): int
    {
        return 3;
    }

    public function inputs(): array
    {
        return [$this->prepared];
    }

    public function run(Progress $progress): SurfaceTree
    {
        $mesh = ($this->mesh)();

        return SurfaceTree::of($mesh, Topology::of($mesh)->isWatertight());
    }

    public function encode(mixed $result): array
    {
        return [$result->packed()];
    }

    public function decode(string $bytes): SurfaceTree
    {
        return SurfaceTree::unpacked($bytes);
    }
}
