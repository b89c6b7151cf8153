<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * A smooth curve through points that never overshoots them: between two of them it rises or falls as they do, or is level
 * (monotone cubic interpolation: Steffen 1990, "A simple method for monotonic interpolation in one dimension"). Level before the
 * first and after the last.
 */
final readonly class Curve
{
    /** @var list<float> slope at each point */
    private array $slopes;

    /** @param non-empty-list<array{float, float}> $points x and y, x growing */
    public function __construct(public array $points)
    {
        $this->slopes = self::slopes($points);
    }

    public function at(float $x): float
    {
        $points = $this->points;
        $last = count($points) - 1;
        if ($x <= $points[0][0]) {
            return $points[0][1];
        }
        if ($x >= $points[$last][0]) {
            return $points[$last][1];
        }
        $k = 0;
        while ($points[$k + 1][0] <= $x) {
            $k++;
        }
        $h = $points[$k + 1][0] - $points[$k][0];
        $t = $x - $points[$k][0];
        $s = ($points[$k + 1][1] - $points[$k][1]) / $h;
        [$d0, $d1] = [$this->slopes[$k], $this->slopes[$k + 1]];

        return $points[$k][1] + $t * ($d0 + $t * ((3.0 * $s - 2.0 * $d0 - $d1) / $h + $t * ($d0 + $d1 - 2.0 * $s) / ($h * $h)));
    }

    /**
     * @param non-empty-list<array{float, float}> $points
     *
     * @return list<float>
     */
    private static function slopes(array $points): array
    {
        $n = count($points);
        if ($n === 1) {
            return [0.0];
        }
        $h = $s = [];
        for ($k = 0; $k < $n - 1; $k++) {
            $h[$k] = $points[$k + 1][0] - $points[$k][0];
            $s[$k] = ($points[$k + 1][1] - $points[$k][1]) / $h[$k];
        }
        $slopes = [$n === 2 ? $s[0] : self::end($h[0], $h[1], $s[0], $s[1])];
        for ($k = 1; $k < $n - 1; $k++) {
            $p = ($s[$k - 1] * $h[$k] + $s[$k] * $h[$k - 1]) / ($h[$k - 1] + $h[$k]);
            $slopes[] = (($s[$k - 1] <=> 0.0) + ($s[$k] <=> 0.0)) * min(abs($s[$k - 1]), abs($s[$k]), 0.5 * abs($p));
        }
        $slopes[] = $n === 2 ? $s[0] : self::end($h[$n - 2], $h[$n - 3], $s[$n - 2], $s[$n - 3]);

        return $slopes;
    }

    /** Slope at an end: that of a parabola through three points, as far as it does not overshoot. */
    private static function end(float $h0, float $h1, float $s0, float $s1): float
    {
        $p = $s0 * (1.0 + $h0 / ($h0 + $h1)) - $s1 * $h0 / ($h0 + $h1);

        return $p * $s0 <= 0.0 ? 0.0 : (abs($p) > 2.0 * abs($s0) ? 2.0 * $s0 : $p);
    }
}
