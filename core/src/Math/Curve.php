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
        $slopes = [$s[0]];
        for ($k = 1; $k < $n - 1; $k++) {
            $p = ($s[$k - 1] * $h[$k] + $s[$k] * $h[$k - 1]) / ($h[$k - 1] + $h[$k]);
            $slopes[] = (($s[$k - 1] <=> 0.0) + ($s[$k] <=> 0.0)) * min(abs($s[$k - 1]), abs($s[$k]), 0.5 * abs($p));
        }
        $slopes[] = $s[$n - 2];
        if ($n > 2) {
            // At the ends it bends as little as the part beside them lets it.
            $slopes[0] = 0.5 * (3.0 * $s[0] - $slopes[1]);
            $slopes[$n - 1] = 0.5 * (3.0 * $s[$n - 2] - $slopes[$n - 2]);
        }

        return array_values($slopes);
    }
}
