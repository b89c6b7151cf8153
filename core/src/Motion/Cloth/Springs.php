<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * Sweeps over edges, one after the other (Gauss-Seidel), each moved to its length as far as it gives: extended position based
 * dynamics (Macklin, Mueller, Chentanez 2016). A sweep in one direction only lets fine cloth blow up; a sweep there and one
 * back holds it, since together they are symmetric.
 *
 * Edges are grouped by their first vertex, which stays in locals: those of vertex a are from $first[$a] to $first[$a + 1].
 * Inverse masses are shares of the mean vertex's; compliances are in its terms: mean mass / (stiffness * h2).
 */
final class Springs
{
    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses; 0: does not move
     * @param array<int, int> $first
     * @param array<int, int> $other the other vertex of each edge
     * @param array<int, float> $length
     * @param array<int, float> $compliance
     * @param bool $back the last edge first
     */
    public static function sweep(array &$x, array &$y, array &$z, array $w, array $first, array $other, array $length, array $compliance, bool $back): void
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        $n = count($w);
        $step = $back ? -1 : 1;
        $a = $back ? $n - 1 : 0;
        for ($turn = 0; $turn < $n; ++$turn, $a += $step) {
            $c = $first[$a];
            $edges = $first[$a + 1] - $c;
            if ($edges <= 0) {
                continue;
            }
            if ($back) {
                $c += $edges - 1;
            }
            $xa = $X[$a];
            $ya = $Y[$a];
            $za = $Z[$a];
            $wa = $w[$a];
            for (; $edges > 0; --$edges, $c += $step) {
                $b = $other[$c];
                $wb = $w[$b];
                $dx = $xa - $X[$b];
                $dy = $ya - $Y[$b];
                $dz = $za - $Z[$b];
                $l = sqrt($dx * $dx + $dy * $dy + $dz * $dz) + 1e-30;
                $s = ($l - $length[$c]) / ($l * ($wa + $wb + $compliance[$c]));
                $sa = $wa * $s;
                $sb = $wb * $s;
                $xa -= $sa * $dx;
                $ya -= $sa * $dy;
                $za -= $sa * $dz;
                $X[$b] += $sb * $dx;
                $Y[$b] += $sb * $dy;
                $Z[$b] += $sb * $dz;
            }
            $X[$a] = $xa;
            $Y[$a] = $ya;
            $Z[$a] = $za;
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }

    /**
     * Takes edges back that are longer than they may be, as far as they give; shorter ones are left alone.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param array<int, int> $first
     * @param array<int, int> $other
     * @param array<int, float> $most length that each edge may have
     * @param float $compliance of all of them
     * @param bool $back the last edge first
     */
    public static function shorten(array &$x, array &$y, array &$z, array $w, array $first, array $other, array $most, float $compliance, bool $back): void
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        $n = count($w);
        $step = $back ? -1 : 1;
        $a = $back ? $n - 1 : 0;
        for ($turn = 0; $turn < $n; ++$turn, $a += $step) {
            $c = $first[$a];
            $edges = $first[$a + 1] - $c;
            if ($edges <= 0) {
                continue;
            }
            if ($back) {
                $c += $edges - 1;
            }
            $xa = $X[$a];
            $ya = $Y[$a];
            $za = $Z[$a];
            $wa = $w[$a];
            for (; $edges > 0; --$edges, $c += $step) {
                $b = $other[$c];
                $dx = $xa - $X[$b];
                $dy = $ya - $Y[$b];
                $dz = $za - $Z[$b];
                $q = $most[$c];
                $l = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($l > $q * $q) {
                    $wb = $w[$b];
                    $sum = $wa + $wb + $compliance;
                    if ($sum > 0.0) {
                        $l = sqrt($l);
                        $s = ($l - $q) / ($l * $sum);
                        $sa = $wa * $s;
                        $sb = $wb * $s;
                        $xa -= $sa * $dx;
                        $ya -= $sa * $dy;
                        $za -= $sa * $dz;
                        $X[$b] += $sb * $dx;
                        $Y[$b] += $sb * $dy;
                        $Z[$b] += $sb * $dz;
                    }
                }
            }
            $X[$a] = $xa;
            $Y[$a] = $ya;
            $Z[$a] = $za;
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }
}
