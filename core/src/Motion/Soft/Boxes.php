<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/**
 * The material of a soft body, box by box. Each box resists being drawn out of its shape, turned with it (corotated linear
 * elasticity: Müller and Gross 2004, "Interactive virtual materials"), and out of its volume, evenly in all of it; what eight
 * corners can do beside that (bend and warp the box) is resisted so that a row of boxes bends like a beam (as the stabilised
 * one-point bricks of Belytschko and Bindeman 1993 do). All by extended position based dynamics (Macklin et al. 2016). The turn is
 * found as in Müller et al. 2016, "A robust method to extract the rotational part of deformations", and kept from sweep to sweep.
 */
final class Boxes
{
    /** @var list<float> sides at rest, three a box, m */
    private array $sides;

    /** @var list<float> what pulls a box into shape: the inverse of how easily its corners and its matter give, together */
    private array $shape = [];

    /** @var list<float> how easily its corners give, without its matter, along each axis on average: three a box */
    private array $gives = [];

    /** @var list<float> how easily the matter gives in volume */
    private array $volume = [];

    /** @var list<float> the same as $shape of what bends and warps it */
    private array $bend = [];

    /** @var list<float> how its corners give at the most */
    private array $most = [];

    /** @var array<int, float> turn of each box: x, y, z, w */
    private array $turn = [];

    /** What boxes are at rest; null: what they were at first. */
    private ?RestBoxes $rest = null;

    /**
     * Twenty-seven numbers a box where they are at rest what they were not at first: the inverse of what draws it into that shape (nine, row by row), how easily its corners give
     * without its matter, seen from that shape (xx, yy, zz, xy, yz, zx), and how it is warped there (twelve).
     *
     * @var list<float>
     */
    private array $other = [];

    /**
     * @param float $h length of a substep, s
     * @param array{float, float, float, float} $turn of all of it at the beginning
     */
    public function __construct(private readonly Lattice $lattice, private readonly Matter $matter, private readonly float $h, array $turn)
    {
        $this->sides = $lattice->sides;
        for ($b = 0; $b < $lattice->boxes(); $b++) {
            array_push($this->turn, ...$turn);
        }
    }

    /** From the next settling on its boxes are drawn into another shape than their first. */
    public function take(RestBoxes $rest): void
    {
        $this->rest = $rest;
    }

    /**
     * @param array<int, float> $w inverse masses of the nodes, 1/kg
     * @param list<float> $stiff how stiff each box is, as a share
     * @param list<float> $grown how many times as large as at first each box wants to be
     */
    public function settle(array $w, array $stiff, array $grown): void
    {
        $this->shape = $this->gives = $this->volume = $this->bend = $this->most = $this->sides = $this->other = [];
        $lattice = $this->lattice;
        $young = $this->matter->young;
        // Each pull is shared by a sweep there and one back.
        $twice = 2.0 / ($this->h * $this->h);
        for ($b = 0, $n = $lattice->boxes(); $b < $n; $b++) {
            $sum = $most = 0.0;
            for ($c = 0; $c < 8; $c++) {
                $of = $w[$lattice->corners[8 * $b + $c]];
                $sum += $of;
                $most = $of > $most ? $of : $most;
            }
            $size = $grown[$b];
            [$sx, $sy, $sz] = [$size * $lattice->sides[3 * $b], $size * $lattice->sides[3 * $b + 1], $size * $lattice->sides[3 * $b + 2]];
            $easily = 1.0 / min($sx, $sy, $sz) ** 2;
            $longest = max($sx, $sy, $sz);
            $bulk = $sx * $sy * $sz;
            if ($this->rest !== null) {
                [$easily, $seen] = self::seen(array_slice($this->rest->inverse, 9 * $b, 9), [$sx, $sy, $sz]);
                $longest = $size * $this->rest->longest[$b];
                $bulk *= $this->rest->size[$b];
                array_push($this->other, ...array_slice($this->rest->inverse, 9 * $b, 9), ...array_map(static fn (float $of): float => 0.0625 * $sum * $of, $seen));
                array_push($this->other, ...array_map(static fn (float $of): float => $size * $of, array_slice($this->rest->warp, 12 * $b, 12)));
            }
            $stiffness = $young * $stiff[$b] * $lattice->fill[$b];
            // Of a box whose corners are all free half of one of them; of few free corners they may all pull one way.
            $gives = min(0.5 * $most, 0.1875 * $sum) * $easily;
            array_push($this->sides, $sx, $sy, $sz);
            array_push($this->gives, 0.0625 * $sum / ($sx * $sx), 0.0625 * $sum / ($sy * $sy), 0.0625 * $sum / ($sz * $sz));
            $this->most[] = $gives;
            $this->shape[] = 1.0 / max(1e-300, $gives + $twice / (2.0 * $this->matter->shear() * $stiffness * $bulk));
            $this->volume[] = $twice / max(1e-300, $this->matter->lame() * $stiffness * $bulk);
            $this->bend[] = 1.0 / max(1e-300, $most + $twice / ($stiffness * $bulk / (6.0 * $longest * $longest)));
        }
    }

    /**
     * @param list<float> $inverse nine numbers, row by row
     * @param array{float, float, float} $sides
     *
     * @return array{float, list<float>} how easily corners of one kilogram give, seen from the shape that the inverse is of: at the most, and xx, yy, zz, xy, yz, zx, 1/m2
     */
    private static function seen(array $inverse, array $sides): array
    {
        $of = static function (int $i, int $j) use ($inverse, $sides): float {
            $sum = 0.0;
            foreach ($sides as $k => $side) {
                $sum += $inverse[3 * $k + $i] * $inverse[3 * $k + $j] / ($side * $side);
            }

            return $sum;
        };
        [$xx, $yy, $zz, $xy, $yz, $zx] = $seen = [$of(0, 0), $of(1, 1), $of(2, 2), $of(0, 1), $of(1, 2), $of(2, 0)];

        // No more than the largest sum of a row.
        return [max($xx + abs($xy) + abs($zx), $yy + abs($xy) + abs($yz), $zz + abs($yz) + abs($zx)), $seen];
    }

    /**
     * Pulls each box into its shape, one after the other.
     *
     * @param array<int, float> $x of the nodes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses, 1/kg
     * @param bool $back from the last box to the first
     */
    public function sweep(array &$x, array &$y, array &$z, array $w, bool $back): void
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        [$corners, $sides, $shape, $gives, $volume, $bend, $most, $turn, $other] = [$this->lattice->corners, $this->sides, $this->shape, $this->gives, $this->volume, $this->bend, $this->most, $this->turn, $this->other];
        $shaped = $other !== [];
        $g = 0;
        // Ending in 1: counted from its first shape. Beginning with w: how it is warped at rest, in four patterns.
        $fx1 = $gx1 = $hx1 = $fy1 = $gy1 = $hy1 = $fz1 = $gz1 = $hz1 = 0.0;
        $w1x = $w1y = $w1z = $w2x = $w2y = $w2z = $w3x = $w3y = $w3z = $w4x = $w4y = $w4z = 0.0;
        $this->turn = [];
        $count = count($shape);
        for ($n = 0; $n < $count; ++$n) {
            $b = $back ? $count - 1 - $n : $n;
            $c = 8 * $b;
            $i = $corners[$c];
            $j = $corners[$c + 1];
            $k = $corners[$c + 2];
            $l = $corners[$c + 3];
            $m = $corners[$c + 4];
            $o = $corners[$c + 5];
            $p = $corners[$c + 6];
            $q = $corners[$c + 7];
            $c = 3 * $b;
            $sx = $sides[$c];
            $sy = $sides[$c + 1];
            $sz = $sides[$c + 2];
            // How it is drawn out along each of its axes: columns f, g, h of the deformation; and its middle.
            $a = $X[$i] + $X[$j];
            $d = $X[$k] + $X[$l];
            $e = $X[$m] + $X[$o];
            $r = $X[$p] + $X[$q];
            $fx = 0.25 * ($X[$j] - $X[$i] + $X[$l] - $X[$k] + $X[$o] - $X[$m] + $X[$q] - $X[$p]) / $sx;
            $gx = 0.25 * ($d - $a + $r - $e) / $sy;
            $hx = 0.25 * ($e + $r - $a - $d) / $sz;
            $cx = 0.125 * ($a + $d + $e + $r);
            $a = $Y[$i] + $Y[$j];
            $d = $Y[$k] + $Y[$l];
            $e = $Y[$m] + $Y[$o];
            $r = $Y[$p] + $Y[$q];
            $fy = 0.25 * ($Y[$j] - $Y[$i] + $Y[$l] - $Y[$k] + $Y[$o] - $Y[$m] + $Y[$q] - $Y[$p]) / $sx;
            $gy = 0.25 * ($d - $a + $r - $e) / $sy;
            $hy = 0.25 * ($e + $r - $a - $d) / $sz;
            $cy = 0.125 * ($a + $d + $e + $r);
            $a = $Z[$i] + $Z[$j];
            $d = $Z[$k] + $Z[$l];
            $e = $Z[$m] + $Z[$o];
            $r = $Z[$p] + $Z[$q];
            $fz = 0.25 * ($Z[$j] - $Z[$i] + $Z[$l] - $Z[$k] + $Z[$o] - $Z[$m] + $Z[$q] - $Z[$p]) / $sx;
            $gz = 0.25 * ($d - $a + $r - $e) / $sy;
            $hz = 0.25 * ($e + $r - $a - $d) / $sz;
            $cz = 0.125 * ($a + $d + $e + $r);
            if ($shaped) {
                // The same as a deformation of the shape it has at rest: times the inverse of that.
                $g = 27 * $b;
                $fx1 = $fx;
                $gx1 = $gx;
                $hx1 = $hx;
                $fy1 = $fy;
                $gy1 = $gy;
                $hy1 = $hy;
                $fz1 = $fz;
                $gz1 = $gz;
                $hz1 = $hz;
                $a = $other[$g];
                $d = $other[$g + 3];
                $e = $other[$g + 6];
                $fx = $fx1 * $a + $gx1 * $d + $hx1 * $e;
                $fy = $fy1 * $a + $gy1 * $d + $hy1 * $e;
                $fz = $fz1 * $a + $gz1 * $d + $hz1 * $e;
                $a = $other[$g + 1];
                $d = $other[$g + 4];
                $e = $other[$g + 7];
                $gx = $fx1 * $a + $gx1 * $d + $hx1 * $e;
                $gy = $fy1 * $a + $gy1 * $d + $hy1 * $e;
                $gz = $fz1 * $a + $gz1 * $d + $hz1 * $e;
                $a = $other[$g + 2];
                $d = $other[$g + 5];
                $e = $other[$g + 8];
                $hx = $fx1 * $a + $gx1 * $d + $hx1 * $e;
                $hy = $fy1 * $a + $gy1 * $d + $hy1 * $e;
                $hz = $fz1 * $a + $gz1 * $d + $hz1 * $e;
            }
            // The turn it has by now, from the one it had; columns u, v, t.
            $qi = $turn[4 * $b];
            $qj = $turn[4 * $b + 1];
            $qk = $turn[4 * $b + 2];
            $qr = $turn[4 * $b + 3];
            for ($known = false; ; $known = true) {
                $ux = 1.0 - 2.0 * ($qj * $qj + $qk * $qk);
                $uy = 2.0 * ($qi * $qj + $qk * $qr);
                $uz = 2.0 * ($qi * $qk - $qj * $qr);
                $vx = 2.0 * ($qi * $qj - $qk * $qr);
                $vy = 1.0 - 2.0 * ($qi * $qi + $qk * $qk);
                $vz = 2.0 * ($qj * $qk + $qi * $qr);
                $tx = $uy * $vz - $uz * $vy;
                $ty = $uz * $vx - $ux * $vz;
                $tz = $ux * $vy - $uy * $vx;
                if ($known) {
                    break;
                }
                $s = $ux * $fx + $uy * $fy + $uz * $fz + $vx * $gx + $vy * $gy + $vz * $gz + $tx * $hx + $ty * $hy + $tz * $hz;
                // Half the turn that is missing: where it is hardly strained, what it is a share of is two thirds of this sum. Less (one would do for safety) leaves a
                // lag that brakes whatever turns.
                $s = 0.75 / (($s < 0.0 ? -$s : $s) + 1e-9);
                $a = $s * ($uy * $fz - $uz * $fy + $vy * $gz - $vz * $gy + $ty * $hz - $tz * $hy);
                $d = $s * ($uz * $fx - $ux * $fz + $vz * $gx - $vx * $gz + $tz * $hx - $tx * $hz);
                $e = $s * ($ux * $fy - $uy * $fx + $vx * $gy - $vy * $gx + $tx * $hy - $ty * $hx);
                $ni = $qi + $a * $qr + $d * $qk - $e * $qj;
                $nj = $qj + $d * $qr + $e * $qi - $a * $qk;
                $nk = $qk + $e * $qr + $a * $qj - $d * $qi;
                $nr = $qr - $a * $qi - $d * $qj - $e * $qk;
                $s = 1.0 / sqrt($ni * $ni + $nj * $nj + $nk * $nk + $nr * $nr);
                $qi = $s * $ni;
                $qj = $s * $nj;
                $qk = $s * $nk;
                $qr = $s * $nr;
            }
            $turn[4 * $b] = $qi;
            $turn[4 * $b + 1] = $qj;
            $turn[4 * $b + 2] = $qk;
            $turn[4 * $b + 3] = $qr;
            if ($shaped) {
                // How it is warped at rest, turned with it.
                $a = $other[$g + 15];
                $d = $other[$g + 16];
                $e = $other[$g + 17];
                $w1x = $ux * $a + $vx * $d + $tx * $e;
                $w1y = $uy * $a + $vy * $d + $ty * $e;
                $w1z = $uz * $a + $vz * $d + $tz * $e;
                $a = $other[$g + 18];
                $d = $other[$g + 19];
                $e = $other[$g + 20];
                $w2x = $ux * $a + $vx * $d + $tx * $e;
                $w2y = $uy * $a + $vy * $d + $ty * $e;
                $w2z = $uz * $a + $vz * $d + $tz * $e;
                $a = $other[$g + 21];
                $d = $other[$g + 22];
                $e = $other[$g + 23];
                $w3x = $ux * $a + $vx * $d + $tx * $e;
                $w3y = $uy * $a + $vy * $d + $ty * $e;
                $w3z = $uz * $a + $vz * $d + $tz * $e;
                $a = $other[$g + 24];
                $d = $other[$g + 25];
                $e = $other[$g + 26];
                $w4x = $ux * $a + $vx * $d + $tx * $e;
                $w4y = $uy * $a + $vy * $d + $ty * $e;
                $w4z = $uz * $a + $vz * $d + $tz * $e;
            }
            // What pulls it back into shape ...
            $s = $shape[$b];
            $ux = $s * ($fx - $ux);
            $uy = $s * ($fy - $uy);
            $uz = $s * ($fz - $uz);
            $vx = $s * ($gx - $vx);
            $vy = $s * ($gy - $vy);
            $vz = $s * ($gz - $vz);
            $tx = $s * ($hx - $tx);
            $ty = $s * ($hy - $ty);
            $tz = $s * ($hz - $tz);
            // ... and then back to its volume: the areas across its axes, as they will be then.
            if ($shaped) {
                $xx = $other[$g + 9];
                $yy = $other[$g + 10];
                $zz = $other[$g + 11];
                $xy = $other[$g + 12];
                $yz = $other[$g + 13];
                $zx = $other[$g + 14];
                $a = $fx - $ux * $xx - $vx * $xy - $tx * $zx;
                $d = $fy - $uy * $xx - $vy * $xy - $ty * $zx;
                $e = $fz - $uz * $xx - $vz * $xy - $tz * $zx;
                $r = $gx - $ux * $xy - $vx * $yy - $tx * $yz;
                $ni = $gy - $uy * $xy - $vy * $yy - $ty * $yz;
                $nj = $gz - $uz * $xy - $vz * $yy - $tz * $yz;
                $nk = $hx - $ux * $zx - $vx * $yz - $tx * $zz;
                $nr = $hy - $uy * $zx - $vy * $yz - $ty * $zz;
                $qi = $hz - $uz * $zx - $vz * $yz - $tz * $zz;
            } else {
                $s = $gives[$c];
                $a = $fx - $s * $ux;
                $d = $fy - $s * $uy;
                $e = $fz - $s * $uz;
                $s = $gives[$c + 1];
                $r = $gx - $s * $vx;
                $ni = $gy - $s * $vy;
                $nj = $gz - $s * $vz;
                $s = $gives[$c + 2];
                $nk = $hx - $s * $tx;
                $nr = $hy - $s * $ty;
                $qi = $hz - $s * $tz;
            }
            $qj = $ni * $qi - $nj * $nr;
            $qk = $nj * $nk - $r * $qi;
            $qr = $r * $nr - $ni * $nk;
            $ax = $nr * $e - $qi * $d;
            $ay = $qi * $a - $nk * $e;
            $az = $nk * $d - $nr * $a;
            $bx = $d * $nj - $e * $ni;
            $by = $e * $r - $a * $nj;
            $bz = $a * $ni - $d * $r;
            $s = ($a * $qj + $d * $qk + $e * $qr - 1.0) / ($most[$b] * ($qj * $qj + $qk * $qk + $qr * $qr + $ax * $ax + $ay * $ay + $az * $az + $bx * $bx + $by * $by + $bz * $bz) + $volume[$b] + 1e-300);
            $ux += $s * $qj;
            $uy += $s * $qk;
            $uz += $s * $qr;
            $vx += $s * $ax;
            $vy += $s * $ay;
            $vz += $s * $az;
            $tx += $s * $bx;
            $ty += $s * $by;
            $tz += $s * $bz;
            if ($shaped) {
                // Back to its first sides: times the transpose of the inverse. And what it was drawn out by along them.
                $fx = $fx1;
                $fy = $fy1;
                $fz = $fz1;
                $gx = $gx1;
                $gy = $gy1;
                $gz = $gz1;
                $hx = $hx1;
                $hy = $hy1;
                $hz = $hz1;
                $fx1 = $ux;
                $fy1 = $uy;
                $fz1 = $uz;
                $gx1 = $vx;
                $gy1 = $vy;
                $gz1 = $vz;
                $a = $other[$g];
                $d = $other[$g + 1];
                $e = $other[$g + 2];
                $ux = $a * $fx1 + $d * $gx1 + $e * $tx;
                $uy = $a * $fy1 + $d * $gy1 + $e * $ty;
                $uz = $a * $fz1 + $d * $gz1 + $e * $tz;
                $a = $other[$g + 3];
                $d = $other[$g + 4];
                $e = $other[$g + 5];
                $vx = $a * $fx1 + $d * $gx1 + $e * $tx;
                $vy = $a * $fy1 + $d * $gy1 + $e * $ty;
                $vz = $a * $fz1 + $d * $gz1 + $e * $tz;
                $a = $other[$g + 6];
                $d = $other[$g + 7];
                $e = $other[$g + 8];
                $tx = $a * $fx1 + $d * $gx1 + $e * $tx;
                $ty = $a * $fy1 + $d * $gy1 + $e * $ty;
                $tz = $a * $fz1 + $d * $gz1 + $e * $tz;
            }
            $d = 0.25 / $sx;
            $ux = $d * $ux;
            $uy = $d * $uy;
            $uz = $d * $uz;
            $d = 0.25 / $sy;
            $vx = $d * $vx;
            $vy = $d * $vy;
            $vz = $d * $vz;
            $d = 0.25 / $sz;
            $tx = $d * $tx;
            $ty = $d * $ty;
            $tz = $d * $tz;
            // Half its sides as they are: where corners would be if it were neither bent nor warped.
            $sx *= 0.5;
            $sy *= 0.5;
            $sz *= 0.5;
            $s = $bend[$b];
            $wi = $w[$i];
            $wj = $w[$j];
            $wk = $w[$k];
            $wl = $w[$l];
            $wm = $w[$m];
            $wo = $w[$o];
            $wp = $w[$p];
            $wq = $w[$q];
            $a = $cx - $sy * $gx - $sz * $hx;
            $d = $cx + $sy * $gx - $sz * $hx;
            $e = $cx - $sy * $gx + $sz * $hx;
            $r = $cx + $sy * $gx + $sz * $hx;
            $fx *= $sx;
            $X[$i] -= $wi * ($s * ($X[$i] - $a + $fx) - $ux - $vx - $tx);
            $X[$j] -= $wj * ($s * ($X[$j] - $a - $fx) + $ux - $vx - $tx);
            $X[$k] -= $wk * ($s * ($X[$k] - $d + $fx) - $ux + $vx - $tx);
            $X[$l] -= $wl * ($s * ($X[$l] - $d - $fx) + $ux + $vx - $tx);
            $X[$m] -= $wm * ($s * ($X[$m] - $e + $fx) - $ux - $vx + $tx);
            $X[$o] -= $wo * ($s * ($X[$o] - $e - $fx) + $ux - $vx + $tx);
            $X[$p] -= $wp * ($s * ($X[$p] - $r + $fx) - $ux + $vx + $tx);
            $X[$q] -= $wq * ($s * ($X[$q] - $r - $fx) + $ux + $vx + $tx);
            $a = $cy - $sy * $gy - $sz * $hy;
            $d = $cy + $sy * $gy - $sz * $hy;
            $e = $cy - $sy * $gy + $sz * $hy;
            $r = $cy + $sy * $gy + $sz * $hy;
            $fy *= $sx;
            $Y[$i] -= $wi * ($s * ($Y[$i] - $a + $fy) - $uy - $vy - $ty);
            $Y[$j] -= $wj * ($s * ($Y[$j] - $a - $fy) + $uy - $vy - $ty);
            $Y[$k] -= $wk * ($s * ($Y[$k] - $d + $fy) - $uy + $vy - $ty);
            $Y[$l] -= $wl * ($s * ($Y[$l] - $d - $fy) + $uy + $vy - $ty);
            $Y[$m] -= $wm * ($s * ($Y[$m] - $e + $fy) - $uy - $vy + $ty);
            $Y[$o] -= $wo * ($s * ($Y[$o] - $e - $fy) + $uy - $vy + $ty);
            $Y[$p] -= $wp * ($s * ($Y[$p] - $r + $fy) - $uy + $vy + $ty);
            $Y[$q] -= $wq * ($s * ($Y[$q] - $r - $fy) + $uy + $vy + $ty);
            $a = $cz - $sy * $gz - $sz * $hz;
            $d = $cz + $sy * $gz - $sz * $hz;
            $e = $cz - $sy * $gz + $sz * $hz;
            $r = $cz + $sy * $gz + $sz * $hz;
            $fz *= $sx;
            $Z[$i] -= $wi * ($s * ($Z[$i] - $a + $fz) - $uz - $vz - $tz);
            $Z[$j] -= $wj * ($s * ($Z[$j] - $a - $fz) + $uz - $vz - $tz);
            $Z[$k] -= $wk * ($s * ($Z[$k] - $d + $fz) - $uz + $vz - $tz);
            $Z[$l] -= $wl * ($s * ($Z[$l] - $d - $fz) + $uz + $vz - $tz);
            $Z[$m] -= $wm * ($s * ($Z[$m] - $e + $fz) - $uz - $vz + $tz);
            $Z[$o] -= $wo * ($s * ($Z[$o] - $e - $fz) + $uz - $vz + $tz);
            $Z[$p] -= $wp * ($s * ($Z[$p] - $r + $fz) - $uz + $vz + $tz);
            $Z[$q] -= $wq * ($s * ($Z[$q] - $r - $fz) + $uz + $vz + $tz);
            if ($shaped) {
                // They are to be warped as at rest.
                $X[$i] += $s * $wi * ($w1x + $w2x + $w3x - $w4x);
                $X[$j] += $s * $wj * (-$w1x + $w2x - $w3x + $w4x);
                $X[$k] += $s * $wk * (-$w1x - $w2x + $w3x + $w4x);
                $X[$l] += $s * $wl * ($w1x - $w2x - $w3x - $w4x);
                $X[$m] += $s * $wm * ($w1x - $w2x - $w3x + $w4x);
                $X[$o] += $s * $wo * (-$w1x - $w2x + $w3x - $w4x);
                $X[$p] += $s * $wp * (-$w1x + $w2x - $w3x - $w4x);
                $X[$q] += $s * $wq * ($w1x + $w2x + $w3x + $w4x);
                $Y[$i] += $s * $wi * ($w1y + $w2y + $w3y - $w4y);
                $Y[$j] += $s * $wj * (-$w1y + $w2y - $w3y + $w4y);
                $Y[$k] += $s * $wk * (-$w1y - $w2y + $w3y + $w4y);
                $Y[$l] += $s * $wl * ($w1y - $w2y - $w3y - $w4y);
                $Y[$m] += $s * $wm * ($w1y - $w2y - $w3y + $w4y);
                $Y[$o] += $s * $wo * (-$w1y - $w2y + $w3y - $w4y);
                $Y[$p] += $s * $wp * (-$w1y + $w2y - $w3y - $w4y);
                $Y[$q] += $s * $wq * ($w1y + $w2y + $w3y + $w4y);
                $Z[$i] += $s * $wi * ($w1z + $w2z + $w3z - $w4z);
                $Z[$j] += $s * $wj * (-$w1z + $w2z - $w3z + $w4z);
                $Z[$k] += $s * $wk * (-$w1z - $w2z + $w3z + $w4z);
                $Z[$l] += $s * $wl * ($w1z - $w2z - $w3z - $w4z);
                $Z[$m] += $s * $wm * ($w1z - $w2z - $w3z + $w4z);
                $Z[$o] += $s * $wo * (-$w1z - $w2z + $w3z - $w4z);
                $Z[$p] += $s * $wp * (-$w1z + $w2z - $w3z - $w4z);
                $Z[$q] += $s * $wq * ($w1z + $w2z + $w3z + $w4z);
            }
        }
        [$x, $y, $z] = [$X, $Y, $Z];
        $this->turn = $turn;
    }

    /** @return array<int, float> what decides the next sweep beside the nodes */
    public function turns(): array
    {
        return $this->turn;
    }

    /** @param array<int, float> $turns */
    public function restore(array $turns): void
    {
        $this->turn = $turns;
    }
}
