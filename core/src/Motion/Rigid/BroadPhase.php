<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Pairs of spheres that come near each other, by sorting along x and sweeping. Cost: n log n plus the pairs met in x. */
final class BroadPhase
{
    /**
     * @param array<int, float> $x centres
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $r radii, with what they may move in the step
     * @param array<int, int> $body of each sphere; two spheres of one body never pair up
     * @param array<int, bool> $active by body: two bodies that both are not active never pair up
     *
     * @return list<int> two spheres a pair, lower number first, in order
     */
    public static function pairs(array $x, array $y, array $z, array $r, array $body, array $active): array
    {
        $low = [];
        foreach ($x as $i => $cx) {
            $low[$i] = $cx - $r[$i];
        }
        asort($low);
        $order = array_keys($low);
        $n = count($order);
        $keys = [];
        for ($s = 0; $s < $n; $s++) {
            $i = $order[$s];
            $cx = $x[$i];
            $cy = $y[$i];
            $cz = $z[$i];
            $cr = $r[$i];
            $high = $cx + $cr;
            $own = $body[$i];
            $moves = $active[$own];
            for ($t = $s + 1; $t < $n; $t++) {
                $j = $order[$t];
                if ($low[$j] > $high) {
                    break;
                }
                $reach = $cr + $r[$j];
                $dy = $y[$j] - $cy;
                if ($dy > $reach || $dy < -$reach) {
                    continue;
                }
                $dx = $x[$j] - $cx;
                $dz = $z[$j] - $cz;
                if ($dx * $dx + $dy * $dy + $dz * $dz < $reach * $reach) {
                    $other = $body[$j];
                    if ($other !== $own && ($moves || $active[$other])) {
                        $keys[] = $i < $j ? $i * 1048576 + $j : $j * 1048576 + $i;
                    }
                }
            }
        }
        // One order for all machines and runs: by number.
        sort($keys);
        $pairs = [];
        foreach ($keys as $key) {
            $pairs[] = $key >> 20;
            $pairs[] = $key & 1048575;
        }

        return $pairs;
    }
}
