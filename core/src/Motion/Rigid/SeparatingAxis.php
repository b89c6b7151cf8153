<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * The directions that may keep two convex hulls apart: faces of either, and pairs of edges, the latter pruned by the Gauss
 * map (Gregorius 2013, "The Separating Axis Test between Convex Polyhedra").
 *
 * A direction n can only keep the hulls farther apart than g if the ball inside one is farther than g from the other: faces and
 * edges along which it is not, or along which a corner known to be near is not, are left out. That changes no result, but by as
 * little as a face's corners lie beside its plane.
 */
final class SeparatingAxis
{
    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    public static function lowest(array $x, array $y, array $z, float $nx, float $ny, float $nz): float
    {
        $low = INF;
        foreach ($x as $i => $px) {
            $h = $nx * $px + $ny * $y[$i] + $nz * $z[$i];
            if ($h < $low) {
                $low = $h;
            }
        }

        return $low;
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    public static function lowestAt(array $x, array $y, array $z, float $nx, float $ny, float $nz): int
    {
        $low = INF;
        $at = 0;
        foreach ($x as $i => $px) {
            $h = $nx * $px + $ny * $y[$i] + $nz * $z[$i];
            if ($h < $low) {
                $low = $h;
                $at = $i;
            }
        }

        return $at;
    }

    /**
     * The face of a hull that keeps another farthest away.
     *
     * @param float $r0 from the hull's axes into the other's, row by row
     * @param float $tx from the hull's centre to the other's, in its axes
     *
     * @return array{int, float, list<float>, int} face, gap, each face's normal times t, the other's corner that is nearest to it
     */
    public static function bestFace(
        ConvexHull $own,
        ConvexHull $other,
        float $r0,
        float $r1,
        float $r2,
        float $r3,
        float $r4,
        float $r5,
        float $r6,
        float $r7,
        float $r8,
        float $tx,
        float $ty,
        float $tz,
    ): array {
        $NX = $own->nx;
        $NY = $own->ny;
        $NZ = $own->nz;
        $D = $own->d;
        $T = [];
        $most = -INF;
        $first = 0;
        foreach ($NX as $f => $nx) {
            $T[] = $h = $nx * $tx + $NY[$f] * $ty + $NZ[$f] * $tz;
            $h -= $D[$f];
            if ($h > $most) {
                $most = $h;
                $first = $f;
            }
        }
        $x = $other->x;
        $y = $other->y;
        $z = $other->z;
        $n = count($x);
        $core = $other->core;
        $best = -INF;
        $face = 0;
        $corner = 0;
        $faces = count($D);
        for ($s = -1; $s < $faces; $s++) {
            $f = $s < 0 ? $first : $s;
            $shift = $T[$f] - $D[$f];
            if ($shift - $core <= $best || $s === $first) {
                continue;
            }
            $nx = $NX[$f];
            $ny = $NY[$f];
            $nz = $NZ[$f];
            $u = $r0 * $nx + $r1 * $ny + $r2 * $nz;
            $v = $r3 * $nx + $r4 * $ny + $r5 * $nz;
            $w = $r6 * $nx + $r7 * $ny + $r8 * $nz;
            $stop = $best - $shift;
            // What is nearest to the best face is mostly too near to the others.
            if ($u * $x[$corner] + $v * $y[$corner] + $w * $z[$corner] <= $stop) {
                continue;
            }
            $low = INF;
            $at = 0;
            for ($i = 0; $i < $n; $i++) {
                $h = $u * $x[$i] + $v * $y[$i] + $w * $z[$i];
                if ($h < $low) {
                    $low = $h;
                    $at = $i;
                    if ($low <= $stop) {
                        break;
                    }
                }
            }
            $low += $shift;
            if ($low > $best) {
                $best = $low;
                $face = $f;
                $corner = $at;
            }
        }

        return [$face, $best, $T, $corner];
    }

    /**
     * Edges along whose normals (the arc between the faces beside them) another hull can be farther away than a gap: with a place
     * in it farther than $least, and with its centre farther than $limit.
     *
     * @param list<float> $T n . t of each face, t the other's centre
     * @param float $limit the gap and the radius of the ball inside the other
     * @param float $px a place in the other, best where it is near
     *
     * @return list<int>
     */
    public static function edgesTowards(ConvexHull $hull, array $T, float $tx, float $ty, float $tz, float $limit, float $px, float $py, float $pz, float $least): array
    {
        $NY = $hull->ny;
        $NZ = $hull->nz;
        $D = $hull->d;
        $S = [];
        foreach ($hull->nx as $f => $nx) {
            $S[] = $nx * $px + $NY[$f] * $py + $NZ[$f] * $pz - $D[$f];
        }
        $R = $hull->right;
        $B = $hull->bend;
        $edges = [];
        foreach ($hull->left as $i => $f) {
            $g = $R[$i];
            $p = $S[$f];
            $q = $S[$g];
            if ($p <= $least && $q <= $least) {
                $bend = $B[$i];
                if ($least <= 0.0 || $q <= $bend * $p || $p <= $bend * $q || ! self::isFarther($hull, $i, $px, $py, $pz, $least)) {
                    continue;
                }
            }
            $p = $T[$f] - $D[$f];
            $q = $T[$g] - $D[$g];
            if ($p <= $limit && $q <= $limit) {
                $bend = $B[$i];
                if ($limit <= 0.0 || $q <= $bend * $p || $p <= $bend * $q || ! self::isFarther($hull, $i, $tx, $ty, $tz, $limit)) {
                    continue;
                }
            }
            $edges[] = $i;
        }

        return $edges;
    }

    /** Whether a place is farther from the line of an edge than that: so far it is along the normal of the arc that points to it. */
    private static function isFarther(ConvexHull $hull, int $edge, float $x, float $y, float $z, float $far): bool
    {
        $k = $hull->from[$edge];
        $x -= $hull->x[$k];
        $y -= $hull->y[$k];
        $z -= $hull->z[$k];
        $h = $x * $hull->ex[$edge] + $y * $hull->ey[$edge] + $z * $hull->ez[$edge];

        return $x * $x + $y * $y + $z * $z - $h * $h > $far * $far;
    }

    /**
     * @param list<int> $edgesA
     * @param list<int> $edgesB
     * @param list<float> $pose
     *
     * @return array{int, int, float, float, float, float} edges (-1: none above $best), gap, normal from a to b
     */
    public static function bestEdges(ConvexHull $a, ConvexHull $b, array $edgesA, array $edgesB, array $pose, float $margin, float $best): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        $VX = $VY = $VZ = $LX = $LY = $LZ = $RX = $RY = $RZ = $QX = $QY = $QZ = [];
        $NX = $b->nx;
        $NY = $b->ny;
        $NZ = $b->nz;
        foreach ($edgesB as $j) {
            $x = $b->ex[$j];
            $y = $b->ey[$j];
            $z = $b->ez[$j];
            $VX[] = $m0 * $x + $m1 * $y + $m2 * $z;
            $VY[] = $m3 * $x + $m4 * $y + $m5 * $z;
            $VZ[] = $m6 * $x + $m7 * $y + $m8 * $z;
            $f = $b->left[$j];
            $x = $NX[$f];
            $y = $NY[$f];
            $z = $NZ[$f];
            $LX[] = $m0 * $x + $m1 * $y + $m2 * $z;
            $LY[] = $m3 * $x + $m4 * $y + $m5 * $z;
            $LZ[] = $m6 * $x + $m7 * $y + $m8 * $z;
            $f = $b->right[$j];
            $x = $NX[$f];
            $y = $NY[$f];
            $z = $NZ[$f];
            $RX[] = $m0 * $x + $m1 * $y + $m2 * $z;
            $RY[] = $m3 * $x + $m4 * $y + $m5 * $z;
            $RZ[] = $m6 * $x + $m7 * $y + $m8 * $z;
            $f = $b->from[$j];
            $x = $b->x[$f];
            $y = $b->y[$f];
            $z = $b->z[$f];
            $QX[] = $m0 * $x + $m1 * $y + $m2 * $z + $tx;
            $QY[] = $m3 * $x + $m4 * $y + $m5 * $z + $ty;
            $QZ[] = $m6 * $x + $m7 * $y + $m8 * $z + $tz;
        }
        $countB = count($edgesB);
        $edgeA = $edgeB = -1;
        $bestX = $bestY = $bestZ = 0.0;
        $NX = $a->nx;
        $NY = $a->ny;
        $NZ = $a->nz;
        foreach ($edgesA as $i) {
            $ux = $a->ex[$i];
            $uy = $a->ey[$i];
            $uz = $a->ez[$i];
            $f = $a->left[$i];
            $fx = $NX[$f];
            $fy = $NY[$f];
            $fz = $NZ[$f];
            $f = $a->right[$i];
            $gx = $NX[$f];
            $gy = $NY[$f];
            $gz = $NZ[$f];
            $f = $a->from[$i];
            $px = $a->x[$f];
            $py = $a->y[$f];
            $pz = $a->z[$f];
            for ($j = 0; $j < $countB; $j++) {
                $k = $ux * $LX[$j] + $uy * $LY[$j] + $uz * $LZ[$j];
                if ($k * ($ux * $RX[$j] + $uy * $RY[$j] + $uz * $RZ[$j]) >= 0.0) {
                    continue;
                }
                $vx = $VX[$j];
                $vy = $VY[$j];
                $vz = $VZ[$j];
                $s = $gx * $vx + $gy * $vy + $gz * $vz;
                if ($k * $s >= 0.0 || ($fx * $vx + $fy * $vy + $fz * $vz) * $s >= 0.0) {
                    continue;
                }
                $nx = $uy * $vz - $uz * $vy;
                $ny = $uz * $vx - $ux * $vz;
                $nz = $ux * $vy - $uy * $vx;
                $l = $nx * $nx + $ny * $ny + $nz * $nz;
                if ($l < 1e-4) {
                    continue;
                }
                // Outwards of a: the arc between its faces' normals contains the axis.
                $l = 1.0 / ($nx * ($fx + $gx) + $ny * ($fy + $gy) + $nz * ($fz + $gz) < 0.0 ? -sqrt($l) : sqrt($l));
                $h = ($nx * ($QX[$j] - $px) + $ny * ($QY[$j] - $py) + $nz * ($QZ[$j] - $pz)) * $l;
                if ($h > $best) {
                    $nx *= $l;
                    $ny *= $l;
                    $nz *= $l;
                    // Very short edges can pass the test without bounding the hulls: trust only what the corners say.
                    $real = self::lowest($b->x, $b->y, $b->z, $m0 * $nx + $m3 * $ny + $m6 * $nz, $m1 * $nx + $m4 * $ny + $m7 * $nz, $m2 * $nx + $m5 * $ny + $m8 * $nz)
                        + $nx * $tx + $ny * $ty + $nz * $tz + self::lowest($a->x, $a->y, $a->z, -$nx, -$ny, -$nz);
                    if ($real < $h) {
                        $h = $real;
                        if ($h <= $best) {
                            continue;
                        }
                    }
                    $best = $h;
                    $edgeA = $i;
                    $edgeB = $edgesB[$j];
                    $bestX = $nx;
                    $bestY = $ny;
                    $bestZ = $nz;
                    if ($best > $margin) {
                        break 2;
                    }
                }
            }
        }

        return [$edgeA, $edgeB, $best, $bestX, $bestY, $bestZ];
    }
}
