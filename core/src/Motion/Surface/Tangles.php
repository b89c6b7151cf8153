<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Vector;

/**
 * Where surfaces have come through themselves or each other, and which way out: each edge that pierces a triangle is moved, and the triangle the
 * other way, so that the line in which both sheets cross gets shorter (Volino and Magnenat-Thalmann 2006, "Resolving surface
 * collisions through intersection contour minimization"; the idea is theirs, from memory, the formula is derived here).
 *
 * The line leaves the pierced point p in each face beside the edge, along R. If the edge is moved by D, p moves in the triangle's plane
 * by D - (D.N / E.N) E, and the line gets shorter by R times that: the way out is the sum of R - (E.R / E.N) N, with E along the
 * edge and N across the triangle.
 */
final class Tangles
{
    /** Least part of an edge across what it pierces: one that lies nearly in it would go far. */
    private const STEEP = 0.2;

    /**
     * @param list<int> $facing pairs of triangles as {@see facing()} tells them: no other ones are looked at
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles
     * @param array<int, list<int>> $around triangles at each vertex, by their first corner
     *
     * @return array<int, array{float, float, float}> the way out of each vertex of what crosses, no longer than 1
     */
    public static function waysOut(array $facing, array $x, array $y, array $z, array $triangles, array $around): array
    {
        return self::ways(self::pierced($facing, $x, $y, $z, $triangles), $x, $y, $z, $triangles, $around);
    }

    /**
     * @param array<array{int, int, int}> $pierced as {@see pierced()} tells them
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles
     * @param array<int, list<int>> $around triangles at each vertex, by their first corner
     *
     * @return array<int, array{float, float, float}> the way out of each vertex of what crosses, no longer than 1
     */
    public static function ways(array $pierced, array $x, array $y, array $z, array $triangles, array $around): array
    {
        $ways = [];
        foreach ($pierced as [$u, $v, $t]) {
            $out = self::wayOut($u, $v, $t, $x, $y, $z, $triangles, array_intersect($around[$u], $around[$v]));
            foreach ([[$u, 1.0], [$v, 1.0], [$triangles[$t], -1.0], [$triangles[$t + 1], -1.0], [$triangles[$t + 2], -1.0]] as [$vertex, $sign]) {
                $way = $ways[$vertex] ?? [0.0, 0.0, 0.0];
                $ways[$vertex] = [$way[0] + $sign * $out[0], $way[1] + $sign * $out[1], $way[2] + $sign * $out[2]];
            }
        }
        foreach ($ways as $vertex => [$p, $q, $r]) {
            $by = 1.0 / max(1.0, sqrt($p * $p + $q * $q + $r * $r));
            $ways[$vertex] = [$by * $p, $by * $q, $by * $r];
        }

        return $ways;
    }

    /**
     * @param list<array{int, int}> $pairs vertices that are near each other
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     * @param list<list<int>> $around triangles at each vertex, by their first corner
     *
     * @return list<int> pairs of triangles at them whose boxes meet, as the one's first corner times the number of all corners plus the other's
     */
    public static function facing(array $pairs, array $x, array $y, array $z, array $triangles, array $around): array
    {
        $end = count($triangles);
        $box = self::boxes($pairs, $x, $y, $z, $triangles, $around);
        $seen = [];
        foreach ($pairs as [$a, $b]) {
            foreach ($around[$a] as $s) {
                $k = 2 * $s;
                $lx = $box[$k];
                $hx = $box[$k + 1];
                $ly = $box[$k + 2];
                $hy = $box[$k + 3];
                $lz = $box[$k + 4];
                $hz = $box[$k + 5];
                foreach ($around[$b] as $t) {
                    $k = 2 * $t;
                    // Three of four are apart, and to see that costs less than to note which have been looked at.
                    if ($lx <= $box[$k + 1] && $hx >= $box[$k] && $ly <= $box[$k + 3] && $hy >= $box[$k + 2] && $lz <= $box[$k + 5] && $hz >= $box[$k + 4]) {
                        $seen[$s < $t ? $s * $end + $t : $t * $end + $s] = true;
                    }
                }
            }
        }

        return array_keys($seen);
    }

    /**
     * @param list<array{int, int}> $pairs
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     * @param list<list<int>> $around
     *
     * @return array<int, float> least and largest x, y, z of each triangle at them; of others nothing
     */
    private static function boxes(array $pairs, array $x, array $y, array $z, array $triangles, array $around): array
    {
        $those = [];
        foreach ($pairs as $pair) {
            foreach ($pair as $vertex) {
                foreach ($around[$vertex] as $t) {
                    $those[$t] = true;
                }
            }
        }
        $box = array_fill(0, 2 * count($triangles), INF);
        self::bound($box, array_keys($those), [$x, $y, $z], $triangles);

        return $box;
    }

    /**
     * @param array<int, float> $box by twice the first corner of a triangle: its least and largest x, y and z, m
     * @param list<int> $those triangles that are told there anew, by their first corner
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places of all vertices, m
     * @param array<int, int> $triangles three vertices each
     */
    public static function bound(array &$box, array $those, array $places, array $triangles): void
    {
        $own = $box;
        $box = [];
        foreach ($those as $t) {
            $a = $triangles[$t];
            $b = $triangles[$t + 1];
            $c = $triangles[$t + 2];
            $k = 2 * $t;
            foreach ($places as $at) {
                $p = $at[$a];
                $q = $at[$b];
                $r = $at[$c];
                $low = $p < $q ? $p : $q;
                $high = $p < $q ? $q : $p;
                $own[$k++] = $r < $low ? $r : $low;
                $own[$k++] = $r > $high ? $r : $high;
            }
        }
        $box = $own;
    }

    /**
     * Edges that go through triangles.
     *
     * @param list<int> $facing
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles
     *
     * @return array<string, array{int, int, int}> ends of the edge, first corner of the triangle
     */
    public static function pierced(array $facing, array $x, array $y, array $z, array $triangles): array
    {
        return self::together(self::piercedBy($facing, $x, $y, $z, $triangles));
    }

    /**
     * @param array<int, array<string, array{int, int, int}>> $by pair of triangles
     *
     * @return array<string, array{int, int, int}> each once
     */
    public static function together(array $by): array
    {
        $pierced = [];
        foreach ($by as $of) {
            foreach ($of as $name => $edge) {
                $pierced[$name] = $edge;
            }
        }

        return $pierced;
    }

    /**
     * The one kernel: what goes through what, pair by pair.
     *
     * @param array<int, int> $facing
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles
     *
     * @return array<int, array<string, array{int, int, int}>> of pairs of which one goes through the other: ends of the edge, first corner of the triangle
     */
    public static function piercedBy(array $facing, array $x, array $y, array $z, array $triangles): array
    {
        $pierced = [];
        $end = count($triangles);
        foreach ($facing as $pair => $key) {
            $one = intdiv($key, $end);
            $other = $key - $one * $end;
            for ($turn = 0; $turn < 2; ++$turn) {
                $s = $turn === 0 ? $one : $other;
                $t = $turn === 0 ? $other : $one;
                $a = $triangles[$t];
                $b = $triangles[$t + 1];
                $c = $triangles[$t + 2];
                $p = $triangles[$s];
                $q = $triangles[$s + 1];
                $r = $triangles[$s + 2];
                if ($p === $a || $p === $b || $p === $c || $q === $a || $q === $b || $q === $c || $r === $a || $r === $b || $r === $c) {
                    // What has a corner in common bends there.
                    break;
                }
                $ax = $x[$a];
                $ay = $y[$a];
                $az = $z[$a];
                $ux = $x[$b] - $ax;
                $uy = $y[$b] - $ay;
                $uz = $z[$b] - $az;
                $vx = $x[$c] - $ax;
                $vy = $y[$c] - $ay;
                $vz = $z[$c] - $az;
                $nx = $uy * $vz - $uz * $vy;
                $ny = $uz * $vx - $ux * $vz;
                $nz = $ux * $vy - $uy * $vx;
                $side = ($x[$p] - $ax) * $nx + ($y[$p] - $ay) * $ny + ($z[$p] - $az) * $nz;
                $next = ($x[$q] - $ax) * $nx + ($y[$q] - $ay) * $ny + ($z[$q] - $az) * $nz;
                $last = ($x[$r] - $ax) * $nx + ($y[$r] - $ay) * $ny + ($z[$r] - $az) * $nz;
                $square = $nx * $nx + $ny * $ny + $nz * $nz;
                if ($square <= 0.0 || ($side > 0.0 && $next > 0.0 && $last > 0.0) || ($side < 0.0 && $next < 0.0 && $last < 0.0)) {
                    // All on one side.
                    break;
                }
                foreach ([[$p, $q, $side, $next], [$q, $r, $next, $last], [$r, $p, $last, $side]] as [$from, $to, $before, $behind]) {
                    if ($before * $behind >= 0.0) {
                        continue;
                    }
                    $at = $before / ($before - $behind);
                    $dx = $x[$from] + $at * ($x[$to] - $x[$from]) - $ax;
                    $dy = $y[$from] + $at * ($y[$to] - $y[$from]) - $ay;
                    $dz = $z[$from] + $at * ($z[$to] - $z[$from]) - $az;
                    // Shares of the corners b and c at the pierced point.
                    $g = (($dy * $vz - $dz * $vy) * $nx + ($dz * $vx - $dx * $vz) * $ny + ($dx * $vy - $dy * $vx) * $nz) / $square;
                    $h = (($uy * $dz - $uz * $dy) * $nx + ($uz * $dx - $ux * $dz) * $ny + ($ux * $dy - $uy * $dx) * $nz) / $square;
                    if ($g >= 0.0 && $h >= 0.0 && $g + $h <= 1.0) {
                        $pierced[$pair][min($from, $to) . ',' . max($from, $to) . ",$t"] = [$from, $to, $t];
                    }
                }
            }
        }

        return $pierced;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles
     * @param array<int> $beside faces with the edge
     *
     * @return array{float, float, float} which way the edge should go
     */
    private static function wayOut(int $u, int $v, int $t, array $x, array $y, array $z, array $triangles, array $beside): array
    {
        $at = static fn (int $p): array => [$x[$p], $y[$p], $z[$p]];
        $cross = static fn (int $f): array => Vector::cross(Vector::minus($at($triangles[$f + 1]), $at($triangles[$f])), Vector::minus($at($triangles[$f + 2]), $at($triangles[$f])));
        $edge = Vector::unit(Vector::minus($at($v), $at($u)));
        $normal = Vector::unit($cross($t));
        $out = [0.0, 0.0, 0.0];
        if ($edge === null || $normal === null) {
            return $out;
        }
        $through = Vector::dot($edge, $normal);
        $through = ($through < 0.0 ? -1.0 : 1.0) * max(self::STEEP, abs($through));
        foreach ($beside as $face) {
            $line = Vector::unit(Vector::cross($cross($face), $normal));
            if ($line === null) {
                continue;
            }
            $corner = $triangles[$face] + $triangles[$face + 1] + $triangles[$face + 2] - $u - $v;
            $way = Vector::minus($at($corner), $at($u));
            $across = Vector::dot($line, $way) - Vector::dot($line, $edge) * Vector::dot($way, $edge);
            $sign = $across < 0.0 ? -1.0 : 1.0;
            $by = Vector::dot($edge, $line) / $through;
            foreach ([0, 1, 2] as $axis) {
                $out[$axis] += $sign * ($line[$axis] - $by * $normal[$axis]);
            }
        }

        return [$out[0], $out[1], $out[2]];
    }
}
