<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Sums of three numbers each, where speed does not matter. */
final class Vector
{
    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function plus(array $a, array $b): array
    {
        return [$a[0] + $b[0], $a[1] + $b[1], $a[2] + $b[2]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function minus(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /**
     * @param array{float, float, float} $a
     *
     * @return array{float, float, float}
     */
    public static function times(array $a, float $by): array
    {
        return [$by * $a[0], $by * $a[1], $by * $a[2]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param float $share of the way from one to the other
     *
     * @return array{float, float, float}
     */
    public static function between(array $a, array $b, float $share): array
    {
        return [$a[0] + $share * ($b[0] - $a[0]), $a[1] + $share * ($b[1] - $a[1]), $a[2] + $share * ($b[2] - $a[2])];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    public static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    public static function cross(array $a, array $b): array
    {
        return [$a[1] * $b[2] - $a[2] * $b[1], $a[2] * $b[0] - $a[0] * $b[2], $a[0] * $b[1] - $a[1] * $b[0]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    public static function distance(array $a, array $b): float
    {
        return sqrt(($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2);
    }

    /**
     * @param array{float, float, float} $a
     *
     * @return array{float, float, float}|null its direction; null if it is too short to have one
     */
    public static function unit(array $a): ?array
    {
        $length = sqrt(self::dot($a, $a));

        return $length < 1e-12 ? null : [$a[0] / $length, $a[1] / $length, $a[2] / $length];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $normal of the mirror, of any length but 0
     *
     * @return array{float, float, float}
     */
    public static function mirrored(array $a, array $normal): array
    {
        $square = self::dot($normal, $normal);
        $twice = $square > 0.0 ? 2.0 * self::dot($a, $normal) / $square : 0.0;

        return [$a[0] - $twice * $normal[0], $a[1] - $twice * $normal[1], $a[2] - $twice * $normal[2]];
    }
}
