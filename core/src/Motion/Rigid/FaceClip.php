<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Faces of hulls as flat lists of corners, clipped against each other: where two faces touch. */
final class FaceClip
{
    /** @return list<float> three numbers a corner */
    public static function polygon(ConvexHull $hull, int $face): array
    {
        $polygon = [];
        $x = $hull->x;
        $y = $hull->y;
        $z = $hull->z;
        $loop = $hull->loop;
        for ($k = $hull->start[$face], $end = $hull->start[$face + 1]; $k < $end; $k++) {
            $i = $loop[$k];
            $polygon[] = $x[$i];
            $polygon[] = $y[$i];
            $polygon[] = $z[$i];
        }

        return $polygon;
    }

    /**
     * @param list<float> $pose
     *
     * @return list<float> three numbers a corner
     */
    public static function turned(ConvexHull $hull, int $face, array $pose): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $pose;
        $polygon = [];
        $X = $hull->x;
        $Y = $hull->y;
        $Z = $hull->z;
        $loop = $hull->loop;
        for ($k = $hull->start[$face], $end = $hull->start[$face + 1]; $k < $end; $k++) {
            $i = $loop[$k];
            $x = $X[$i];
            $y = $Y[$i];
            $z = $Z[$i];
            $polygon[] = $m0 * $x + $m1 * $y + $m2 * $z + $tx;
            $polygon[] = $m3 * $x + $m4 * $y + $m5 * $z + $ty;
            $polygon[] = $m6 * $x + $m7 * $y + $m8 * $z + $tz;
        }

        return $polygon;
    }

    /**
     * The part of polygon $other over polygon $face, as points with their height over the face. The clipped faces can miss
     * the corner that is in deepest; it belongs to the contact in any case.
     *
     * @param list<float> $face
     * @param list<float> $other
     * @param array{float, float, float} $deep
     * @param array{float, float, float} $way of the other in this step
     *
     * @return list<float> four numbers a point
     */
    public static function clip(array $face, array $other, float $nx, float $ny, float $nz, float $d, float $margin, array $deep, float $radius, array $way): array
    {
        $corners = $other;
        $count = count($face);
        $ax = $face[$count - 3];
        $ay = $face[$count - 2];
        $az = $face[$count - 1];
        $size = count($other);
        for ($k = 0; $k < $count && $size > 0; $k += 3) {
            $bx = $face[$k];
            $by = $face[$k + 1];
            $bz = $face[$k + 2];
            // Outwards of the edge, within the face.
            $sx = ($by - $ay) * $nz - ($bz - $az) * $ny;
            $sy = ($bz - $az) * $nx - ($bx - $ax) * $nz;
            $sz = ($bx - $ax) * $ny - ($by - $ay) * $nx;
            $c = $sx * $ax + $sy * $ay + $sz * $az;
            $ax = $bx;
            $ay = $by;
            $az = $bz;
            $out = false;
            for ($i = 0; $i < $size; $i += 3) {
                if ($sx * $other[$i] + $sy * $other[$i + 1] + $sz * $other[$i + 2] > $c) {
                    $out = true;
                    break;
                }
            }
            if (! $out) {
                continue;
            }
            $kept = [];
            $px = $other[$size - 3];
            $py = $other[$size - 2];
            $pz = $other[$size - 1];
            $hp = $sx * $px + $sy * $py + $sz * $pz - $c;
            for ($i = 0; $i < $size; $i += 3) {
                $qx = $other[$i];
                $qy = $other[$i + 1];
                $qz = $other[$i + 2];
                $hq = $sx * $qx + $sy * $qy + $sz * $qz - $c;
                if (($hp > 0.0) !== ($hq > 0.0)) {
                    $s = $hp / ($hp - $hq);
                    $kept[] = $px + $s * ($qx - $px);
                    $kept[] = $py + $s * ($qy - $py);
                    $kept[] = $pz + $s * ($qz - $pz);
                }
                if ($hq <= 0.0) {
                    $kept[] = $qx;
                    $kept[] = $qy;
                    $kept[] = $qz;
                }
                $px = $qx;
                $py = $qy;
                $pz = $qz;
                $hp = $hq;
            }
            $other = $kept;
            $size = count($other);
        }
        $points = [];
        $least = INF;
        for ($i = 0; $i < $size; $i += 3) {
            $x = $other[$i];
            $y = $other[$i + 1];
            $z = $other[$i + 2];
            $gap = $nx * $x + $ny * $y + $nz * $z - $d;
            if ($gap <= $margin) {
                $points[] = $x;
                $points[] = $y;
                $points[] = $z;
                $points[] = $gap;
                if ($gap < $least) {
                    $least = $gap;
                }
            }
        }
        [$x, $y, $z] = $deep;
        $low = $nx * $x + $ny * $y + $nz * $z - $d;
        if ($points === [] && $low > RigidTuning::LOOK_AHEAD * $radius && ! self::meets($face, $corners, $nx, $ny, $nz, $low, $way)) {
            // Far apart and not over each other, not even when they will be level: it flies past.
            return [];
        }
        if ($least > $low + 1e-3 * $radius) {
            $points[] = $x;
            $points[] = $y;
            $points[] = $z;
            $points[] = $low;
        }

        return $points;
    }

    /**
     * Whether a polygon is over a face by the time it has come down to it.
     *
     * @param list<float> $face
     * @param list<float> $other
     * @param array{float, float, float} $way
     */
    private static function meets(array $face, array $other, float $nx, float $ny, float $nz, float $gap, array $way): bool
    {
        [$x, $y, $z] = $way;
        $closing = -($nx * $x + $ny * $y + $nz * $z);
        if ($closing <= 0.0) {
            return false;
        }
        $t = $closing > $gap ? $gap / $closing : 1.0;
        $x = $t * ($x + $closing * $nx);
        $y = $t * ($y + $closing * $ny);
        $z = $t * ($z + $closing * $nz);
        $there = [];
        for ($i = 0, $end = count($other); $i < $end; $i += 3) {
            $there[] = $other[$i] + $x;
            $there[] = $other[$i + 1] + $y;
            $there[] = $other[$i + 2] + $z;
        }

        return self::clip($face, $there, $nx, $ny, $nz, 0.0, INF, [0.0, 0.0, 0.0], INF, [0.0, 0.0, 0.0]) !== [];
    }

    /**
     * At most four points that hold as well as all: the deepest, the one farthest from it, and those farthest to either
     * side of the line between them.
     *
     * @param list<float> $points four numbers a point
     *
     * @return list<float>
     */
    public static function reduce(array $points, float $nx, float $ny, float $nz): array
    {
        $end = count($points);
        $a = 0;
        for ($k = 4; $k < $end; $k += 4) {
            if ($points[$k + 3] < $points[$a + 3]) {
                $a = $k;
            }
        }
        $ax = $points[$a];
        $ay = $points[$a + 1];
        $az = $points[$a + 2];
        $b = $a;
        $far = -1.0;
        for ($k = 0; $k < $end; $k += 4) {
            $dx = $points[$k] - $ax;
            $dy = $points[$k + 1] - $ay;
            $dz = $points[$k + 2] - $az;
            $distance = $dx * $dx + $dy * $dy + $dz * $dz;
            if ($distance > $far) {
                $far = $distance;
                $b = $k;
            }
        }
        $dx = $points[$b] - $ax;
        $dy = $points[$b + 1] - $ay;
        $dz = $points[$b + 2] - $az;
        $sx = $ny * $dz - $nz * $dy;
        $sy = $nz * $dx - $nx * $dz;
        $sz = $nx * $dy - $ny * $dx;
        $most = 1e-12;
        $least = -1e-12;
        $c = $d = -1;
        for ($k = 0; $k < $end; $k += 4) {
            $h = $sx * ($points[$k] - $ax) + $sy * ($points[$k + 1] - $ay) + $sz * ($points[$k + 2] - $az);
            if ($h > $most) {
                $most = $h;
                $c = $k;
            }
            if ($h < $least) {
                $least = $h;
                $d = $k;
            }
        }
        $kept = [];
        foreach ([$a, $b, $c, $d] as $k) {
            if ($k >= 0) {
                $kept[] = $points[$k];
                $kept[] = $points[$k + 1];
                $kept[] = $points[$k + 2];
                $kept[] = $points[$k + 3];
            }
        }

        return $kept;
    }
}
