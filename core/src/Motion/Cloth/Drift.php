<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Math\MeanTurn;

/**
 * How far vertices have come against each other since they were sorted. What lies near each other moves nearly alike, so a cloth
 * may swing a long way before two neighbours have moved apart by much: vertices are sorted into cubes, and those into larger
 * ones, and of each cube it is told between which limits its vertices have moved. Vertices in two cubes that touch have moved
 * against each other by no more than the limits of both together are apart; those in cubes that do not touch began as far from
 * each other as a cube is wide.
 */
final readonly class Drift
{
    /** Cubes along a side of a larger one. */
    private const LARGER = 8;

    /** Bits of a cube's number along an axis. */
    private const BITS = 20;

    /**
     * @param list<int> $order vertices by their cube
     * @param list<float> $x where they were, in that order
     * @param list<float> $y
     * @param list<float> $z
     * @param list<int> $first first vertex of each cube in that order; one more at the end
     * @param list<int> $larger the larger cube that each is in
     * @param list<int> $touching cubes that touch, two and two, each with itself too
     * @param list<int> $largerTouching the same of larger ones
     */
    private function __construct(
        private float $side,
        private array $order,
        private array $x,
        private array $y,
        private array $z,
        private array $first,
        private array $larger,
        private array $touching,
        private array $largerTouching,
    ) {
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param float $side of a cube, m
     */
    public static function since(array $x, array $y, array $z, float $side): self
    {
        [$lx, $ly, $lz] = $x === [] || $y === [] || $z === [] ? [0.0, 0.0, 0.0] : [min($x), min($y), min($z)];
        $wide = $x === [] || $y === [] || $z === [] ? 0.0 : max($x) - $lx + max($y) - $ly + max($z) - $lz;
        // Larger ones where something has run away; what does not touch then is still a side apart.
        $per = min(1.0 / $side, ((1 << self::BITS) - self::LARGER) / max($side, $wide));
        $members = [];
        foreach ($x as $v => $at) {
            $members[((int) (($z[$v] - $lz) * $per) << 2 * self::BITS) | ((int) (($y[$v] - $ly) * $per) << self::BITS) | (int) (($at - $lx) * $per)][] = $v;
        }
        $order = array_merge(...array_values($members));
        $ox = $oy = $oz = [];
        foreach ($order as $v) {
            $ox[] = $x[$v];
            $oy[] = $y[$v];
            $oz[] = $z[$v];
        }
        $first = [0];
        $sum = 0;
        foreach ($members as $own) {
            $first[] = $sum += count($own);
        }
        $keys = array_keys($members);
        $largerKeys = array_map(self::largerOf(...), $keys);
        $numbers = array_flip(array_values(array_unique($largerKeys)));

        return new self(
            $side,
            $order,
            $ox,
            $oy,
            $oz,
            $first,
            array_map(static fn (int $key): int => $numbers[$key], $largerKeys),
            self::touching(array_flip($keys)),
            self::touching($numbers),
        );
    }

    private static function largerOf(int $cube): int
    {
        $mask = (1 << self::BITS) - 1;

        return (intdiv($cube >> 2 * self::BITS, self::LARGER) << 2 * self::BITS) | (intdiv(($cube >> self::BITS) & $mask, self::LARGER) << self::BITS) | intdiv($cube & $mask, self::LARGER);
    }

    /**
     * @param array<int, int> $cubes their places in a list, by number
     *
     * @return list<int>
     */
    private static function touching(array $cubes): array
    {
        $beside = [0, 1];
        for ($dx = -1; $dx <= 1; $dx++) {
            $beside[] = (1 << self::BITS) + $dx;
            for ($dy = -1; $dy <= 1; $dy++) {
                $beside[] = (1 << 2 * self::BITS) + $dy * (1 << self::BITS) + $dx;
            }
        }
        $pairs = [];
        foreach ($cubes as $cube => $a) {
            foreach ($beside as $by) {
                $b = $cubes[$cube + $by] ?? -1;
                if ($b >= 0) {
                    $pairs[] = $a;
                    $pairs[] = $b;
                }
            }
        }

        return $pairs;
    }

    /**
     * Whether all that were farther apart than a reach, and the room of both beyond it, are still farther apart than the reach.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<float> $room of each cube, m
     */
    public function isWithin(array $x, array $y, array $z, array $room, float $reach): bool
    {
        return $this->fit($this->limits($this->x, $this->y, $this->z, $x, $y, $z), $room, $reach);
    }

    /**
     * The same of what is to come, if all go on as they went.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $times as far as from there
     * @param float $margin room of two together, wherever they are, m
     */
    public function staysWithin(array $x, array $y, array $z, array $px, array $py, array $pz, float $times, float $margin, float $reach): bool
    {
        return $this->fit($this->coming($x, $y, $z, $px, $py, $pz, $times), array_fill(0, count($this->first) - 1, 0.5 * $margin), $reach);
    }

    /**
     * The room that what is to come takes in each cube, if all go on as they went: each of two that touch has half of it. Where some
     * go so fast that it would be gone within two times, it is not worth having.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $times as far as from there
     * @param float $least room, m
     * @param float $most
     *
     * @return list<float> m
     */
    public function foreseen(array $x, array $y, array $z, array $px, array $py, array $pz, float $times, float $least, float $most): array
    {
        $limits = $this->coming($x, $y, $z, $px, $py, $pz, $times);
        $room = $usual = array_fill(0, count($limits), $least);
        $farthest = 0.0;
        for ($k = 0, $end = count($this->touching); $k < $end; $k += 2) {
            [$a, $b] = [$this->touching[$k], $this->touching[$k + 1]];
            $half = 0.5 * self::apart($limits[$a], $limits[$b]);
            $farthest = $half > $farthest ? $half : $farthest;
            $half = $half < $most ? $half : $most;
            $room[$a] = $half > $room[$a] ? $half : $room[$a];
            $room[$b] = $half > $room[$b] ? $half : $room[$b];
        }
        if (2.0 * $farthest > $times * $most) {
            return $usual;
        }

        return $room;
    }

    /**
     * @param list<float> $of cubes
     *
     * @return array<int, float> of the vertices in them
     */
    public function ofVertices(array $of): array
    {
        $each = [];
        foreach ($of as $cube => $value) {
            for ($k = $this->first[$cube], $end = $this->first[$cube + 1]; $k < $end; ++$k) {
                $each[$this->order[$k]] = $value;
            }
        }

        return $each;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $times as far as from there
     *
     * @return list<array{float, float, float, float, float, float}>
     */
    private function coming(array $x, array $y, array $z, array $px, array $py, array $pz, float $times): array
    {
        $ox = $oy = $oz = [];
        foreach ($this->order as $v) {
            $ox[] = $a = $x[$v];
            $oy[] = $b = $y[$v];
            $oz[] = $c = $z[$v];
            $px[$v] = $a + $times * ($a - $px[$v]);
            $py[$v] = $b + $times * ($b - $py[$v]);
            $pz[$v] = $c + $times * ($c - $pz[$v]);
        }

        return $this->limits($ox, $oy, $oz, $px, $py, $pz);
    }

    /**
     * Between which limits the vertices of each cube go, least along three axes and most, m. As they turn all together no two come
     * nearer: what is w x v longer than v is longer than v. Only what they do besides counts; which turn that is matters little, so
     * one of each cube says it.
     *
     * @param list<float> $ox where they come from, in their order
     * @param list<float> $oy
     * @param list<float> $oz
     * @param array<int, float> $x where each goes
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return list<array{float, float, float, float, float, float}>
     */
    private function limits(array $ox, array $oy, array $oz, array $x, array $y, array $z): array
    {
        [$first, $order] = [$this->first, $this->order];
        $mx = $my = $mz = $dx = $dy = $dz = [];
        for ($cube = 0, $cubes = count($first) - 1; $cube < $cubes; ++$cube) {
            $k = ($first[$cube] + $first[$cube + 1]) >> 1;
            $v = $order[$k];
            $dx[] = $x[$v] - $mx[] = $ox[$k];
            $dy[] = $y[$v] - $my[] = $oy[$k];
            $dz[] = $z[$v] - $mz[] = $oz[$k];
        }
        [$p, $q, $r] = MeanTurn::of($mx, $my, $mz, $dx, $dy, $dz);
        $limits = [];
        for ($cube = 0; $cube < $cubes; ++$cube) {
            $lx = $ly = $lz = INF;
            $hx = $hy = $hz = -INF;
            for ($k = $first[$cube], $end = $first[$cube + 1]; $k < $end; ++$k) {
                $v = $order[$k];
                $a = $ox[$k];
                $b = $oy[$k];
                $c = $oz[$k];
                $d = $x[$v] - $a - $q * $c + $r * $b;
                $lx = $d < $lx ? $d : $lx;
                $hx = $d > $hx ? $d : $hx;
                $d = $y[$v] - $b - $r * $a + $p * $c;
                $ly = $d < $ly ? $d : $ly;
                $hy = $d > $hy ? $d : $hy;
                $d = $z[$v] - $c - $p * $b + $q * $a;
                $lz = $d < $lz ? $d : $lz;
                $hz = $d > $hz ? $d : $hz;
            }
            $limits[] = [$lx, $ly, $lz, $hx, $hy, $hz];
        }

        return $limits;
    }

    /**
     * @param list<array{float, float, float, float, float, float}> $limits of each cube
     * @param list<float> $room of each, m
     */
    private function fit(array $limits, array $room, float $reach): bool
    {
        for ($k = 0, $end = count($this->touching); $k < $end; $k += 2) {
            [$a, $b] = [$this->touching[$k], $this->touching[$k + 1]];
            if (self::apart($limits[$a], $limits[$b]) > $room[$a] + $room[$b]) {
                return false;
            }
        }
        $larger = [];
        foreach ($this->larger as $cube => $of) {
            $larger[$of] = isset($larger[$of]) ? self::both($larger[$of], $limits[$cube]) : $limits[$cube];
        }
        for ($k = 0, $end = count($this->largerTouching); $k < $end; $k += 2) {
            if (self::apart($larger[$this->largerTouching[$k]], $larger[$this->largerTouching[$k + 1]]) > $this->side - $reach) {
                return false;
            }
        }
        $whole = [INF, INF, INF, -INF, -INF, -INF];
        foreach ($larger as $limit) {
            $whole = self::both($whole, $limit);
        }

        return $larger === [] || self::apart($whole, $whole) <= self::LARGER * $this->side - $reach;
    }

    /**
     * Limits of what is within either.
     *
     * @param array{float, float, float, float, float, float} $a
     * @param array{float, float, float, float, float, float} $b
     *
     * @return array{float, float, float, float, float, float}
     */
    private static function both(array $a, array $b): array
    {
        return [
            $a[0] < $b[0] ? $a[0] : $b[0], $a[1] < $b[1] ? $a[1] : $b[1], $a[2] < $b[2] ? $a[2] : $b[2],
            $a[3] > $b[3] ? $a[3] : $b[3], $a[4] > $b[4] ? $a[4] : $b[4], $a[5] > $b[5] ? $a[5] : $b[5],
        ];
    }

    /**
     * How far two may have moved against each other that are both within either.
     *
     * @param array{float, float, float, float, float, float} $one
     * @param array{float, float, float, float, float, float} $other
     */
    private static function apart(array $one, array $other): float
    {
        [$lx, $ly, $lz, $hx, $hy, $hz] = $one;
        [$ax, $ay, $az, $bx, $by, $bz] = $other;
        $dx = ($hx > $bx ? $hx : $bx) - ($lx < $ax ? $lx : $ax);
        $dy = ($hy > $by ? $hy : $by) - ($ly < $ay ? $ly : $ay);
        $dz = ($hz > $bz ? $hz : $bz) - ($lz < $az ? $lz : $az);

        return sqrt($dx * $dx + $dy * $dy + $dz * $dz);
    }
}
