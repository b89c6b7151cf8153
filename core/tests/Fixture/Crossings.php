<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Math\Vector;

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
     * Of one surface: how many pairs of its triangles cross and have no corner in one place, as neighbours have, and what is sewn together.
     *
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     */
    public static function within(array $points, array $triangles): int
    {
        return iterator_count(self::pairsWithin($points, $triangles));
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     *
     * @return float how far out of what it crosses the deepest of them would have to go, m
     */
    public static function deepestWithin(array $points, array $triangles): float
    {
        $deepest = 0.0;
        foreach (self::pairsWithin($points, $triangles) as [$p, $q]) {
            $deepest = max($deepest, self::depth($p, $q));
        }

        return $deepest;
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     *
     * @return iterable<array{list<array{float, float, float}>, list<array{float, float, float}>}>
     */
    private static function pairsWithin(array $points, array $triangles): iterable
    {
        $boxes = self::boxes($points, $triangles);
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
            if (self::cross($p, $q)) {
                yield [$p, $q];
            }
        }
    }

    /**
     * Along each way that can part two triangles: across the one, across the other, and across an edge of each.
     *
     * @param list<array{float, float, float}> $p
     * @param list<array{float, float, float}> $q
     *
     * @return float how far apart they would have to be moved, m
     */
    private static function depth(array $p, array $q): float
    {
        $edges = static fn (array $t): array => [Vector::minus($t[1], $t[0]), Vector::minus($t[2], $t[1]), Vector::minus($t[0], $t[2])];
        [$own, $other] = [$edges($p), $edges($q)];
        $ways = [Vector::cross($own[0], $own[1]), Vector::cross($other[0], $other[1])];
        foreach ($own as $one) {
            foreach ($other as $next) {
                $ways[] = Vector::cross($one, $next);
            }
        }
        $least = INF;
        foreach ($ways as $way) {
            $way = Vector::unit($way);
            if ($way !== null) {
                $along = static fn (array $t): array => array_map(static fn (array $corner): float => Vector::dot($way, $corner), $t);
                [$a, $b] = [$along($p), $along($q)];
                $least = min($least, max($a) - min($b), max($b) - min($a));
            }
        }

        return $least;
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param list<int> $triangles
     *
     * @return list<array{float, float, float, float, float, float, int}> low and high corner of each, and its first corner's number
     */
    private static function boxes(array $points, array $triangles): array
    {
        $boxes = [];
        for ($t = 0; $t < count($triangles); $t += 3) {
            [$p, $q, $r] = [$points[$triangles[$t]], $points[$triangles[$t + 1]], $points[$triangles[$t + 2]]];
            $boxes[] = [min($p[0], $q[0], $r[0]), min($p[1], $q[1], $r[1]), min($p[2], $q[2], $r[2]), max($p[0], $q[0], $r[0]), max($p[1], $q[1], $r[1]), max($p[2], $q[2], $r[2]), $t];
        }

        return $boxes;
    }

    /**
     * @param list<array{float, float, float, float, float, float, int}> $ours
     * @param list<array{float, float, float, float, float, float, int}> $theirs
     *
     * @return iterable<array{int, int}> those whose boxes overlap
     */
    private static function near(array $ours, array $theirs): iterable
    {
        $side = max(self::side($ours), self::side($theirs));
        $cells = [];
        foreach ($theirs as $box) {
            foreach (self::cells($box, $side) as $cell) {
                $cells[$cell][] = $box;
            }
        }
        foreach ($ours as $box) {
            [$x, $y, $z, $p, $q, $r, $t] = $box;
            foreach (self::cells($box, $side) as $cell) {
                foreach ($cells[$cell] ?? [] as [$i, $j, $k, $u, $v, $w, $other]) {
                    // Where both begin to overlap, so that each pair comes once.
                    if ($u >= $x && $i <= $p && $v >= $y && $j <= $q && $w >= $z && $k <= $r && self::cell((int) floor(max($x, $i) / $side), (int) floor(max($y, $j) / $side), (int) floor(max($z, $k) / $side)) === $cell) {
                        yield [$t, $other];
                    }
                }
            }
        }
    }

    /**
     * @param list<array{float, float, float, float, float, float, int}> $boxes
     *
     * @return float of the cubes that they are sorted into, m: as large as most of them, and none is in more than a few thousand
     */
    private static function side(array $boxes): float
    {
        $sizes = array_map(static fn (array $box): float => max($box[3] - $box[0], $box[4] - $box[1], $box[5] - $box[2]), $boxes);

        return max(1e-9, array_sum($sizes) / max(1, count($sizes)), max([0.0, ...$sizes]) / 16.0);
    }

    /**
     * @param array{float, float, float, float, float, float, int} $box
     *
     * @return list<int> cubes that it reaches into
     */
    private static function cells(array $box, float $side): array
    {
        [$i, $j, $k] = [(int) floor($box[0] / $side), (int) floor($box[1] / $side), (int) floor($box[2] / $side)];
        [$p, $q, $r] = [(int) floor($box[3] / $side), (int) floor($box[4] / $side), (int) floor($box[5] / $side)];
        $cells = [];
        for ($x = $i; $x <= $p; $x++) {
            for ($y = $j; $y <= $q; $y++) {
                for ($z = $k; $z <= $r; $z++) {
                    $cells[] = self::cell($x, $y, $z);
                }
            }
        }

        return $cells;
    }

    /** One number for three of up to a million, above and below 0. */
    private static function cell(int $x, int $y, int $z): int
    {
        return ($x & 0x1FFFFF) << 42 | ($y & 0x1FFFFF) << 21 | $z & 0x1FFFFF;
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
        if (self::sign($t[0], $t[1], $t[2], $p) * self::sign($t[0], $t[1], $t[2], $q) >= 0) {
            return false;
        }
        $u = self::sign($p, $q, $t[0], $t[1]);
        $v = self::sign($p, $q, $t[1], $t[2]);
        $w = self::sign($p, $q, $t[2], $t[0]);

        return $u * $v > 0 && $v * $w > 0;
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     * @param array{float, float, float} $d
     */
    private static function sign(array $a, array $b, array $c, array $d): int
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
