<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh\Primitive;

use YardBreak\Core\Mesh\TriangleMesh;

/** An outline in the half plane (radius, height), turned about the y axis. */
final class Lathe
{
    /**
     * @param list<array{float, float}> $outline radius (not negative) and height of each point, counter-clockwise in the
     *                                           (radius, height) plane; points on the axis become poles. With neither end on
     *                                           the axis the outline is closed to a ring; with one the surface is an open bowl.
     * @param int $segments around the axis
     */
    public static function turn(array $outline, int $segments): TriangleMesh
    {
        $x = $y = $z = $triangles = $uvs = [];
        $rings = [];
        $count = count($outline);
        foreach ($outline as [$r, $h]) {
            if ($r <= 0.0) {
                $rings[] = [count($x)];
                $x[] = 0.0;
                $y[] = $h;
                $z[] = 0.0;
                continue;
            }
            $ring = [];
            for ($s = 0; $s < $segments; $s++) {
                $angle = 2.0 * M_PI * $s / $segments;
                $ring[] = count($x);
                $x[] = $r * cos($angle);
                $y[] = $h;
                $z[] = -$r * sin($angle);
            }
            $rings[] = $ring;
        }
        $closed = count($rings[0]) > 1 && count($rings[$count - 1]) > 1;
        for ($k = 0, $end = $closed ? $count : $count - 1; $k < $end; $k++) {
            $lower = $rings[$k];
            $upper = $rings[($k + 1) % $count];
            $v0 = $k / $count;
            $v1 = ($k + 1) / $count;
            for ($s = 0; $s < $segments; $s++) {
                $u0 = $s / $segments;
                $u1 = ($s + 1) / $segments;
                $next = ($s + 1) % $segments;
                if (count($lower) > 1) {
                    array_push($triangles, $lower[$s], $lower[$next], $upper[count($upper) > 1 ? $next : 0]);
                    array_push($uvs, $u0, $v0, $u1, $v0, $u1, $v1);
                }
                if (count($upper) > 1) {
                    array_push($triangles, $lower[count($lower) > 1 ? $s : 0], $upper[$next], $upper[$s]);
                    array_push($uvs, $u0, $v0, $u1, $v1, $u0, $v1);
                }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, $uvs);
    }
}
