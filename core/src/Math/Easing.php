<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Timing curves as cubic Beziers; the named ones and their control points are those of CSS Easing Functions Level 1 (W3C). */
final class Easing
{
    private const CURVES = [
        'smooth' => [0.42, 0.0, 0.58, 1.0], // ease-in-out
        'in' => [0.42, 0.0, 1.0, 1.0], // ease-in
        'out' => [0.0, 0.0, 0.58, 1.0], // ease-out
    ];

    /** @param float $t share of the time between two keys, 0 to 1 */
    public static function at(string $name, float $t): float
    {
        if ($t <= 0.0) {
            return 0.0;
        }
        if ($t >= 1.0) {
            return 1.0;
        }
        if ($name === 'hold') {
            return 0.0;
        }
        if (! isset(self::CURVES[$name])) {
            return $t;
        }
        [$x1, $y1, $x2, $y2] = self::CURVES[$name];

        return self::bezier($x1, $y1, $x2, $y2, $t);
    }

    /** y at x = $t of the cubic Bezier from (0, 0) to (1, 1). */
    public static function bezier(float $x1, float $y1, float $x2, float $y2, float $t): float
    {
        // x grows with the parameter, so halving finds it; 53 halvings exhaust a double.
        $low = 0.0;
        $high = 1.0;
        for ($k = 0; $k < 53; $k++) {
            $s = 0.5 * ($low + $high);
            if (self::component($x1, $x2, $s) < $t) {
                $low = $s;
            } else {
                $high = $s;
            }
        }

        return self::component($y1, $y2, 0.5 * ($low + $high));
    }

    private static function component(float $a, float $b, float $s): float
    {
        $r = 1.0 - $s;

        return 3.0 * $r * $r * $s * $a + 3.0 * $r * $s * $s * $b + $s * $s * $s;
    }
}
