<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Sequential impulses on soft contacts with a relaxing pass (Catto 2011, "Soft Constraints"; 2024, "Solver2D"): each
 * substep first pushes overlaps apart like a damped spring, then removes the speed that this gave. Coulomb friction by a
 * cone per point, started from the impulses of the step before.
 *
 * Contacts are grouped by pair (manifold). All arrays are flat; a manifold has STRIDE numbers, a point POINT numbers.
 */
final class ContactSolver
{
    /** @var int normal (3), first tangent (3), friction, bounce */
    public const STRIDE = 8;

    /** @var int place on a (3) and b (3) from the bodies' centres, gap, effective masses (3), approach speed, largest impulse */
    public const POINT = 12;

    /** @var array<int, int> two bodies a manifold */
    public array $bodies = [];

    /** @var array<int, int> first point of each manifold, plus one past the end */
    public array $first = [0];

    /** @var array<int, float> */
    public array $manifold = [];

    /** @var array<int, float> */
    public array $point = [];

    /** @var array<int, float> three a point */
    public array $impulse = [];

    /** @var list<ContactPair> */
    public array $pairs = [];

    /**
     * Effective masses and approach speeds, once a step.
     *
     * @param array<int, float> $v six numbers a body: velocity, spin
     * @param array<int, float> $im inverse masses
     * @param array<int, float> $ii inverse inertia in the world, xx yy zz xy yz zx a body
     */
    public function prepare(array $v, array $im, array $ii): void
    {
        $P = $this->point;
        $this->point = [];
        $M = $this->manifold;
        $count = count($this->first) - 1;
        for ($c = 0; $c < $count; $c++) {
            $a = $this->bodies[2 * $c];
            $b = $this->bodies[2 * $c + 1];
            $k = self::STRIDE * $c;
            $axes = [
                [$M[$k], $M[$k + 1], $M[$k + 2]],
                [$M[$k + 3], $M[$k + 4], $M[$k + 5]],
                [
                    $M[$k + 1] * $M[$k + 5] - $M[$k + 2] * $M[$k + 4],
                    $M[$k + 2] * $M[$k + 3] - $M[$k] * $M[$k + 5],
                    $M[$k] * $M[$k + 4] - $M[$k + 1] * $M[$k + 3],
                ],
            ];
            for ($p = $this->first[$c] * self::POINT, $end = $this->first[$c + 1] * self::POINT; $p < $end; $p += self::POINT) {
                foreach ($axes as $row => [$nx, $ny, $nz]) {
                    $sum = $im[$a] + $im[$b];
                    foreach ([[6 * $a, $p], [6 * $b, $p + 3]] as [$o, $r]) {
                        $ux = $P[$r + 1] * $nz - $P[$r + 2] * $ny;
                        $uy = $P[$r + 2] * $nx - $P[$r] * $nz;
                        $uz = $P[$r] * $ny - $P[$r + 1] * $nx;
                        $sum += $ux * ($ii[$o] * $ux + $ii[$o + 3] * $uy + $ii[$o + 5] * $uz)
                            + $uy * ($ii[$o + 3] * $ux + $ii[$o + 1] * $uy + $ii[$o + 4] * $uz)
                            + $uz * ($ii[$o + 5] * $ux + $ii[$o + 4] * $uy + $ii[$o + 2] * $uz);
                    }
                    $P[$p + 7 + $row] = $sum > 0.0 ? 1.0 / $sum : 0.0;
                }
                $oa = 6 * $a;
                $ob = 6 * $b;
                [$nx, $ny, $nz] = $axes[0];
                $P[$p + 10] = $nx * ($v[$ob] + $v[$ob + 4] * $P[$p + 5] - $v[$ob + 5] * $P[$p + 4]
                        - $v[$oa] - $v[$oa + 4] * $P[$p + 2] + $v[$oa + 5] * $P[$p + 1])
                    + $ny * ($v[$ob + 1] + $v[$ob + 5] * $P[$p + 3] - $v[$ob + 3] * $P[$p + 5]
                        - $v[$oa + 1] - $v[$oa + 5] * $P[$p] + $v[$oa + 3] * $P[$p + 2])
                    + $nz * ($v[$ob + 2] + $v[$ob + 3] * $P[$p + 4] - $v[$ob + 4] * $P[$p + 3]
                        - $v[$oa + 2] - $v[$oa + 3] * $P[$p + 1] + $v[$oa + 4] * $P[$p]);
                $P[$p + 11] = 0.0;
            }
        }
        $this->point = $P;
    }

    /**
     * Gives the bodies the impulses of the step before.
     *
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    public function warmStart(array &$v, array $im, array $ii): void
    {
        $V = $v;
        $v = [];
        $P = $this->point;
        $M = $this->manifold;
        $L = $this->impulse;
        $F = $this->first;
        $B = $this->bodies;
        $count = count($F) - 1;
        for ($c = 0, $k = 0; $c < $count; $c++, $k += 8) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $nx = $M[$k];
            $ny = $M[$k + 1];
            $nz = $M[$k + 2];
            $tx = $M[$k + 3];
            $ty = $M[$k + 4];
            $tz = $M[$k + 5];
            $sx = $ny * $tz - $nz * $ty;
            $sy = $nz * $tx - $nx * $tz;
            $sz = $nx * $ty - $ny * $tx;
            $lx = $ly = $lz = $ax = $ay = $az = $bx = $by = $bz = 0.0;
            for ($i = $F[$c], $end = $F[$c + 1]; $i < $end; $i++) {
                $p = 12 * $i;
                $l = $L[3 * $i];
                $m = $L[3 * $i + 1];
                $n = $L[3 * $i + 2];
                $x = $l * $nx + $m * $tx + $n * $sx;
                $y = $l * $ny + $m * $ty + $n * $sy;
                $z = $l * $nz + $m * $tz + $n * $sz;
                $lx += $x;
                $ly += $y;
                $lz += $z;
                $ax += $P[$p + 1] * $z - $P[$p + 2] * $y;
                $ay += $P[$p + 2] * $x - $P[$p] * $z;
                $az += $P[$p] * $y - $P[$p + 1] * $x;
                $bx += $P[$p + 4] * $z - $P[$p + 5] * $y;
                $by += $P[$p + 5] * $x - $P[$p + 3] * $z;
                $bz += $P[$p + 3] * $y - $P[$p + 4] * $x;
            }
            $o = 6 * $a;
            $w = $im[$a];
            $V[$o] -= $w * $lx;
            $V[$o + 1] -= $w * $ly;
            $V[$o + 2] -= $w * $lz;
            $V[$o + 3] -= $ii[$o] * $ax + $ii[$o + 3] * $ay + $ii[$o + 5] * $az;
            $V[$o + 4] -= $ii[$o + 3] * $ax + $ii[$o + 1] * $ay + $ii[$o + 4] * $az;
            $V[$o + 5] -= $ii[$o + 5] * $ax + $ii[$o + 4] * $ay + $ii[$o + 2] * $az;
            $o = 6 * $b;
            $w = $im[$b];
            $V[$o] += $w * $lx;
            $V[$o + 1] += $w * $ly;
            $V[$o + 2] += $w * $lz;
            $V[$o + 3] += $ii[$o] * $bx + $ii[$o + 3] * $by + $ii[$o + 5] * $bz;
            $V[$o + 4] += $ii[$o + 3] * $bx + $ii[$o + 1] * $by + $ii[$o + 4] * $bz;
            $V[$o + 5] += $ii[$o + 5] * $bx + $ii[$o + 4] * $by + $ii[$o + 2] * $bz;
        }
        $v = $V;
    }

    /**
     * One sweep over all contacts: normals first, then friction.
     *
     * @param array<int, float> $v velocities and spins
     * @param array<int, float> $moved six numbers a body: way and turn since the contacts were found
     * @param array<int, float> $im
     * @param array<int, float> $ii
     * @param float $h substep, s
     * @param bool $push whether overlaps are pushed apart (else: the relaxing pass)
     */
    public function solve(array &$v, array $moved, array $im, array $ii, float $h, bool $push): void
    {
        $hertz = min(RigidTuning::CONTACT_HERTZ, RigidTuning::CONTACT_STIFFNESS / $h);
        // Against what cannot give way a contact is stiffer, so a light piece is not pressed into the floor by a heavy one.
        [$rate, $soft, $keep] = $push ? self::softness($hertz, $h) : [0.0, 1.0, 0.0];
        [$rateFixed, $softFixed, $keepFixed] = $push ? self::softness(2.0 * $hertz, $h) : [0.0, 1.0, 0.0];
        self::normals($v, $this->impulse, $this->point, $this->manifold, $this->first, $this->bodies, $moved, $im, $ii, [
            1.0 / $h, $rate, $soft, $keep, $rateFixed, $softFixed, $keepFixed,
        ]);
        self::friction($v, $this->impulse, $this->point, $this->manifold, $this->first, $this->bodies, $im, $ii);
    }

    /**
     * A damped spring for implicit steps: push rate (1/s), share of the impulse to apply, share of the old one to drop.
     *
     * @return array{float, float, float}
     */
    private static function softness(float $hertz, float $h): array
    {
        $omega = 2.0 * M_PI * $hertz;
        $a1 = 2.0 * RigidTuning::CONTACT_DAMPING + $h * $omega;
        $a2 = $h * $omega * $a1;
        $a3 = 1.0 / (1.0 + $a2);

        return [$omega / $a1, $a2 * $a3, $a3];
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $impulse
     * @param array<int, float> $point
     * @param array<int, float> $M
     * @param array<int, int> $F
     * @param array<int, int> $B
     * @param array<int, float> $D
     * @param array<int, float> $im
     * @param array<int, float> $ii
     * @param array{float, float, float, float, float, float, float} $springs substeps a second; rate, share, drop; the same for fixed bodies
     */
    private static function normals(
        array &$v,
        array &$impulse,
        array &$point,
        array $M,
        array $F,
        array $B,
        array $D,
        array $im,
        array $ii,
        array $springs,
    ): void {
        [$perStep, $rateFree, $softFree, $keepFree, $rateFixed, $softFixed, $keepFixed] = $springs;
        $V = $v;
        $v = [];
        $L = $impulse;
        $impulse = [];
        $P = $point;
        $point = [];
        $fastest = -RigidTuning::PUSH_SPEED;
        $count = count($F) - 1;
        for ($c = 0, $k = 0; $c < $count; $c++, $k += 8) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $ma = $im[$a];
            $mb = $im[$b];
            if ($ma === 0.0 || $mb === 0.0) {
                $rate = $rateFixed;
                $soft = $softFixed;
                $keep = $keepFixed;
            } else {
                $rate = $rateFree;
                $soft = $softFree;
                $keep = $keepFree;
            }
            $a *= 6;
            $b *= 6;
            $nx = $M[$k];
            $ny = $M[$k + 1];
            $nz = $M[$k + 2];
            $vx = $V[$b] - $V[$a];
            $vy = $V[$b + 1] - $V[$a + 1];
            $vz = $V[$b + 2] - $V[$a + 2];
            $ax = $V[$a + 3];
            $ay = $V[$a + 4];
            $az = $V[$a + 5];
            $bx = $V[$b + 3];
            $by = $V[$b + 4];
            $bz = $V[$b + 5];
            $way = $nx * ($D[$b] - $D[$a]) + $ny * ($D[$b + 1] - $D[$a + 1]) + $nz * ($D[$b + 2] - $D[$a + 2]);
            $sum = 0.0;
            for ($i = $F[$c], $end = $F[$c + 1]; $i < $end; $i++) {
                $p = 12 * $i;
                $x = $P[$p];
                $y = $P[$p + 1];
                $z = $P[$p + 2];
                $cx = $y * $nz - $z * $ny;
                $cy = $z * $nx - $x * $nz;
                $cz = $x * $ny - $y * $nx;
                $x = $P[$p + 3];
                $y = $P[$p + 4];
                $z = $P[$p + 5];
                $dx = $y * $nz - $z * $ny;
                $dy = $z * $nx - $x * $nz;
                $dz = $x * $ny - $y * $nx;
                $gap = $P[$p + 6] + $way + $dx * $D[$b + 3] + $dy * $D[$b + 4] + $dz * $D[$b + 5]
                    - $cx * $D[$a + 3] - $cy * $D[$a + 4] - $cz * $D[$a + 5];
                $speed = $nx * $vx + $ny * $vy + $nz * $vz + $dx * $bx + $dy * $by + $dz * $bz - $cx * $ax - $cy * $ay - $cz * $az;
                $old = $L[3 * $i];
                if ($gap > 0.0) {
                    $new = $old - $P[$p + 7] * ($speed + $gap * $perStep);
                } else {
                    $bias = $rate * $gap;
                    if ($bias < $fastest) {
                        $bias = $fastest;
                    }
                    $new = $old - $P[$p + 7] * $soft * ($speed + $bias) - $keep * $old;
                }
                if ($new < 0.0) {
                    $new = 0.0;
                }
                $L[3 * $i] = $new;
                if ($new > $P[$p + 11]) {
                    $P[$p + 11] = $new;
                }
                $l = $new - $old;
                $sum += $l;
                $s = $l * ($ma + $mb);
                $vx += $s * $nx;
                $vy += $s * $ny;
                $vz += $s * $nz;
                $ax -= $l * ($ii[$a] * $cx + $ii[$a + 3] * $cy + $ii[$a + 5] * $cz);
                $ay -= $l * ($ii[$a + 3] * $cx + $ii[$a + 1] * $cy + $ii[$a + 4] * $cz);
                $az -= $l * ($ii[$a + 5] * $cx + $ii[$a + 4] * $cy + $ii[$a + 2] * $cz);
                $bx += $l * ($ii[$b] * $dx + $ii[$b + 3] * $dy + $ii[$b + 5] * $dz);
                $by += $l * ($ii[$b + 3] * $dx + $ii[$b + 1] * $dy + $ii[$b + 4] * $dz);
                $bz += $l * ($ii[$b + 5] * $dx + $ii[$b + 4] * $dy + $ii[$b + 2] * $dz);
            }
            $s = $sum * $ma;
            $V[$a] -= $s * $nx;
            $V[$a + 1] -= $s * $ny;
            $V[$a + 2] -= $s * $nz;
            $V[$a + 3] = $ax;
            $V[$a + 4] = $ay;
            $V[$a + 5] = $az;
            $s = $sum * $mb;
            $V[$b] += $s * $nx;
            $V[$b + 1] += $s * $ny;
            $V[$b + 2] += $s * $nz;
            $V[$b + 3] = $bx;
            $V[$b + 4] = $by;
            $V[$b + 5] = $bz;
        }
        $v = $V;
        $impulse = $L;
        $point = $P;
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $impulse
     * @param array<int, float> $P
     * @param array<int, float> $M
     * @param array<int, int> $F
     * @param array<int, int> $B
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    private static function friction(array &$v, array &$impulse, array $P, array $M, array $F, array $B, array $im, array $ii): void
    {
        $V = $v;
        $v = [];
        $L = $impulse;
        $impulse = [];
        $count = count($F) - 1;
        for ($c = 0, $k = 0; $c < $count; $c++, $k += 8) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $ma = $im[$a];
            $mb = $im[$b];
            $a *= 6;
            $b *= 6;
            $tx = $M[$k + 3];
            $ty = $M[$k + 4];
            $tz = $M[$k + 5];
            $sx = $M[$k + 1] * $tz - $M[$k + 2] * $ty;
            $sy = $M[$k + 2] * $tx - $M[$k] * $tz;
            $sz = $M[$k] * $ty - $M[$k + 1] * $tx;
            $mu = $M[$k + 6];
            for ($i = $F[$c], $end = $F[$c + 1]; $i < $end; $i++) {
                $j = 3 * $i;
                $limit = $mu * $L[$j];
                $l = $L[$j + 1];
                $m = $L[$j + 2];
                if ($limit === 0.0 && $l === 0.0 && $m === 0.0) {
                    continue;
                }
                $p = 12 * $i;
                $rx = $P[$p];
                $ry = $P[$p + 1];
                $rz = $P[$p + 2];
                $qx = $P[$p + 3];
                $qy = $P[$p + 4];
                $qz = $P[$p + 5];
                $ux = $V[$b] + $V[$b + 4] * $qz - $V[$b + 5] * $qy - $V[$a] - $V[$a + 4] * $rz + $V[$a + 5] * $ry;
                $uy = $V[$b + 1] + $V[$b + 5] * $qx - $V[$b + 3] * $qz - $V[$a + 1] - $V[$a + 5] * $rx + $V[$a + 3] * $rz;
                $uz = $V[$b + 2] + $V[$b + 3] * $qy - $V[$b + 4] * $qx - $V[$a + 2] - $V[$a + 3] * $ry + $V[$a + 4] * $rx;
                $l1 = $l - $P[$p + 8] * ($ux * $tx + $uy * $ty + $uz * $tz);
                $m1 = $m - $P[$p + 9] * ($ux * $sx + $uy * $sy + $uz * $sz);
                $size = $l1 * $l1 + $m1 * $m1;
                if ($size > $limit * $limit) {
                    $size = $limit / sqrt($size);
                    $l1 *= $size;
                    $m1 *= $size;
                }
                $L[$j + 1] = $l1;
                $L[$j + 2] = $m1;
                $l = $l1 - $l;
                $m = $m1 - $m;
                $x = $l * $tx + $m * $sx;
                $y = $l * $ty + $m * $sy;
                $z = $l * $tz + $m * $sz;
                $V[$a] -= $ma * $x;
                $V[$a + 1] -= $ma * $y;
                $V[$a + 2] -= $ma * $z;
                $ux = $ry * $z - $rz * $y;
                $uy = $rz * $x - $rx * $z;
                $uz = $rx * $y - $ry * $x;
                $V[$a + 3] -= $ii[$a] * $ux + $ii[$a + 3] * $uy + $ii[$a + 5] * $uz;
                $V[$a + 4] -= $ii[$a + 3] * $ux + $ii[$a + 1] * $uy + $ii[$a + 4] * $uz;
                $V[$a + 5] -= $ii[$a + 5] * $ux + $ii[$a + 4] * $uy + $ii[$a + 2] * $uz;
                $V[$b] += $mb * $x;
                $V[$b + 1] += $mb * $y;
                $V[$b + 2] += $mb * $z;
                $ux = $qy * $z - $qz * $y;
                $uy = $qz * $x - $qx * $z;
                $uz = $qx * $y - $qy * $x;
                $V[$b + 3] += $ii[$b] * $ux + $ii[$b + 3] * $uy + $ii[$b + 5] * $uz;
                $V[$b + 4] += $ii[$b + 3] * $ux + $ii[$b + 1] * $uy + $ii[$b + 4] * $uz;
                $V[$b + 5] += $ii[$b + 5] * $ux + $ii[$b + 4] * $uy + $ii[$b + 2] * $uz;
            }
        }
        $v = $V;
        $impulse = $L;
    }

    /**
     * Newton's bounce, once a step: where two pieces came together fast enough, they part at that speed times the bounce.
     *
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    public function bounce(array &$v, array $im, array $ii): void
    {
        // A face that lands flat bounces by several points, which must agree.
        for ($sweep = 0; $sweep < RigidTuning::BOUNCE_SWEEPS; $sweep++) {
            $this->bounceOnce($v, $im, $ii);
        }
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    private function bounceOnce(array &$v, array $im, array $ii): void
    {
        $count = count($this->first) - 1;
        for ($c = 0; $c < $count; $c++) {
            $k = self::STRIDE * $c;
            $bounce = $this->manifold[$k + 7];
            if ($bounce <= 0.0) {
                continue;
            }
            $a = 6 * $this->bodies[2 * $c];
            $b = 6 * $this->bodies[2 * $c + 1];
            $nx = $this->manifold[$k];
            $ny = $this->manifold[$k + 1];
            $nz = $this->manifold[$k + 2];
            for ($i = $this->first[$c]; $i < $this->first[$c + 1]; $i++) {
                $p = self::POINT * $i;
                if ($this->point[$p + 10] > -RigidTuning::BOUNCE_THRESHOLD || $this->point[$p + 11] === 0.0) {
                    continue;
                }
                [$rx, $ry, $rz, $qx, $qy, $qz] = array_slice($this->point, $p, 6);
                $cx = $ry * $nz - $rz * $ny;
                $cy = $rz * $nx - $rx * $nz;
                $cz = $rx * $ny - $ry * $nx;
                $dx = $qy * $nz - $qz * $ny;
                $dy = $qz * $nx - $qx * $nz;
                $dz = $qx * $ny - $qy * $nx;
                $speed = $nx * ($v[$b] - $v[$a]) + $ny * ($v[$b + 1] - $v[$a + 1]) + $nz * ($v[$b + 2] - $v[$a + 2])
                    + $dx * $v[$b + 3] + $dy * $v[$b + 4] + $dz * $v[$b + 5]
                    - $cx * $v[$a + 3] - $cy * $v[$a + 4] - $cz * $v[$a + 5];
                $old = $this->impulse[3 * $i];
                $new = max(0.0, $old - $this->point[$p + 7] * ($speed + $bounce * $this->point[$p + 10]));
                $this->impulse[3 * $i] = $new;
                $l = $new - $old;
                foreach ([[$a, -$l, $cx, $cy, $cz], [$b, $l, $dx, $dy, $dz]] as [$o, $s, $ux, $uy, $uz]) {
                    $m = $s * $im[intdiv($o, 6)];
                    $v[$o] += $m * $nx;
                    $v[$o + 1] += $m * $ny;
                    $v[$o + 2] += $m * $nz;
                    $v[$o + 3] += $s * ($ii[$o] * $ux + $ii[$o + 3] * $uy + $ii[$o + 5] * $uz);
                    $v[$o + 4] += $s * ($ii[$o + 3] * $ux + $ii[$o + 1] * $uy + $ii[$o + 4] * $uz);
                    $v[$o + 5] += $s * ($ii[$o + 5] * $ux + $ii[$o + 4] * $uy + $ii[$o + 2] * $uz);
                }
            }
        }
    }

    /** Hands the impulses back to the pairs, for the next step. */
    public function store(): void
    {
        foreach ($this->pairs as $c => $pair) {
            $from = 3 * $this->first[$c];
            $pair->impulse = array_slice($this->impulse, $from, 3 * $this->first[$c + 1] - $from);
        }
    }
}
