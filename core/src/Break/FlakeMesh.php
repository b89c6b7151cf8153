<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * A flake as it is put together: its outer side patch by patch, then, if it is thick, its back and its rim. The outer side
 * carries on the surface's normals, texture coordinates and looks; the rest looks fresh.
 */
final class FlakeMesh
{
    /** Twice a triangle's area is at least this part of its longest edge squared, where it can be. */
    private const FLAT = 1e-7;

    /** @var list<float> m; of a thick flake each corner of the outer side is followed by the one below it */
    private array $x = [];

    /** @var list<float> */
    private array $y = [];

    /** @var list<float> */
    private array $z = [];

    /** @var array<int|string, int> vertex of each corner, by its name */
    private array $number = [];

    /** @var list<int> */
    private array $triangles = [];

    /** @var list<float> */
    private array $normals = [];

    /** @var list<float> */
    private array $uvs = [];

    /** @var list<int> */
    private array $looks = [];

    /** @var array{float, float, float} sum of the normals of the surface it comes off, twice its area long if it is flat */
    private array $facing = [0.0, 0.0, 0.0];

    /** @var list<array{int, int, int}> triangles of the outer side */
    private array $outside = [];

    /** @var array<int, true> edges of the rim, both ends in one number */
    private array $rim = [];

    /**
     * @param TriangleMesh $m the surface
     * @param array{array<int, float>, array<int, float>, array<int, float>} $out direction outwards at each of its vertices
     * @param array{float, float, float}|null $way the same everywhere, of length 1; null: that of the surface
     */
    public function __construct(
        private readonly TriangleMesh $m,
        private readonly array $out,
        private readonly float $lift,
        private readonly float $thickness,
        private readonly ?array $way,
    ) {
    }

    public function add(Patch $patch): void
    {
        $at = $this->corners($patch);
        $this->border($at);
        $this->faces($patch, $at);
        $share = $patch->share();
        foreach ($this->m->cross($patch->triangle) as $axis => $part) {
            $this->facing[$axis] += $share * $part;
        }
    }

    /** @return list<int> vertices of the patch's corners */
    private function corners(Patch $patch): array
    {
        $m = $this->m;
        $f = 3 * $patch->triangle;
        [$a, $b, $c] = [$m->triangles[$f], $m->triangles[$f + 1], $m->triangles[$f + 2]];
        [$ox, $oy, $oz] = $this->out;
        $at = [];
        foreach ($patch->names as $i => $name) {
            if (! isset($this->number[$name])) {
                $this->number[$name] = count($this->x);
                $w0 = $patch->weights[2 * $i];
                $w1 = $patch->weights[2 * $i + 1];
                $w2 = 1.0 - $w0 - $w1;
                [$dx, $dy, $dz] = $this->way ?? [
                    $w0 * $ox[$a] + $w1 * $ox[$b] + $w2 * $ox[$c],
                    $w0 * $oy[$a] + $w1 * $oy[$b] + $w2 * $oy[$c],
                    $w0 * $oz[$a] + $w1 * $oz[$b] + $w2 * $oz[$c],
                ];
                $px = $w0 * $m->x[$a] + $w1 * $m->x[$b] + $w2 * $m->x[$c];
                $py = $w0 * $m->y[$a] + $w1 * $m->y[$b] + $w2 * $m->y[$c];
                $pz = $w0 * $m->z[$a] + $w1 * $m->z[$b] + $w2 * $m->z[$c];
                foreach ($this->thickness > 0.0 ? [$this->lift + $this->thickness, $this->lift] : [$this->lift] as $high) {
                    $this->x[] = $px + $high * $dx;
                    $this->y[] = $py + $high * $dy;
                    $this->z[] = $pz + $high * $dz;
                }
            }
            $at[] = $this->number[$name];
        }

        return $at;
    }

    /**
     * Edges that two patches share are inside; what is left is the rim.
     *
     * @param list<int> $at
     */
    private function border(array $at): void
    {
        foreach ($at as $i => $from) {
            $to = $at[$i + 1] ?? $at[0];
            // Corners that rounding made one have no edge between them.
            if ($from === $to) {
                continue;
            }
            $back = ($to << 32) | $from;
            if (isset($this->rim[$back])) {
                unset($this->rim[$back]);
            } else {
                $this->rim[($from << 32) | $to] = true;
            }
        }
    }

    /** @param list<int> $at */
    private function faces(Patch $patch, array $at): void
    {
        $m = $this->m;
        $n = 9 * $patch->triangle;
        $t = 6 * $patch->triangle;
        $look = $m->looks[$patch->triangle] ?? TriangleMesh::LOOK_OUTER;
        $from = $this->apex($at);
        for ($i = 2, $count = count($at); $i < $count; $i++) {
            $fan = [$from, ($from + $i - 1) % $count, ($from + $i) % $count];
            [$a, $b, $c] = [$at[$fan[0]], $at[$fan[1]], $at[$fan[2]]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            $this->outside[] = [$a, $b, $c];
            $this->looks[] = $look;
            foreach ($fan as $k) {
                $this->triangles[] = $at[$k];
                $w0 = $patch->weights[2 * $k];
                $w1 = $patch->weights[2 * $k + 1];
                $w2 = 1.0 - $w0 - $w1;
                if ($m->normals !== null) {
                    $nx = $w0 * $m->normals[$n] + $w1 * $m->normals[$n + 3] + $w2 * $m->normals[$n + 6];
                    $ny = $w0 * $m->normals[$n + 1] + $w1 * $m->normals[$n + 4] + $w2 * $m->normals[$n + 7];
                    $nz = $w0 * $m->normals[$n + 2] + $w1 * $m->normals[$n + 5] + $w2 * $m->normals[$n + 8];
                    $this->normal($nx, $ny, $nz);
                }
                if ($m->uvs !== null) {
                    $this->uvs[] = $w0 * $m->uvs[$t] + $w1 * $m->uvs[$t + 2] + $w2 * $m->uvs[$t + 4];
                    $this->uvs[] = $w0 * $m->uvs[$t + 1] + $w1 * $m->uvs[$t + 3] + $w2 * $m->uvs[$t + 5];
                }
            }
        }
    }

    /**
     * The corner that a patch is fanned out from: the first, unless a corner on a straight side would be left without area
     * there, whose triangle would lie over the side itself.
     *
     * @param list<int> $at
     */
    private function apex(array $at): int
    {
        $count = count($at);
        $apex = 0;
        $best = -1.0;
        for ($from = 0; $from < ($count > 3 ? $count : 0); $from++) {
            $least = INF;
            for ($i = 2; $i < $count; $i++) {
                $triangle = [$at[$from], $at[($from + $i - 1) % $count], $at[($from + $i) % $count]];
                [$x, $y, $z] = $this->twiceTheArea($triangle);
                $longest = 0.0;
                foreach ($triangle as $k => $v) {
                    $w = $triangle[($k + 1) % 3];
                    $longest = max($longest, ($this->x[$w] - $this->x[$v]) ** 2 + ($this->y[$w] - $this->y[$v]) ** 2 + ($this->z[$w] - $this->z[$v]) ** 2);
                }
                $least = min($least, sqrt($x * $x + $y * $y + $z * $z) / max(1e-300, $longest));
            }
            if ($least > $best) {
                [$apex, $best] = [$from, $least];
            }
            if ($from === 0 && $least > self::FLAT) {
                return 0;
            }
        }

        return $apex;
    }

    private function normal(float $x, float $y, float $z): void
    {
        $l = sqrt($x * $x + $y * $y + $z * $z);
        $l = $l > 0.0 ? 1.0 / $l : 0.0;
        $this->normals[] = $x * $l;
        $this->normals[] = $y * $l;
        $this->normals[] = $z * $l;
    }

    /** Whether the rim passes a corner twice: as a solid the flake would hang together by an edge there. */
    public function isPinched(): bool
    {
        $starts = [];
        foreach (array_keys($this->rim) as $edge) {
            $starts[$edge >> 32] = true;
        }

        return count($starts) < count($this->rim);
    }

    /** Gives a thick flake its back and its rim. */
    public function close(): void
    {
        $sides = [];
        foreach ($this->outside as [$a, $b, $c]) {
            $sides[] = [$a + 1, $c + 1, $b + 1];
        }
        foreach (array_keys($this->rim) as $edge) {
            $a = $edge >> 32;
            $b = $edge & 0xFFFFFFFF;
            $sides[] = [$b, $a, $a + 1];
            $sides[] = [$b, $a + 1, $b + 1];
        }
        foreach ($sides as $side) {
            [$nx, $ny, $nz] = $this->twiceTheArea($side);
            $this->looks[] = TriangleMesh::LOOK_INNER;
            foreach ($side as $v) {
                $this->triangles[] = $v;
                if ($this->m->normals !== null) {
                    $this->normal($nx, $ny, $nz);
                }
                if ($this->m->uvs !== null) {
                    // Metres, across the direction the face looks in most.
                    $this->uvs[] = abs($nx) > abs($ny) && abs($nx) > abs($nz) ? $this->y[$v] : $this->x[$v];
                    $this->uvs[] = abs($nz) >= abs($nx) && abs($nz) >= abs($ny) ? $this->y[$v] : $this->z[$v];
                }
            }
        }
    }

    /**
     * @param array{int, int, int} $triangle
     *
     * @return array{float, float, float} its normal, twice its area long
     */
    private function twiceTheArea(array $triangle): array
    {
        [$a, $b, $c] = $triangle;
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $vz = $this->z[$c] - $this->z[$a];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /** @return array{float, float, float} sum of the normals of the surface it comes off, twice its area long if it is flat */
    public function facing(): array
    {
        return $this->facing;
    }

    public function mesh(): TriangleMesh
    {
        return new TriangleMesh(
            $this->x,
            $this->y,
            $this->z,
            $this->triangles,
            $this->m->normals === null ? null : $this->normals,
            $this->m->uvs === null ? null : $this->uvs,
            $this->looks,
        );
    }
}
