<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

/** Counts triangles of one surface that cross triangles of another, by signs of volumes (what only touches does not count). */
final class Crossings
{
    /**
     * @param list<array{float, float, float}> $a vertices
     * @param list<int> $first triangles over them
     * @param list<array{float, float, float}> $b
     * @param list<int> $second
     */
    public static function count(array $a, array $first, array $b, array $second): int
    {
        $cell = 1e-9;
        foreach ([[$a, $first], [$b, $second]] as [$points, $triangles]) {
            foreach (array_slice($triangles, 0, 300) as $k => $v) {
                $w = $triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
                $cell = max($cell, ...array_map(static fn (int $axis): float => abs($points[$v][$axis] - $points[$w][$axis]), [0, 1, 2]));
            }
        }
        $grid = [];
        for ($t = 0; $t < count($first); $t += 3) {
            foreach (self::cells([$a[$first[$t]], $a[$first[$t + 1]], $a[$first[$t + 2]]], $cell) as $key) {
                $grid[$key][] = $t;
            }
        }
        $crossed = 0;
        for ($u = 0; $u < count($second); $u += 3) {
            $other = [$b[$second[$u]], $b[$second[$u + 1]], $b[$second[$u + 2]]];
            $seen = [];
            foreach (self::cells($other, $cell) as $key) {
                foreach ($grid[$key] ?? [] as $t) {
                    if (! isset($seen[$t])) {
                        $seen[$t] = true;
                        $crossed += self::cross([$a[$first[$t]], $a[$first[$t + 1]], $a[$first[$t + 2]]], $other) ? 1 : 0;
                    }
                }
            }
        }

        return $crossed;
    }

    /**
     * Of one surface: pairs of its triangles that cross and have no corner in common.
     *
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     */
    public static function within(array $points, array $triangles): int
    {
        $cell = 1e-9;
        foreach ($triangles as $k => $v) {
            $w = $triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
            $cell = max($cell, ...array_map(static fn (int $axis): float => abs($points[$v][$axis] - $points[$w][$axis]), [0, 1, 2]));
        }
        $grid = [];
        $crossed = 0;
        for ($t = 0; $t < count($triangles); $t += 3) {
            $own = array_slice($triangles, $t, 3);
            $corners = array_map(static fn (int $v): array => $points[$v], $own);
            $seen = [];
            foreach (self::cells($corners, $cell) as $key) {
                foreach ($grid[$key] ?? [] as $u) {
                    $other = array_slice($triangles, $u, 3);
                    if (! isset($seen[$u]) && array_intersect($own, $other) === []) {
                        $seen[$u] = true;
                        $crossed += self::cross($corners, array_map(static fn (int $v): array => $points[$v], $other)) ? 1 : 0;
                    }
                }
                $grid[$key][] = $t;
            }
        }

        return $crossed;
    }

    /**
     * @param list<array{float, float, float}> $triangle
     *
     * @return list<string>
     */
    private static function cells(array $triangle, float $cell): array
    {
        $from = $to = [];
        foreach ([0, 1, 2] as $axis) {
            $values = array_column($triangle, $axis);
            $from[] = (int) floor(min($values) / $cell);
            $to[] = (int) floor(max($values) / $cell);
        }
        $keys = [];
        for ($i = $from[0]; $i <= $to[0]; $i++) {
            for ($j = $from[1]; $j <= $to[1]; $j++) {
                for ($k = $from[2]; $k <= $to[2]; $k++) {
                    $keys[] = "{$i} {$j} {$k}";
                }
            }
        }

        return $keys;
    }

    /**
     * @param list<array{float, float, float}> $p
     * @param list<array{float, float, float}> $q
     */
    private static function cross(array $p, array $q): bool
    {
        foreach ([0, 1, 2] as $k) {
            if (self::pierces($p[$k], $p[($k + 1) % 3], $q) || self::pierces($q[$k], $q[($k + 1) % 3], $p)) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param array{float, float, float} $p
     * @param array{float, float, float} $q
     * @param list<array{float, float, float}> $t
     */
    private static function pierces(array $p, array $q, array $t): bool
    {
        if (self::side($t[0], $t[1], $t[2], $p) * self::side($t[0], $t[1], $t[2], $q) >= 0) {
            return false;
        }
        $u = self::side($p, $q, $t[0], $t[1]);
        $v = self::side($p, $q, $t[1], $t[2]);
        $w = self::side($p, $q, $t[2], $t[0]);

        return $u * $v > 0 && $v * $w > 0;
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     * @param array{float, float, float} $d
     */
    private static function side(array $a, array $b, array $c, array $d): int
    {
        [$ux, $uy, $uz] = [$b[0] - $a[0], $b[1] - $a[1], $b[2] - $a[2]];
        [$vx, $vy, $vz] = [$c[0] - $a[0], $c[1] - $a[1], $c[2] - $a[2]];

        return ($d[0] - $a[0]) * ($uy * $vz - $uz * $vy) + ($d[1] - $a[1]) * ($uz * $vx - $ux * $vz) + ($d[2] - $a[2]) * ($ux * $vy - $uy * $vx) <=> 0.0;
    }
}
