<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Moves and turns free bodies. The spin is carried as angular momentum: the turn uses the spin at the middle of the substep
 * and the new spin follows from the momentum, which therefore stays what it was to the last digits, also for pieces that
 * tumble about their middle axis.
 */
final class Integrator
{
    /** Largest turn in a substep, radians; faster spins are cut down to it, whether they came or were found on the way. */
    private const LARGEST_TURN = 0.8;

    /**
     * Energy of turning may grow by this much in a substep. A splinter that tumbles faster than the substep can follow would
     * otherwise find itself with its momentum about its thin axis, about which it turns a thousand times as fast.
     */
    private const ENERGY = 1.0001;

    /**
     * @param array<int, float> $p three numbers a body: centre of mass
     * @param array<int, float> $q four numbers a body
     * @param array<int, float> $v six numbers a body: velocity, spin
     * @param array<int, float> $moved six numbers a body: way and turn since the step began
     * @param array<int, float> $inertia in the body's axes, xx yy zz xy yz zx
     * @param array<int, float> $inverse its inverse
     * @param list<int> $free the bodies to move
     */
    public static function move(array &$p, array &$q, array &$v, array &$moved, array $inertia, array $inverse, array $free, float $h): void
    {
        $P = $p;
        $p = [];
        $Q = $q;
        $q = [];
        $V = $v;
        $v = [];
        $D = $moved;
        $moved = [];
        $largest = self::LARGEST_TURN / $h;
        foreach ($free as $b) {
            $o = 6 * $b;
            $k = 3 * $b;
            $dx = $h * $V[$o];
            $dy = $h * $V[$o + 1];
            $dz = $h * $V[$o + 2];
            $P[$k] += $dx;
            $P[$k + 1] += $dy;
            $P[$k + 2] += $dz;
            $D[$o] += $dx;
            $D[$o + 1] += $dy;
            $D[$o + 2] += $dz;
            $wx = $V[$o + 3];
            $wy = $V[$o + 4];
            $wz = $V[$o + 5];
            $s = $wx * $wx + $wy * $wy + $wz * $wz;
            if ($s === 0.0) {
                continue;
            }
            if ($s > $largest * $largest) {
                $s = $largest / sqrt($s);
                $wx *= $s;
                $wy *= $s;
                $wz *= $s;
            }
            $k = 4 * $b;
            $x = $Q[$k];
            $y = $Q[$k + 1];
            $z = $Q[$k + 2];
            $w = $Q[$k + 3];
            $ixx = $inertia[$o];
            $iyy = $inertia[$o + 1];
            $izz = $inertia[$o + 2];
            $ixy = $inertia[$o + 3];
            $iyz = $inertia[$o + 4];
            $izx = $inertia[$o + 5];
            // Angular momentum: spin into the body's axes, times inertia, back into the world's.
            $ax = 2.0 * ($y * $wz - $z * $wy);
            $ay = 2.0 * ($z * $wx - $x * $wz);
            $az = 2.0 * ($x * $wy - $y * $wx);
            $bx = $wx - $w * $ax + $y * $az - $z * $ay;
            $by = $wy - $w * $ay + $z * $ax - $x * $az;
            $bz = $wz - $w * $az + $x * $ay - $y * $ax;
            $cx = $ixx * $bx + $ixy * $by + $izx * $bz;
            $cy = $ixy * $bx + $iyy * $by + $iyz * $bz;
            $cz = $izx * $bx + $iyz * $by + $izz * $bz;
            $ax = 2.0 * ($y * $cz - $z * $cy);
            $ay = 2.0 * ($z * $cx - $x * $cz);
            $az = 2.0 * ($x * $cy - $y * $cx);
            $lx = $cx + $w * $ax + $y * $az - $z * $ay;
            $ly = $cy + $w * $ay + $z * $ax - $x * $az;
            $lz = $cz + $w * $az + $x * $ay - $y * $ax;
            $energy = self::ENERGY * ($wx * $lx + $wy * $ly + $wz * $lz);
            // Half a substep ahead with the present spin, then the whole one with the spin found there.
            for ($pass = 0; $pass < 2; $pass++) {
                $t = $pass === 0 ? 0.25 * $h : 0.5 * $h;
                $ax = $t * $wx;
                $ay = $t * $wy;
                $az = $t * $wz;
                $nx = $x + $ax * $w + $ay * $z - $az * $y;
                $ny = $y + $ay * $w + $az * $x - $ax * $z;
                $nz = $z + $az * $w + $ax * $y - $ay * $x;
                $nw = $w - $ax * $x - $ay * $y - $az * $z;
                $s = 1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz + $nw * $nw);
                $nx *= $s;
                $ny *= $s;
                $nz *= $s;
                $nw *= $s;
                if ($pass === 1) {
                    $D[$o + 3] += $h * $wx;
                    $D[$o + 4] += $h * $wy;
                    $D[$o + 5] += $h * $wz;
                }
                $ax = 2.0 * ($ny * $lz - $nz * $ly);
                $ay = 2.0 * ($nz * $lx - $nx * $lz);
                $az = 2.0 * ($nx * $ly - $ny * $lx);
                $bx = $lx - $nw * $ax + $ny * $az - $nz * $ay;
                $by = $ly - $nw * $ay + $nz * $ax - $nx * $az;
                $bz = $lz - $nw * $az + $nx * $ay - $ny * $ax;
                $cx = $inverse[$o] * $bx + $inverse[$o + 3] * $by + $inverse[$o + 5] * $bz;
                $cy = $inverse[$o + 3] * $bx + $inverse[$o + 1] * $by + $inverse[$o + 4] * $bz;
                $cz = $inverse[$o + 5] * $bx + $inverse[$o + 4] * $by + $inverse[$o + 2] * $bz;
                $ax = 2.0 * ($ny * $cz - $nz * $cy);
                $ay = 2.0 * ($nz * $cx - $nx * $cz);
                $az = 2.0 * ($nx * $cy - $ny * $cx);
                $wx = $cx + $nw * $ax + $ny * $az - $nz * $ay;
                $wy = $cy + $nw * $ay + $nz * $ax - $nx * $az;
                $wz = $cz + $nw * $az + $nx * $ay - $ny * $ax;
                $s = $wx * $lx + $wy * $ly + $wz * $lz;
                $s = $s > $energy ? $energy / $s : 1.0;
                $t = $wx * $wx + $wy * $wy + $wz * $wz;
                if ($s * $t > $largest * $largest) {
                    $s = $largest * $largest / $t;
                }
                if ($s < 1.0) {
                    $s = sqrt($s);
                    $wx *= $s;
                    $wy *= $s;
                    $wz *= $s;
                }
            }
            $Q[$k] = $nx;
            $Q[$k + 1] = $ny;
            $Q[$k + 2] = $nz;
            $Q[$k + 3] = $nw;
            $V[$o + 3] = $wx;
            $V[$o + 4] = $wy;
            $V[$o + 5] = $wz;
        }
        $p = $P;
        $q = $Q;
        $v = $V;
        $moved = $D;
    }

    /**
     * Inverse inertia of each body in the world: R I^-1 R^T.
     *
     * @param array<int, float> $rotation nine numbers a body, row by row
     * @param array<int, float> $inverse
     * @param list<int> $bodies
     * @param array<int, float> $world written: six numbers a body
     */
    public static function worldInverse(array $rotation, array $inverse, array $bodies, array &$world): void
    {
        foreach ($bodies as $b) {
            $o = 6 * $b;
            $k = 9 * $b;
            $xx = $inverse[$o];
            $yy = $inverse[$o + 1];
            $zz = $inverse[$o + 2];
            $xy = $inverse[$o + 3];
            $yz = $inverse[$o + 4];
            $zx = $inverse[$o + 5];
            $r0 = $rotation[$k];
            $r1 = $rotation[$k + 1];
            $r2 = $rotation[$k + 2];
            $r3 = $rotation[$k + 3];
            $r4 = $rotation[$k + 4];
            $r5 = $rotation[$k + 5];
            $r6 = $rotation[$k + 6];
            $r7 = $rotation[$k + 7];
            $r8 = $rotation[$k + 8];
            $ax = $r0 * $xx + $r1 * $xy + $r2 * $zx;
            $ay = $r0 * $xy + $r1 * $yy + $r2 * $yz;
            $az = $r0 * $zx + $r1 * $yz + $r2 * $zz;
            $bx = $r3 * $xx + $r4 * $xy + $r5 * $zx;
            $by = $r3 * $xy + $r4 * $yy + $r5 * $yz;
            $bz = $r3 * $zx + $r4 * $yz + $r5 * $zz;
            $cx = $r6 * $xx + $r7 * $xy + $r8 * $zx;
            $cy = $r6 * $xy + $r7 * $yy + $r8 * $yz;
            $cz = $r6 * $zx + $r7 * $yz + $r8 * $zz;
            $world[$o] = $ax * $r0 + $ay * $r1 + $az * $r2;
            $world[$o + 1] = $bx * $r3 + $by * $r4 + $bz * $r5;
            $world[$o + 2] = $cx * $r6 + $cy * $r7 + $cz * $r8;
            $world[$o + 3] = $ax * $r3 + $ay * $r4 + $az * $r5;
            $world[$o + 4] = $bx * $r6 + $by * $r7 + $bz * $r8;
            $world[$o + 5] = $cx * $r0 + $cy * $r1 + $cz * $r2;
        }
    }
}
