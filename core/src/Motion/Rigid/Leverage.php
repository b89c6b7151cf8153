<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Math\Vector;

/**
 * Where a body of pieces would break by its own weight and motion: what sticks out freely must be carried along through a cut
 * across the body, by a force and a moment, which the bonds there share as those of a bent beam do (Timoshenko, Strength of
 * Materials I, 1930: plane sections stay plane; a square bond of area A has the section modulus A^1.5 / 6). The bonds of the
 * cut that is worst off break together, if one of them is pulled or sheared by more than it holds.
 *
 * Of a side which touches nothing it is known from how the body moves what acts on it; between two sides that both touch something
 * {@see Supports} says what goes through. Cuts are across the three axes of the prop, between pieces in their order along it.
 *
 * Cost: pieces, and cuts times the bonds in each.
 */
final class Leverage
{
    /** At most so many cuts along each axis, evenly among the pieces. */
    private const CUTS = 32;

    /**
     * All places and directions in the body's own axes, from its centre.
     *
     * @param list<int> $pieces
     * @param array<int, array{float, float, float}> $at by piece, m
     * @param array<int, float> $mass by piece, kg
     * @param array<int, true> $touched pieces that something presses or pulls on
     * @param array{float, float, float} $acceleration of the centre, less what acts on all of it alike, m/s2
     * @param array{float, float, float} $turning acceleration of the spin, 1/s2
     * @param array{float, float, float} $spin 1/s
     * @param list<array{int, int, int, float, float, float}> $bonds number, the two pieces, stiffness in any unit, what it holds, N, area, m2
     * @param list<array{int, array{float, float, float}, array{float, float, float}}>|null $presses piece, place and force, N, of each that presses on it; null: that is not known of all
     *
     * @return list<int> numbers of the bonds that break
     */
    public static function breaks(array $pieces, array $at, array $mass, array $touched, array $acceleration, array $turning, array $spin, array $bonds, ?array $presses = null): array
    {
        $loads = [];
        $all = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach ($pieces as $k) {
            $a = Vector::plus($acceleration, Vector::plus(Vector::cross($turning, $at[$k]), Vector::cross($spin, Vector::cross($spin, $at[$k]))));
            $force = [$mass[$k] * $a[0], $mass[$k] * $a[1], $mass[$k] * $a[2]];
            $loads[$k] = [...$force, ...Vector::cross($at[$k], $force)];
            foreach ($loads[$k] as $i => $part) {
                $all[$i] += $part;
            }
        }
        $supports = Supports::of($presses ?? [], $all);
        $of = [];
        foreach ($bonds as $n => $bond) {
            $of[$bond[1]][] = $n;
            $of[$bond[2]][] = $n;
        }
        $every = max(1, (int) ceil((count($pieces) - 1) / self::CUTS));
        $worst = 1.0;
        $breaks = [];
        foreach ([0, 1, 2] as $axis) {
            $order = $pieces;
            usort($order, static fn (int $p, int $q): int => $at[$p][$axis] <=> $at[$q][$axis] ?: $p <=> $q);
            $cut = $side = [];
            $load = $pressed = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
            $touches = 0;
            foreach (array_slice($order, 0, -1) as $place => $k) {
                $side[$k] = true;
                foreach ($loads[$k] as $i => $part) {
                    $load[$i] += $part;
                }
                foreach ($supports?->on($k) ?? [] as $i => $part) {
                    $pressed[$i] += $part;
                }
                $touches += isset($touched[$k]) ? 1 : 0;
                foreach ($of[$k] ?? [] as $n) {
                    // One that has come to lie within one side is not cut any more.
                    if (isset($cut[$n])) {
                        unset($cut[$n]);
                    } else {
                        $cut[$n] = true;
                    }
                }
                if ($place % $every !== 0) {
                    continue;
                }
                $across = array_intersect_key($bonds, $cut);
                $free = $touches < count($touched);
                if ($touches > 0 && $free) {
                    $both = array_map(static fn (float $own, float $more): float => $own + $more, $load, $pressed);
                    $carried = $across === [] ? null : $supports?->through($axis, $side, $both, self::middle($across, $at));
                } else {
                    $carried = $free ? $load : array_map(static fn (float $whole, float $part): float => $whole - $part, $all, $load);
                }
                $ratio = $carried === null ? 0.0 : self::ratio($across, $at, $side, $free, $carried);
                if ($ratio > $worst) {
                    $worst = $ratio;
                    $breaks = array_map(static fn (int $n): int => $bonds[$n][0], array_keys($cut));
                }
            }
        }

        return $breaks;
    }

    /**
     * How much the worst bond of a cut has to bear, in parts of what it holds.
     *
     * @param array<int, array{int, int, int, float, float, float}> $bonds
     * @param array<int, array{float, float, float}> $at
     * @param array<int, true> $side pieces on one side
     * @param bool $free whether that is the side which is carried; else it is the other
     * @param array<int, float> $carried force that is to get to the free side, and moment about the body's centre
     */
    private static function ratio(array $bonds, array $at, array $side, bool $free, array $carried): float
    {
        [$fx, $fy, $fz, $mx, $my, $mz] = [$carried[0], $carried[1], $carried[2], $carried[3], $carried[4], $carried[5]];
        $all = $own = 0.0;
        foreach ($bonds as [, , , $stiff, , $area]) {
            $all += $stiff;
            $own += $stiff * $area / 12.0;
        }
        if ($all <= 0.0) {
            return 0.0;
        }
        [$cx, $cy, $cz] = self::middle($bonds, $at);
        $xx = $yy = $zz = $own;
        $xy = $yz = $zx = 0.0;
        foreach ($bonds as [, $a, $b, $stiff]) {
            $x = 0.5 * ($at[$a][0] + $at[$b][0]) - $cx;
            $y = 0.5 * ($at[$a][1] + $at[$b][1]) - $cy;
            $z = 0.5 * ($at[$a][2] + $at[$b][2]) - $cz;
            $xx += $stiff * ($y * $y + $z * $z);
            $yy += $stiff * ($z * $z + $x * $x);
            $zz += $stiff * ($x * $x + $y * $y);
            $xy -= $stiff * $x * $y;
            $yz -= $stiff * $y * $z;
            $zx -= $stiff * $z * $x;
        }
        [$tx, $ty, $tz] = self::solve([$xx, $yy, $zz, $xy, $yz, $zx], [$mx - $cy * $fz + $cz * $fy, $my - $cz * $fx + $cx * $fz, $mz - $cx * $fy + $cy * $fx]);
        $worst = 0.0;
        foreach ($bonds as [, $a, $b, $stiff, $holds, $area]) {
            $x = 0.5 * ($at[$a][0] + $at[$b][0]) - $cx;
            $y = 0.5 * ($at[$a][1] + $at[$b][1]) - $cy;
            $z = 0.5 * ($at[$a][2] + $at[$b][2]) - $cz;
            $px = $stiff * ($fx / $all + $ty * $z - $tz * $y);
            $py = $stiff * ($fy / $all + $tz * $x - $tx * $z);
            $pz = $stiff * ($fz / $all + $tx * $y - $ty * $x);
            // From the free side to the other: a force that way pulls the bond apart.
            [$nx, $ny, $nz] = isset($side[$a]) === $free ? Vector::minus($at[$b], $at[$a]) : Vector::minus($at[$a], $at[$b]);
            $s = 1.0 / max(1e-300, sqrt($nx * $nx + $ny * $ny + $nz * $nz));
            [$nx, $ny, $nz] = [$s * $nx, $s * $ny, $s * $nz];
            $along = $px * $nx + $py * $ny + $pz * $nz;
            $twist = $tx * $nx + $ty * $ny + $tz * $nz;
            $edge = 0.5 * sqrt($area) * $stiff;
            $pull = $along + $edge * sqrt(max(0.0, $tx * $tx + $ty * $ty + $tz * $tz - $twist * $twist));
            $shear = sqrt(max(0.0, $px * $px + $py * $py + $pz * $pz - $along * $along)) + $edge * abs($twist);
            $bears = ($pull > $shear ? $pull : $shear) / max(1e-300, $holds);
            $worst = $bears > $worst ? $bears : $worst;
        }

        return $worst;
    }

    /**
     * @param array<int, array{int, int, int, float, float, float}> $bonds
     * @param array<int, array{float, float, float}> $at
     *
     * @return array{float, float, float} the middle of a cut, each bond by its stiffness
     */
    private static function middle(array $bonds, array $at): array
    {
        $all = $x = $y = $z = 0.0;
        foreach ($bonds as [, $a, $b, $stiff]) {
            $half = 0.5 * $stiff;
            $x += $half * ($at[$a][0] + $at[$b][0]);
            $y += $half * ($at[$a][1] + $at[$b][1]);
            $z += $half * ($at[$a][2] + $at[$b][2]);
            $all += $stiff;
        }
        $per = 1.0 / max(1e-300, $all);

        return [$per * $x, $per * $y, $per * $z];
    }

    /**
     * @param array{float, float, float, float, float, float} $of xx, yy, zz, xy, yz, zx of a symmetric matrix
     * @param array{float, float, float} $right
     *
     * @return array{float, float, float} by Cramer's rule
     */
    private static function solve(array $of, array $right): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = $of;
        $rows = [[$xx, $xy, $zx], [$xy, $yy, $yz], [$zx, $yz, $zz]];
        $determinant = Vector::dot($rows[0], Vector::cross($rows[1], $rows[2]));
        if ($determinant <= 0.0) {
            return [0.0, 0.0, 0.0];
        }

        return [
            Vector::dot($right, Vector::cross($rows[1], $rows[2])) / $determinant,
            Vector::dot($rows[0], Vector::cross($right, $rows[2])) / $determinant,
            Vector::dot($rows[0], Vector::cross($rows[1], $right)) / $determinant,
        ];
    }
}
