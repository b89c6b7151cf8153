<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Gives the bodies the impulses of the substep before, as a first guess for the next. A guess that would throw a body is worse
 * than none: a splinter between heavy pieces has turned since, and two sweeps do not take back what pressed it from all sides.
 */
final class WarmStart
{
    /**
     * @param array<int, float> $v six numbers a body: velocity, spin
     * @param array<int, float> $im inverse masses
     * @param array<int, float> $ii inverse inertia in the world, xx yy zz xy yz zx a body
     * @param list<int> $moving bodies that move by themselves
     * @param array<int, float> $radius farthest point of each body from its centre, m
     */
    public static function give(ContactSolver $solver, array &$v, array $im, array $ii, array $moving, array $radius): void
    {
        $gain = self::gain($solver, $im, $ii);
        $thrown = self::thrown($gain, $moving, $radius);
        if ($thrown !== []) {
            self::forget($solver, $thrown);
            $gain = self::gain($solver, $im, $ii);
        }
        $V = $v;
        $v = [];
        foreach ($moving as $b) {
            $o = 6 * $b;
            $V[$o] += $gain[$o];
            $V[$o + 1] += $gain[$o + 1];
            $V[$o + 2] += $gain[$o + 2];
            $V[$o + 3] += $gain[$o + 3];
            $V[$o + 4] += $gain[$o + 4];
            $V[$o + 5] += $gain[$o + 5];
        }
        $v = $V;
    }

    /**
     * @param array<int, float> $gain six numbers a body
     * @param list<int> $moving
     * @param array<int, float> $radius
     *
     * @return array<int, true> bodies of which a point would get faster than anything but a blow makes it
     */
    private static function thrown(array $gain, array $moving, array $radius): array
    {
        $thrown = [];
        foreach ($moving as $b) {
            $o = 6 * $b;
            $x = $gain[$o];
            $y = $gain[$o + 1];
            $z = $gain[$o + 2];
            $u = $gain[$o + 3];
            $v = $gain[$o + 4];
            $w = $gain[$o + 5];
            $r = $radius[$b];
            if ($x * $x + $y * $y + $z * $z + $r * $r * ($u * $u + $v * $v + $w * $w) > RigidTuning::WARMEST * RigidTuning::WARMEST) {
                $thrown[$b] = true;
            }
        }

        return $thrown;
    }

    /** @param array<int, true> $thrown */
    private static function forget(ContactSolver $solver, array $thrown): void
    {
        for ($c = 0, $end = count($solver->first) - 1; $c < $end; $c++) {
            if (isset($thrown[$solver->bodies[2 * $c]]) || isset($thrown[$solver->bodies[2 * $c + 1]])) {
                for ($k = 3 * $solver->first[$c], $last = 3 * $solver->first[$c + 1]; $k < $last; $k++) {
                    $solver->impulse[$k] = 0.0;
                }
            }
        }
    }

    /**
     * @param array<int, float> $im
     * @param array<int, float> $ii
     *
     * @return array<int, float> what the impulses add to velocity and spin, six numbers a body
     */
    private static function gain(ContactSolver $solver, array $im, array $ii): array
    {
        $V = array_fill(0, count($ii), 0.0);
        $P = $solver->point;
        $M = $solver->manifold;
        $L = $solver->impulse;
        $F = $solver->first;
        $B = $solver->bodies;
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
            for (; $i < $end; $i++) {
                $l = $L[3 * $i];
                $m = $L[3 * $i + 1];
                $n = $L[3 * $i + 2];
                if ($l === 0.0 && $m === 0.0 && $n === 0.0) {
                    continue;
                }
                $p = 12 * $i;
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
            $a = $B[2 * $c];
            $b = $B[2 * $c + 1];
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

        return $V;
    }
}
