<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Volume, centre and inertia of a closed mesh at unit density, exact up to rounding: integrals over the tetrahedra between
 * a reference point and the triangles (as Mirtich 1996, by tetrahedra instead of projections).
 */
final readonly class MassProperties
{
    /**
     * @param float $volume m3; negative if the mesh is inside out
     * @param array{float, float, float} $centre
     * @param array{float, float, float, float, float, float} $inertia xx, yy, zz, xy, yz, zx of the inertia tensor about
     *                                                                 the centre, in m5 (times the density: kg m2)
     */
    public function __construct(
        public float $volume,
        public array $centre,
        public array $inertia,
    ) {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $t = $mesh->triangles;
        if ($t === []) {
            return new self(0.0, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
        }
        [$low, $high] = $mesh->bounds();
        // From the middle of the bounds, so that far-away meshes lose no digits.
        $ox = 0.5 * ($low[0] + $high[0]);
        $oy = 0.5 * ($low[1] + $high[1]);
        $oz = 0.5 * ($low[2] + $high[2]);
        $vol = $sx = $sy = $sz = $xx = $yy = $zz = $xy = $yz = $zx = 0.0;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            $ax = $x[$a] - $ox;
            $ay = $y[$a] - $oy;
            $az = $z[$a] - $oz;
            $bx = $x[$b] - $ox;
            $by = $y[$b] - $oy;
            $bz = $z[$b] - $oz;
            $cx = $x[$c] - $ox;
            $cy = $y[$c] - $oy;
            $cz = $z[$c] - $oz;
            $d = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
            $ux = $ax + $bx + $cx;
            $uy = $ay + $by + $cy;
            $uz = $az + $bz + $cz;
            $vol += $d;
            $sx += $d * $ux;
            $sy += $d * $uy;
            $sz += $d * $uz;
            $xx += $d * ($ux * $ux + $ax * $ax + $bx * $bx + $cx * $cx);
            $yy += $d * ($uy * $uy + $ay * $ay + $by * $by + $cy * $cy);
            $zz += $d * ($uz * $uz + $az * $az + $bz * $bz + $cz * $cz);
            $xy += $d * ($ux * $uy + $ax * $ay + $bx * $by + $cx * $cy);
            $yz += $d * ($uy * $uz + $ay * $az + $by * $bz + $cy * $cz);
            $zx += $d * ($uz * $ux + $az * $ax + $bz * $bx + $cz * $cx);
        }
        $volume = $vol / 6.0;
        if ($volume === 0.0) {
            return new self(0.0, [$ox, $oy, $oz], [0.0, 0.0, 0.0, 0.0, 0.0, 0.0]);
        }
        $mx = $sx / 24.0 / $volume;
        $my = $sy / 24.0 / $volume;
        $mz = $sz / 24.0 / $volume;
        // Second moments about the reference point, moved to the centre.
        $xx = $xx / 120.0 - $volume * $mx * $mx;
        $yy = $yy / 120.0 - $volume * $my * $my;
        $zz = $zz / 120.0 - $volume * $mz * $mz;
        $xy = $xy / 120.0 - $volume * $mx * $my;
        $yz = $yz / 120.0 - $volume * $my * $mz;
        $zx = $zx / 120.0 - $volume * $mz * $mx;

        return new self(
            $volume,
            [$ox + $mx, $oy + $my, $oz + $mz],
            [$yy + $zz, $xx + $zz, $xx + $yy, -$xy, -$yz, -$zx],
        );
    }

    /**
     * Of an open sheet with some thickness: a thin plate of each triangle, whose moments are those of its corners and middle
     * (exact for the plane of the triangle: its second moments are A/12 times the sum over the corners and 9 times the middle).
     */
    public static function ofSheet(TriangleMesh $mesh, float $thickness): self
    {
        $area = 0.0;
        $m = [0.0, 0.0, 0.0];
        $s = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $t = $mesh->triangles;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $p = [];
            foreach ([$t[$k], $t[$k + 1], $t[$k + 2]] as $v) {
                $p[] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
            }
            $u = [$p[1][0] - $p[0][0], $p[1][1] - $p[0][1], $p[1][2] - $p[0][2]];
            $w = [$p[2][0] - $p[0][0], $p[2][1] - $p[0][1], $p[2][2] - $p[0][2]];
            $a = 0.5 * sqrt(($u[1] * $w[2] - $u[2] * $w[1]) ** 2 + ($u[2] * $w[0] - $u[0] * $w[2]) ** 2 + ($u[0] * $w[1] - $u[1] * $w[0]) ** 2);
            $p[] = [($p[0][0] + $p[1][0] + $p[2][0]) / 3.0, ($p[0][1] + $p[1][1] + $p[2][1]) / 3.0, ($p[0][2] + $p[1][2] + $p[2][2]) / 3.0];
            $area += $a;
            foreach ($p as $i => [$x, $y, $z]) {
                $share = $a / 12.0 * ($i === 3 ? 9.0 : 1.0);
                $m = [$m[0] + $share * $x, $m[1] + $share * $y, $m[2] + $share * $z];
                $s = [$s[0] + $share * $x * $x, $s[1] + $share * $y * $y, $s[2] + $share * $z * $z, $s[3] + $share * $x * $y, $s[4] + $share * $y * $z, $s[5] + $share * $z * $x];
            }
        }
        if ($area <= 0.0) {
            return self::of($mesh);
        }
        [$cx, $cy, $cz] = [$m[0] / $area, $m[1] / $area, $m[2] / $area];
        // Through the thickness a plate has t2/12 of its mass; never nothing, so that it turns about every axis.
        $through = $area * $thickness * $thickness / 12.0;
        $xx = $thickness * max($through, $s[0] - $area * $cx * $cx);
        $yy = $thickness * max($through, $s[1] - $area * $cy * $cy);
        $zz = $thickness * max($through, $s[2] - $area * $cz * $cz);
        $xy = $thickness * ($s[3] - $area * $cx * $cy);
        $yz = $thickness * ($s[4] - $area * $cy * $cz);
        $zx = $thickness * ($s[5] - $area * $cz * $cx);

        return new self($area * $thickness, [$cx, $cy, $cz], [$yy + $zz, $xx + $zz, $xx + $yy, -$xy, -$yz, -$zx]);
    }
}
