<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/**
 * The turn that brings some places nearest to others, by squares (Horn 1987, "Closed-form solution of absolute orientation using unit
 * quaternions"; its largest eigenvalue by Newton's method, as Theobald 2005, "Rapid calculation of RMSDs using a quaternion-based
 * characteristic polynomial").
 */
final class BestTurn
{
    private const ROUNDS = 50;

    /** What is left of an eigenvector below this share of the matrix is none. */
    private const NOTHING = 1e-9;

    /**
     * @param list<array{float, float, float}> $from
     * @param list<array{float, float, float}> $to where each of them goes
     *
     * @return array{array{float, float, float}, array{float, float, float}, array{float, float, float, float}} middle before, middle after, and the turn about it
     */
    public static function of(array $from, array $to): array
    {
        $n = max(1, count($from));
        $was = $is = [0.0, 0.0, 0.0];
        foreach ($from as $k => $place) {
            $was = Vector::plus($was, $place);
            $is = Vector::plus($is, $to[$k]);
        }
        [$was, $is] = [Vector::times($was, 1.0 / $n), Vector::times($is, 1.0 / $n)];
        $m = array_fill(0, 9, 0.0);
        $size = 0.0;
        foreach ($from as $k => $place) {
            [$a, $b, $c] = Vector::minus($place, $was);
            [$u, $v, $w] = Vector::minus($to[$k], $is);
            $m = [$m[0] + $a * $u, $m[1] + $a * $v, $m[2] + $a * $w, $m[3] + $b * $u, $m[4] + $b * $v, $m[5] + $b * $w, $m[6] + $c * $u, $m[7] + $c * $v, $m[8] + $c * $w];
            $size += 0.5 * ($a * $a + $b * $b + $c * $c + $u * $u + $v * $v + $w * $w);
        }

        $turn = $size > 0.0 ? self::turn(array_map(static fn (float $of): float => $of / $size, $m)) : null;

        return [$was, $is, $turn ?? self::swing($from, $to, $was, $is)];
    }

    /**
     * What lies in a line has no turn about that: the shortest one will do.
     *
     * @param list<array{float, float, float}> $from
     * @param list<array{float, float, float}> $to
     * @param array{float, float, float} $was middle before
     * @param array{float, float, float} $is and after
     *
     * @return array{float, float, float, float}
     */
    private static function swing(array $from, array $to, array $was, array $is): array
    {
        $away = array_map(static fn (array $place): float => Vector::distance($place, $was), $from);
        $far = $away === [] ? null : array_search(max($away), $away, true);
        if (! is_int($far)) {
            return Quaternion::IDENTITY;
        }
        [$before, $after] = [Vector::unit(Vector::minus($from[$far], $was)), Vector::unit(Vector::minus($to[$far], $is))];

        return $before === null || $after === null ? Quaternion::IDENTITY : Quaternion::between($before, $after);
    }

    /**
     * @param list<float> $m sums of products, from row, to column, by the size of all
     *
     * @return array{float, float, float, float}|null null: several do as well
     */
    private static function turn(array $m): ?array
    {
        [$xx, $xy, $xz, $yx, $yy, $yz, $zx, $zy, $zz] = $m;
        $matrix = [
            [$xx + $yy + $zz, $yz - $zy, $zx - $xz, $xy - $yx],
            [$yz - $zy, $xx - $yy - $zz, $xy + $yx, $zx + $xz],
            [$zx - $xz, $xy + $yx, $yy - $xx - $zz, $yz + $zy],
            [$xy - $yx, $zx + $xz, $yz + $zy, $zz - $xx - $yy],
        ];
        // The characteristic polynomial has no cube, as the trace is nothing; its largest root is 1 at the most.
        $square = -2.0 * array_sum(array_map(static fn (float $of): float => $of * $of, $m));
        $linear = -8.0 * Matrix::determinant($m);
        $constant = self::determinant($matrix);
        $root = 1.0;
        for ($k = 0; $k < self::ROUNDS; $k++) {
            $slope = 4.0 * $root ** 3 + 2.0 * $square * $root + $linear;
            $step = $slope === 0.0 ? 0.0 : ($root ** 4 + $square * $root * $root + $linear * $root + $constant) / $slope;
            $root -= $step;
            if (abs($step) < 1e-15) {
                break;
            }
        }
        foreach ([0, 1, 2, 3] as $k) {
            $matrix[$k][$k] -= $root;
        }
        // Every column of the adjugate is the eigenvector, or nothing.
        $best = [0.0, 0.0, 0.0, 0.0];
        $most = self::NOTHING;
        for ($row = 0; $row < 4; $row++) {
            $column = array_map(static fn (int $k): float => (($row + $k) % 2 === 0 ? 1.0 : -1.0) * self::minor($matrix, $row, $k), [0, 1, 2, 3]);
            $long = sqrt(array_sum(array_map(static fn (float $of): float => $of * $of, $column)));
            if ($long > $most) {
                [$most, $best] = [$long, $column];
            }
        }
        $sign = $best[0] < 0.0 ? -1.0 : 1.0;
        [$w, $x, $y, $z] = array_map(static fn (float $of): float => $sign * $of, $best);

        return $most > self::NOTHING ? Quaternion::normalized([$x, $y, $z, $w]) : null;
    }

    /** @param list<list<float>> $matrix of four rows */
    private static function determinant(array $matrix): float
    {
        $sum = 0.0;
        foreach ($matrix[0] as $k => $of) {
            $sum += ($k % 2 === 0 ? 1.0 : -1.0) * $of * self::minor($matrix, 0, $k);
        }

        return $sum;
    }

    /** @param list<list<float>> $matrix of four rows */
    private static function minor(array $matrix, int $row, int $column): float
    {
        $left = [];
        foreach ($matrix as $r => $values) {
            foreach ($r === $row ? [] : $values as $c => $value) {
                if ($c !== $column) {
                    $left[] = $value;
                }
            }
        }

        return Matrix::determinant($left);
    }
}
