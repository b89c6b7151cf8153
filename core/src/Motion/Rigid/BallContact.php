<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Contact of a ball with another, or with a hull: one point, where the two are nearest. */
final class BallContact
{
    /** Share of its way by which a ball nears what it only rolls past, at most. */
    private const GLANCING = 0.25;

    /**
     * As {@see HullContact::find()}, where at least one of the two is a ball.
     *
     * @param list<float> $pose rotation of b in a's axes (row by row), then the vector from a's centre to b's
     * @param float $margin m
     * @param array{float, float, float} $way how far b may go against a in the step
     */
    public static function find(ContactPair $pair, ConvexHull $a, ConvexHull $b, array $pose, float $margin, array $way): void
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        if ($a->round > 0.0 && $b->round > 0.0) {
            $length = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
            $normal = $length > 0.0 ? [$tx / $length, $ty / $length, $tz / $length] : [0.0, 1.0, 0.0];
            self::touch($pair, $normal, $length - $a->round - $b->round, [$a->round * $normal[0], $a->round * $normal[1], $a->round * $normal[2]], $a, $b, $pose, $margin);

            return;
        }
        if ($b->round > 0.0) {
            [$nx, $ny, $nz, $gap] = self::ahead($a, [$tx, $ty, $tz], $way, $b->round);
            $h = $gap + $b->round;
            self::touch($pair, [$nx, $ny, $nz], $gap, [$tx - $h * $nx, $ty - $h * $ny, $tz - $h * $nz], $a, $b, $pose, $margin);

            return;
        }
        // a is the ball: in b's axes its centre is where b's is not, and it goes the other way.
        [$wx, $wy, $wz] = $way;
        [$nx, $ny, $nz, $gap] = self::ahead(
            $b,
            [-$m0 * $tx - $m3 * $ty - $m6 * $tz, -$m1 * $tx - $m4 * $ty - $m7 * $tz, -$m2 * $tx - $m5 * $ty - $m8 * $tz],
            [-$m0 * $wx - $m3 * $wy - $m6 * $wz, -$m1 * $wx - $m4 * $wy - $m7 * $wz, -$m2 * $wx - $m5 * $wy - $m8 * $wz],
            $a->round,
        );
        $normal = [-$m0 * $nx - $m1 * $ny - $m2 * $nz, -$m3 * $nx - $m4 * $ny - $m5 * $nz, -$m6 * $nx - $m7 * $ny - $m8 * $nz];
        self::touch($pair, $normal, $gap, [$a->round * $normal[0], $a->round * $normal[1], $a->round * $normal[2]], $a, $b, $pose, $margin);
    }

    /**
     * @param array{float, float, float} $normal from a to b, in a's axes
     * @param array{float, float, float} $onA where a is touched, in its axes
     * @param list<float> $pose
     */
    private static function touch(ContactPair $pair, array $normal, float $gap, array $onA, ConvexHull $a, ConvexHull $b, array $pose, float $margin): void
    {
        if ($gap > $margin) {
            $pair->part($gap);

            return;
        }
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        $x = $onA[0] + $gap * $normal[0] - $tx;
        $y = $onA[1] + $gap * $normal[1] - $ty;
        $z = $onA[2] + $gap * $normal[2] - $tz;
        $pair->pose = $pose;
        $pair->normal = $normal;
        // There is only one point, so its impulse is its heir's, wherever that has rolled to.
        $pair->renew($onA, [$m0 * $x + $m3 * $y + $m6 * $z, $m1 * $x + $m4 * $y + $m7 * $z, $m2 * $x + $m5 * $y + $m8 * $z], 2.0 * max($a->radius, $b->radius));
        $pair->gap = $gap;
    }

    /**
     * What a ball meets of a hull in a step: what is nearest now, or what will be, as a ball that only rolls past a corner would
     * else be held up by it. Who would be through by then meets what is nearest now.
     *
     * @param array{float, float, float} $centre of the ball, in the hull's axes
     * @param array{float, float, float} $way it goes
     *
     * @return array{float, float, float, float} direction from the hull to the ball, and how far the ball is from it along that
     */
    private static function ahead(ConvexHull $hull, array $centre, array $way, float $round): array
    {
        [$x, $y, $z] = $centre;
        [$nx, $ny, $nz, $distance, $face] = self::nearest($hull, $x, $y, $z);
        $nears = -$way[0] * $nx - $way[1] * $ny - $way[2] * $nz;
        $now = $distance;
        if ($way !== [0.0, 0.0, 0.0] && $distance > 0.0) {
            [$ex, $ey, $ez, $then, $in] = self::nearest($hull, $x + $way[0], $y + $way[1], $z + $way[2]);
            $closing = -$way[0] * $ex - $way[1] * $ey - $way[2] * $ez;
            // Either plane has all of the hull behind it; the one that leaves the ball more room says what it meets.
            if ($then > 0.0 && $ex * $nx + $ey * $ny + $ez * $nz >= 0.0 && min($then, $then + $closing) > min($distance, $distance - $nears)) {
                [$nx, $ny, $nz, $now, $nears, $face] = [$ex, $ey, $ez, $then + $closing, $closing, $in];
            }
        }
        $gap = $now - $round;
        if (! $face && $nears > 0.0) {
            // Who lies on the next face is a little in it, and not held up by its edge.
            $glancing = 1.0 - $nears / (self::GLANCING * sqrt($way[0] * $way[0] + $way[1] * $way[1] + $way[2] * $way[2]));
            $gap += $glancing > 0.0 ? $glancing * RigidTuning::BALL_PASSING * $round : 0.0;
        }

        return [$nx, $ny, $nz, $gap];
    }

    /** @return array{float, float, float, float, bool} outward direction at the point of a hull that is nearest to a place, how far the place is outside (below 0: inside), and whether that is within a face */
    private static function nearest(ConvexHull $hull, float $x, float $y, float $z): array
    {
        $best = INF;
        $deep = -INF;
        $inside = 0;
        $found = [0.0, 1.0, 0.0];
        $within = true;
        foreach ($hull->d as $f => $d) {
            $off = $hull->nx[$f] * $x + $hull->ny[$f] * $y + $hull->nz[$f] * $z - $d;
            if ($off > $deep) {
                [$deep, $inside] = [$off, $f];
            }
            if ($off <= 0.0 || $off * $off >= $best) {
                continue;
            }
            [$qx, $qy, $qz, $in] = self::onFace($hull, $f, $x - $off * $hull->nx[$f], $y - $off * $hull->ny[$f], $z - $off * $hull->nz[$f]);
            $square = ($x - $qx) ** 2 + ($y - $qy) ** 2 + ($z - $qz) ** 2;
            if ($square < $best) {
                [$best, $found, $within] = [$square, [$x - $qx, $y - $qy, $z - $qz], $in];
            }
        }
        if ($deep <= 0.0) {
            return [$hull->nx[$inside], $hull->ny[$inside], $hull->nz[$inside], $deep, true];
        }
        $length = sqrt($best);

        return [$found[0] / $length, $found[1] / $length, $found[2] / $length, $length, $within];
    }

    /**
     * @param float $x a point in the plane of the face
     *
     * @return array{float, float, float, bool} the point of the face that is nearest to it, and whether it is that itself
     */
    private static function onFace(ConvexHull $hull, int $face, float $x, float $y, float $z): array
    {
        $best = INF;
        $found = [$x, $y, $z];
        [$nx, $ny, $nz] = [$hull->nx[$face], $hull->ny[$face], $hull->nz[$face]];
        $outside = false;
        $p = $hull->loop[$hull->start[$face + 1] - 1];
        for ($k = $hull->start[$face]; $k < $hull->start[$face + 1]; $k++) {
            $q = $hull->loop[$k];
            [$px, $py, $pz] = [$hull->x[$p], $hull->y[$p], $hull->z[$p]];
            [$ex, $ey, $ez] = [$hull->x[$q] - $px, $hull->y[$q] - $py, $hull->z[$q] - $pz];
            $p = $q;
            // Edges run counter-clockwise: what is on their right is outside.
            if (($ey * $nz - $ez * $ny) * ($x - $px) + ($ez * $nx - $ex * $nz) * ($y - $py) + ($ex * $ny - $ey * $nx) * ($z - $pz) <= 0.0) {
                continue;
            }
            $outside = true;
            $t = (($x - $px) * $ex + ($y - $py) * $ey + ($z - $pz) * $ez) / ($ex * $ex + $ey * $ey + $ez * $ez);
            $t = max(0.0, min(1.0, $t));
            $square = ($x - $px - $t * $ex) ** 2 + ($y - $py - $t * $ey) ** 2 + ($z - $pz - $t * $ez) ** 2;
            if ($square < $best) {
                [$best, $found] = [$square, [$px + $t * $ex, $py + $t * $ey, $pz + $t * $ez]];
            }
        }

        return [...($outside ? $found : [$x, $y, $z]), ! $outside];
    }
}
