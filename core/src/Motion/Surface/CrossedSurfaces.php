<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Two surfaces that bend and have come through each other: they are drawn apart, the lighter one farther, without a change of speed. */
final class CrossedSurfaces
{
    public const ROUNDS = 8;

    /** In each a vertex goes no farther than this part of an edge. */
    public const STEP = 0.1;

    /** Which triangles may meet is told for so many rounds: for all of them it would be thirteen times as many pairs. */
    public const AHEAD = 2;

    /**
     * @param float $edge how long edges are on average, m
     *
     * @return bool whether anything was moved
     */
    public static function part(Bending $one, Bending $other, float $edge): bool
    {
        $n = count($one->x);
        $triangles = self::triangles($one, $other);
        if (! self::cross($one, $other, $triangles)) {
            return false;
        }
        $around = $found = null;
        $went = [];
        $moved = false;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $places = [[...$one->x, ...$other->x], [...$one->y, ...$other->y], [...$one->z, ...$other->z]];
            if ($found === null || $round % self::AHEAD === 0) {
                $found = new Piercings(self::facing($one, $other, self::AHEAD * self::STEP * $edge), $triangles);
                $found->look($places);
            } else {
                $found->look($places, $went);
            }
            $pierced = $found->all();
            if ($pierced === []) {
                break;
            }
            $around ??= self::around($triangles);
            $ways = Tangles::ways($pierced, ...$places, triangles: $triangles, around: $around);
            $went = array_keys($ways);
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

    /** @return list<int> triangles of both, the second one's vertices after those of the first */
    public static function triangles(Bending $one, Bending $other): array
    {
        $n = count($one->x);
        $triangles = [...array_values($one->triangles)];
        foreach ($other->triangles as $v) {
            $triangles[] = $n + $v;
        }

        return $triangles;
    }

    /**
     * Whether one goes through the other at all: most that lie on each other do not, and have far fewer triangles whose boxes meet than such as may come so far.
     *
     * @param list<int> $triangles of both
     */
    public static function cross(Bending $one, Bending $other, array $triangles): bool
    {
        $meeting = self::facing($one, $other, 0.0);

        return $meeting !== [] && Tangles::piercedBy($meeting, [...$one->x, ...$other->x], [...$one->y, ...$other->y], [...$one->z, ...$other->z], $triangles) !== [];
    }

    /**
     * @param array<int, int> $triangles
     *
     * @return array<int, list<int>> triangles at each vertex, by their first corner
     */
    private static function around(array $triangles): array
    {
        $around = [];
        foreach ($triangles as $c => $v) {
            $around[$v][] = $c - $c % 3;
        }

        return $around;
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
        // Beyond which sides each vertex lies: most triangles lie beyond one with all three.
        $beyond = [];
        foreach ($x as $v => $at) {
            $beyond[$v] = ($at - $spare > $high[0] ? 1 : 0) | ($at + $spare < $low[0] ? 2 : 0) | ($y[$v] - $spare > $high[1] ? 4 : 0) | ($y[$v] + $spare < $low[1] ? 8 : 0) | ($z[$v] - $spare > $high[2] ? 16 : 0) | ($z[$v] + $spare < $low[2] ? 32 : 0);
        }
        $boxes = [];
        for ($t = 0, $end = count($triangles); $t < $end; $t += 3) {
            $a = $triangles[$t];
            $b = $triangles[$t + 1];
            $c = $triangles[$t + 2];
            if (($beyond[$a] & $beyond[$b] & $beyond[$c]) !== 0) {
                continue;
            }
            $boxes[] = [min($x[$a], $x[$b], $x[$c]) - $spare, min($y[$a], $y[$b], $y[$c]) - $spare, min($z[$a], $z[$b], $z[$c]) - $spare, max($x[$a], $x[$b], $x[$c]) + $spare, max($y[$a], $y[$b], $y[$c]) + $spare, max($z[$a], $z[$b], $z[$c]) + $spare, $t, 0.0];
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
