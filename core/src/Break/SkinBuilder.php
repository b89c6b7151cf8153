<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Outwards;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Makes flakes of patches of a surface: lifted off it along its normals, and given thickness. The outer side carries on the
 * surface's normals, texture coordinates and looks; the back and the edges look fresh.
 */
final class SkinBuilder
{
    /** A flake with less than this part of its area times its thickness is folded over. */
    private const FOLDED = 0.3;

    /** @var array<int, float> direction outwards at each vertex of the mesh */
    private array $ox;

    /** @var array<int, float> */
    private array $oy;

    /** @var array<int, float> */
    private array $oz;

    public function __construct(private readonly TriangleMesh $mesh, private readonly float $lift, private readonly float $thickness)
    {
        [$this->ox, $this->oy, $this->oz] = Outwards::of($mesh);
    }

    /**
     * Patches that hang together, in groups.
     *
     * @param list<Patch> $patches
     *
     * @return list<list<Patch>>
     */
    public static function connected(array $patches): array
    {
        if (count($patches) < 2) {
            return [$patches];
        }
        $parent = array_keys($patches);
        $by = $id = [];
        $most = 0;
        foreach ($patches as $patch) {
            $most += count($patch->names);
        }
        foreach ($patches as $k => $patch) {
            $last = count($patch->names) - 1;
            $a = $id[$patch->names[$last]] ??= count($id);
            foreach ($patch->names as $name) {
                // By edges: patches that touch in one point only are apart.
                $b = $id[$name] ??= count($id);
                $other = $by[$a < $b ? $a * $most + $b : $b * $most + $a] ??= $k;
                $next = $b;
                $a = $k;
                while ($parent[$a] !== $a) {
                    $a = $parent[$a] = $parent[$parent[$a]];
                }
                while ($parent[$other] !== $other) {
                    $other = $parent[$other] = $parent[$parent[$other]];
                }
                if ($a < $other) {
                    $parent[$other] = $a;
                } else {
                    $parent[$a] = $other;
                }
                $a = $next;
            }
        }
        $parts = [];
        foreach ($patches as $k => $patch) {
            while ($parent[$k] !== $k) {
                $k = $parent[$k];
            }
            $parts[$k][] = $patch;
        }

        return array_values($parts);
    }

    /**
     * @param list<Patch> $patches that hang together
     * @param array{float, float, float}|null $way direction outwards, of length 1; null: the surface's own at each corner
     */
    public function flake(array $patches, ?array $way = null): TriangleMesh
    {
        $m = $this->mesh;
        $t = $m->triangles;
        $thick = $this->thickness > 0.0;
        $number = $x = $y = $z = $triangles = $normals = $uvs = $looks = $edges = $fan = [];
        foreach ($patches as $patch) {
            $f = 3 * $patch->triangle;
            [$a, $b, $c] = [$t[$f], $t[$f + 1], $t[$f + 2]];
            $at = [];
            foreach ($patch->names as $i => $name) {
                $w0 = $patch->weights[2 * $i];
                $w1 = $patch->weights[2 * $i + 1];
                $w2 = 1.0 - $w0 - $w1;
                if (! isset($number[$name])) {
                    $number[$name] = count($x);
                    [$dx, $dy, $dz] = $way ?? [
                        $w0 * $this->ox[$a] + $w1 * $this->ox[$b] + $w2 * $this->ox[$c],
                        $w0 * $this->oy[$a] + $w1 * $this->oy[$b] + $w2 * $this->oy[$c],
                        $w0 * $this->oz[$a] + $w1 * $this->oz[$b] + $w2 * $this->oz[$c],
                    ];
                    $px = $w0 * $m->x[$a] + $w1 * $m->x[$b] + $w2 * $m->x[$c];
                    $py = $w0 * $m->y[$a] + $w1 * $m->y[$b] + $w2 * $m->y[$c];
                    $pz = $w0 * $m->z[$a] + $w1 * $m->z[$b] + $w2 * $m->z[$c];
                    $high = $this->lift + $this->thickness;
                    $x[] = $px + $high * $dx;
                    $y[] = $py + $high * $dy;
                    $z[] = $pz + $high * $dz;
                    if ($thick) {
                        $x[] = $px + $this->lift * $dx;
                        $y[] = $py + $this->lift * $dy;
                        $z[] = $pz + $this->lift * $dz;
                    }
                }
                $at[] = $number[$name];
            }
            // Corners that rounding made one.
            $count = count($at);
            $look = $m->looks[$patch->triangle] ?? TriangleMesh::LOOK_OUTER;
            for ($i = 0; $i < $count; $i++) {
                $next = $i + 1 === $count ? 0 : $i + 1;
                if ($at[$i] === $at[$next]) {
                    continue;
                }
                $back = ($at[$next] << 32) | $at[$i];
                if (isset($edges[$back])) {
                    unset($edges[$back]);
                } else {
                    $edges[($at[$i] << 32) | $at[$next]] = true;
                }
            }
            for ($i = 2; $i < $count; $i++) {
                if ($at[0] === $at[$i - 1] || $at[$i - 1] === $at[$i] || $at[$i] === $at[0]) {
                    continue;
                }
                $fan[] = [$at[0], $at[$i - 1], $at[$i]];
                foreach ([0, $i - 1, $i] as $k) {
                    $triangles[] = $at[$k];
                    $w0 = $patch->weights[2 * $k];
                    $w1 = $patch->weights[2 * $k + 1];
                    $w2 = 1.0 - $w0 - $w1;
                    $n = 3 * $f;
                    if ($m->normals !== null) {
                        $nx = $w0 * $m->normals[$n] + $w1 * $m->normals[$n + 3] + $w2 * $m->normals[$n + 6];
                        $ny = $w0 * $m->normals[$n + 1] + $w1 * $m->normals[$n + 4] + $w2 * $m->normals[$n + 7];
                        $nz = $w0 * $m->normals[$n + 2] + $w1 * $m->normals[$n + 5] + $w2 * $m->normals[$n + 8];
                        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                        $l = $l > 0.0 ? 1.0 / $l : 0.0;
                        $normals[] = $nx * $l;
                        $normals[] = $ny * $l;
                        $normals[] = $nz * $l;
                    }
                    if ($m->uvs !== null) {
                        $n = 2 * $f;
                        $uvs[] = $w0 * $m->uvs[$n] + $w1 * $m->uvs[$n + 2] + $w2 * $m->uvs[$n + 4];
                        $uvs[] = $w0 * $m->uvs[$n + 1] + $w1 * $m->uvs[$n + 3] + $w2 * $m->uvs[$n + 5];
                    }
                }
                $looks[] = $look;
            }
        }
        if ($thick) {
            $starts = [];
            foreach (array_keys($edges) as $edge) {
                $starts[$edge >> 32] = true;
            }
            if (count($starts) < count($edges)) {
                // The rim passes a corner twice: as a solid it would hang together by an edge there.
                return $this->flake(self::fanned($patches), $way);
            }
            $sides = [];
            foreach ($fan as [$a, $b, $c]) {
                $sides[] = [$a + 1, $c + 1, $b + 1];
            }
            foreach (array_keys($edges) as $edge) {
                $a = $edge >> 32;
                $b = $edge & 0xFFFFFFFF;
                $sides[] = [$b, $a, $a + 1];
                $sides[] = [$b, $a + 1, $b + 1];
            }
            foreach ($sides as [$a, $b, $c]) {
                $ux = $x[$b] - $x[$a];
                $uy = $y[$b] - $y[$a];
                $uz = $z[$b] - $z[$a];
                $vx = $x[$c] - $x[$a];
                $vy = $y[$c] - $y[$a];
                $vz = $z[$c] - $z[$a];
                $nx = $uy * $vz - $uz * $vy;
                $ny = $uz * $vx - $ux * $vz;
                $nz = $ux * $vy - $uy * $vx;
                $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $l = $l > 0.0 ? 1.0 / $l : 0.0;
                foreach ([$a, $b, $c] as $v) {
                    $triangles[] = $v;
                    if ($m->normals !== null) {
                        $normals[] = $nx * $l;
                        $normals[] = $ny * $l;
                        $normals[] = $nz * $l;
                    }
                    if ($m->uvs !== null) {
                        // Metres, across the direction the face looks in most.
                        $uvs[] = abs($nx) > abs($ny) && abs($nx) > abs($nz) ? $y[$v] : $x[$v];
                        $uvs[] = abs($nz) >= abs($nx) && abs($nz) >= abs($ny) ? $y[$v] : $z[$v];
                    }
                }
                $looks[] = TriangleMesh::LOOK_INNER;
            }
        }

        $flake = new TriangleMesh($x, $y, $z, $triangles, $m->normals === null ? null : $normals, $m->uvs === null ? null : $uvs, $looks);
        if ($thick && $way === null) {
            [$nx, $ny, $nz] = self::twiceTheArea($x, $y, $z, $fan);
            $area = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($area > 0.0 && MassProperties::of($flake)->volume < self::FOLDED * 0.5 * $area * $this->thickness) {
                // In a hollow corner the surface's normals cross before the skin is as thick as asked: one way for the whole flake.
                return $this->flake($patches, [$nx / $area, $ny / $area, $nz / $area]);
            }
        }

        return $flake;
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     * @param list<array{int, int, int}> $triangles
     *
     * @return array{float, float, float} sum of the triangles' normals, twice their area long
     */
    private static function twiceTheArea(array $x, array $y, array $z, array $triangles): array
    {
        $sum = [0.0, 0.0, 0.0];
        foreach ($triangles as [$a, $b, $c]) {
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $sum[0] += $uy * $vz - $uz * $vy;
            $sum[1] += $uz * $vx - $ux * $vz;
            $sum[2] += $ux * $vy - $uy * $vx;
        }

        return $sum;
    }

    /**
     * The same patches, with corners that only look alike told apart: those of patches that do not hang together about the
     * corner.
     *
     * @param list<Patch> $patches
     *
     * @return list<Patch>
     */
    private static function fanned(array $patches): array
    {
        $parent = $first = $edges = [];
        foreach ($patches as $p => $patch) {
            $first[$p] = count($parent);
            foreach ($patch->names as $_) {
                $parent[] = count($parent);
            }
        }
        $root = static function (int $c) use (&$parent): int {
            while ($parent[$c] !== $c) {
                $c = $parent[$c] = $parent[$parent[$c]];
            }

            return $c;
        };
        foreach ($patches as $p => $patch) {
            $count = count($patch->names);
            for ($i = 0; $i < $count; $i++) {
                $j = $i + 1 === $count ? 0 : $i + 1;
                [$a, $b] = [$patch->names[$i], $patch->names[$j]];
                if (isset($edges["{$b},{$a}"])) {
                    [$other, $next] = $edges["{$b},{$a}"];
                    $parent[$root($first[$p] + $i)] = $root($next);
                    $parent[$root($first[$p] + $j)] = $root($other);
                    unset($edges["{$b},{$a}"]);
                } else {
                    $edges["{$a},{$b}"] = [$first[$p] + $i, $first[$p] + $j];
                }
            }
        }
        $fanned = [];
        foreach ($patches as $p => $patch) {
            $names = [];
            foreach (array_keys($patch->names) as $i) {
                $names[] = $root($first[$p] + $i);
            }
            $fanned[] = new Patch($patch->triangle, $names, $patch->weights);
        }

        return $fanned;
    }
}
