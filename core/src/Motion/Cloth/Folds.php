<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** Where cloth is folded so sharply that faces of the fold may go through each other. */
final class Folds
{
    /** A face that is turned away from the others about a vertex by more than 45 degrees: square of the cosine. */
    private const TURNED = 0.5;

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     *
     * @return array<int, true> vertices where a face around is turned away from the others
     */
    public static function sharp(array $x, array $y, array $z, array $triangles): array
    {
        $p = $q = $r = array_fill(0, count($x), 0.0);
        $nx = $ny = $nz = [];
        for ($t = 0, $end = count($triangles); $t < $end; $t += 3) {
            $a = $triangles[$t];
            $b = $triangles[$t + 1];
            $c = $triangles[$t + 2];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $i = $uy * $vz - $uz * $vy;
            $j = $uz * $vx - $ux * $vz;
            $k = $ux * $vy - $uy * $vx;
            $l = 1.0 / sqrt($i * $i + $j * $j + $k * $k + 1e-300);
            $nx[] = $i *= $l;
            $ny[] = $j *= $l;
            $nz[] = $k *= $l;
            foreach ([$a, $b, $c] as $v) {
                $p[$v] += $i;
                $q[$v] += $j;
                $r[$v] += $k;
            }
        }
        $sharp = [];
        foreach ($triangles as $c => $v) {
            $t = intdiv($c, 3);
            $along = $nx[$t] * $p[$v] + $ny[$t] * $q[$v] + $nz[$t] * $r[$v];
            if ($along < 0.0 || $along * $along < self::TURNED * ($p[$v] * $p[$v] + $q[$v] * $q[$v] + $r[$v] * $r[$v])) {
                $sharp[$v] = true;
            }
        }

        return $sharp;
    }
}
