<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The sharp edges of a mesh, looked for once, by whoever asks first: all sizes of a surface share them. */
final class SharpEdges
{
    /** @var list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>|null from, to, outward */
    private ?array $all = null;

    private ?TriangleMesh $brink = null;

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

    /** All of the mesh, so many times as large. */
    public function mesh(float $by): TriangleMesh
    {
        return $by === 1.0 ? $this->mesh : $this->mesh->scaled([$by, $by, $by]);
    }

    /** The triangles beside them, so many times as large. */
    public function brink(float $by): TriangleMesh
    {
        if ($this->brink === null) {
            $corners = [];
            foreach (SurfaceNormals::of($this->mesh)->brink() as $t) {
                array_push($corners, $this->mesh->triangles[3 * $t], $this->mesh->triangles[3 * $t + 1], $this->mesh->triangles[3 * $t + 2]);
            }
            $used = array_flip(array_values(array_unique($corners)));
            $of = static fn (array $axis): array => array_map(static fn (int $v): float => $axis[$v], array_keys($used));
            $this->brink = new TriangleMesh($of($this->mesh->x), $of($this->mesh->y), $of($this->mesh->z), array_map(static fn (int $v): int => $used[$v], $corners));
        }

        return $by === 1.0 ? $this->brink : $this->brink->scaled([$by, $by, $by]);
    }
}
