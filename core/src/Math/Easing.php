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
        // Past its end by a tenth, and back; common practice, no source.
        'overshoot' => [0.34, 1.56, 0.64, 1.0],
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
        if ($name === 'bounce') {
            return self::bounce($t);
        }
        if (! isset(self::CURVES[$name])) {
            return $t;
        }
        [$x1, $y1, $x2, $y2] = self::CURVES[$name];

        return self::bezier($x1, $y1, $x2, $y2, $t);
    }

    /** As far down as a ball that is dropped and comes back with half its speed three times: the first fall takes 1 / 2.75 of the time. */
    private static function bounce(float $t): float
    {
        $fall = 1.0 / 2.75;
        if ($t < $fall) {
            return ($t / $fall) ** 2;
        }
        $since = $fall;
        for ($speed = 0.5; ; $speed *= 0.5) {
            // Up and down again at that share of the first speed.
            $lasts = 2.0 * $speed * $fall;
            if ($t < $since + $lasts || $speed < 0.1) {
                $off = ($t - $since - 0.5 * $lasts) / $fall;

                return min(1.0, 1.0 - $speed * $speed + $off * $off);
            }
            $since += $lasts;
        }
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
