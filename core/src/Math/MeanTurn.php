<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** How places turn as a whole while each goes its way. */
final class MeanTurn
{
    /**
     * The turn that leaves the least of the ways, by squares: angular momentum of equal masses by their inertia (any text on mechanics).
     *
     * @param list<float> $x places, m
     * @param list<float> $y
     * @param list<float> $z
     * @param list<float> $dx how far each goes, m
     * @param list<float> $dy
     * @param list<float> $dz
     *
     * @return array{float, float, float} axis times angle, rad; none if they lie in a line
     */
    public static function of(array $x, array $y, array $z, array $dx, array $dy, array $dz): array
    {
        $n = max(1, count($x));
        [$mx, $my, $mz] = [array_sum($x) / $n, array_sum($y) / $n, array_sum($z) / $n];
        $lx = $ly = $lz = $xx = $yy = $zz = $xy = $yz = $zx = 0.0;
        foreach ($x as $k => $a) {
            $a -= $mx;
            $b = $y[$k] - $my;
            $c = $z[$k] - $mz;
            $u = $dx[$k];
            $v = $dy[$k];
            $w = $dz[$k];
            $lx += $b * $w - $c * $v;
            $ly += $c * $u - $a * $w;
            $lz += $a * $v - $b * $u;
            $xx += $a * $a;
            $yy += $b * $b;
            $zz += $c * $c;
            $xy += $a * $b;
            $yz += $b * $c;
            $zx += $c * $a;
        }
        $inertia = [$yy + $zz, -$xy, -$zx, -$xy, $xx + $zz, -$yz, -$zx, -$yz, $xx + $yy];

        return Matrix::determinant($inertia) > 1e-9 * ($xx + $yy + $zz) ** 3 ? Matrix::times(Matrix::inverse($inertia), [$lx, $ly, $lz]) : [0.0, 0.0, 0.0];
    }
}
