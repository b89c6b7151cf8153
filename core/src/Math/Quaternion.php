<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * Rotations as unit quaternions [x, y, z, w].
 *
 * @phpstan-type Q array{float, float, float, float}
 */
final class Quaternion
{
    public const IDENTITY = [0.0, 0.0, 0.0, 1.0];

    /**
     * Turns about the fixed axes x, then y, then z, in degrees.
     *
     * @return Q
     */
    public static function fromDegrees(float $x, float $y, float $z): array
    {
        return self::multiply(
            self::aboutAxis([0.0, 0.0, 1.0], deg2rad($z)),
            self::multiply(self::aboutAxis([0.0, 1.0, 0.0], deg2rad($y)), self::aboutAxis([1.0, 0.0, 0.0], deg2rad($x))),
        );
    }

    /**
     * @param array{float, float, float} $axis unit
     *
     * @return Q
     */
    public static function aboutAxis(array $axis, float $radians): array
    {
        $s = sin(0.5 * $radians);

        return [$axis[0] * $s, $axis[1] * $s, $axis[2] * $s, cos(0.5 * $radians)];
    }

    /**
     * The shortest turn from one direction to another.
     *
     * @param array{float, float, float} $from unit
     * @param array{float, float, float} $to unit
     *
     * @return array{float, float, float, float}
     */
    public static function between(array $from, array $to): array
    {
        $dot = $from[0] * $to[0] + $from[1] * $to[1] + $from[2] * $to[2];
        if ($dot < -0.999999) {
            // Half a turn about anything across.
            [$x, $y, $z] = abs($from[0]) < 0.9 ? [0.0, $from[2], -$from[1]] : [-$from[2], 0.0, $from[0]];

            return self::normalized([$x, $y, $z, 0.0]);
        }

        return self::normalized([
            $from[1] * $to[2] - $from[2] * $to[1],
            $from[2] * $to[0] - $from[0] * $to[2],
            $from[0] * $to[1] - $from[1] * $to[0],
            1.0 + $dot,
        ]);
    }

    /**
     * The turn that takes z to one direction and y as near as it can to another.
     *
     * @param array{float, float, float} $ahead unit
     * @param array{float, float, float} $up not along it
     *
     * @return array{float, float, float, float}
     */
    public static function facing(array $ahead, array $up): array
    {
        $first = self::between([0.0, 0.0, 1.0], $ahead);
        $is = self::rotate($first, [0.0, 1.0, 0.0]);
        $angle = atan2(Vector::dot(Vector::cross($is, $up), $ahead), Vector::dot($is, $up));

        return self::multiply(self::aboutAxis($ahead, $angle), $first);
    }

    /**
     * First $b, then $a.
     *
     * @param Q $a
     * @param Q $b
     *
     * @return Q
     */
    public static function multiply(array $a, array $b): array
    {
        return [
            $a[3] * $b[0] + $a[0] * $b[3] + $a[1] * $b[2] - $a[2] * $b[1],
            $a[3] * $b[1] - $a[0] * $b[2] + $a[1] * $b[3] + $a[2] * $b[0],
            $a[3] * $b[2] + $a[0] * $b[1] - $a[1] * $b[0] + $a[2] * $b[3],
            $a[3] * $b[3] - $a[0] * $b[0] - $a[1] * $b[1] - $a[2] * $b[2],
        ];
    }

    /**
     * @param Q $q
     *
     * @return Q
     */
    public static function conjugate(array $q): array
    {
        return [-$q[0], -$q[1], -$q[2], $q[3]];
    }

    /**
     * @param Q $q
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    public static function rotate(array $q, array $v): array
    {
        $tx = 2.0 * ($q[1] * $v[2] - $q[2] * $v[1]);
        $ty = 2.0 * ($q[2] * $v[0] - $q[0] * $v[2]);
        $tz = 2.0 * ($q[0] * $v[1] - $q[1] * $v[0]);

        return [
            $v[0] + $q[3] * $tx + $q[1] * $tz - $q[2] * $ty,
            $v[1] + $q[3] * $ty + $q[2] * $tx - $q[0] * $tz,
            $v[2] + $q[3] * $tz + $q[0] * $ty - $q[1] * $tx,
        ];
    }

    /**
     * Where a point of a body is that stands at a place with a turn.
     *
     * @param array{float, float, float} $position
     * @param Q $rotation
     * @param array{float, float, float} $point in the body's own axes
     *
     * @return array{float, float, float}
     */
    public static function carried(array $position, array $rotation, array $point): array
    {
        [$x, $y, $z] = self::rotate($rotation, $point);

        return [$position[0] + $x, $position[1] + $y, $position[2] + $z];
    }

    /**
     * @param Q $q
     *
     * @return array{float, float, float, float, float, float, float, float, float} row by row
     */
    public static function matrix(array $q): array
    {
        [$x, $y, $z, $w] = $q;

        return [
            1.0 - 2.0 * ($y * $y + $z * $z), 2.0 * ($x * $y - $w * $z), 2.0 * ($x * $z + $w * $y),
            2.0 * ($x * $y + $w * $z), 1.0 - 2.0 * ($x * $x + $z * $z), 2.0 * ($y * $z - $w * $x),
            2.0 * ($x * $z - $w * $y), 2.0 * ($y * $z + $w * $x), 1.0 - 2.0 * ($x * $x + $y * $y),
        ];
    }

    /**
     * @param Q $q
     *
     * @return Q
     */
    public static function normalized(array $q): array
    {
        $s = 1.0 / sqrt($q[0] * $q[0] + $q[1] * $q[1] + $q[2] * $q[2] + $q[3] * $q[3]);

        return [$q[0] * $s, $q[1] * $s, $q[2] * $s, $q[3] * $s];
    }

    /**
     * @param array{float, float, float, float, float, float, float, float, float} $m a rotation, row by row
     *
     * @return Q (Shepperd 1978: by whichever of the four is largest)
     */
    public static function ofMatrix(array $m): array
    {
        $sizes = [$m[0] - $m[4] - $m[8], $m[4] - $m[0] - $m[8], $m[8] - $m[0] - $m[4], $m[0] + $m[4] + $m[8]];
        $q = match (array_search(max($sizes), $sizes, true)) {
            0 => [1.0 + $sizes[0], $m[1] + $m[3], $m[2] + $m[6], $m[7] - $m[5]],
            1 => [$m[1] + $m[3], 1.0 + $sizes[1], $m[5] + $m[7], $m[2] - $m[6]],
            2 => [$m[2] + $m[6], $m[5] + $m[7], 1.0 + $sizes[2], $m[3] - $m[1]],
            default => [$m[7] - $m[5], $m[2] - $m[6], $m[3] - $m[1], 1.0 + $sizes[3]],
        };

        return self::normalized($q);
    }

    /**
     * The turns about the fixed axes x, then y, then z that make up a rotation, as near as they can be to others.
     *
     * @param Q $q
     * @param array{float, float, float} $near degrees
     *
     * @return array{float, float, float} degrees
     */
    public static function degrees(array $q, array $near = [0.0, 0.0, 0.0]): array
    {
        $m = self::matrix($q);
        $level = hypot($m[0], $m[3]);
        $y = rad2deg(atan2(-$m[6], $level));
        // Straight up or down the first and the last turn do the same: the last one stays as it was.
        [$x, $z] = $level > 1e-7
            ? [rad2deg(atan2($m[7], $m[8])), rad2deg(atan2($m[3], $m[0]))]
            : [rad2deg(atan2($m[1], $m[4])) * ($m[6] < 0.0 ? 1.0 : -1.0) + ($m[6] < 0.0 ? 1.0 : -1.0) * $near[2], $near[2]];
        $found = null;
        $least = INF;
        foreach ([[$x, $y, $z], [$x + 180.0, 180.0 - $y, $z + 180.0]] as $turns) {
            $turns = array_map(static fn (float $turn, float $was): float => $turn + 360.0 * round(($was - $turn) / 360.0), $turns, $near);
            $far = abs($turns[0] - $near[0]) + abs($turns[1] - $near[1]) + abs($turns[2] - $near[2]);
            if ($far < $least) {
                [$found, $least] = [$turns, $far];
            }
        }

        return [$found[0] ?? 0.0, $found[1] ?? 0.0, $found[2] ?? 0.0];
    }
}
