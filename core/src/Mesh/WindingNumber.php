<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Generalised winding number of a mesh about a point (Jacobson et al. 2013): about 1 inside, 0 outside, a fraction near
 * holes. Solid angle of a triangle after Van Oosterom and Strackee 1983. Cost: one pass over all triangles.
 */
final class WindingNumber
{
    public static function at(TriangleMesh $mesh, float $px, float $py, float $pz): float
    {
        $x = $mesh->x;
        $y = $mesh->y;
        $z = $mesh->z;
        $t = $mesh->triangles;
        $sum = 0.0;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            $ax = $x[$a] - $px;
            $ay = $y[$a] - $py;
            $az = $z[$a] - $pz;
            $bx = $x[$b] - $px;
            $by = $y[$b] - $py;
            $bz = $z[$b] - $pz;
            $cx = $x[$c] - $px;
            $cy = $y[$c] - $py;
            $cz = $z[$c] - $pz;
            $la = sqrt($ax * $ax + $ay * $ay + $az * $az);
            $lb = sqrt($bx * $bx + $by * $by + $bz * $bz);
            $lc = sqrt($cx * $cx + $cy * $cy + $cz * $cz);
            $det = $ax * ($by * $cz - $bz * $cy) + $ay * ($bz * $cx - $bx * $cz) + $az * ($bx * $cy - $by * $cx);
            $div = $la * $lb * $lc + ($ax * $bx + $ay * $by + $az * $bz) * $lc
                + ($bx * $cx + $by * $cy + $bz * $cz) * $la + ($cx * $ax + $cy * $ay + $cz * $az) * $lb;
            $sum += atan2($det, $div);
        }

        return $sum / (2.0 * M_PI);
    }
}
