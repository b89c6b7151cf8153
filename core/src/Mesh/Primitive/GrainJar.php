<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh\Primitive;

use YardBreak\Core\Mesh\TriangleMesh;

/** The clay grain jar of the Tidemill shots: a thick-walled pot on the lathe, about 20,000 triangles, foot at y = 0. */
final class GrainJar
{
    /** Outside of the jar from foot to lip: radius and height in metres at a height of 0.42 m. */
    private const PROFILE = [
        [0.075, 0.0], [0.083, 0.008], [0.088, 0.02], [0.115, 0.07], [0.142, 0.125], [0.155, 0.18], [0.154, 0.225],
        [0.140, 0.275], [0.112, 0.322], [0.088, 0.352], [0.081, 0.372], [0.086, 0.395], [0.098, 0.412],
    ];

    /**
     * @param float $height in metres
     * @param float $wall thickness in metres
     * @param int $segments around the axis
     * @param int $rings along the outline
     */
    public static function mesh(float $height = 0.42, float $wall = 0.011, int $segments = 96, int $rings = 105): TriangleMesh
    {
        $s = $height / 0.42;
        $outside = [[0.0, 0.0]];
        foreach (self::PROFILE as [$r, $h]) {
            $outside[] = [$r * $s, $h * $s];
        }
        $inside = [];
        $count = count($outside);
        for ($k = $count - 1; $k >= 1; $k--) {
            [$r0, $h0] = $outside[max(1, $k - 1)];
            [$r1, $h1] = $outside[min($count - 1, $k + 1)];
            $length = hypot($r1 - $r0, $h1 - $h0);
            // Inwards is to the left of the way up.
            $r = $outside[$k][0] - $wall * ($h1 - $h0) / $length;
            $h = $outside[$k][1] + $wall * ($r1 - $r0) / $length;
            if ($h > 1.3 * $wall) {
                $inside[] = [$r, $h];
            }
        }
        $lip = [$outside[$count - 1][0] - 0.35 * $wall, $outside[$count - 1][1] + 0.5 * $wall];
        $outline = [...$outside, $lip, ...$inside, [0.055 * $s, 1.3 * $wall], [0.0, 1.25 * $wall]];

        return Lathe::turn(self::resample($outline, $rings), $segments);
    }

    /**
     * Points at equal spacing along a smooth curve through the outline (centripetal enough: Catmull-Rom).
     *
     * @param list<array{float, float}> $outline
     *
     * @return list<array{float, float}>
     */
    private static function resample(array $outline, int $rings): array
    {
        /** @var list<array{float, float}> $fine */
        $fine = [];
        $n = count($outline);
        for ($k = 0; $k + 1 < $n; $k++) {
            $p = [$outline[max(0, $k - 1)], $outline[$k], $outline[$k + 1], $outline[min($n - 1, $k + 2)]];
            for ($step = 0; $step < 16; $step++) {
                $t = $step / 16.0;
                $point = [0.0, 0.0];
                foreach ([0, 1] as $axis) {
                    $point[$axis] = $p[1][$axis] + 0.5 * $t * ($p[2][$axis] - $p[0][$axis]
                        + $t * (2.0 * $p[0][$axis] - 5.0 * $p[1][$axis] + 4.0 * $p[2][$axis] - $p[3][$axis]
                        + $t * (3.0 * ($p[1][$axis] - $p[2][$axis]) + $p[3][$axis] - $p[0][$axis])));
                }
                $fine[] = [max(0.0, $point[0]), $point[1]];
            }
        }
        $fine[] = $outline[$n - 1];
        $lengths = [0.0];
        for ($k = 1, $m = count($fine); $k < $m; $k++) {
            $lengths[] = $lengths[$k - 1] + hypot($fine[$k][0] - $fine[$k - 1][0], $fine[$k][1] - $fine[$k - 1][1]);
        }
        $total = $lengths[count($lengths) - 1];
        $even = [$outline[0]];
        $k = 0;
        for ($i = 1; $i < $rings; $i++) {
            $at = $total * $i / $rings;
            while ($lengths[$k + 1] < $at) {
                $k++;
            }
            $t = ($at - $lengths[$k]) / ($lengths[$k + 1] - $lengths[$k]);
            $even[] = [
                max(1e-4, $fine[$k][0] + $t * ($fine[$k + 1][0] - $fine[$k][0])),
                $fine[$k][1] + $t * ($fine[$k + 1][1] - $fine[$k][1]),
            ];
        }
        $even[] = $outline[$n - 1];

        return $even;
    }
}
