<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * A skin of even thickness at some distance outside a surface, along its normals. A closed mesh becomes a hollow one, an open
 * sheet a solid: where it ends, the two sides are joined.
 */
final class Shell
{
    /**
     * @param float $thickness m
     * @param float $gap from the surface to the skin's inner side, m
     */
    public static function of(TriangleMesh $mesh, float $thickness, float $gap): TriangleMesh
    {
        $out = self::outwards($mesh);
        $n = $mesh->vertexCount();
        $x = $y = $z = [];
        foreach ([$gap + $thickness, $gap] as $distance) {
            foreach ($mesh->x as $i => $px) {
                $x[] = $px + $distance * $out[$i][0];
                $y[] = $mesh->y[$i] + $distance * $out[$i][1];
                $z[] = $mesh->z[$i] + $distance * $out[$i][2];
            }
        }
        $triangles = $mesh->triangles;
        $uvs = $mesh->uvs ?? [];
        $textured = $mesh->uvs !== null;
        $looks = $mesh->looks ?? array_fill(0, $mesh->triangleCount(), TriangleMesh::LOOK_OUTER);
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            foreach ([0, 2, 1] as $c) {
                $triangles[] = $n + $mesh->triangles[3 * $f + $c];
                if ($mesh->uvs !== null) {
                    $uvs[] = $mesh->uvs[6 * $f + 2 * $c];
                    $uvs[] = $mesh->uvs[6 * $f + 2 * $c + 1];
                }
            }
            $looks[] = $looks[$f];
        }
        $open = Topology::of($mesh)->openEdges;
        for ($k = 0, $end = count($open); $k < $end; $k += 2) {
            [$a, $b] = [$open[$k], $open[$k + 1]];
            array_push($triangles, $b, $a, $n + $a, $b, $n + $a, $n + $b);
            if ($textured) {
                $length = sqrt(($x[$b] - $x[$a]) ** 2 + ($y[$b] - $y[$a]) ** 2 + ($z[$b] - $z[$a]) ** 2);
                array_push($uvs, $length, 0.0, 0.0, 0.0, 0.0, $thickness, $length, 0.0, 0.0, $thickness, $length, $thickness);
            }
            array_push($looks, TriangleMesh::LOOK_OUTER, TriangleMesh::LOOK_OUTER);
        }

        // Normals are made anew: the rim needs its own.
        return new TriangleMesh($x, $y, $z, $triangles, null, $textured ? $uvs : null, $looks);
    }

    /**
     * The direction outwards at each vertex, longer where faces meet sharply, so that walls keep their thickness.
     *
     * @return list<array{float, float, float}>
     */
    private static function outwards(TriangleMesh $mesh): array
    {
        [$ox, $oy, $oz] = Outwards::of($mesh);
        $flattest = array_fill(0, $mesh->vertexCount(), 1.0);
        $t = $mesh->triangles;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $normal = $mesh->cross(intdiv($k, 3));
            $l = sqrt($normal[0] ** 2 + $normal[1] ** 2 + $normal[2] ** 2);
            foreach ($l > 0.0 ? [$t[$k], $t[$k + 1], $t[$k + 2]] : [] as $i) {
                $flattest[$i] = min($flattest[$i], ($normal[0] * $ox[$i] + $normal[1] * $oy[$i] + $normal[2] * $oz[$i]) / $l);
            }
        }
        $out = [];
        foreach ($ox as $i => $x) {
            // At most twice as far out, where faces meet in a point.
            $s = 1.0 / max(0.5, $flattest[$i]);
            $out[] = [$s * $x, $s * $oy[$i], $s * $oz[$i]];
        }

        return $out;
    }
}
