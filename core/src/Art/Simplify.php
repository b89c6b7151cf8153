<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

/** Fewer points on a line that strays from the old one by no more than asked (Douglas and Peucker 1973). */
final class Simplify
{
    /**
     * @param list<array{float, float}> $loop closed
     *
     * @return list<array{float, float}>
     */
    public static function loop(array $loop, float $stray): array
    {
        $count = count($loop);
        if ($count < 5) {
            return $loop;
        }
        // Two points that lie far apart stay for certain.
        $far = 0;
        $most = -1.0;
        foreach ($loop as $k => [$x, $y]) {
            $d = ($x - $loop[0][0]) ** 2 + ($y - $loop[0][1]) ** 2;
            if ($d > $most) {
                $most = $d;
                $far = $k;
            }
        }
        $there = self::line(array_slice($loop, 0, $far + 1), $stray);
        $back = self::line([...array_slice($loop, $far), $loop[0]], $stray);
        array_pop($there);
        array_pop($back);
        $simple = [...$there, ...$back];

        return count($simple) < 3 ? $loop : $simple;
    }

    /**
     * @param list<array{float, float}> $line
     *
     * @return list<array{float, float}> its ends are kept
     */
    public static function line(array $line, float $stray): array
    {
        $keep = [0 => true, count($line) - 1 => true];
        $left = [[0, count($line) - 1]];
        while ($left !== []) {
            [$a, $b] = array_pop($left);
            [$ax, $ay] = $line[$a];
            $ux = $line[$b][0] - $ax;
            $uy = $line[$b][1] - $ay;
            $length = sqrt($ux * $ux + $uy * $uy);
            $worst = $stray;
            $at = -1;
            for ($k = $a + 1; $k < $b; $k++) {
                $dx = $line[$k][0] - $ax;
                $dy = $line[$k][1] - $ay;
                $d = $length > 0.0 ? abs($ux * $dy - $uy * $dx) / $length : sqrt($dx * $dx + $dy * $dy);
                if ($d > $worst) {
                    $worst = $d;
                    $at = $k;
                }
            }
            if ($at >= 0) {
                $keep[$at] = true;
                array_push($left, [$a, $at], [$at, $b]);
            }
        }
        ksort($keep);
        $simple = [];
        foreach (array_keys($keep) as $k) {
            $simple[] = $line[$k];
        }

        return $simple;
    }
}
