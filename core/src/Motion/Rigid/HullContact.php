<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/**
 * Contact between two convex hulls (of which either may be felt as a ball: {@see BallContact}): the axis that keeps them apart best ({@see SeparatingAxis}), then the contact points by
 * clipping the faces against each other ({@see FaceClip}). The best axis of the last time is tried first.
 */
final class HullContact
{
    /** Cosine of an angle below which two axes are the same. */
    private const ALIKE = 0.999;

    /**
     * Finds the contact points of a pair and stores them in it. Everything is computed in a's axes.
     *
     * @param list<float> $pose rotation of b in a's axes (row by row), then the vector from a's centre to b's
     * @param float $margin points closer than this count as contacts, m
     * @param array{float, float, float} $way how far b may go against a in the step
     */
    public static function find(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $pose, float $margin, array $way = [0.0, 0.0, 0.0]): void
    {
        if ($a->round > 0.0 || $b->round > 0.0) {
            BallContact::find($pair, $a, $b, $pose, $margin, $way);

            return;
        }
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        if (self::stillApart($pair, $a, $b, $pose, $margin)) {
            return;
        }
        // a's centre seen from b is -s.
        $sx = $m0 * $tx + $m3 * $ty + $m6 * $tz;
        $sy = $m1 * $tx + $m4 * $ty + $m7 * $tz;
        $sz = $m2 * $tx + $m5 * $ty + $m8 * $tz;
        [$faceA, $gapA, $TA, $cornerB] = SeparatingAxis::bestFace($a, $b, $m0, $m3, $m6, $m1, $m4, $m7, $m2, $m5, $m8, $tx, $ty, $tz);
        if ($gapA > $margin) {
            $pair->axisKind = 1;
            $pair->axisA = $faceA;
            $pair->part($gapA);

            return;
        }
        [$faceB, $gapB, $TB, $cornerA] = SeparatingAxis::bestFace($b, $a, $m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, -$sx, -$sy, -$sz);
        if ($gapB > $margin) {
            $pair->axisKind = 2;
            $pair->axisB = $faceB;
            $pair->part($gapB);

            return;
        }
        $radius = $a->radius < $b->radius ? $a->radius : $b->radius;
        $bestFace = $gapA > $gapB ? $gapA : $gapB;
        // Only edges that would separate the two, or beat the faces clearly, matter.
        $least = $bestFace + RigidTuning::FACE_PREFERENCE * $radius;
        if ($least > $margin) {
            $least = $margin;
        }
        [$edgeA, $edgeB, $gapE, $nx, $ny, $nz] = self::edges($a, $b, $pose, $margin, $TA, $TB, $cornerA, $cornerB, $least);
        if ($edgeA >= 0) {
            if ($gapE > $margin) {
                $pair->axisKind = 0;
                $pair->part($gapE);

                return;
            }
            $pair->pose = $pose;
            $passed = self::passing($a, $b, $pose, $way, [$nx, $ny, $nz], $gapE, $TA, $TB, $radius);
            if ($passed !== null) {
                self::pass($pair, $a, $b, $passed, $pose, $margin, $way, $radius);

                return;
            }
            $pair->axisKind = 3;
            self::touchEdges($pair, $a, $b, $edgeA, $edgeB, [$nx, $ny, $nz], $pose, $radius);
            $pair->gap = $gapE;

            return;
        }
        $pair->pose = $pose;
        if ($bestFace > -RigidTuning::PASSING * $radius) {
            $passed = self::passing($a, $b, $pose, $way, self::normal($a, $b, $gapB > $gapA, $gapB > $gapA ? $faceB : $faceA, $pose), $bestFace, $TA, $TB, $radius);
            if ($passed !== null) {
                self::pass($pair, $a, $b, $passed, $pose, $margin, $way, $radius);

                return;
            }
        }
        // Staying with the face of the last time keeps the contact points steady.
        if ($gapB > $gapA + ($pair->axisKind === 2 ? -1.0 : 1.0) * RigidTuning::FACE_PREFERENCE * 0.5 * $radius) {
            $pair->axisKind = 2;
            $pair->axisB = $faceB;
        } else {
            $pair->axisKind = 1;
            $pair->axisA = $faceA;
        }
        self::touchFaces($pair, $a, $b, $pose, $margin, $way, $radius);
        if ($pair->count > 0) {
            $pair->gap = $bestFace;
        }
    }

    /**
     * The pair of edges that keeps the two farthest apart, if farther than $least.
     *
     * @param list<float> $pose
     * @param list<float> $TA each face's normal times the way from a's centre to b's
     * @param list<float> $TB the same of b
     * @param int $cornerA of a, near b
     * @param int $cornerB of b, near a
     *
     * @return array{int, int, float, float, float, float} edges (-1: none), gap, normal from a to b
     */
    private static function edges(ConvexHull $a, ConvexHull $b, array $pose, float $margin, array $TA, array $TB, int $cornerA, int $cornerB, float $least): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        $x = $b->x[$cornerB];
        $y = $b->y[$cornerB];
        $z = $b->z[$cornerB];
        $edgesA = SeparatingAxis::edgesTowards($a, $TA, $tx, $ty, $tz, $least + $b->core, $m0 * $x + $m1 * $y + $m2 * $z + $tx, $m3 * $x + $m4 * $y + $m5 * $z + $ty, $m6 * $x + $m7 * $y + $m8 * $z + $tz, $least);
        if ($edgesA === []) {
            return [-1, -1, $least, 0.0, 0.0, 0.0];
        }
        $x = $a->x[$cornerA] - $tx;
        $y = $a->y[$cornerA] - $ty;
        $z = $a->z[$cornerA] - $tz;
        $edgesB = SeparatingAxis::edgesTowards(
            $b,
            $TB,
            -$m0 * $tx - $m3 * $ty - $m6 * $tz,
            -$m1 * $tx - $m4 * $ty - $m7 * $tz,
            -$m2 * $tx - $m5 * $ty - $m8 * $tz,
            $least + $a->core,
            $m0 * $x + $m3 * $y + $m6 * $z,
            $m1 * $x + $m4 * $y + $m7 * $z,
            $m2 * $x + $m5 * $y + $m8 * $z,
            $least,
        );

        return $edgesB === [] ? [-1, -1, $least, 0.0, 0.0, 0.0] : SeparatingAxis::bestEdges($a, $b, $edgesA, $edgesB, $pose, $margin, $least);
    }

    /**
     * From a to b, in a's axes.
     *
     * @param bool $ofB whose face it is
     * @param list<float> $pose
     *
     * @return array{float, float, float}
     */
    private static function normal(ConvexHull $a, ConvexHull $b, bool $ofB, int $face, array $pose): array
    {
        if (! $ofB) {
            return [$a->nx[$face], $a->ny[$face], $a->nz[$face]];
        }
        [$x, $y, $z] = [$b->nx[$face], $b->ny[$face], $b->nz[$face]];

        return [-$pose[0] * $x - $pose[1] * $y - $pose[2] * $z, -$pose[3] * $x - $pose[4] * $y - $pose[5] * $z, -$pose[6] * $x - $pose[7] * $y - $pose[8] * $z];
    }

    /**
     * Who comes fast is seen from afar, and then what keeps the two apart best is what lies ahead: a slide from one stone onto
     * the next, as high, would end at that stone's side. What they meet first is the axis that is crossed last (Gottschalk's
     * axes, swept); one that is only touched, and along which they hardly come nearer, they pass along.
     *
     * @param list<float> $pose
     * @param array{float, float, float} $way of b against a in the step
     * @param array{float, float, float} $n axis that keeps them apart best, from a to b
     * @param list<float> $TA each face's normal times the way from a's centre to b's
     * @param list<float> $TB the same of b
     *
     * @return array{int, int}|null 1 or 2 (whose), and the face; null: they meet where they are nearest
     */
    private static function passing(ConvexHull $a, ConvexHull $b, array $pose, array $way, array $n, float $gap, array $TA, array $TB, float $radius): ?array
    {
        $closing = -$n[0] * $way[0] - $n[1] * $way[1] - $n[2] * $way[2];
        $spare = RigidTuning::PASSING * $radius;
        // With room to spare: what is just not reached in this step is a contact all the same.
        if ($gap < -$spare || 2.0 * $closing + $spare <= $gap || $closing <= 0.25 * $spare) {
            return null;
        }
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $pose;
        $latest = ($gap + $spare) / $closing;
        $found = null;
        foreach ([1, 2] as $kind) {
            [$own, $other, $T] = $kind === 1 ? [$a, $b, $TA] : [$b, $a, $TB];
            foreach ($T as $f => $t) {
                $shift = $t - $own->d[$f];
                if ($shift - $other->core < -$spare) {
                    continue;
                }
                [$nx, $ny, $nz] = $m = self::normal($a, $b, $kind === 2, $f, $pose);
                if ($nx * $n[0] + $ny * $n[1] + $nz * $n[2] > self::ALIKE) {
                    continue;
                }
                [$u, $v, $w] = $kind === 1 ? [$m0 * $nx + $m3 * $ny + $m6 * $nz, $m1 * $nx + $m4 * $ny + $m7 * $nz, $m2 * $nx + $m5 * $ny + $m8 * $nz] : [-$nx, -$ny, -$nz];
                $between = $shift + SeparatingAxis::lowest($other->x, $other->y, $other->z, $u, $v, $w);
                if ($between < -$spare) {
                    continue;
                }
                $nears = -$m[0] * $way[0] - $m[1] * $way[1] - $m[2] * $way[2];
                $crossed = $nears <= 0.0 ? INF : ($between + $spare) / $nears;
                if ($crossed > $latest) {
                    [$latest, $found] = [$crossed, [$kind, $f]];
                }
            }
        }

        return $found;
    }

    /**
     * @param array{int, int} $passed whose face, and which
     * @param list<float> $pose
     * @param array{float, float, float} $way
     */
    private static function pass(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $passed, array $pose, float $margin, array $way, float $radius): void
    {
        [$pair->axisKind, $face] = $passed;
        if ($pair->axisKind === 1) {
            $pair->axisA = $face;
        } else {
            $pair->axisB = $face;
        }
        self::touchFaces($pair, $a, $b, $pose, $margin, $way, $radius);
    }

    /**
     * Whether the face that kept the two apart the last time still does. A pair that stays apart costs this one projection.
     *
     * @param list<float> $pose
     */
    private static function stillApart(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $pose, float $margin): bool
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        if ($pair->axisKind === 1) {
            $f = $pair->axisA;
            $nx = $a->nx[$f];
            $ny = $a->ny[$f];
            $nz = $a->nz[$f];
            $gap = SeparatingAxis::lowest(
                $b->x,
                $b->y,
                $b->z,
                $m0 * $nx + $m3 * $ny + $m6 * $nz,
                $m1 * $nx + $m4 * $ny + $m7 * $nz,
                $m2 * $nx + $m5 * $ny + $m8 * $nz,
            ) + $nx * $tx + $ny * $ty + $nz * $tz - $a->d[$f];
        } elseif ($pair->axisKind === 2) {
            $f = $pair->axisB;
            $bx = $b->nx[$f];
            $by = $b->ny[$f];
            $bz = $b->nz[$f];
            $nx = $m0 * $bx + $m1 * $by + $m2 * $bz;
            $ny = $m3 * $bx + $m4 * $by + $m5 * $bz;
            $nz = $m6 * $bx + $m7 * $by + $m8 * $bz;
            $gap = SeparatingAxis::lowest($a->x, $a->y, $a->z, $nx, $ny, $nz) - $nx * $tx - $ny * $ty - $nz * $tz - $b->d[$f];
        } else {
            return false;
        }
        if ($gap <= $margin) {
            return false;
        }
        $pair->part($gap);

        return true;
    }

    /**
     * Contact points by clipping the face nearest to the other against the pair's best one.
     *
     * @param list<float> $pose
     * @param array{float, float, float} $way
     */
    private static function touchFaces(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $pose, float $margin, array $way, float $radius): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        if ($pair->axisKind === 2) {
            $faceB = $pair->axisB;
            $bx = $b->nx[$faceB];
            $by = $b->ny[$faceB];
            $bz = $b->nz[$faceB];
            $nx = $m0 * $bx + $m1 * $by + $m2 * $bz;
            $ny = $m3 * $bx + $m4 * $by + $m5 * $bz;
            $nz = $m6 * $bx + $m7 * $by + $m8 * $bz;
            $d = $b->d[$faceB] + $nx * $tx + $ny * $ty + $nz * $tz;
            $face = FaceClip::turned($b, $faceB, $pose);
            $other = FaceClip::polygon($a, SeparatingAxis::lowestAt($a->nx, $a->ny, $a->nz, $nx, $ny, $nz));
            $low = SeparatingAxis::lowestAt($a->x, $a->y, $a->z, $nx, $ny, $nz);
            $deep = [$a->x[$low], $a->y[$low], $a->z[$low]];
            $points = FaceClip::clip($face, $other, $nx, $ny, $nz, $d, $margin, $deep, $radius, [-$way[0], -$way[1], -$way[2]]);
            $pair->normal = [-$nx, -$ny, -$nz];
            $side = 1.0;
            $foot = 0.0;
        } else {
            $faceA = $pair->axisA;
            $nx = $a->nx[$faceA];
            $ny = $a->ny[$faceA];
            $nz = $a->nz[$faceA];
            $bx = $m0 * $nx + $m3 * $ny + $m6 * $nz;
            $by = $m1 * $nx + $m4 * $ny + $m7 * $nz;
            $bz = $m2 * $nx + $m5 * $ny + $m8 * $nz;
            $face = FaceClip::polygon($a, $faceA);
            $other = FaceClip::turned($b, SeparatingAxis::lowestAt($b->nx, $b->ny, $b->nz, $bx, $by, $bz), $pose);
            $low = SeparatingAxis::lowestAt($b->x, $b->y, $b->z, $bx, $by, $bz);
            $px = $b->x[$low];
            $py = $b->y[$low];
            $pz = $b->z[$low];
            $deep = [$m0 * $px + $m1 * $py + $m2 * $pz + $tx, $m3 * $px + $m4 * $py + $m5 * $pz + $ty, $m6 * $px + $m7 * $py + $m8 * $pz + $tz];
            $points = FaceClip::clip($face, $other, $nx, $ny, $nz, $a->d[$faceA], $margin, $deep, $radius, $way);
            $pair->normal = [$nx, $ny, $nz];
            $side = 0.0;
            $foot = 1.0;
        }
        if (count($points) > 16) {
            $points = FaceClip::reduce($points, $nx, $ny, $nz);
        }
        $onA = $onB = [];
        for ($k = 0, $end = count($points); $k < $end; $k += 4) {
            // The point itself lies on the clipped face, its foot on the face that clips.
            $px = $points[$k];
            $py = $points[$k + 1];
            $pz = $points[$k + 2];
            $gap = $points[$k + 3];
            $h = $foot * $gap;
            $onA[] = $px - $h * $nx;
            $onA[] = $py - $h * $ny;
            $onA[] = $pz - $h * $nz;
            $h = $side * $gap;
            $px -= $h * $nx + $tx;
            $py -= $h * $ny + $ty;
            $pz -= $h * $nz + $tz;
            $onB[] = $m0 * $px + $m3 * $py + $m6 * $pz;
            $onB[] = $m1 * $px + $m4 * $py + $m7 * $pz;
            $onB[] = $m2 * $px + $m5 * $py + $m8 * $pz;
        }
        $pair->renew($onA, $onB, RigidTuning::MATCH_DISTANCE * $radius);
    }

    /**
     * One contact point: the middle of the shortest line between the two edges.
     *
     * @param array{float, float, float} $n
     * @param list<float> $pose
     */
    private static function touchEdges(ContactPair $pair, ConvexHull $a, ConvexHull $b, int $edgeA, int $edgeB, array $n, array $pose, float $radius): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        $p = $a->from[$edgeA];
        $q = $b->from[$edgeB];
        $ux = $a->ex[$edgeA];
        $uy = $a->ey[$edgeA];
        $uz = $a->ez[$edgeA];
        $x = $b->ex[$edgeB];
        $y = $b->ey[$edgeB];
        $z = $b->ez[$edgeB];
        $vx = $m0 * $x + $m1 * $y + $m2 * $z;
        $vy = $m3 * $x + $m4 * $y + $m5 * $z;
        $vz = $m6 * $x + $m7 * $y + $m8 * $z;
        $x = $b->x[$q];
        $y = $b->y[$q];
        $z = $b->z[$q];
        $qx = $m0 * $x + $m1 * $y + $m2 * $z;
        $qy = $m3 * $x + $m4 * $y + $m5 * $z;
        $qz = $m6 * $x + $m7 * $y + $m8 * $z;
        $rx = $qx + $tx - $a->x[$p];
        $ry = $qy + $ty - $a->y[$p];
        $rz = $qz + $tz - $a->z[$p];
        $uv = $ux * $vx + $uy * $vy + $uz * $vz;
        $ur = $ux * $rx + $uy * $ry + $uz * $rz;
        $vr = $vx * $rx + $vy * $ry + $vz * $rz;
        $det = 1.0 - $uv * $uv;
        $s = ($ur - $uv * $vr) / $det;
        $t = ($uv * $ur - $vr) / $det;
        $qx += $t * $vx;
        $qy += $t * $vy;
        $qz += $t * $vz;
        $pair->normal = $n;
        $pair->renew(
            [$a->x[$p] + $s * $ux, $a->y[$p] + $s * $uy, $a->z[$p] + $s * $uz],
            [$m0 * $qx + $m3 * $qy + $m6 * $qz, $m1 * $qx + $m4 * $qy + $m7 * $qz, $m2 * $qx + $m5 * $qy + $m8 * $qz],
            RigidTuning::MATCH_DISTANCE * $radius,
        );
    }
}
