<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Math\Matrix;

/**
 * What the boxes of a lattice are at rest when their nodes lie elsewhere than at first: each drawn out, bent and warped as eight
 * corners say. A deformation is then counted from that shape: its matrix times the inverse of the shape's own.
 */
final readonly class RestBoxes
{
    /** A box pressed to less than this of what it was, or turned inside out, is left so much of its own shape that it is not. */
    private const LEAST = 0.05;

    /** Steps in which that is looked for. */
    private const STEPS = 16;

    /** For each corner, whether it lies farther (1) or nearer (-1) along each axis. */
    private const SIGNS = [[-1.0, -1.0, -1.0], [1.0, -1.0, -1.0], [-1.0, 1.0, -1.0], [1.0, 1.0, -1.0], [-1.0, -1.0, 1.0], [1.0, -1.0, 1.0], [-1.0, 1.0, 1.0], [1.0, 1.0, 1.0]];

    /**
     * @param list<float> $inverse nine numbers a box, row by row: of the matrix that draws the first shape into this one
     * @param list<float> $size volume of each box as a share of the first
     * @param list<float> $warp twelve numbers a box, m: what its corners are beside that matrix, along x, y and z in the patterns xy, yz, zx and xyz
     * @param list<float> $longest longest side of each box, m
     */
    private function __construct(public array $inverse, public array $size, public array $warp, public array $longest)
    {
    }

    /**
     * @param array<int, float> $x of the nodes at rest, in the prop's axes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public static function of(Lattice $lattice, array $x, array $y, array $z): self
    {
        $inverse = $size = $warp = $longest = [];
        for ($b = 0, $n = $lattice->boxes(); $b < $n; $b++) {
            $sides = [$lattice->sides[3 * $b], $lattice->sides[3 * $b + 1], $lattice->sides[3 * $b + 2]];
            // By pattern: along the three axes, then xy, yz, zx, xyz.
            $parts = array_fill(0, 7, [0.0, 0.0, 0.0]);
            foreach (self::SIGNS as $c => [$i, $j, $k]) {
                $node = $lattice->corners[8 * $b + $c];
                $at = [0.125 * $x[$node], 0.125 * $y[$node], 0.125 * $z[$node]];
                foreach ([$i, $j, $k, $i * $j, $j * $k, $k * $i, $i * $j * $k] as $pattern => $sign) {
                    $parts[$pattern][0] += $sign * $at[0];
                    $parts[$pattern][1] += $sign * $at[1];
                    $parts[$pattern][2] += $sign * $at[2];
                }
            }
            // Columns: what each axis of the box has become, its own length as 1.
            $drawn = [];
            for ($k = 0; $k < 9; $k++) {
                $drawn[] = 2.0 * $parts[$k % 3][intdiv($k, 3)] / $sides[$k % 3];
            }
            [$drawn, $kept] = self::upright($drawn);
            array_push($inverse, ...Matrix::inverse($drawn));
            $size[] = Matrix::determinant($drawn);
            for ($pattern = 3; $pattern < 7; $pattern++) {
                array_push($warp, $kept * $parts[$pattern][0], $kept * $parts[$pattern][1], $kept * $parts[$pattern][2]);
            }
            $lengths = [];
            foreach ($sides as $k => $side) {
                $lengths[] = $side * sqrt($drawn[$k] ** 2 + $drawn[3 + $k] ** 2 + $drawn[6 + $k] ** 2);
            }
            $longest[] = max($lengths);
        }

        return new self($inverse, $size, $warp, $longest);
    }

    /**
     * @param list<float> $m nine numbers, row by row
     *
     * @return array{list<float>, float} one that keeps enough of the volume, and how much of the first is in it
     */
    private static function upright(array $m): array
    {
        for ($step = 0; ; $step++) {
            $kept = 1.0 - $step / self::STEPS;
            $mixed = [];
            foreach ($m as $k => $of) {
                $mixed[] = $kept * $of + ($k % 4 === 0 ? 1.0 - $kept : 0.0);
            }
            if ($step === self::STEPS || Matrix::determinant($mixed) >= self::LEAST) {
                return [$mixed, $kept];
            }
        }
    }
}
