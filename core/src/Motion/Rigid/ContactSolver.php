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

    /** @var array<int, float> twelve a point: arm times normal on a and on b, then both times the inverse inertia */
    private array $row = [];

    /** @var array<int, float> gap of each point now */
    private array $gap = [];

    /** @var list<ContactPair> */
    public array $pairs = [];

    /** @return array{float, float, float} middle of a manifold's points, from the centre of its first (0) or second (1) body */
    public function middle(int $manifold, int $side): array
    {
        $x = $y = $z = 0.0;
        [$from, $to] = [$this->first[$manifold], $this->first[$manifold + 1]];
        for ($i = $from; $i < $to; $i++) {
            $x += $this->point[self::POINT * $i + 3 * $side];
            $y += $this->point[self::POINT * $i + 3 * $side + 1];
            $z += $this->point[self::POINT * $i + 3 * $side + 2];
        }
        $share = 1.0 / max(1, $to - $from);

        return [$share * $x, $share * $y, $share * $z];
    }

    /**
     * What the points of a manifold push in a substep, without friction.
     *
     * @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}> place from the centre of its first and of its second body, m, and impulse on the second, N s
     */
    public function pushes(int $manifold): array
    {
        $pushes = [];
        $n = self::STRIDE * $manifold;
        for ($i = $this->first[$manifold]; $i < $this->first[$manifold + 1]; $i++) {
            $push = $this->impulse[3 * $i];
            $p = self::POINT * $i;
            if ($push > 0.0) {
                $pushes[] = [
                    [$this->point[$p], $this->point[$p + 1], $this->point[$p + 2]],
                    [$this->point[$p + 3], $this->point[$p + 4], $this->point[$p + 5]],
                    [$push * $this->manifold[$n], $push * $this->manifold[$n + 1], $push * $this->manifold[$n + 2]],
                ];
            }
        }

        return $pushes;
    }

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
        $F = $this->first;
        $B = $this->bodies;
        $N = [];
        $G = [];
        $count = count($F) - 1;
        for ($c = 0, $k = 0; $c < $count; $c++, $k += 8) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $m = $im[$a] + $im[$b];
            $a *= 6;
            $b *= 6;
            $nx = $M[$k];
            $ny = $M[$k + 1];
            $nz = $M[$k + 2];
            $tx = $M[$k + 3];
            $ty = $M[$k + 4];
            $tz = $M[$k + 5];
            $a0 = $ii[$a];
            $a1 = $ii[$a + 1];
            $a2 = $ii[$a + 2];
            $a3 = $ii[$a + 3];
            $a4 = $ii[$a + 4];
            $a5 = $ii[$a + 5];
            $b0 = $ii[$b];
            $b1 = $ii[$b + 1];
            $b2 = $ii[$b + 2];
            $b3 = $ii[$b + 3];
            $b4 = $ii[$b + 4];
            $b5 = $ii[$b + 5];
            $speed = $nx * ($v[$b] - $v[$a]) + $ny * ($v[$b + 1] - $v[$a + 1]) + $nz * ($v[$b + 2] - $v[$a + 2]);
            for ($p = 12 * $F[$c], $end = 12 * $F[$c + 1]; $p < $end; $p += 12) {
                $rx = $P[$p];
                $ry = $P[$p + 1];
                $rz = $P[$p + 2];
                $qx = $P[$p + 3];
                $qy = $P[$p + 4];
                $qz = $P[$p + 5];
                $N[] = $cx = $ry * $nz - $rz * $ny;
                $N[] = $cy = $rz * $nx - $rx * $nz;
                $N[] = $cz = $rx * $ny - $ry * $nx;
                $N[] = $dx = $qy * $nz - $qz * $ny;
                $N[] = $dy = $qz * $nx - $qx * $nz;
                $N[] = $dz = $qx * $ny - $qy * $nx;
                $P[$p + 10] = $speed + $dx * $v[$b + 3] + $dy * $v[$b + 4] + $dz * $v[$b + 5] - $cx * $v[$a + 3] - $cy * $v[$a + 4] - $cz * $v[$a + 5];
                $N[] = $ux = $a0 * $cx + $a3 * $cy + $a5 * $cz;
                $N[] = $uy = $a3 * $cx + $a1 * $cy + $a4 * $cz;
                $N[] = $uz = $a5 * $cx + $a4 * $cy + $a2 * $cz;
                $sum = $m + $ux * $cx + $uy * $cy + $uz * $cz;
                $N[] = $ux = $b0 * $dx + $b3 * $dy + $b5 * $dz;
                $N[] = $uy = $b3 * $dx + $b1 * $dy + $b4 * $dz;
                $N[] = $uz = $b5 * $dx + $b4 * $dy + $b2 * $dz;
                $sum += $ux * $dx + $uy * $dy + $uz * $dz;
                $P[$p + 7] = $sum > 0.0 ? 1.0 / $sum : 0.0;
                $G[] = $P[$p + 6];
            }
            $sx = $ny * $tz - $nz * $ty;
            $sy = $nz * $tx - $nx * $tz;
            $sz = $nx * $ty - $ny * $tx;
            for ($p = 12 * $F[$c]; $p < $end; $p += 12) {
                $rx = $P[$p];
                $ry = $P[$p + 1];
                $rz = $P[$p + 2];
                $qx = $P[$p + 3];
                $qy = $P[$p + 4];
                $qz = $P[$p + 5];
                $cx = $ry * $tz - $rz * $ty;
                $cy = $rz * $tx - $rx * $tz;
                $cz = $rx * $ty - $ry * $tx;
                $dx = $qy * $tz - $qz * $ty;
                $dy = $qz * $tx - $qx * $tz;
                $dz = $qx * $ty - $qy * $tx;
                $sum = $m + $cx * ($a0 * $cx + $a3 * $cy + $a5 * $cz) + $cy * ($a3 * $cx + $a1 * $cy + $a4 * $cz) + $cz * ($a5 * $cx + $a4 * $cy + $a2 * $cz)
                    + $dx * ($b0 * $dx + $b3 * $dy + $b5 * $dz) + $dy * ($b3 * $dx + $b1 * $dy + $b4 * $dz) + $dz * ($b5 * $dx + $b4 * $dy + $b2 * $dz);
                $P[$p + 8] = $sum > 0.0 ? 1.0 / $sum : 0.0;
                $cx = $ry * $sz - $rz * $sy;
                $cy = $rz * $sx - $rx * $sz;
                $cz = $rx * $sy - $ry * $sx;
                $dx = $qy * $sz - $qz * $sy;
                $dy = $qz * $sx - $qx * $sz;
                $dz = $qx * $sy - $qy * $sx;
                $sum = $m + $cx * ($a0 * $cx + $a3 * $cy + $a5 * $cz) + $cy * ($a3 * $cx + $a1 * $cy + $a4 * $cz) + $cz * ($a5 * $cx + $a4 * $cy + $a2 * $cz)
                    + $dx * ($b0 * $dx + $b3 * $dy + $b5 * $dz) + $dy * ($b3 * $dx + $b1 * $dy + $b4 * $dz) + $dz * ($b5 * $dx + $b4 * $dy + $b2 * $dz);
                $P[$p + 9] = $sum > 0.0 ? 1.0 / $sum : 0.0;
            }
        }
        $this->point = $P;
        $this->row = $N;
        $this->gap = $G;
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
        if ($push) {
            $hertz = min(RigidTuning::CONTACT_HERTZ, RigidTuning::CONTACT_STIFFNESS / $h);
            // Against what cannot give way a contact is stiffer, so a light piece is not pressed into the floor by a heavy one.
            self::push($v, $this->impulse, $this->point, $this->row, $this->gap, $this->manifold, $this->first, $this->bodies, $im, 1.0 / $h, SoftConstraint::of($hertz, RigidTuning::CONTACT_DAMPING, $h), SoftConstraint::of(2.0 * $hertz, RigidTuning::CONTACT_DAMPING, $h));
        } else {
            self::relax($v, $this->impulse, $this->point, $this->row, $this->gap, $this->manifold, $this->first, $this->bodies, $moved, $im, 1.0 / $h);
        }
        self::friction($v, $this->impulse, $this->point, $this->manifold, $this->first, $this->bodies, $im, $ii);
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $impulse
     * @param array<int, float> $point
     * @param array<int, float> $N
     * @param array<int, float> $G
     * @param array<int, float> $M
     * @param array<int, int> $F
     * @param array<int, int> $B
     * @param array<int, float> $im
     * @param array{float, float, float} $free push rate, share to apply, share to drop, between two that can give way
     * @param array{float, float, float} $fixed the same where one cannot
     */
    private static function push(array &$v, array &$impulse, array &$point, array $N, array $G, array $M, array $F, array $B, array $im, float $perStep, array $free, array $fixed): void
    {
        [$rateFree, $softFree, $keepFree] = $free;
        [$rateFixed, $softFixed, $keepFixed] = $fixed;
        $fastest = -RigidTuning::PUSH_SPEED;
        $V = $v;
        $v = [];
        $L = $impulse;
        $impulse = [];
        $P = $point;
        $point = [];
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
            $speed0 = $nx * ($V[$b] - $V[$a]) + $ny * ($V[$b + 1] - $V[$a + 1]) + $nz * ($V[$b + 2] - $V[$a + 2]);
            $ax = $V[$a + 3];
            $ay = $V[$a + 4];
            $az = $V[$a + 5];
            $bx = $V[$b + 3];
            $by = $V[$b + 4];
            $bz = $V[$b + 5];
            $mass = $ma + $mb;
            $sum = 0.0;
            $any = false;
            for ($i = $F[$c], $end = $F[$c + 1]; $i < $end; $i++) {
                $p = 12 * $i;
                $cx = $N[$p];
                $cy = $N[$p + 1];
                $cz = $N[$p + 2];
                $dx = $N[$p + 3];
                $dy = $N[$p + 4];
                $dz = $N[$p + 5];
                $speed = $speed0 + $dx * $bx + $dy * $by + $dz * $bz - $cx * $ax - $cy * $ay - $cz * $az;
                $old = $L[3 * $i];
                $gap = $G[$i];
                if ($gap > 0.0) {
                    $new = $old - $P[$p + 7] * ($speed + $gap * $perStep);
                } else {
                    $bias = $rate * $gap;
                    if ($bias < $fastest) {
                        $bias = $fastest;
                    }
                    $new = $old - $P[$p + 7] * $soft * ($speed + $bias) - $keep * $old;
                }
                if ($new <= 0.0) {
                    if ($old === 0.0) {
                        continue;
                    }
                    $new = 0.0;
                } elseif ($new > $P[$p + 11]) {
                    $P[$p + 11] = $new;
                }
                $any = true;
                $L[3 * $i] = $new;
                $l = $new - $old;
                $sum += $l;
                $speed0 += $l * $mass;
                $ax -= $l * $N[$p + 6];
                $ay -= $l * $N[$p + 7];
                $az -= $l * $N[$p + 8];
                $bx += $l * $N[$p + 9];
                $by += $l * $N[$p + 10];
                $bz += $l * $N[$p + 11];
            }
            if ($any) {
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
        }
        $v = $V;
        $impulse = $L;
        $point = $P;
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $impulse
     * @param array<int, float> $point
     * @param array<int, float> $N
     * @param array<int, float> $gaps
     * @param array<int, float> $M
     * @param array<int, int> $F
     * @param array<int, int> $B
     * @param array<int, float> $D
     * @param array<int, float> $im
     */
    private static function relax(array &$v, array &$impulse, array &$point, array $N, array &$gaps, array $M, array $F, array $B, array $D, array $im, float $perStep): void
    {
        $G = $gaps;
        $gaps = [];
        $V = $v;
        $v = [];
        $L = $impulse;
        $impulse = [];
        $P = $point;
        $point = [];
        $count = count($F) - 1;
        for ($c = 0, $k = 0; $c < $count; $c++, $k += 8) {
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $ma = $im[$a];
            $mb = $im[$b];
            $a *= 6;
            $b *= 6;
            $nx = $M[$k];
            $ny = $M[$k + 1];
            $nz = $M[$k + 2];
            $speed0 = $nx * ($V[$b] - $V[$a]) + $ny * ($V[$b + 1] - $V[$a + 1]) + $nz * ($V[$b + 2] - $V[$a + 2]);
            $ax = $V[$a + 3];
            $ay = $V[$a + 4];
            $az = $V[$a + 5];
            $bx = $V[$b + 3];
            $by = $V[$b + 4];
            $bz = $V[$b + 5];
            $way = $nx * ($D[$b] - $D[$a]) + $ny * ($D[$b + 1] - $D[$a + 1]) + $nz * ($D[$b + 2] - $D[$a + 2]);
            $ex = $D[$a + 3];
            $ey = $D[$a + 4];
            $ez = $D[$a + 5];
            $fx = $D[$b + 3];
            $fy = $D[$b + 4];
            $fz = $D[$b + 5];
            $mass = $ma + $mb;
            $sum = 0.0;
            $any = false;
            for ($i = $F[$c], $end = $F[$c + 1]; $i < $end; $i++) {
                $p = 12 * $i;
                $cx = $N[$p];
                $cy = $N[$p + 1];
                $cz = $N[$p + 2];
                $dx = $N[$p + 3];
                $dy = $N[$p + 4];
                $dz = $N[$p + 5];
                $speed = $speed0 + $dx * $bx + $dy * $by + $dz * $bz - $cx * $ax - $cy * $ay - $cz * $az;
                $old = $L[3 * $i];
                $gap = $P[$p + 6] + $way + $dx * $fx + $dy * $fy + $dz * $fz - $cx * $ex - $cy * $ey - $cz * $ez;
                $G[$i] = $gap;
                if ($gap > 0.0) {
                    $speed += $gap * $perStep;
                }
                $new = $old - $P[$p + 7] * $speed;
                if ($new <= 0.0) {
                    if ($old === 0.0) {
                        continue;
                    }
                    $new = 0.0;
                } elseif ($new > $P[$p + 11]) {
                    $P[$p + 11] = $new;
                }
                $any = true;
                $L[3 * $i] = $new;
                $l = $new - $old;
                $sum += $l;
                $speed0 += $l * $mass;
                $ax -= $l * $N[$p + 6];
                $ay -= $l * $N[$p + 7];
                $az -= $l * $N[$p + 8];
                $bx += $l * $N[$p + 9];
                $by += $l * $N[$p + 10];
                $bz += $l * $N[$p + 11];
            }
            if ($any) {
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
        }
        $v = $V;
        $impulse = $L;
        $point = $P;
        $gaps = $G;
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
            $i = $F[$c];
            $end = $F[$c + 1];
            while ($i < $end && $L[3 * $i] === 0.0 && $L[3 * $i + 1] === 0.0 && $L[3 * $i + 2] === 0.0) {
                $i++;
            }
            if ($i === $end) {
                continue;
            }
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
            $ma = $im[$a];
            $mb = $im[$b];
            $mass = $ma + $mb;
            $a *= 6;
            $b *= 6;
            $tx = $M[$k + 3];
            $ty = $M[$k + 4];
            $tz = $M[$k + 5];
            $sx = $M[$k + 1] * $tz - $M[$k + 2] * $ty;
            $sy = $M[$k + 2] * $tx - $M[$k] * $tz;
            $sz = $M[$k] * $ty - $M[$k + 1] * $tx;
            $mu = $M[$k + 6];
            $vx = $V[$b] - $V[$a];
            $vy = $V[$b + 1] - $V[$a + 1];
            $vz = $V[$b + 2] - $V[$a + 2];
            $ax = $V[$a + 3];
            $ay = $V[$a + 4];
            $az = $V[$a + 5];
            $bx = $V[$b + 3];
            $by = $V[$b + 4];
            $bz = $V[$b + 5];
            $lx = $ly = $lz = 0.0;
            for (; $i < $end; $i++) {
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
                $ux = $vx + $by * $qz - $bz * $qy - $ay * $rz + $az * $ry;
                $uy = $vy + $bz * $qx - $bx * $qz - $az * $rx + $ax * $rz;
                $uz = $vz + $bx * $qy - $by * $qx - $ax * $ry + $ay * $rx;
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
                $lx += $x;
                $ly += $y;
                $lz += $z;
                $vx += $mass * $x;
                $vy += $mass * $y;
                $vz += $mass * $z;
                $ux = $ry * $z - $rz * $y;
                $uy = $rz * $x - $rx * $z;
                $uz = $rx * $y - $ry * $x;
                $ax -= $ii[$a] * $ux + $ii[$a + 3] * $uy + $ii[$a + 5] * $uz;
                $ay -= $ii[$a + 3] * $ux + $ii[$a + 1] * $uy + $ii[$a + 4] * $uz;
                $az -= $ii[$a + 5] * $ux + $ii[$a + 4] * $uy + $ii[$a + 2] * $uz;
                $ux = $qy * $z - $qz * $y;
                $uy = $qz * $x - $qx * $z;
                $uz = $qx * $y - $qy * $x;
                $bx += $ii[$b] * $ux + $ii[$b + 3] * $uy + $ii[$b + 5] * $uz;
                $by += $ii[$b + 3] * $ux + $ii[$b + 1] * $uy + $ii[$b + 4] * $uz;
                $bz += $ii[$b + 5] * $ux + $ii[$b + 4] * $uy + $ii[$b + 2] * $uz;
            }
            $V[$a] -= $ma * $lx;
            $V[$a + 1] -= $ma * $ly;
            $V[$a + 2] -= $ma * $lz;
            $V[$a + 3] = $ax;
            $V[$a + 4] = $ay;
            $V[$a + 5] = $az;
            $V[$b] += $mb * $lx;
            $V[$b + 1] += $mb * $ly;
            $V[$b + 2] += $mb * $lz;
            $V[$b + 3] = $bx;
            $V[$b + 4] = $by;
            $V[$b + 5] = $bz;
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
        $hits = [];
        $count = count($this->first) - 1;
        $P = $this->point;
        for ($c = 0; $c < $count; $c++) {
            if ($this->manifold[self::STRIDE * $c + 7] > 0.0) {
                for ($i = $this->first[$c], $end = $this->first[$c + 1]; $i < $end; $i++) {
                    if ($P[12 * $i + 10] <= -RigidTuning::BOUNCE_THRESHOLD && $P[12 * $i + 11] !== 0.0) {
                        $hits[] = $c;
                        $hits[] = $i;
                    }
                }
            }
        }
        if ($hits === []) {
            return;
        }
        $N = $this->row;
        $M = $this->manifold;
        $B = $this->bodies;
        $L = $this->impulse;
        $this->impulse = [];
        $V = $v;
        $v = [];
        $end = count($hits);
        // A face that lands flat bounces by several points, which must agree.
        for ($sweep = 0; $sweep < RigidTuning::BOUNCE_SWEEPS; $sweep++) {
            for ($s = 0; $s < $end; $s += 2) {
                $c = $hits[$s];
                $i = $hits[$s + 1];
                $p = 12 * $i;
                $k = 8 * $c;
                $a = $B[2 * $c];
                $b = $B[2 * $c + 1];
                $ma = $im[$a];
                $mb = $im[$b];
                $a *= 6;
                $b *= 6;
                $nx = $M[$k];
                $ny = $M[$k + 1];
                $nz = $M[$k + 2];
                $speed = $nx * ($V[$b] - $V[$a]) + $ny * ($V[$b + 1] - $V[$a + 1]) + $nz * ($V[$b + 2] - $V[$a + 2])
                    + $N[$p + 3] * $V[$b + 3] + $N[$p + 4] * $V[$b + 4] + $N[$p + 5] * $V[$b + 5]
                    - $N[$p] * $V[$a + 3] - $N[$p + 1] * $V[$a + 4] - $N[$p + 2] * $V[$a + 5];
                $old = $L[3 * $i];
                $new = $old - $P[$p + 7] * ($speed + $M[$k + 7] * $P[$p + 10]);
                if ($new < 0.0) {
                    $new = 0.0;
                }
                $L[3 * $i] = $new;
                $l = $new - $old;
                $V[$a] -= $l * $ma * $nx;
                $V[$a + 1] -= $l * $ma * $ny;
                $V[$a + 2] -= $l * $ma * $nz;
                $V[$a + 3] -= $l * $N[$p + 6];
                $V[$a + 4] -= $l * $N[$p + 7];
                $V[$a + 5] -= $l * $N[$p + 8];
                $V[$b] += $l * $mb * $nx;
                $V[$b + 1] += $l * $mb * $ny;
                $V[$b + 2] += $l * $mb * $nz;
                $V[$b + 3] += $l * $N[$p + 9];
                $V[$b + 4] += $l * $N[$p + 10];
                $V[$b + 5] += $l * $N[$p + 11];
            }
        }
        $v = $V;
        $this->impulse = $L;
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
