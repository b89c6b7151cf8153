<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\RandomStream;

/**
 * Air that swirls without piling up anywhere: the curl of a random vector potential (Bridson, Hourihan, Nordenstam 2007,
 * "Curl-noise for procedural fluid flow") on a grid that repeats, read in between by straight lines. Its speed is 1 m/s on
 * average over the grid (root mean square of the vector).
 */
final class Eddies
{
    /** Cells along a side; a power of two. */
    private const SIDE = 32;

    /** An eddy is about so many cells across. */
    private const CELLS = 4.0;

    /** @param list<array<int, float>> $field three components, x fastest */
    private function __construct(public readonly array $field)
    {
    }

    public static function seeded(int $seed, string $purpose): self
    {
        $potential = [];
        foreach (['x', 'y', 'z'] as $axis) {
            $random = RandomStream::named($seed, "{$purpose} {$axis}");
            $values = [];
            for ($i = 0; $i < self::SIDE ** 3; $i++) {
                $values[] = $random->between(-1.0, 1.0);
            }
            $potential[] = self::smooth(self::smooth(self::smooth($values)));
        }

        return new self(self::curl(...$potential));
    }

    /** The two mixed so that their mean speed stays the same: the first at turn 0, the second at a quarter, the first the other way round at a half. */
    public static function between(self $a, self $b, float $turn): self
    {
        $p = cos(2.0 * M_PI * $turn);
        $q = sin(2.0 * M_PI * $turn);
        $field = [];
        foreach ($a->field as $axis => $values) {
            $other = $b->field[$axis];
            foreach ($values as $i => $value) {
                $values[$i] = $p * $value + $q * $other[$i];
            }
            $field[] = $values;
        }

        return new self($field);
    }

    /**
     * Adds the air's velocity at many places.
     *
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     * @param float $strength m/s
     * @param float $size of an eddy, m
     * @param array<int, float> $u
     * @param array<int, float> $v
     * @param array<int, float> $w
     */
    public function add(array $x, array $y, array $z, float $strength, float $size, array &$u, array &$v, array &$w): void
    {
        [$fu, $fv, $fw] = $this->field;
        [$ou, $ov, $ow] = [$u, $v, $w];
        $per = self::CELLS / $size;
        $side = self::SIDE;
        $mask = $side - 1;
        foreach ($x as $i => $px) {
            $px *= $per;
            $py = $y[$i] * $per;
            $pz = $z[$i] * $per;
            $bx = floor($px);
            $by = floor($py);
            $bz = floor($pz);
            $fx = $px - $bx;
            $fy = $py - $by;
            $fz = $pz - $bz;
            $x0 = (int) $bx & $mask;
            $x1 = ($x0 + 1) & $mask;
            $y0 = (int) $by & $mask;
            $y1 = (($y0 + 1) & $mask) * $side;
            $y0 *= $side;
            $z0 = (int) $bz & $mask;
            $z1 = (($z0 + 1) & $mask) * $side * $side;
            $z0 *= $side * $side;
            $gx = $strength * (1.0 - $fx);
            $fx *= $strength;
            $gy = 1.0 - $fy;
            $gz = 1.0 - $fz;
            $p = $gy * $gz;
            $q = $fy * $gz;
            $r = $gy * $fz;
            $s = $fy * $fz;
            $a = $z0 + $y0;
            $b = $z0 + $y1;
            $c = $z1 + $y0;
            $d = $z1 + $y1;
            $ou[$i] += $p * ($gx * $fu[$a + $x0] + $fx * $fu[$a + $x1]) + $q * ($gx * $fu[$b + $x0] + $fx * $fu[$b + $x1])
                + $r * ($gx * $fu[$c + $x0] + $fx * $fu[$c + $x1]) + $s * ($gx * $fu[$d + $x0] + $fx * $fu[$d + $x1]);
            $ov[$i] += $p * ($gx * $fv[$a + $x0] + $fx * $fv[$a + $x1]) + $q * ($gx * $fv[$b + $x0] + $fx * $fv[$b + $x1])
                + $r * ($gx * $fv[$c + $x0] + $fx * $fv[$c + $x1]) + $s * ($gx * $fv[$d + $x0] + $fx * $fv[$d + $x1]);
            $ow[$i] += $p * ($gx * $fw[$a + $x0] + $fx * $fw[$a + $x1]) + $q * ($gx * $fw[$b + $x0] + $fx * $fw[$b + $x1])
                + $r * ($gx * $fw[$c + $x0] + $fx * $fw[$c + $x1]) + $s * ($gx * $fw[$d + $x0] + $fx * $fw[$d + $x1]);
        }
        [$u, $v, $w] = [$ou, $ov, $ow];
    }

    /**
     * @param array<int, float> $values
     *
     * @return array<int, float> each with its six neighbours
     */
    private static function smooth(array $values): array
    {
        $smooth = $values;
        foreach ($values as $i => $value) {
            [$x0, $x1, $y0, $y1, $z0, $z1] = self::neighbours($i);
            $smooth[$i] = 0.125 * (2.0 * $value + $values[$x0] + $values[$x1] + $values[$y0] + $values[$y1] + $values[$z0] + $values[$z1]);
        }

        return $smooth;
    }

    /**
     * @param array<int, float> $a
     * @param array<int, float> $b
     * @param array<int, float> $c
     *
     * @return list<array<int, float>>
     */
    private static function curl(array $a, array $b, array $c): array
    {
        $u = $v = $w = [];
        $sum = 0.0;
        foreach (array_keys($a) as $i) {
            [$x0, $x1, $y0, $y1, $z0, $z1] = self::neighbours($i);
            $u[$i] = ($c[$y1] - $c[$y0]) - ($b[$z1] - $b[$z0]);
            $v[$i] = ($a[$z1] - $a[$z0]) - ($c[$x1] - $c[$x0]);
            $w[$i] = ($b[$x1] - $b[$x0]) - ($a[$y1] - $a[$y0]);
            $sum += $u[$i] * $u[$i] + $v[$i] * $v[$i] + $w[$i] * $w[$i];
        }
        $scale = 1.0 / sqrt($sum / count($u));
        foreach (array_keys($a) as $i) {
            $u[$i] *= $scale;
            $v[$i] *= $scale;
            $w[$i] *= $scale;
        }

        return [$u, $v, $w];
    }

    /** @return array{int, int, int, int, int, int} before and behind along x, y, z */
    private static function neighbours(int $i): array
    {
        $side = self::SIDE;
        $mask = $side - 1;
        $x = $i & $mask;
        $y = intdiv($i, $side) & $mask;
        $z = intdiv($i, $side * $side);
        $at = static fn (int $x, int $y, int $z): int => (($z & $mask) * $side + ($y & $mask)) * $side + ($x & $mask);

        return [$at($x - 1, $y, $z), $at($x + 1, $y, $z), $at($x, $y - 1, $z), $at($x, $y + 1, $z), $at($x, $y, $z - 1), $at($x, $y, $z + 1)];
    }
}
