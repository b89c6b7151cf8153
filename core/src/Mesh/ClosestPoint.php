<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** The point of a triangle that is nearest to a place (Ericson 2005, Real-Time Collision Detection, 5.1.5). */
final class ClosestPoint
{
    /**
     * @param array{float, float, float} $p
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     * @param array{float, float, float} $c
     *
     * @return array{float, float, float}
     */
    public static function onTriangle(array $p, array $a, array $b, array $c): array
    {
        $ab = self::minus($b, $a);
        $ac = self::minus($c, $a);
        $ap = self::minus($p, $a);
        $d1 = self::dot($ab, $ap);
        $d2 = self::dot($ac, $ap);
        if ($d1 <= 0.0 && $d2 <= 0.0) {
            return $a;
        }
        $bp = self::minus($p, $b);
        $d3 = self::dot($ab, $bp);
        $d4 = self::dot($ac, $bp);
        if ($d3 >= 0.0 && $d4 <= $d3) {
            return $b;
        }
        $vc = $d1 * $d4 - $d3 * $d2;
        if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
            return self::along($a, $ab, $d1 / ($d1 - $d3));
        }
        $cp = self::minus($p, $c);
        $d5 = self::dot($ab, $cp);
        $d6 = self::dot($ac, $cp);
        if ($d6 >= 0.0 && $d5 <= $d6) {
            return $c;
        }
        $vb = $d5 * $d2 - $d1 * $d6;
        if ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
            return self::along($a, $ac, $d2 / ($d2 - $d6));
        }
        $va = $d3 * $d6 - $d5 * $d4;
        if ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
            return self::along($b, self::minus($c, $b), ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6)));
        }
        $s = 1.0 / ($va + $vb + $vc);

        return self::along(self::along($a, $ab, $vb * $s), $ac, $vc * $s);
    }

    /** How far a place is from the nearest triangle of a mesh, squared; m2. Cost: linear in the triangles. */
    public static function distanceSquared(TriangleMesh $mesh, float $x, float $y, float $z): float
    {
        $best = INF;
        for ($k = 0, $end = count($mesh->triangles); $k < $end; $k += 3) {
            $corners = [];
            for ($c = $k; $c < $k + 3; $c++) {
                $v = $mesh->triangles[$c];
                $corners[] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
            }
            [$px, $py, $pz] = self::onTriangle([$x, $y, $z], $corners[0], $corners[1], $corners[2]);
            $best = min($best, ($px - $x) ** 2 + ($py - $y) ** 2 + ($pz - $z) ** 2);
        }

        return $best;
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     *
     * @return array{float, float, float}
     */
    private static function minus(array $a, array $b): array
    {
        return [$a[0] - $b[0], $a[1] - $b[1], $a[2] - $b[2]];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * @param array{float, float, float} $from
     * @param array{float, float, float} $way
     *
     * @return array{float, float, float}
     */
    private static function along(array $from, array $way, float $s): array
    {
        return [$from[0] + $s * $way[0], $from[1] + $s * $way[1], $from[2] + $s * $way[2]];
    }
}
