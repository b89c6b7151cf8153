<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * Takes speed differences out of a cloth, edge by edge, without changing its momentum: what trembles comes to rest, what falls
 * or swings as a whole is not held back.
 */
final class Smoothing
{
    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places a substep before, which change
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param list<int> $first
     * @param list<int> $other
     * @param float $share of the difference across an edge that goes, 0 to 1
     */
    public static function speeds(array $x, array $y, array $z, array &$px, array &$py, array &$pz, array $w, array $first, array $other, float $share): void
    {
        [$P, $Q, $R] = [$px, $py, $pz];
        $px = $py = $pz = [];
        $n = count($w);
        for ($a = 0; $a < $n; ++$a) {
            $c = $first[$a];
            $end = $first[$a + 1];
            if ($c >= $end) {
                continue;
            }
            $wa = $w[$a];
            $xa = $x[$a];
            $ya = $y[$a];
            $za = $z[$a];
            $pa = $P[$a];
            $qa = $Q[$a];
            $ra = $R[$a];
            for (; $c < $end; ++$c) {
                $b = $other[$c];
                $wb = $w[$b];
                $s = $share / ($wa + $wb + 1e-12);
                $dx = $s * ($x[$b] - $P[$b] - $xa + $pa);
                $dy = $s * ($y[$b] - $Q[$b] - $ya + $qa);
                $dz = $s * ($z[$b] - $R[$b] - $za + $ra);
                $pa -= $wa * $dx;
                $qa -= $wa * $dy;
                $ra -= $wa * $dz;
                $P[$b] += $wb * $dx;
                $Q[$b] += $wb * $dy;
                $R[$b] += $wb * $dz;
            }
            $P[$a] = $pa;
            $Q[$a] = $qa;
            $R[$a] = $ra;
        }
        [$px, $py, $pz] = [$P, $Q, $R];
    }
}
