<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** Finer meshes: each triangle becomes four. Flat keeps the shape; smooth rounds it off (Loop 1987). */
final class Subdivision
{
    /** The middle of each edge becomes a vertex; nothing moves. Looks, normals and texture coordinates are carried on. */
    public static function flat(TriangleMesh $mesh): TriangleMesh
    {
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $middle = [];
        $between = static function (int $a, int $b) use (&$middle, &$x, &$y, &$z): int {
            $key = $a < $b ? "{$a},{$b}" : "{$b},{$a}";
            if (! isset($middle[$key])) {
                $middle[$key] = count($x);
                $x[] = 0.5 * ($x[$a] + $x[$b]);
                $y[] = 0.5 * ($y[$a] + $y[$b]);
                $z[] = 0.5 * ($z[$a] + $z[$b]);
            }

            return $middle[$key];
        };
        $triangles = $normals = $uvs = $looks = [];
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            [$a, $b, $c] = [$mesh->triangles[3 * $f], $mesh->triangles[3 * $f + 1], $mesh->triangles[3 * $f + 2]];
            [$ab, $bc, $ca] = [$between($a, $b), $between($b, $c), $between($c, $a)];
            array_push($triangles, $a, $ab, $ca, $ab, $b, $bc, $ca, $bc, $c, $ab, $bc, $ca);
            if ($mesh->normals !== null) {
                array_push($normals, ...self::corners(array_slice($mesh->normals, 9 * $f, 9), 3, true));
            }
            if ($mesh->uvs !== null) {
                array_push($uvs, ...self::corners(array_slice($mesh->uvs, 6 * $f, 6), 2, false));
            }
            $look = $mesh->looks[$f] ?? TriangleMesh::LOOK_OUTER;
            array_push($looks, $look, $look, $look, $look);
        }

        return new TriangleMesh($x, $y, $z, $triangles, $mesh->normals === null ? null : $normals, $mesh->uvs === null ? null : $uvs, $mesh->looks === null ? null : $looks);
    }

    /** What {@see flat()} has made finer, as it was before. */
    public static function coarser(TriangleMesh $finer): TriangleMesh
    {
        $triangles = $normals = $uvs = $looks = [];
        $middles = [];
        $t = $finer->triangles;
        for ($f = 0, $end = count($t); $f < $end; $f += 12) {
            array_push($triangles, $t[$f], $t[$f + 4], $t[$f + 8]);
            $middles[$t[$f + 1]] = $middles[$t[$f + 5]] = $middles[$t[$f + 2]] = true;
            // The first corner of the first triangle, the second of the second, the third of the third.
            foreach ([0, 4, 8] as $corner) {
                array_push($normals, ...array_slice($finer->normals ?? [], 3 * ($f + $corner), 3));
                array_push($uvs, ...array_slice($finer->uvs ?? [], 2 * ($f + $corner), 2));
            }
            $looks[] = $finer->looks[intdiv($f, 3)] ?? TriangleMesh::LOOK_OUTER;
        }
        $known = $finer->vertexCount() - count($middles);

        return new TriangleMesh(
            array_slice($finer->x, 0, $known),
            array_slice($finer->y, 0, $known),
            array_slice($finer->z, 0, $known),
            $triangles,
            $finer->normals === null ? null : $normals,
            $finer->uvs === null ? null : $uvs,
            $finer->looks === null ? null : $looks,
        );
    }

    /** Loop's scheme, with Warren's weights inside and cubic splines along open edges. Normals are made anew. */
    public static function smooth(TriangleMesh $mesh): TriangleMesh
    {
        $finer = self::flat($mesh);
        [$x, $y, $z] = [$finer->x, $finer->y, $finer->z];
        $known = $mesh->vertexCount();
        /** @var array<string, list<int>> $across corners across from each edge */
        $across = [];
        $t = $mesh->triangles;
        for ($k = 0, $end = count($t); $k < $end; $k++) {
            $a = $t[$k];
            $b = $t[$k % 3 === 2 ? $k - 2 : $k + 1];
            $across[$a < $b ? "{$a},{$b}" : "{$b},{$a}"][] = $t[$k % 3 === 0 ? $k + 2 : $k - 1];
        }
        // New vertices were made in the order in which the edges are met first.
        $v = $known;
        $ring = $rim = [];
        foreach ($across as $key => $corners) {
            [$a, $b] = array_map(intval(...), explode(',', $key));
            $ring[$a][] = $b;
            $ring[$b][] = $a;
            if (count($corners) === 2) {
                foreach ([&$x, &$y, &$z] as $n => &$axis) {
                    $axis[$v] = 0.375 * ($axis[$a] + $axis[$b]) + 0.125 * ($axis[$corners[0]] + $axis[$corners[1]]);
                }
                unset($axis);
            } else {
                $rim[$a][] = $b;
                $rim[$b][] = $a;
            }
            $v++;
        }
        [$ox, $oy, $oz] = [$mesh->x, $mesh->y, $mesh->z];
        foreach ($ring as $a => $neighbours) {
            $around = $rim[$a] ?? $neighbours;
            $n = count($around);
            $weight = isset($rim[$a]) ? 0.125 : ($n === 3 ? 0.1875 : 0.375 / $n);
            if (isset($rim[$a]) && $n !== 2) {
                continue;
            }
            $own = 1.0 - $n * $weight;
            $sx = $sy = $sz = 0.0;
            foreach ($around as $b) {
                $sx += $ox[$b];
                $sy += $oy[$b];
                $sz += $oz[$b];
            }
            $x[$a] = $own * $ox[$a] + $weight * $sx;
            $y[$a] = $own * $oy[$a] + $weight * $sy;
            $z[$a] = $own * $oz[$a] + $weight * $sz;
        }

        return Normals::computed(new TriangleMesh($x, $y, $z, $finer->triangles, null, $finer->uvs, $finer->looks));
    }

    /**
     * Values at the corners of the four triangles, from those at the corners of the one.
     *
     * @param array<int, float> $v
     *
     * @return list<float>
     */
    private static function corners(array $v, int $size, bool $unit): array
    {
        $at = [array_slice($v, 0, $size), array_slice($v, $size, $size), array_slice($v, 2 * $size, $size)];
        foreach ([[0, 1], [1, 2], [2, 0]] as [$a, $b]) {
            $mean = [];
            foreach ($at[$a] as $k => $value) {
                $mean[] = 0.5 * ($value + $at[$b][$k]);
            }
            if ($unit) {
                $length = max(1e-12, sqrt(array_sum(array_map(static fn (float $n): float => $n * $n, $mean))));
                $mean = array_map(static fn (float $n): float => $n / $length, $mean);
            }
            $at[] = $mean;
        }

        return array_merge($at[0], $at[3], $at[5], $at[3], $at[1], $at[4], $at[5], $at[4], $at[2], $at[3], $at[4], $at[5]);
    }
}
