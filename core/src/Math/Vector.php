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
     * @param array{float, float, float} $b
     * @param float $share of the way from one to the other
     *
     * @return array{float, float, float}
     */
    public static function between(array $a, array $b, float $share): array
    {
        return [$a[0] + $share * ($b[0] - $a[0]), $a[1] + $share * ($b[1] - $a[1]), $a[2] + $share * ($b[2] - $a[2])];
    }
}
