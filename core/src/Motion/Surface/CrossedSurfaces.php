<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Two surfaces that bend and have come through each other: they are drawn apart, the lighter one farther, without a change of speed. */
final class CrossedSurfaces
{
    public const ROUNDS = 8;

    /** In each a vertex goes no farther than this part of an edge. */
    public const STEP = 0.1;

    /**
     * @param float $edge how long edges are on average, m
     *
     * @return bool whether anything was moved
     */
    public static function part(Bending $one, Bending $other, float $edge): bool
    {
        $facing = self::facing($one, $other, $edge);
        if ($facing === []) {
            return false;
        }
        $n = count($one->x);
        $triangles = [...$one->triangles];
        foreach ($other->triangles as $v) {
            $triangles[] = $n + $v;
        }
        $around = [];
        foreach ($triangles as $c => $v) {
            $around[$v][] = $c - $c % 3;
        }
        $moved = false;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $ways = Tangles::waysOut($facing, [...$one->x, ...$other->x], [...$one->y, ...$other->y], [...$one->z, ...$other->z], $triangles, $around);
            if ($ways === []) {
                break;
            }
            [$w, $v] = [self::freest($one, $ways, 0), self::freest($other, $ways, $n)];
            if ($w + $v <= 0.0) {
                break;
            }
            $moved = true;
            self::move($one, $ways, 0, self::STEP * $edge * $w / ($w + $v));
            self::move($other, $ways, $n, self::STEP * $edge * $v / ($w + $v));
        }

        return $moved;
    }

    /**
     * Sweeps along x over the boxes of triangles that lie where both surfaces are.
     *
     * @return list<int> as {@see Tangles::facing()} tells them
     */
    public static function facing(Bending $one, Bending $other, float $spare): array
    {
        [$a, $b] = [$one->box(), $other->box()];
        $low = [max($a[0], $b[0]) - $spare, max($a[1], $b[1]) - $spare, max($a[2], $b[2]) - $spare];
        $high = [min($a[3], $b[3]) + $spare, min($a[4], $b[4]) + $spare, min($a[5], $b[5]) + $spare];
        $ours = self::boxes($one, $low, $high, 0.5 * $spare);
        $theirs = $ours === [] ? [] : self::boxes($other, $low, $high, 0.5 * $spare);
        $shift = count($one->triangles);
        $end = $shift + count($other->triangles);
        $facing = [];
        $from = 0;
        $count = count($theirs);
        foreach ($ours as [$x, $y, $z, $p, $q, $r, $s]) {
            while ($from < $count && $theirs[$from][7] < $x) {
                $from++;
            }
            for ($k = $from; $k < $count && $theirs[$k][0] <= $p; $k++) {
                $box = $theirs[$k];
                if ($box[3] >= $x && $box[1] <= $q && $box[4] >= $y && $box[2] <= $r && $box[5] >= $z) {
                    $facing[] = $s * $end + $shift + $box[6];
                }
            }
        }

        return $facing;
    }

    /**
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     *
     * @return list<array{float, float, float, float, float, float, int, float}> low and high corner, first corner of the triangle, how far any up to here reaches along x
     */
    private static function boxes(Bending $surface, array $low, array $high, float $spare): array
    {
        [$x, $y, $z, $triangles] = [$surface->x, $surface->y, $surface->z, $surface->triangles];
        $boxes = [];
        for ($t = 0, $end = count($triangles); $t < $end; $t += 3) {
            [$a, $b, $c] = [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]];
            $box = [min($x[$a], $x[$b], $x[$c]) - $spare, min($y[$a], $y[$b], $y[$c]) - $spare, min($z[$a], $z[$b], $z[$c]) - $spare, max($x[$a], $x[$b], $x[$c]) + $spare, max($y[$a], $y[$b], $y[$c]) + $spare, max($z[$a], $z[$b], $z[$c]) + $spare, $t, 0.0];
            if ($box[0] <= $high[0] && $box[3] >= $low[0] && $box[1] <= $high[1] && $box[4] >= $low[1] && $box[2] <= $high[2] && $box[5] >= $low[2]) {
                $boxes[] = $box;
            }
        }
        sort($boxes);
        $reach = -INF;
        foreach ($boxes as $k => $box) {
            $boxes[$k][7] = $reach = max($reach, $box[3]);
        }

        return $boxes;
    }

    /**
     * @param array<int, array{float, float, float}> $ways
     * @param int $from number of its first vertex in them
     *
     * @return float inverse mass of the freest vertex that should go somewhere, 1/kg
     */
    private static function freest(Bending $surface, array $ways, int $from): float
    {
        $most = 0.0;
        foreach ($ways as $v => $_) {
            $most = max($most, $surface->w[$v - $from] ?? 0.0);
        }

        return $most;
    }

    /**
     * @param array<int, array{float, float, float}> $ways
     * @param int $from number of its first vertex in them
     * @param float $far m
     */
    private static function move(Bending $surface, array $ways, int $from, float $far): void
    {
        foreach ($ways as $v => [$a, $b, $c]) {
            $v -= $from;
            if (($surface->w[$v] ?? 0.0) <= 0.0) {
                continue;
            }
            $surface->x[$v] += $far * $a;
            $surface->y[$v] += $far * $b;
            $surface->z[$v] += $far * $c;
            $surface->px[$v] += $far * $a;
            $surface->py[$v] += $far * $b;
            $surface->pz[$v] += $far * $c;
        }
    }
}
