<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The sharp edges of a mesh, and its tips, looked for once, by whoever asks first: all sizes of a surface share them. */
final class SharpEdges
{
    /** @var array{list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>, TriangleMesh, list<array{array{float, float, float}, array{float, float, float}}>}|null from, to, outward; the triangles beside; tips and outward */
    private ?array $found = null;

    public function __construct(private readonly TriangleMesh $mesh, private readonly Roundness $roundness)
    {
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}> so many times as large as the mesh */
    public function grown(float $by): array
    {
        [$all] = $this->found();
        if ($by === 1.0) {
            return $all;
        }

        return array_map(static fn (array $edge): array => [[$by * $edge[0][0], $by * $edge[0][1], $by * $edge[0][2]], [$by * $edge[1][0], $by * $edge[1][1], $by * $edge[1][2]], $edge[2]], $all);
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}}> where it comes to a point, and outward, so many times as large as the mesh */
    public function tips(float $by): array
    {
        return array_map(static fn (array $tip): array => [[$by * $tip[0][0], $by * $tip[0][1], $by * $tip[0][2]], $tip[1]], $this->found()[2]);
    }

    /** The triangles beside them, so many times as large. */
    public function brink(float $by): TriangleMesh
    {
        $brink = $this->found()[1];

        return $by === 1.0 ? $brink : $brink->scaled([$by, $by, $by]);
    }

    /** @return array{list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>, TriangleMesh, list<array{array{float, float, float}, array{float, float, float}}>} */
    private function found(): array
    {
        if ($this->found === null) {
            $normals = SurfaceNormals::on($this->mesh);
            $tips = $this->roundness->tips();
            $this->found = [$normals->ridges(), $this->mesh->picked($normals->brink($tips)), $normals->at($tips)];
        }

        return $this->found;
    }
}
