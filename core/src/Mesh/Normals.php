<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Corner normals by angle: faces that meet flatter than the crease angle share a normal (weighted by area),
 * sharper edges stay sharp.
 */
final class Normals
{
    public const CREASE_DEGREES = 40.0;

    /** @param float $crease the crease angle, degrees: 0 leaves every face flat, 180 rounds every edge */
    public static function computed(TriangleMesh $mesh, float $crease = self::CREASE_DEGREES): TriangleMesh
    {
        $limit = cos(deg2rad($crease));
        $t = $mesh->triangles;
        $faces = $mesh->triangleCount();
        $fx = $fy = $fz = [];
        $around = [];
        for ($f = 0; $f < $faces; $f++) {
            [$a, $b, $c] = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            $ux = $mesh->x[$b] - $mesh->x[$a];
            $uy = $mesh->y[$b] - $mesh->y[$a];
            $uz = $mesh->z[$b] - $mesh->z[$a];
            $vx = $mesh->x[$c] - $mesh->x[$a];
            $vy = $mesh->y[$c] - $mesh->y[$a];
            $vz = $mesh->z[$c] - $mesh->z[$a];
            $fx[$f] = $uy * $vz - $uz * $vy;
            $fy[$f] = $uz * $vx - $ux * $vz;
            $fz[$f] = $ux * $vy - $uy * $vx;
            $around[$a][] = $f;
            $around[$b][] = $f;
            $around[$c][] = $f;
        }
        $length = [];
        for ($f = 0; $f < $faces; $f++) {
            $length[$f] = sqrt($fx[$f] * $fx[$f] + $fy[$f] * $fy[$f] + $fz[$f] * $fz[$f]);
        }
        $normals = [];
        for ($k = 0, $end = 3 * $faces; $k < $end; $k++) {
            $own = intdiv($k, 3);
            $nx = $ny = $nz = 0.0;
            foreach ($around[$t[$k]] as $f) {
                $dot = $fx[$f] * $fx[$own] + $fy[$f] * $fy[$own] + $fz[$f] * $fz[$own];
                if ($f === $own || $dot >= $limit * $length[$f] * $length[$own]) {
                    $nx += $fx[$f];
                    $ny += $fy[$f];
                    $nz += $fz[$f];
                }
            }
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $s = $l > 0.0 ? 1.0 / $l : 0.0;
            array_push($normals, $nx * $s, $ny * $s, $l > 0.0 ? $nz * $s : 1.0);
        }

        return $mesh->withNormals($normals);
    }
}
