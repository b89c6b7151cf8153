<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Matrices of three by three: nine numbers, row by row. */
final class Matrix
{
    /** @param list<float> $m */
    public static function determinant(array $m): float
    {
        return $m[0] * ($m[4] * $m[8] - $m[5] * $m[7]) - $m[1] * ($m[3] * $m[8] - $m[5] * $m[6]) + $m[2] * ($m[3] * $m[7] - $m[4] * $m[6]);
    }

    /**
     * @param list<float> $m whose determinant is not 0
     *
     * @return list<float>
     */
    public static function inverse(array $m): array
    {
        $by = self::determinant($m);

        return array_map(static fn (float $of): float => $of / $by, [
            $m[4] * $m[8] - $m[5] * $m[7], $m[2] * $m[7] - $m[1] * $m[8], $m[1] * $m[5] - $m[2] * $m[4],
            $m[5] * $m[6] - $m[3] * $m[8], $m[0] * $m[8] - $m[2] * $m[6], $m[2] * $m[3] - $m[0] * $m[5],
            $m[3] * $m[7] - $m[4] * $m[6], $m[1] * $m[6] - $m[0] * $m[7], $m[0] * $m[4] - $m[1] * $m[3],
        ]);
    }

    /**
     * @param list<float> $m
     * @param array{float, float, float} $v
     *
     * @return array{float, float, float}
     */
    public static function times(array $m, array $v): array
    {
        [$x, $y, $z] = $v;

        return [$m[0] * $x + $m[1] * $y + $m[2] * $z, $m[3] * $x + $m[4] * $y + $m[5] * $z, $m[6] * $x + $m[7] * $y + $m[8] * $z];
    }
}
