<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

/** Counts triangles of one surface that cross triangles of another, by signs of volumes (what only touches does not count). */
final class Crossings
{
    /** Part of the largest volume that its edges could have, below which a volume is nothing. */
    private const ROUNDING = 1e-12;

    /**
     * @param list<array{float, float, float}> $a vertices
     * @param list<int> $first triangles over them
     * @param list<array{float, float, float}> $b
     * @param list<int> $second
     */
    public static function count(array $a, array $first, array $b, array $second): int
    {
        $crossed = 0;
        foreach (self::near(self::boxes($a, $first), self::boxes($b, $second)) as [$t, $u]) {
            $crossed += self::cross([$a[$first[$t]], $a[$first[$t + 1]], $a[$first[$t + 2]]], [$b[$second[$u]], $b[$second[$u + 1]], $b[$second[$u + 2]]]) ? 1 : 0;
        }

        return $crossed;
    }

    /**
     * Of one surface: pairs of its triangles that cross and have no corner in one place, as neighbours have, and what is sewn together.
     *
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     */
    public static function within(array $points, array $triangles): int
    {
        $boxes = self::boxes($points, $triangles);
        $crossed = 0;
        foreach (self::near($boxes, $boxes) as [$t, $u]) {
            [$own, $other] = [array_slice($triangles, $t, 3), array_slice($triangles, $u, 3)];
            if ($t >= $u || array_intersect($own, $other) !== []) {
                continue;
            }
            $at = static fn (int $v): array => $points[$v];
            [$p, $q] = [array_map($at, $own), array_map($at, $other)];
            foreach ($p as $corner) {
                if (in_array($corner, $q, true)) {
                    continue 2;
                }
            }
            $crossed += self::cross($p, $q) ? 1 : 0;
        }

        return $crossed;
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     *
     * @return list<array{float, float, float, float, float, float, int, float}> low and high corner of each, sorted, its first corner's number, and how far any up to it reaches along x
     */
    private static function boxes(array $points, array $triangles): array
    {
        $boxes = [];
        for ($t = 0; $t < count($triangles); $t += 3) {
            [$p, $q, $r] = [$points[$triangles[$t]], $points[$triangles[$t + 1]], $points[$triangles[$t + 2]]];
            $boxes[] = [min($p[0], $q[0], $r[0]), min($p[1], $q[1], $r[1]), min($p[2], $q[2], $r[2]), max($p[0], $q[0], $r[0]), max($p[1], $q[1], $r[1]), max($p[2], $q[2], $r[2]), $t, 0.0];
        }
        sort($boxes);
        $reach = -INF;
        foreach ($boxes as $k => $box) {
            $boxes[$k][7] = $reach = max($reach, $box[3]);
        }

        return $boxes;
    }

    /**
     * Sweeps along x.
     *
     * @param list<array{float, float, float, float, float, float, int, float}> $ours
     * @param list<array{float, float, float, float, float, float, int, float}> $theirs
     *
     * @return iterable<array{int, int}> those whose boxes overlap
     */
    private static function near(array $ours, array $theirs): iterable
    {
        $from = 0;
        $count = count($theirs);
        foreach ($ours as [$x, $y, $z, $p, $q, $r, $t]) {
            while ($from < $count && $theirs[$from][7] < $x) {
                $from++;
            }
            for ($k = $from; $k < $count && $theirs[$k][0] <= $p; $k++) {
                $box = $theirs[$k];
                if ($box[3] >= $x && $box[1] <= $q && $box[4] >= $y && $box[2] <= $r && $box[5] >= $z) {
                    yield [$t, $box[6]];
                }
            }
        }
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

        [$wx, $wy, $wz] = [$d[0] - $a[0], $d[1] - $a[1], $d[2] - $a[2]];
        $volume = $wx * ($uy * $vz - $uz * $vy) + $wy * ($uz * $vx - $ux * $vz) + $wz * ($ux * $vy - $uy * $vx);
        // What lies in one plane is on neither side: there the sign is that of rounding.
        $most = (abs($ux) + abs($uy) + abs($uz)) * (abs($vx) + abs($vy) + abs($vz)) * (abs($wx) + abs($wy) + abs($wz));

        return abs($volume) <= self::ROUNDING * $most ? 0 : $volume <=> 0.0;
    }
}
