<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

use LogicException;

/**
 * The surface of a mesh, to be asked for its nearest place, and for what is sharp and round of it. Which side a place is on is told by
 * angle weighted normals of faces, edges and corners (Baerentzen and Aanaes 2005).
 */
final class SurfaceTree
{
    /** Null: none has asked for them, or they were kept. */
    private ?SurfaceNormals $normals = null;

    /** As they were kept: 21 numbers a triangle, the normal of each of its parts, not unit. */
    private string $keptNormals = '';

    /** Outward direction at the place that was found last, unit, and the signed distance to it. */
    public float $nx = 0.0;

    public float $ny = 1.0;

    public float $nz = 0.0;

    public float $distance = INF;

    /** How many times as large as its mesh it is: what is asked for is made smaller, not the tree larger. */
    private float $size = 1.0;

    private readonly ?SharpEdges $sharp;

    private readonly ?Roundness $roundness;

    /** @var array{array{float, float, float}, list<float>}|null what was asked for last, and the answer */
    private ?array $standoff = null;

    /** @param bool $closed whether it has an inside */
    private function __construct(private readonly TriangleTree $triangles, private readonly ?TriangleMesh $mesh, public readonly bool $closed)
    {
        $this->roundness = $mesh === null ? null : new Roundness($mesh);
        $this->sharp = $mesh === null || $this->roundness === null ? null : new SharpEdges($mesh, $this->roundness);
    }

    /**
     * @param bool $closed whether it has an inside; without one, both sides are outside
     * @param TriangleOrder|null $order of the same triangles elsewhere: they need not be sorted anew
     */
    public static function of(TriangleMesh $mesh, bool $closed, ?TriangleOrder $order = null): self
    {
        return new self(TriangleTree::of($mesh, $order), $mesh, $closed);
    }

    /** The same surface, so many times as large. */
    public function grown(float $by): self
    {
        if ($this->keptNormals === '' && $this->triangles->faces !== []) {
            // Not once for each size.
            $this->normals();
        }
        $tree = clone $this;
        $tree->standoff = null;
        $tree->size = $by * $this->size;

        return $tree;
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}> sharp edges: from, to, outward */
    public function ridges(): array
    {
        if ($this->sharp === null) {
            throw new LogicException('A surface that was kept has no sharp edges with it.');
        }

        return $this->closed ? $this->sharp->grown($this->size) : [];
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}}> where it comes to a point, and outward */
    public function tips(): array
    {
        if ($this->sharp === null) {
            throw new LogicException('A surface that was kept has no tips with it.');
        }

        return $this->closed ? $this->sharp->tips($this->size) : [];
    }

    /** The triangles beside its sharp edges, and around its tips. */
    public function brink(): TriangleMesh
    {
        return $this->sharp?->brink($this->size) ?? throw new LogicException('A surface that was kept has no sharp edges with it.');
    }

    /**
     * How much farther off than elsewhere what is flat between its corners keeps these, so that its middles do not come nearer to this
     * where it is round.
     *
     * @param float $edge of its triangles, on average, m
     * @param float $least what is less everywhere is nothing, m
     * @param float $most m
     *
     * @return list<float> m, at each triangle by its number here; none: nowhere
     */
    public function standoff(float $edge, float $least, float $most): array
    {
        if ($least >= $most || ! $this->closed) {
            return [];
        }
        if ($this->roundness === null) {
            throw new LogicException('A surface that was kept has no roundness with it.');
        }
        if ($this->standoff === null || $this->standoff[0] !== [$edge, $least, $most]) {
            $keeps = $this->roundness->keeps($edge / $this->size);
            $off = array_map(fn (int $face): float => min($most, $this->size * $keeps[$face]), $this->triangles->faces);
            $this->standoff = [[$edge, $least, $most], $off === [] || max($off) <= $least ? [] : $off];
        }

        return $this->standoff[1];
    }

    public function mesh(): TriangleMesh
    {
        if ($this->mesh === null) {
            throw new LogicException('A surface that was kept has no mesh with it.');
        }

        return $this->size === 1.0 ? $this->mesh : $this->mesh->scaled([$this->size, $this->size, $this->size]);
    }

    /** Many only ask how far it is: what tells the sides apart is made when it is needed. */
    private function normals(): SurfaceNormals
    {
        return $this->normals ??= SurfaceNormals::on($this->mesh ?? throw new LogicException('A surface that was kept has its normals with it.'));
    }

    /** @return array{float, float, float} of a part of a triangle, not unit */
    private function normal(int $triangle, int $part): array
    {
        if ($this->keptNormals !== '') {
            /** @var array{1: float, 2: float, 3: float} $kept */
            $kept = unpack('e3', $this->keptNormals, 24 * (TriangleTree::PARTS * $triangle + $part));

            return [$kept[1], $kept[2], $kept[3]];
        }

        return $this->normals()->of($this->triangles->faces[$triangle], $part);
    }

    /** All but what is sharp and round, to be kept. */
    public function packed(): string
    {
        $normals = [];
        foreach ($this->triangles->faces as $face) {
            for ($part = 0; $part < TriangleTree::PARTS; $part++) {
                array_push($normals, ...$this->normals()->of($face, $part));
            }
        }

        return pack('C', $this->closed ? 1 : 0) . $this->triangles->packed() . TriangleTree::real($normals);
    }

    public static function unpacked(string $bytes): self
    {
        [$triangles, $at] = TriangleTree::unpacked($bytes, 1);
        $tree = new self($triangles, null, ord($bytes) === 1);
        // Read one by one: most are never asked for.
        $tree->keptNormals = substr($bytes, $at);

        return $tree;
    }

    public function isEmpty(): bool
    {
        return $this->triangles->isEmpty();
    }

    /** @return array{array{float, float, float}, array{float, float, float}} */
    public function bounds(): array
    {
        [[$x0, $y0, $z0], [$x1, $y1, $z1]] = $this->triangles->bounds();

        return [[$this->size * $x0, $this->size * $y0, $this->size * $z0], [$this->size * $x1, $this->size * $y1, $this->size * $z1]];
    }

    /**
     * The nearest triangle, nearer than a limit.
     *
     * @param float $limit m
     * @param int $seed a triangle that may be the nearest; -1: none
     *
     * @return int its number here; -1: none is that near
     */
    public function nearest(float $px, float $py, float $pz, float $limit, int $seed = -1): int
    {
        if ($this->size === 1.0) {
            return $this->triangles->nearest($px, $py, $pz, $limit, $seed);
        }
        $by = 1.0 / $this->size;

        return $this->triangles->nearest($by * $px, $by * $py, $by * $pz, $by * $limit, $seed);
    }

    /**
     * The first triangle that a straight way crosses.
     *
     * @return array{int, float}|null its number here, and the share of the way to there; null: it crosses none
     */
    public function crossed(float $px, float $py, float $pz, float $dx, float $dy, float $dz): ?array
    {
        $by = 1.0 / $this->size;

        return $this->triangles->crossed($by * $px, $by * $py, $by * $pz, $by * $dx, $by * $dy, $by * $dz);
    }

    /** Sets the outward direction and the signed distance of a place whose nearest triangle is known. */
    public function look(int $triangle, float $x, float $y, float $z): void
    {
        [, , $part, $dx, $dy, $dz] = $this->part($triangle, $x, $y, $z);
        [$nx, $ny, $nz] = $this->normal($triangle, $part);
        $length = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
        $side = $dx * $nx + $dy * $ny + $dz * $nz < 0.0 && $this->closed ? -1.0 : 1.0;
        if ($length > 1e-9) {
            [$nx, $ny, $nz] = [$side * $dx / $length, $side * $dy / $length, $side * $dz / $length];
        } else {
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
            [$nx, $ny, $nz] = [$nx / $l, $ny / $l, $nz / $l];
        }
        [$this->nx, $this->ny, $this->nz] = [$nx, $ny, $nz];
        $this->distance = $this->size * $side * $length;
    }

    /** @return array{float, float, float} unit, outward from the place of its nearest triangle that is nearest, whichever side a place is on */
    public function facing(int $triangle, float $x, float $y, float $z): array
    {
        [, , $part] = $this->part($triangle, $x, $y, $z);
        [$nx, $ny, $nz] = $this->normal($triangle, $part);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;

        return [$nx / $l, $ny / $l, $nz / $l];
    }

    /**
     * Where on its nearest triangle the place of the surface lies that is nearest to a place.
     *
     * @return array{int, float, float} triangle of the mesh, shares of its second and third corner
     */
    public function seat(int $triangle, float $x, float $y, float $z): array
    {
        [$s, $t] = $this->part($triangle, $x, $y, $z);

        return [$this->triangles->faces[$triangle], $s, $t];
    }

    /** @return array{float, float, int, float, float, float} as {@see TriangleTree::part()}, in the size of the mesh */
    private function part(int $triangle, float $x, float $y, float $z): array
    {
        $by = 1.0 / $this->size;

        return $this->triangles->part($triangle, $by * $x, $by * $y, $by * $z);
    }
}
