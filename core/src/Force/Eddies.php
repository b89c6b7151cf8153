<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\RandomStream;

/**
 * A field that swirls without piling up anywhere: the curl of a random vector potential (Bridson, Hourihan, Nordenstam 2007,
 * "Curl-noise for procedural fluid flow"). The potential is made of B-splines on a grid that repeats, each part even (degree 1)
 * along its own axis and one degree higher across it, so that its curl is made of splines too, has no divergence at any place,
 * and goes on without a jump. Its size is 1 on average (root mean square of the vector).
 */
final class Eddies
{
    /** Cells along a side; a power of two. */
    private const SIDE = 32;

    /** An eddy is about so many cells across. */
    private const CELLS = 4.0;

    private const KEPT = 6;

    /** @var array<string, self> */
    private static array $known = [];

    /** @param list<array<int, float>> $field coefficients of the three components, x fastest; those of x stand at (i, j + 1/2, k + 1/2), and so on */
    private function __construct(public readonly array $field)
    {
    }

    /** The same seed and purpose, the same eddies; the last few are kept, as several movers feel the same ones. */
    public static function seeded(int $seed, string $purpose): self
    {
        $name = "{$purpose} {$seed}";
        if (! isset(self::$known[$name])) {
            self::$known = array_slice(self::$known, 1 - self::KEPT, null, true) + [$name => self::made($seed, $purpose)];
        }

        return self::$known[$name];
    }

    private static function made(int $seed, string $purpose): self
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

        return self::even(self::curl(...$potential));
    }

    /** So much of one, and so much of another. */
    public static function mixed(self $a, float $p, self $b, float $q): self
    {
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
     * Made so large that its size is 1 on average, by places all over it.
     *
     * @param list<array<int, float>> $field
     */
    private static function even(array $field): self
    {
        $x = $y = $z = [];
        for ($k = 0; $k < self::SIDE; $k += 2) {
            for ($j = 0; $j < self::SIDE; $j += 2) {
                for ($i = 0; $i < self::SIDE; $i += 2) {
                    $x[] = ($i + 0.3) / self::CELLS;
                    $y[] = ($j + 0.6) / self::CELLS;
                    $z[] = ($k + 1.1) / self::CELLS;
                }
            }
        }
        $u = $v = $w = array_fill(0, count($x), 0.0);
        (new self($field))->add($x, $y, $z, 1.0, 1.0, $u, $v, $w);
        $sum = 0.0;
        foreach ($u as $i => $value) {
            $sum += $value * $value + $v[$i] * $v[$i] + $w[$i] * $w[$i];
        }
        $per = 1.0 / sqrt($sum / count($u));

        return new self(array_map(static fn (array $values): array => array_map(static fn (float $value): float => $per * $value, $values), $field));
    }

    /**
     * Adds the field at many places.
     *
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     * @param float $strength what it is times
     * @param float $size of an eddy, m
     * @param array<int, float> $u
     * @param array<int, float> $v
     * @param array<int, float> $w
     */
    public function add(array $x, array $y, array $z, float $strength, float $size, array &$u, array &$v, array &$w): void
    {
        [$fu, $fv, $fw] = $this->field;
        [$ou, $ov, $ow] = [$u, $v, $w];
        $u = $v = $w = [];
        $per = self::CELLS / $size;
        $side = self::SIDE;
        $mask = $side - 1;
        $layer = $side * $side;
        foreach ($x as $i => $px) {
            $px *= $per;
            $py = $y[$i] * $per;
            $pz = $z[$i] * $per;
            // Of degree 2: the nearest node and those beside it; of degree 1: the half-way nodes on both sides.
            $t0 = $px + 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $t = $px - $n;
            $x0 = ($n - 1) & $mask;
            $x1 = ($n) & $mask;
            $x2 = ($n + 1) & $mask;
            $t0 = 0.5 - $t;
            $qx0 = 0.5 * $t0 * $t0;
            $qx1 = 0.75 - $t * $t;
            $qx2 = 1.0 - $qx0 - $qx1;
            $t0 = $px - 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $gx = $t0 - $n;
            $xa = ($n) & $mask;
            $xb = ($n + 1) & $mask;
            $hx = 1.0 - $gx;
            $t0 = $py + 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $t = $py - $n;
            $y0 = (($n - 1) & $mask) * $side;
            $y1 = (($n) & $mask) * $side;
            $y2 = (($n + 1) & $mask) * $side;
            $t0 = 0.5 - $t;
            $qy0 = 0.5 * $t0 * $t0;
            $qy1 = 0.75 - $t * $t;
            $qy2 = 1.0 - $qy0 - $qy1;
            $t0 = $py - 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $gy = $t0 - $n;
            $ya = (($n) & $mask) * $side;
            $yb = (($n + 1) & $mask) * $side;
            $hy = 1.0 - $gy;
            $t0 = $pz + 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $t = $pz - $n;
            $z0 = (($n - 1) & $mask) * $layer;
            $z1 = (($n) & $mask) * $layer;
            $z2 = (($n + 1) & $mask) * $layer;
            $t0 = 0.5 - $t;
            $qz0 = 0.5 * $t0 * $t0;
            $qz1 = 0.75 - $t * $t;
            $qz2 = 1.0 - $qz0 - $qz1;
            $t0 = $pz - 0.5;
            $n = (int) $t0;
            $n = $t0 < $n ? $n - 1 : $n;
            $gz = $t0 - $n;
            $za = (($n) & $mask) * $layer;
            $zb = (($n + 1) & $mask) * $layer;
            $hz = 1.0 - $gz;
            $a = $ya + $za;
            $b = $yb + $za;
            $c = $ya + $zb;
            $d = $yb + $zb;
            $ou[$i] += $strength * ($hy * $hz * ($qx0 * $fu[$a + $x0] + $qx1 * $fu[$a + $x1] + $qx2 * $fu[$a + $x2])
                + $gy * $hz * ($qx0 * $fu[$b + $x0] + $qx1 * $fu[$b + $x1] + $qx2 * $fu[$b + $x2])
                + $hy * $gz * ($qx0 * $fu[$c + $x0] + $qx1 * $fu[$c + $x1] + $qx2 * $fu[$c + $x2])
                + $gy * $gz * ($qx0 * $fu[$d + $x0] + $qx1 * $fu[$d + $x1] + $qx2 * $fu[$d + $x2]));
            $a = $xa + $za;
            $b = $xb + $za;
            $c = $xa + $zb;
            $d = $xb + $zb;
            $ov[$i] += $strength * ($hx * $hz * ($qy0 * $fv[$a + $y0] + $qy1 * $fv[$a + $y1] + $qy2 * $fv[$a + $y2])
                + $gx * $hz * ($qy0 * $fv[$b + $y0] + $qy1 * $fv[$b + $y1] + $qy2 * $fv[$b + $y2])
                + $hx * $gz * ($qy0 * $fv[$c + $y0] + $qy1 * $fv[$c + $y1] + $qy2 * $fv[$c + $y2])
                + $gx * $gz * ($qy0 * $fv[$d + $y0] + $qy1 * $fv[$d + $y1] + $qy2 * $fv[$d + $y2]));
            $a = $xa + $ya;
            $b = $xb + $ya;
            $c = $xa + $yb;
            $d = $xb + $yb;
            $ow[$i] += $strength * ($hx * $hy * ($qz0 * $fw[$a + $z0] + $qz1 * $fw[$a + $z1] + $qz2 * $fw[$a + $z2])
                + $gx * $hy * ($qz0 * $fw[$b + $z0] + $qz1 * $fw[$b + $z1] + $qz2 * $fw[$b + $z2])
                + $hx * $gy * ($qz0 * $fw[$c + $z0] + $qz1 * $fw[$c + $z1] + $qz2 * $fw[$c + $z2])
                + $gx * $gy * ($qz0 * $fw[$d + $z0] + $qz1 * $fw[$d + $z1] + $qz2 * $fw[$d + $z2]));
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
        foreach (array_keys($a) as $i) {
            [, $x1, , $y1, , $z1] = self::neighbours($i);
            $u[$i] = ($c[$y1] - $c[$i]) - ($b[$z1] - $b[$i]);
            $v[$i] = ($a[$z1] - $a[$i]) - ($c[$x1] - $c[$i]);
            $w[$i] = ($b[$x1] - $b[$i]) - ($a[$y1] - $a[$i]);
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
