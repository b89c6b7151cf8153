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
    private function __construct(
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
}
