<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

use YardBreak\Core\Math\RandomStream;

/** Straight lines strewn over a mesh: the faces they cross are parted there. The shape stays as it is. */
final class PlaneCuts
{
    /** Vertices nearer to a plane than this part of the mesh's size are taken to lie on it, so that no hair-thin face is made. */
    private const NEAR = 1e-6;

    /** @param int $count planes, each through a random place of the bounds, looking anywhere */
    public static function random(TriangleMesh $mesh, int $count, int $seed): TriangleMesh
    {
        [$low, $high] = $mesh->bounds();
        $stream = RandomStream::named($seed, 'cut lines');
        for ($k = 0; $k < $count; $k++) {
            [$nx, $ny, $nz] = $stream->direction();
            $d = -($nx * $stream->between($low[0], $high[0]) + $ny * $stream->between($low[1], $high[1]) + $nz * $stream->between($low[2], $high[2]));
            $mesh = self::cut($mesh, [$nx, $ny, $nz], $d);
        }

        return $mesh;
    }

    /** @param array{float, float, float} $normal of length 1 */
    public static function cut(TriangleMesh $mesh, array $normal, float $constant): TriangleMesh
    {
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $near = self::NEAR * $mesh->size();
        $side = [];
        foreach ($x as $i => $px) {
            $d = $normal[0] * $px + $normal[1] * $y[$i] + $normal[2] * $z[$i] + $constant;
            $side[$i] = abs($d) < $near ? 0.0 : $d;
        }
        $triangles = $normals = $uvs = $looks = $between = [];
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            $look = $mesh->looks[$f] ?? TriangleMesh::LOOK_OUTER;
            foreach (self::parts($mesh, $f, $side) as $part) {
                $at = [];
                foreach ($part as [$i, $j, $s]) {
                    if ($s === 0.0) {
                        $at[] = $mesh->triangles[3 * $f + $i];
                        continue;
                    }
                    [$a, $b] = [$mesh->triangles[3 * $f + $i], $mesh->triangles[3 * $f + $j]];
                    [$p, $q] = $a < $b ? [$a, $b] : [$b, $a];
                    if (! isset($between[$p][$q])) {
                        $between[$p][$q] = count($x);
                        $w = $side[$p] / ($side[$p] - $side[$q]);
                        $x[] = $x[$p] + $w * ($x[$q] - $x[$p]);
                        $y[] = $y[$p] + $w * ($y[$q] - $y[$p]);
                        $z[] = $z[$p] + $w * ($z[$q] - $z[$p]);
                    }
                    $at[] = $between[$p][$q];
                }
                for ($k = 2, $count = count($at); $k < $count; $k++) {
                    foreach ([0, $k - 1, $k] as $c) {
                        [$i, $j, $s] = $part[$c];
                        $triangles[] = $at[$c];
                        if ($mesh->normals !== null) {
                            array_push($normals, ...self::mixed($mesh->normals, 3, $f, $i, $j, $s, true));
                        }
                        if ($mesh->uvs !== null) {
                            array_push($uvs, ...self::mixed($mesh->uvs, 2, $f, $i, $j, $s, false));
                        }
                    }
                    $looks[] = $look;
                }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, $mesh->normals === null ? null : $normals, $mesh->uvs === null ? null : $uvs, $mesh->looks === null ? null : $looks);
    }

    /**
     * @param array<int, float> $side
     *
     * @return list<list<array{int, int, float}>> polygons; each corner lies between two of the triangle's, some of the way
     */
    private static function parts(TriangleMesh $mesh, int $f, array $side): array
    {
        $d = [$side[$mesh->triangles[3 * $f]], $side[$mesh->triangles[3 * $f + 1]], $side[$mesh->triangles[3 * $f + 2]]];
        if (max($d) <= 0.0 || min($d) >= 0.0) {
            return [[[0, 0, 0.0], [1, 1, 0.0], [2, 2, 0.0]]];
        }
        $parts = [[], []];
        for ($i = 0; $i < 3; $i++) {
            $j = ($i + 1) % 3;
            if ($d[$i] >= 0.0) {
                $parts[0][] = [$i, $i, 0.0];
            }
            if ($d[$i] <= 0.0) {
                $parts[1][] = [$i, $i, 0.0];
            }
            if ($d[$i] * $d[$j] < 0.0) {
                $cut = [$i, $j, $d[$i] / ($d[$i] - $d[$j])];
                $parts[0][] = $cut;
                $parts[1][] = $cut;
            }
        }

        return $parts;
    }

    /**
     * @param array<int, float> $values
     *
     * @return list<float>
     */
    private static function mixed(array $values, int $width, int $f, int $i, int $j, float $s, bool $unit): array
    {
        $mixed = [];
        $length = 0.0;
        for ($k = 0; $k < $width; $k++) {
            $a = $values[$width * (3 * $f + $i) + $k];
            $mixed[] = $v = $a + $s * ($values[$width * (3 * $f + $j) + $k] - $a);
            $length += $v * $v;
        }
        if ($unit && $length > 0.0) {
            $l = 1.0 / sqrt($length);
            $mixed = array_map(static fn (float $v): float => $v * $l, $mixed);
        }

        return $mixed;
    }
}
