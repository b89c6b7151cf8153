<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The sharp edges of a mesh, looked for once, by whoever asks first: all sizes of a surface share them. */
final class SharpEdges
{
    /** @var list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>|null from, to, outward */
    private ?array $all = null;

    public function __construct(private readonly TriangleMesh $mesh)
    {
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}> so many times as large as the mesh */
    public function grown(float $by): array
    {
        $this->all ??= SurfaceNormals::of($this->mesh)->ridges();
        if ($by === 1.0) {
            return $this->all;
        }

        return array_map(static fn (array $edge): array => [[$by * $edge[0][0], $by * $edge[0][1], $by * $edge[0][2]], [$by * $edge[1][0], $by * $edge[1][1], $by * $edge[1][2]], $edge[2]], $this->all);
    }
}
