<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * A cloth of few points over the fine one: its points are averages of the vertices around them, what is too long between them
 * is taken back, and the vertices follow by as much (after Mueller 2008, "Hierarchical position based dynamics"). So a pull
 * goes through the whole cloth in one substep.
 */
final class CoarseLevel
{
    /** Vertices follow this many points. */
    private const FOLLOWED = 3;

    /** How far around a point vertices may follow it, in spacings. */
    private const REACH = 2.2;

    /** A way over the cloth that is this much longer than straight through is bent at rest. */
    private const STRAIGHT = 1.09;

    /** @var list<float> inverse masses of points that are free */
    private array $free = [];

    /** @var array<int, float> length that the way between two points may have */
    private array $length = [];

    /**
     * @param list<int> $point vertex of each point
     * @param list<list<int>> $followed points that each vertex follows, three lists
     * @param list<list<float>> $share how much it follows each
     * @param list<int> $rowFirst vertices that each point is the average of are from rowFirst[k] to rowFirst[k + 1]
     * @param list<int> $row
     * @param list<float> $rowShare
     * @param list<int> $first pairs of points, as edges in a weave
     * @param list<int> $other
     * @param list<float> $way over the cloth between the vertices of a pair, m
     * @param float $stiffness N/m
     */
    private function __construct(
        private readonly Weave $weave,
        private readonly array $point,
        private readonly array $followed,
        private readonly array $share,
        private readonly array $rowFirst,
        private readonly array $row,
        private readonly array $rowShare,
        private readonly array $first,
        private readonly array $other,
        private readonly array $way,
        private readonly float $stiffness,
    ) {
        $sum = array_fill(0, count($point), 0.0);
        // By mass, as what a point moves is so much of each vertex that follows it: else it would push the whole cloth along.
        $masses = array_filter($weave->mass, static fn (float $of): bool => $of > 0.0);
        $mean = $masses === [] ? 1.0 : array_sum($masses) / count($masses);
        foreach ($followed as $k => $points) {
            foreach ($points as $i => $p) {
                $sum[$p] += $share[$k][$i] * $weave->mass[$i] / $mean;
            }
        }
        foreach ($sum as $of) {
            $this->free[] = 1.0 / max(1e-9, $of);
        }
    }

    /**
     * @param float $spacing m
     * @param list<int> $held vertices that come first as points
     * @param float $stretch share of the fabric's stiffness, N/m
     */
    public static function of(Weave $weave, Geodesics $ways, float $spacing, array $held, float $stretch): ?self
    {
        $n = $weave->count();
        $point = [];
        $covered = [];
        /** @var list<list<array{float, int}>> $around points within reach of each vertex */
        $around = array_fill(0, $n, []);
        $far = [];
        foreach ([...$held, ...range(0, max(0, $n - 1))] as $v) {
            if (isset($covered[$v])) {
                continue;
            }
            $k = count($point);
            $point[] = $v;
            $far[] = $reached = $ways->from($v, self::REACH * $spacing);
            foreach ($reached as $i => $distance) {
                $around[$i][] = [$distance, $k];
                if ($distance <= $spacing) {
                    $covered[$i] = true;
                }
            }
        }
        if (count($point) < 2) {
            return null;
        }
        [$followed, $share, $pairs] = self::follow($around, count($point));
        [$rowFirst, $row, $rowShare] = self::rows($followed, $share, count($point));
        $first = $other = $way = [];
        foreach ($pairs as $a => $others) {
            $first[] = count($other);
            ksort($others);
            foreach ($others as $b => $through) {
                $other[] = $b;
                $way[] = min($through, $far[$a][$point[$b]] ?? INF);
            }
        }
        $first[] = count($other);
        // As for an edge: each triangle between points lies beside three pairs.
        $beside = 3.0 * array_sum($weave->area) / max(1, count($other));
        $squared = array_sum(array_map(static fn (float $length): float => $length * $length, $way)) / max(1, count($way));
        $stiffness = $stretch * $beside / max(1e-12, $squared);

        return new self($weave, $point, $followed, $share, $rowFirst, $row, $rowShare, $first, $other, $way, $stiffness);
    }

    /**
     * @param list<list<array{float, int}>> $around
     *
     * @return array{list<list<int>>, list<list<float>>, list<array<int, float>>} points followed, shares, and the pairs of points that a vertex has in common with the shortest way through one
     */
    private static function follow(array $around, int $points): array
    {
        $followed = $share = array_fill(0, self::FOLLOWED, []);
        $pairs = array_fill(0, $points, []);
        foreach ($around as $i => $near) {
            sort($near);
            $last = $near[self::FOLLOWED][0] ?? 1.5 * ($near[count($near) - 1][0] ?? 0.0) + 1e-9;
            $near = array_slice($near, 0, self::FOLLOWED);
            // Shares end where a fourth point takes over: jumping shares crumple the sheet.
            $weights = array_map(static fn (array $of): float => max(1e-6, 1.0 - $of[0] / max(1e-12, $last)), $near);
            if (($near[0][0] ?? 1.0) < 1e-12) {
                $weights = array_map(static fn (int $k): float => $k === 0 ? 1.0 : 0.0, array_keys($weights));
            }
            $sum = array_sum($weights);
            for ($k = 0; $k < self::FOLLOWED; $k++) {
                $followed[$k][$i] = $near[$k][1] ?? $near[0][1] ?? 0;
                $share[$k][$i] = isset($weights[$k]) ? $weights[$k] / $sum : 0.0;
            }
            foreach ($near as $p => [$da, $a]) {
                foreach (array_slice($near, $p + 1) as [$db, $b]) {
                    [$low, $high] = $a < $b ? [$a, $b] : [$b, $a];
                    $pairs[$low][$high] = min($da + $db, $pairs[$low][$high] ?? INF);
                }
            }
        }

        return [array_map(array_values(...), $followed), array_map(array_values(...), $share), $pairs];
    }

    /**
     * @param list<list<int>> $followed
     * @param list<list<float>> $share
     *
     * @return array{list<int>, list<int>, list<float>} vertices of each point's average and their shares, which add up to 1
     */
    private static function rows(array $followed, array $share, int $points): array
    {
        $rows = array_fill(0, $points, []);
        foreach ($followed as $k => $list) {
            foreach ($list as $i => $p) {
                if ($share[$k][$i] > 0.0) {
                    $rows[$p][$i] = $share[$k][$i];
                }
            }
        }
        $first = $row = $part = [];
        foreach ($rows as $vertices) {
            $first[] = count($row);
            $sum = array_sum($vertices);
            foreach ($vertices as $i => $of) {
                $row[] = $i;
                $part[] = $of / $sum;
            }
        }
        $first[] = count($row);

        return [$first, $row, $part];
    }

    /**
     * What is held has changed: held points stand at their vertex, free ones at the average, and lengths are between these.
     *
     * @param array<int, float> $w inverse masses of the vertices
     * @param RestShape $shape it has
     */
    public function settle(array $w, RestShape $shape, Growth $growth): void
    {
        [$x, $y, $z] = $this->points($shape->x, $shape->y, $shape->z, $w);
        $this->length = [];
        foreach ($this->point as $a => $v) {
            for ($c = $this->first[$a]; $c < $this->first[$a + 1]; $c++) {
                $b = $this->other[$c];
                $now = sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2);
                $u = $this->point[$b];
                $woven = self::straight($this->weave->x, $this->weave->y, $this->weave->z, $v, $u);
                $way = $this->way[$c];
                if ($way > self::STRAIGHT * $woven) {
                    // Over the cloth it has become longer as it has straight through.
                    $now = max($now, $shape->times === null || $woven <= 0.0 ? $way : $way * self::straight($shape->x, $shape->y, $shape->z, $v, $u) / $woven);
                }
                $this->length[] = $growth->between($v, $u, $x[$a] - $x[$b], $y[$a] - $y[$b], $z[$a] - $z[$b]) * $now;
            }
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private static function straight(array $x, array $y, array $z, int $v, int $u): float
    {
        return sqrt(($x[$v] - $x[$u]) ** 2 + ($y[$v] - $y[$u]) ** 2 + ($z[$v] - $z[$u]) ** 2);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param float $mass of the mean vertex by the square of a substep, kg/s2
     * @param array<int, float> $gives of vertices that are held by what gives way: inverse masses, as shares of the mean vertex's
     */
    public function pull(array &$x, array &$y, array &$z, array $w, float $mass, array $gives = []): void
    {
        [$a, $b, $c] = $before = $this->points($x, $y, $z, $w);
        $free = $this->free;
        foreach ($this->point as $k => $v) {
            if ($w[$v] <= 0.0) {
                // What follows the point weighs with it.
                $free[$k] = isset($gives[$v]) ? 1.0 / (1.0 / $gives[$v] + 1.0 / $this->free[$k]) : 0.0;
            }
        }
        foreach ([false, true] as $back) {
            // Each pull is shared by a sweep there and one back.
            Springs::shorten($a, $b, $c, $free, $this->first, $this->other, $this->length, 2.0 * $mass / $this->stiffness, $back);
        }
        foreach ($a as $k => $now) {
            $a[$k] = $now - $before[0][$k];
            $b[$k] -= $before[1][$k];
            $c[$k] -= $before[2][$k];
        }
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        foreach ($gives === [] ? [] : $this->point as $k => $v) {
            if (isset($gives[$v])) {
                [$X[$v], $Y[$v], $Z[$v]] = [$X[$v] + $a[$k], $Y[$v] + $b[$k], $Z[$v] + $c[$k]];
            }
        }
        [$p, $q, $r] = $this->followed;
        [$s, $t, $u] = $this->share;
        $n = count($w);
        for ($i = 0; $i < $n; ++$i) {
            if ($w[$i] <= 0.0) {
                continue;
            }
            $j = $p[$i];
            $k = $q[$i];
            $l = $r[$i];
            $e = $s[$i];
            $f = $t[$i];
            $g = $u[$i];
            $X[$i] += $e * $a[$j] + $f * $a[$k] + $g * $a[$l];
            $Y[$i] += $e * $b[$j] + $f * $b[$k] + $g * $b[$l];
            $Z[$i] += $e * $c[$j] + $f * $c[$k] + $g * $c[$l];
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private function points(array $x, array $y, array $z, array $w): array
    {
        [$row, $share, $first] = [$this->row, $this->rowShare, $this->rowFirst];
        $a = $b = $c = [];
        foreach ($this->point as $k => $v) {
            if ($w[$v] <= 0.0) {
                $a[] = $x[$v];
                $b[] = $y[$v];
                $c[] = $z[$v];
                continue;
            }
            $sx = $sy = $sz = 0.0;
            $end = $first[$k + 1];
            for ($q = $first[$k]; $q < $end; ++$q) {
                $i = $row[$q];
                $s = $share[$q];
                $sx += $s * $x[$i];
                $sy += $s * $y[$i];
                $sz += $s * $z[$i];
            }
            $a[] = $sx;
            $b[] = $sy;
            $c[] = $sz;
        }

        return [$a, $b, $c];
    }
}
