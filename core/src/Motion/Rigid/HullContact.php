<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Contact between two convex hulls: separating axes over faces and edge pairs, the latter pruned by the Gauss map
 * (Gregorius 2013, "The Separating Axis Test between Convex Polyhedra"), then the contact points by clipping the faces
 * against each other. The best axis of the last time is tried first, so pairs that stay apart cost one projection.
 *
 * Cost: about 1 us for a pair that stays apart, 30 to 60 us for a full search on hulls of 25 vertices.
 */
final class HullContact
{
    /**
     * Finds the contact points of a pair and stores them in it. Everything is computed in a's axes.
     *
     * @param list<float> $pose rotation of b in a's axes (row by row), then the vector from a's centre to b's
     * @param float $margin points closer than this count as contacts, m
     */
    public static function find(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $pose, float $margin): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        if ($pair->axisKind === 1) {
            $f = $pair->axisA;
            $nx = $a->nx[$f];
            $ny = $a->ny[$f];
            $nz = $a->nz[$f];
            $low = self::lowest(
                $b->x,
                $b->y,
                $b->z,
                $m0 * $nx + $m3 * $ny + $m6 * $nz,
                $m1 * $nx + $m4 * $ny + $m7 * $nz,
                $m2 * $nx + $m5 * $ny + $m8 * $nz,
            );
            if ($low + $nx * $tx + $ny * $ty + $nz * $tz - $a->d[$f] > $margin) {
                $pair->clear();

                return;
            }
        } elseif ($pair->axisKind === 2) {
            $f = $pair->axisB;
            $bx = $b->nx[$f];
            $by = $b->ny[$f];
            $bz = $b->nz[$f];
            $nx = $m0 * $bx + $m1 * $by + $m2 * $bz;
            $ny = $m3 * $bx + $m4 * $by + $m5 * $bz;
            $nz = $m6 * $bx + $m7 * $by + $m8 * $bz;
            if (self::lowest($a->x, $a->y, $a->z, $nx, $ny, $nz) - $nx * $tx - $ny * $ty - $nz * $tz - $b->d[$f] > $margin) {
                $pair->clear();

                return;
            }
        }
        // b in a's axes.
        $X = $Y = $Z = [];
        $y = $b->y;
        $z = $b->z;
        foreach ($b->x as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $X[] = $m0 * $px + $m1 * $py + $m2 * $pz + $tx;
            $Y[] = $m3 * $px + $m4 * $py + $m5 * $pz + $ty;
            $Z[] = $m6 * $px + $m7 * $py + $m8 * $pz + $tz;
        }
        $NX = $NY = $NZ = $ND = [];
        $y = $b->ny;
        $z = $b->nz;
        $d = $b->d;
        foreach ($b->nx as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $NX[] = $nx = $m0 * $px + $m1 * $py + $m2 * $pz;
            $NY[] = $ny = $m3 * $px + $m4 * $py + $m5 * $pz;
            $NZ[] = $nz = $m6 * $px + $m7 * $py + $m8 * $pz;
            $ND[] = $d[$i] + $nx * $tx + $ny * $ty + $nz * $tz;
        }
        [$faceA, $gapA] = self::bestFace($a->nx, $a->ny, $a->nz, $a->d, $X, $Y, $Z, $margin);
        if ($gapA > $margin) {
            $pair->axisKind = 1;
            $pair->axisA = $faceA;
            $pair->clear();

            return;
        }
        [$faceB, $gapB] = self::bestFace($NX, $NY, $NZ, $ND, $a->x, $a->y, $a->z, $margin);
        if ($gapB > $margin) {
            $pair->axisKind = 2;
            $pair->axisB = $faceB;
            $pair->clear();

            return;
        }
        $EX = $EY = $EZ = [];
        $y = $b->ey;
        $z = $b->ez;
        foreach ($b->ex as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $EX[] = $m0 * $px + $m1 * $py + $m2 * $pz;
            $EY[] = $m3 * $px + $m4 * $py + $m5 * $pz;
            $EZ[] = $m6 * $px + $m7 * $py + $m8 * $pz;
        }
        $radius = $a->radius < $b->radius ? $a->radius : $b->radius;
        $bestFace = $gapA > $gapB ? $gapA : $gapB;
        [$edgeA, $edgeB, $gapE, $nx, $ny, $nz] = self::bestEdges($a, $b, $X, $Y, $Z, $NX, $NY, $NZ, $EX, $EY, $EZ, $margin);
        if ($gapE > $margin) {
            $pair->axisKind = 0;
            $pair->clear();

            return;
        }
        $pair->pose = $pose;
        if ($gapE > $bestFace + RigidTuning::FACE_PREFERENCE * $radius) {
            $pair->axisKind = 3;
            self::touchEdges($pair, $a, $b, $edgeA, $edgeB, [$nx, $ny, $nz], $X, $Y, $Z, $EX, $EY, $EZ, $pose, $radius);

            return;
        }
        // Staying with the face of the last time keeps the contact points steady.
        $useB = $gapB > $gapA + ($pair->axisKind === 2 ? -1.0 : 1.0) * RigidTuning::FACE_PREFERENCE * 0.5 * $radius;
        if ($useB) {
            $pair->axisKind = 2;
            $pair->axisB = $faceB;
            $n = [$NX[$faceB], $NY[$faceB], $NZ[$faceB]];
            $face = self::polygon($b, $faceB, $X, $Y, $Z);
            $other = self::polygon($a, self::facing($a->nx, $a->ny, $a->nz, $n), $a->x, $a->y, $a->z);
            $points = self::clipFaces($face, $other, $n, $ND[$faceB], $margin);
            $points = self::withDeepest($points, $n, $ND[$faceB], $a->x, $a->y, $a->z, $radius);
            $pair->normal = [-$n[0], -$n[1], -$n[2]];
        } else {
            $pair->axisKind = 1;
            $pair->axisA = $faceA;
            $n = [$a->nx[$faceA], $a->ny[$faceA], $a->nz[$faceA]];
            $face = self::polygon($a, $faceA, $a->x, $a->y, $a->z);
            $other = self::polygon($b, self::facing($NX, $NY, $NZ, $n), $X, $Y, $Z);
            $points = self::clipFaces($face, $other, $n, $a->d[$faceA], $margin);
            $points = self::withDeepest($points, $n, $a->d[$faceA], $X, $Y, $Z, $radius);
            $pair->normal = $n;
        }
        $onA = $onB = [];
        foreach (self::reduce($points, $n) as [$px, $py, $pz, $gap]) {
            // The point itself lies on the clipped face, its foot on the face that clips.
            $fx = $px - $gap * $n[0];
            $fy = $py - $gap * $n[1];
            $fz = $pz - $gap * $n[2];
            [$qx, $qy, $qz] = $useB ? [$fx, $fy, $fz] : [$px, $py, $pz];
            if ($useB) {
                array_push($onA, $px, $py, $pz);
            } else {
                array_push($onA, $fx, $fy, $fz);
            }
            $qx -= $tx;
            $qy -= $ty;
            $qz -= $tz;
            array_push(
                $onB,
                $m0 * $qx + $m3 * $qy + $m6 * $qz,
                $m1 * $qx + $m4 * $qy + $m7 * $qz,
                $m2 * $qx + $m5 * $qy + $m8 * $qz,
            );
        }
        $pair->renew($onA, $onB, RigidTuning::MATCH_DISTANCE * $radius);
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    private static function lowest(array $x, array $y, array $z, float $nx, float $ny, float $nz): float
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
     * The face that keeps the points farthest away; stops at the first that separates by more than the margin.
     *
     * @param list<float> $nx
     * @param list<float> $ny
     * @param list<float> $nz
     * @param list<float> $d
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return array{int, float}
     */
    private static function bestFace(array $nx, array $ny, array $nz, array $d, array $x, array $y, array $z, float $margin): array
    {
        $best = -INF;
        $face = 0;
        $n = count($x);
        $faces = count($d);
        for ($f = 0; $f < $faces; $f++) {
            $u = 1.0 * $nx[$f];
            $v = 1.0 * $ny[$f];
            $w = 1.0 * $nz[$f];
            $stop = $best + $d[$f];
            $low = INF;
            for ($i = 0; $i < $n; $i++) {
                $h = $u * $x[$i] + $v * $y[$i] + $w * $z[$i];
                if ($h < $low) {
                    $low = $h;
                    if ($low <= $stop) {
                        break;
                    }
                }
            }
            $gap = $low - $d[$f];
            if ($gap > $best) {
                $best = $gap;
                $face = $f;
                if ($best > $margin) {
                    break;
                }
            }
        }

        return [$face, $best];
    }

    /**
     * @param list<float> $X b's vertices in a's axes
     * @param list<float> $Y
     * @param list<float> $Z
     * @param list<float> $NX b's normals
     * @param list<float> $NY
     * @param list<float> $NZ
     * @param list<float> $EX b's edges
     * @param list<float> $EY
     * @param list<float> $EZ
     *
     * @return array{int, int, float, float, float, float} edges, gap, normal from a to b
     */
    private static function bestEdges(
        ConvexHull $a,
        ConvexHull $b,
        array $X,
        array $Y,
        array $Z,
        array $NX,
        array $NY,
        array $NZ,
        array $EX,
        array $EY,
        array $EZ,
        float $margin,
    ): array {
        $best = -INF;
        $edgeA = $edgeB = 0;
        $bestX = $bestY = $bestZ = 0.0;
        $left = $b->left;
        $right = $b->right;
        $from = $b->from;
        $countB = count($left);
        $aex = $a->ex;
        $aey = $a->ey;
        $aez = $a->ez;
        for ($i = 0, $countA = count($aex); $i < $countA; $i++) {
            $ux = 1.0 * $aex[$i];
            $uy = 1.0 * $aey[$i];
            $uz = 1.0 * $aez[$i];
            $K = [];
            foreach ($NX as $f => $nx) {
                $K[] = $ux * $nx + $uy * $NY[$f] + $uz * $NZ[$f];
            }
            $f = $a->left[$i];
            $g = $a->right[$i];
            $fx = 1.0 * $a->nx[$f];
            $fy = 1.0 * $a->ny[$f];
            $fz = 1.0 * $a->nz[$f];
            $gx = 1.0 * $a->nx[$g];
            $gy = 1.0 * $a->ny[$g];
            $gz = 1.0 * $a->nz[$g];
            $p = $a->from[$i];
            $px = $a->x[$p];
            $py = $a->y[$p];
            $pz = $a->z[$p];
            for ($j = 0; $j < $countB; $j++) {
                $k = $K[$left[$j]];
                if ($k * $K[$right[$j]] >= 0.0) {
                    continue;
                }
                $vx = $EX[$j];
                $vy = $EY[$j];
                $vz = $EZ[$j];
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
                $o = $nx * ($fx + $gx) + $ny * ($fy + $gy) + $nz * ($fz + $gz);
                $q = $from[$j];
                $h = ($nx * ($X[$q] - $px) + $ny * ($Y[$q] - $py) + $nz * ($Z[$q] - $pz)) / ($o < 0.0 ? -sqrt($l) : sqrt($l));
                if ($h > $best) {
                    $l = 1.0 / ($o < 0.0 ? -sqrt($l) : sqrt($l));
                    $nx *= $l;
                    $ny *= $l;
                    $nz *= $l;
                    // Very short edges can pass the test without bounding the hulls: trust only what the corners say.
                    $real = self::lowest($X, $Y, $Z, $nx, $ny, $nz) + self::lowest($a->x, $a->y, $a->z, -$nx, -$ny, -$nz);
                    if ($real < $h) {
                        $h = $real;
                        if ($h <= $best) {
                            continue;
                        }
                    }
                    $best = $h;
                    $edgeA = $i;
                    $edgeB = $j;
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

    /**
     * One contact point: the middle of the shortest line between the two edges.
     *
     * @param array{float, float, float} $n
     * @param list<float> $X
     * @param list<float> $Y
     * @param list<float> $Z
     * @param list<float> $EX
     * @param list<float> $EY
     * @param list<float> $EZ
     * @param list<float> $pose
     */
    private static function touchEdges(
        ContactPair $pair,
        ConvexHull $a,
        ConvexHull $b,
        int $edgeA,
        int $edgeB,
        array $n,
        array $X,
        array $Y,
        array $Z,
        array $EX,
        array $EY,
        array $EZ,
        array $pose,
        float $radius,
    ): void {
        $p = $a->from[$edgeA];
        $q = $b->from[$edgeB];
        $ux = $a->ex[$edgeA];
        $uy = $a->ey[$edgeA];
        $uz = $a->ez[$edgeA];
        $vx = $EX[$edgeB];
        $vy = $EY[$edgeB];
        $vz = $EZ[$edgeB];
        $rx = $X[$q] - $a->x[$p];
        $ry = $Y[$q] - $a->y[$p];
        $rz = $Z[$q] - $a->z[$p];
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $ur = $ux * $rx + $uy * $ry + $uz * $rz;
        $vr = $vx * $rx + $vy * $ry + $vz * $rz;
        $det = 1.0 - $uv * $uv;
        $s = ($ur - $uv * $vr) / $det;
        $t = ($uv * $ur - $vr) / $det;
        $qx = $X[$q] + $t * $vx - $pose[9];
        $qy = $Y[$q] + $t * $vy - $pose[10];
        $qz = $Z[$q] + $t * $vz - $pose[11];
        $pair->normal = $n;
        $pair->renew(
            [$a->x[$p] + $s * $ux, $a->y[$p] + $s * $uy, $a->z[$p] + $s * $uz],
            [
                $pose[0] * $qx + $pose[3] * $qy + $pose[6] * $qz,
                $pose[1] * $qx + $pose[4] * $qy + $pose[7] * $qz,
                $pose[2] * $qx + $pose[5] * $qy + $pose[8] * $qz,
            ],
            RigidTuning::MATCH_DISTANCE * $radius,
        );
    }

    /**
     * @param list<float> $x the hull's vertices, in whichever axes
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return list<array{float, float, float}>
     */
    private static function polygon(ConvexHull $hull, int $face, array $x, array $y, array $z): array
    {
        $polygon = [];
        for ($k = $hull->start[$face], $end = $hull->start[$face + 1]; $k < $end; $k++) {
            $i = $hull->loop[$k];
            $polygon[] = [$x[$i], $y[$i], $z[$i]];
        }

        return $polygon;
    }

    /**
     * The face that looks most against the normal.
     *
     * @param list<float> $nx
     * @param list<float> $ny
     * @param list<float> $nz
     * @param array{float, float, float} $n
     */
    private static function facing(array $nx, array $ny, array $nz, array $n): int
    {
        $best = INF;
        $face = 0;
        foreach ($nx as $f => $x) {
            $h = $x * $n[0] + $ny[$f] * $n[1] + $nz[$f] * $n[2];
            if ($h < $best) {
                $best = $h;
                $face = $f;
            }
        }

        return $face;
    }

    /**
     * The part of polygon $other over polygon $face, as points with their height over the face.
     *
     * @param list<array{float, float, float}> $face
     * @param list<array{float, float, float}> $other
     * @param array{float, float, float} $n the face's normal
     *
     * @return list<array{float, float, float, float}>
     */
    private static function clipFaces(array $face, array $other, array $n, float $d, float $margin): array
    {
        [$nx, $ny, $nz] = $n;
        $count = count($face);
        foreach ($face as $k => [$ax, $ay, $az]) {
            [$bx, $by, $bz] = $face[$k + 1 === $count ? 0 : $k + 1];
            // Outwards of the edge, within the face.
            $sx = ($by - $ay) * $nz - ($bz - $az) * $ny;
            $sy = ($bz - $az) * $nx - ($bx - $ax) * $nz;
            $sz = ($bx - $ax) * $ny - ($by - $ay) * $nx;
            $c = $sx * $ax + $sy * $ay + $sz * $az;
            $kept = [];
            $size = count($other);
            if ($size === 0) {
                break;
            }
            $p = $other[$size - 1];
            $hp = $sx * $p[0] + $sy * $p[1] + $sz * $p[2] - $c;
            foreach ($other as $q) {
                $hq = $sx * $q[0] + $sy * $q[1] + $sz * $q[2] - $c;
                if (($hp > 0.0) !== ($hq > 0.0)) {
                    $s = $hp / ($hp - $hq);
                    $kept[] = [$p[0] + $s * ($q[0] - $p[0]), $p[1] + $s * ($q[1] - $p[1]), $p[2] + $s * ($q[2] - $p[2])];
                }
                if ($hq <= 0.0) {
                    $kept[] = $q;
                }
                $p = $q;
                $hp = $hq;
            }
            $other = $kept;
        }
        $points = [];
        foreach ($other as [$x, $y, $z]) {
            $gap = $nx * $x + $ny * $y + $nz * $z - $d;
            if ($gap <= $margin) {
                $points[] = [$x, $y, $z, $gap];
            }
        }

        return $points;
    }

    /**
     * The clipped faces can miss the corner that is in deepest; it belongs to the contact in any case.
     *
     * @param list<array{float, float, float, float}> $points
     * @param array{float, float, float} $n
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return list<array{float, float, float, float}>
     */
    private static function withDeepest(array $points, array $n, float $d, array $x, array $y, array $z, float $radius): array
    {
        $low = INF;
        $at = 0;
        foreach ($x as $i => $px) {
            $h = $n[0] * $px + $n[1] * $y[$i] + $n[2] * $z[$i];
            if ($h < $low) {
                $low = $h;
                $at = $i;
            }
        }
        $low -= $d;
        $least = $low + 1e-3 * $radius;
        foreach ($points as $point) {
            if ($point[3] <= $least) {
                return $points;
            }
        }
        $points[] = [$x[$at], $y[$at], $z[$at], $low];

        return $points;
    }

    /**
     * At most four points that hold as well as all: the deepest, the one farthest from it, and those farthest to either
     * side of the line between them.
     *
     * @param list<array{float, float, float, float}> $points
     * @param array{float, float, float} $n
     *
     * @return list<array{float, float, float, float}>
     */
    private static function reduce(array $points, array $n): array
    {
        if (count($points) <= 4) {
            return $points;
        }
        $a = $points[0];
        foreach ($points as $p) {
            if ($p[3] < $a[3]) {
                $a = $p;
            }
        }
        $b = $a;
        $far = -1.0;
        foreach ($points as $p) {
            $dx = $p[0] - $a[0];
            $dy = $p[1] - $a[1];
            $dz = $p[2] - $a[2];
            $distance = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($distance > $far) {
                $far = $distance;
                $b = $p;
            }
        }
        $sx = $n[1] * ($b[2] - $a[2]) - $n[2] * ($b[1] - $a[1]);
        $sy = $n[2] * ($b[0] - $a[0]) - $n[0] * ($b[2] - $a[2]);
        $sz = $n[0] * ($b[1] - $a[1]) - $n[1] * ($b[0] - $a[0]);
        $most = 1e-12;
        $least = -1e-12;
        $c = $d = null;
        foreach ($points as $p) {
            $h = $sx * ($p[0] - $a[0]) + $sy * ($p[1] - $a[1]) + $sz * ($p[2] - $a[2]);
            if ($h > $most) {
                $most = $h;
                $c = $p;
            }
            if ($h < $least) {
                $least = $h;
                $d = $p;
            }
        }
        $kept = [$a, $b];
        if ($c !== null) {
            $kept[] = $c;
        }
        if ($d !== null) {
            $kept[] = $d;
        }

        return $kept;
    }
}
