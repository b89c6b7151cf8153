<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** What a point or a needle meets of some triangles of a cloth. */
final class NearTriangles
{
    /**
     * The place of some triangles that is nearest to a point (Ericson 2005, 5.1.5).
     *
     * @param list<int> $near triangles, by their first corner in the list of corners
     * @param array<int, float> $X
     * @param array<int, float> $Y
     * @param array<int, float> $Z
     * @param list<int> $triangles
     * @param float $limit m
     *
     * @return array{int, float, float, float, float, float} triangle (-1: none within the limit), where in it along its two edges, and the way from there to the point
     */
    public static function nearest(array $near, float $sx, float $sy, float $sz, array $X, array $Y, array $Z, array $triangles, float $limit): array
    {
        $best = $limit * $limit;
        $at = -1;
        $bu = $bv = $bx = $by = $bz = 0.0;
        foreach ($near as $t) {
            $i = $triangles[$t];
            $j = $triangles[$t + 1];
            $l = $triangles[$t + 2];
            $ax = $X[$i];
            $ay = $Y[$i];
            $az = $Z[$i];
            $ux = $X[$j] - $ax;
            $uy = $Y[$j] - $ay;
            $uz = $Z[$j] - $az;
            $vx = $X[$l] - $ax;
            $vy = $Y[$l] - $ay;
            $vz = $Z[$l] - $az;
            $dx = $sx - $ax;
            $dy = $sy - $ay;
            $dz = $sz - $az;
            $uu = $ux * $ux + $uy * $uy + $uz * $uz;
            $uv = $ux * $vx + $uy * $vy + $uz * $vz;
            $vv = $vx * $vx + $vy * $vy + $vz * $vz;
            $d1 = $dx * $ux + $dy * $uy + $dz * $uz;
            $d2 = $dx * $vx + $dy * $vy + $dz * $vz;
            $d3 = $d1 - $uu;
            $d4 = $d2 - $uv;
            $d5 = $d1 - $uv;
            $d6 = $d2 - $vv;
            $va = $d3 * $d6 - $d5 * $d4;
            $vb = $d5 * $d2 - $d1 * $d6;
            $vc = $d1 * $d4 - $d3 * $d2;
            if ($d1 <= 0.0 && $d2 <= 0.0) {
                $u = 0.0;
                $v = 0.0;
            } elseif ($d3 >= 0.0 && $d4 <= $d3) {
                $u = 1.0;
                $v = 0.0;
            } elseif ($d6 >= 0.0 && $d5 <= $d6) {
                $u = 0.0;
                $v = 1.0;
            } elseif ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
                // A triangle that is crushed has no length or no inside; its neighbours are asked as well.
                $u = $uu > 0.0 ? $d1 / $uu : 0.0;
                $v = 0.0;
            } elseif ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
                $u = 0.0;
                $v = $vv > 0.0 ? $d2 / $vv : 0.0;
            } elseif ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
                $q = ($d4 - $d3) + ($d5 - $d6);
                $v = $q > 0.0 ? ($d4 - $d3) / $q : 0.0;
                $u = 1.0 - $v;
            } else {
                $q = $va + $vb + $vc;
                $q = $q > 0.0 ? 1.0 / $q : 0.0;
                $u = $vb * $q;
                $v = $vc * $q;
            }
            $dx -= $u * $ux + $v * $vx;
            $dy -= $u * $uy + $v * $vy;
            $dz -= $u * $uz + $v * $vz;
            $q = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($q < $best) {
                $best = $q;
                $at = $t;
                $bu = $u;
                $bv = $v;
                $bx = $dx;
                $by = $dy;
                $bz = $dz;
            }
        }

        return [$at, $bu, $bv, $bx, $by, $bz];
    }

    /**
     * Where a needle comes through some triangles, the farthest from its tip (Moeller and Trumbore 1997).
     *
     * @param list<int> $near triangles, by their first corner in the list of corners
     * @param float $nx where it points, unit
     * @param array<int, float> $X
     * @param array<int, float> $Y
     * @param array<int, float> $Z
     * @param list<int> $triangles
     * @param float $length of it, m
     *
     * @return array{int, float, float, float} triangle (-1: none is pierced), where in it along its two edges, and how far from the tip, m
     */
    public static function pierced(array $near, float $sx, float $sy, float $sz, float $nx, float $ny, float $nz, array $X, array $Y, array $Z, array $triangles, float $length): array
    {
        $at = -1;
        $bu = $bv = $far = 0.0;
        foreach ($near as $t) {
            [$i, $j, $l] = [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]];
            [$ux, $uy, $uz] = [$X[$j] - $X[$i], $Y[$j] - $Y[$i], $Z[$j] - $Z[$i]];
            [$vx, $vy, $vz] = [$X[$l] - $X[$i], $Y[$l] - $Y[$i], $Z[$l] - $Z[$i]];
            [$px, $py, $pz] = [$vy * $nz - $vz * $ny, $vz * $nx - $vx * $nz, $vx * $ny - $vy * $nx];
            $det = $ux * $px + $uy * $py + $uz * $pz;
            if ($det === 0.0) {
                continue;
            }
            $det = 1.0 / $det;
            [$dx, $dy, $dz] = [$sx - $X[$i], $sy - $Y[$i], $sz - $Z[$i]];
            $u = $det * ($dx * $px + $dy * $py + $dz * $pz);
            [$qx, $qy, $qz] = [$uy * $dz - $uz * $dy, $uz * $dx - $ux * $dz, $ux * $dy - $uy * $dx];
            $v = $det * ($nx * $qx + $ny * $qy + $nz * $qz);
            $s = $det * ($vx * $qx + $vy * $qy + $vz * $qz);
            if ($u >= 0.0 && $v >= 0.0 && $u + $v <= 1.0 && $s > $far && $s <= $length) {
                [$at, $bu, $bv, $far] = [$t, $u, $v, $s];
            }
        }

        return [$at, $bu, $bv, $far];
    }
}
