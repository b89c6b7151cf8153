<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The direction outwards at each vertex: mean of the faces' normals by the angle each has there (Thuermer and Wuethrich 1998). */
final class Outwards
{
    /** @return array{array<int, float>, array<int, float>, array<int, float>} x, y, z by vertex, of length 1; none where no face is */
    public static function of(TriangleMesh $m): array
    {
        $n = $m->vertexCount();
        $ox = $oy = $oz = array_fill(0, $n, 0.0);
        $t = $m->triangles;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $v = [$t[$k], $t[$k + 1], $t[$k + 2]];
            [$nx, $ny, $nz] = $m->cross(intdiv($k, 3));
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l <= 0.0) {
                continue;
            }
            for ($c = 0; $c < 3; $c++) {
                [$a, $b, $d] = [$v[$c], $v[($c + 1) % 3], $v[($c + 2) % 3]];
                $px = $m->x[$b] - $m->x[$a];
                $py = $m->y[$b] - $m->y[$a];
                $pz = $m->z[$b] - $m->z[$a];
                $qx = $m->x[$d] - $m->x[$a];
                $qy = $m->y[$d] - $m->y[$a];
                $qz = $m->z[$d] - $m->z[$a];
                $angle = atan2($l, $px * $qx + $py * $qy + $pz * $qz) / $l;
                $ox[$a] += $angle * $nx;
                $oy[$a] += $angle * $ny;
                $oz[$a] += $angle * $nz;
            }
        }
        for ($i = 0; $i < $n; $i++) {
            $l = sqrt($ox[$i] * $ox[$i] + $oy[$i] * $oy[$i] + $oz[$i] * $oz[$i]);
            $l = $l > 0.0 ? 1.0 / $l : 0.0;
            $ox[$i] *= $l;
            $oy[$i] *= $l;
            $oz[$i] *= $l;
        }

        return [$ox, $oy, $oz];
    }
}
