<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Space bent along a smooth curve through some places: straight on one side, where the curve is the y axis and y is the length
 * along it; bent on the other. Beyond its ends the curve goes on straight.
 *
 * The curve is a Catmull-Rom spline (1974) in short straight pieces; the directions across it are carried along without
 * twist (parallel transport, Bishop 1975).
 */
final readonly class Bend
{
    private const PIECES = 16;

    /** @var list<array{float, float, float}> */
    private array $at;

    /** @var list<array{float, float, float}> of length 1, along the curve at each point */
    private array $way;

    /** @var list<array{float, float, float}> of length 1, across it */
    private array $side;

    /** @var list<float> length along the curve up to each point */
    private array $length;

    /** @param list<array{float, float, float}> $places at least two, no two in a row the same */
    public function __construct(array $places)
    {
        $points = [];
        $last = count($places) - 1;
        for ($k = 0; $k < $last; $k++) {
            $b = $places[$k];
            $c = $places[$k + 1];
            $a = $places[$k - 1] ?? [2.0 * $b[0] - $c[0], 2.0 * $b[1] - $c[1], 2.0 * $b[2] - $c[2]];
            $d = $places[$k + 2] ?? [2.0 * $c[0] - $b[0], 2.0 * $c[1] - $b[1], 2.0 * $c[2] - $b[2]];
            for ($i = 0; $i < self::PIECES; $i++) {
                $points[] = self::spline($a, $b, $c, $d, $i / self::PIECES);
            }
        }
        $points[] = $places[$last];
        $way = $side = $length = [];
        $total = 0.0;
        foreach ($points as $k => $p) {
            $next = $points[$k + 1] ?? $p;
            $before = $points[$k - 1] ?? $p;
            $way[] = self::unit([$next[0] - $before[0], $next[1] - $before[1], $next[2] - $before[2]]);
            $length[] = $total;
            $total += sqrt(($next[0] - $p[0]) ** 2 + ($next[1] - $p[1]) ** 2 + ($next[2] - $p[2]) ** 2);
        }
        foreach ($way as $k => $t) {
            $n = $k === 0 ? Frame3::about($t)->u : $side[$k - 1];
            $s = $n[0] * $t[0] + $n[1] * $t[1] + $n[2] * $t[2];
            $side[] = self::unit([$n[0] - $s * $t[0], $n[1] - $s * $t[1], $n[2] - $s * $t[2]]);
        }
        $this->at = $points;
        $this->way = $way;
        $this->side = $side;
        $this->length = $length;
    }

    /**
     * From bent to straight.
     *
     * @return array{float, float, float}
     */
    public function straight(float $x, float $y, float $z): array
    {
        $best = INF;
        $piece = 0;
        $share = 0.0;
        $last = count($this->at) - 2;
        foreach ($this->at as $k => $p) {
            if ($k > $last) {
                break;
            }
            $q = $this->at[$k + 1];
            [$ux, $uy, $uz] = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
            $s = (($x - $p[0]) * $ux + ($y - $p[1]) * $uy + ($z - $p[2]) * $uz) / ($ux * $ux + $uy * $uy + $uz * $uz);
            $low = $k === 0 ? -INF : 0.0;
            $high = $k === $last ? INF : 1.0;
            $s = max($low, min($high, $s));
            $d = ($p[0] + $s * $ux - $x) ** 2 + ($p[1] + $s * $uy - $y) ** 2 + ($p[2] + $s * $uz - $z) ** 2;
            if ($d < $best) {
                $best = $d;
                $piece = $k;
                $share = $s;
            }
        }
        [$origin, , $u, $v] = $this->frame($piece, $share);
        $d = [$x - $origin[0], $y - $origin[1], $z - $origin[2]];

        return [
            $d[0] * $u[0] + $d[1] * $u[1] + $d[2] * $u[2],
            $this->length[$piece] + $share * ($this->length[$piece + 1] - $this->length[$piece]),
            $d[0] * $v[0] + $d[1] * $v[1] + $d[2] * $v[2],
        ];
    }

    /**
     * From straight to bent.
     *
     * @return array{float, float, float}
     */
    public function bent(float $x, float $y, float $z): array
    {
        $piece = 0;
        $last = count($this->at) - 2;
        while ($piece < $last && $this->length[$piece + 1] < $y) {
            $piece++;
        }
        [$origin, , $u, $v] = $this->frame($piece, ($y - $this->length[$piece]) / ($this->length[$piece + 1] - $this->length[$piece]));

        return [
            $origin[0] + $x * $u[0] + $z * $v[0],
            $origin[1] + $x * $u[1] + $z * $v[1],
            $origin[2] + $x * $u[2] + $z * $v[2],
        ];
    }

    /**
     * Place on the curve, direction along it, and the two across.
     *
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}, array{float, float, float}}
     */
    private function frame(int $piece, float $share): array
    {
        [$p, $q] = [$this->at[$piece], $this->at[$piece + 1]];
        $s = max(0.0, min(1.0, $share));
        $t = self::unit(self::between($this->way[$piece], $this->way[$piece + 1], $s));
        $n = self::between($this->side[$piece], $this->side[$piece + 1], $s);
        $along = $n[0] * $t[0] + $n[1] * $t[1] + $n[2] * $t[2];
        $u = self::unit([$n[0] - $along * $t[0], $n[1] - $along * $t[1], $n[2] - $along * $t[2]]);

        return [
            [$p[0] + $share * ($q[0] - $p[0]), $p[1] + $share * ($q[1] - $p[1]), $p[2] + $share * ($q[2] - $p[2])],
            $t,
            $u,
            [$u[1] * $t[2] - $u[2] * $t[1], $u[2] * $t[0] - $u[0] * $t[2], $u[0] * $t[1] - $u[1] * $t[0]],
        ];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    private static function between(array $a, array $b, float $s): array
    {
        return [$a[0] + $s * ($b[0] - $a[0]), $a[1] + $s * ($b[1] - $a[1]), $a[2] + $s * ($b[2] - $a[2])];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     * @param array{float, float, float} $d
     *
     * @return array{float, float, float} between b and c
     */
    private static function spline(array $a, array $b, array $c, array $d, float $t): array
    {
        $point = [];
        foreach ([0, 1, 2] as $k) {
            $point[] = $b[$k] + 0.5 * $t * ($c[$k] - $a[$k] + $t * (2.0 * $a[$k] - 5.0 * $b[$k] + 4.0 * $c[$k] - $d[$k] + $t * (3.0 * ($b[$k] - $c[$k]) + $d[$k] - $a[$k])));
        }

        return [$point[0], $point[1], $point[2]];
    }

    /**
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    private static function unit(array $v): array
    {
        $l = sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);

        return $l > 1e-300 ? [$v[0] / $l, $v[1] / $l, $v[2] / $l] : [0.0, 1.0, 0.0];
    }
}
