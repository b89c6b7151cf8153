<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Triangulates flat regions with holes by ear clipping (holes are joined to their outline by bridges, Eberly's
 * description). Adds no vertex and uses every edge of the outlines exactly once, whatever rounding did to the
 * coordinates: where no clean ear is left, the least bad one is cut. So a cap always closes its piece. Where triangles come to
 * lie over others the plane is turned and all is tried again; the best is taken.
 */
final class PolygonTriangulator
{
    /** Rounding of the corners' coordinates, relative to the largest of them. */
    private const ROUNDING = 4e-16;

    /** Where more than this lies folded over, the same is tried in other directions, so many times, so far turned each time. */
    private const FOLDED = 1e-9;

    private const TURNS = 6;

    private const TURN = 0.7345;

    /**
     * @param list<list<int>> $loops closed chains of vertices: outlines counter-clockwise, holes clockwise
     * @param array<int, float> $u coordinates of the vertices in the plane, by vertex number
     * @param array<int, float> $v
     *
     * @return list<int> three vertices a triangle
     */
    public static function triangulate(array $loops, array $u, array $v): array
    {
        $best = self::attempt($loops, $u, $v);
        $least = self::folded($best, $u, $v);
        for ($k = 1; $k <= self::TURNS && $least > self::FOLDED; $k++) {
            // What is in line along an axis (holes beside each other, sides one behind the other) is not in another direction.
            [$c, $s] = [cos(self::TURN * $k), sin(self::TURN * $k)];
            $turnedU = $turnedV = [];
            foreach ($u as $p => $pu) {
                $turnedU[$p] = $c * $pu - $s * $v[$p];
                $turnedV[$p] = $s * $pu + $c * $v[$p];
            }
            $other = self::attempt($loops, $turnedU, $turnedV);
            $folded = self::folded($other, $u, $v);
            if ($folded < $least) {
                [$best, $least] = [$other, $folded];
            }
        }

        return $best;
    }

    /**
     * How much of the triangles lies over others: twice the share of their area that is turned around.
     *
     * @param list<int> $triangles
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function folded(array $triangles, array $u, array $v): float
    {
        $sum = $all = 0.0;
        for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
            [$a, $b, $c] = [$triangles[$k], $triangles[$k + 1], $triangles[$k + 2]];
            $area = self::cross($u[$a], $v[$a], $u[$b], $v[$b], $u[$c], $v[$c]);
            $sum += $area;
            $all += abs($area);
        }

        return $all > 0.0 ? 1.0 - $sum / $all : 0.0;
    }

    /**
     * @param list<list<int>> $loops
     * @param array<int, float> $u
     * @param array<int, float> $v
     *
     * @return list<int>
     */
    private static function attempt(array $loops, array $u, array $v): array
    {
        if (count($loops) === 1) {
            return self::clipEars($loops[0], $u, $v);
        }
        $areas = array_map(static fn (array $loop): float => self::area($loop, $u, $v), $loops);
        $outlines = [];
        $holes = [];
        foreach ($loops as $k => $loop) {
            if ($areas[$k] >= 0.0) {
                $outlines[$k] = $loop;
            } else {
                $holes[$k] = $loop;
            }
        }
        // Each hole belongs to the smallest outline around it.
        $holesOf = [];
        $triangles = [];
        foreach ($holes as $h => $hole) {
            $owner = -1;
            foreach ($outlines as $o => $outline) {
                if (self::contains($outline, $u[$hole[0]], $v[$hole[0]], $u, $v)
                    && ($owner < 0 || $areas[$o] < $areas[$owner])) {
                    $owner = $o;
                }
            }
            if ($owner < 0) {
                // Rounding turned a hair-thin outline around: it is a region of its own.
                array_push($triangles, ...self::clipEars($hole, $u, $v));
            } else {
                $holesOf[$owner][] = $h;
            }
        }
        foreach ($outlines as $o => $outline) {
            $own = $holesOf[$o] ?? [];
            // Rightmost first, so that no bridge crosses a hole still to come.
            usort($own, static fn (int $a, int $b): int => self::rightmost($loops[$b], $u) <=> self::rightmost($loops[$a], $u));
            foreach ($own as $h) {
                $outline = self::bridge($outline, $loops[$h], $u, $v);
            }
            array_push($triangles, ...self::clipEars($outline, $u, $v));
        }

        return $triangles;
    }

    /**
     * @param list<int> $loop
     * @param array<int, float> $u
     */
    private static function rightmost(array $loop, array $u): float
    {
        $best = -INF;
        foreach ($loop as $p) {
            $best = $u[$p] > $best ? $u[$p] : $best;
        }

        return $best;
    }

    /**
     * @param list<int> $loop
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function area(array $loop, array $u, array $v): float
    {
        $sum = 0.0;
        $n = count($loop);
        $u0 = $u[$loop[0]];
        $v0 = $v[$loop[0]];
        for ($i = 1; $i + 1 < $n; $i++) {
            $a = $loop[$i];
            $b = $loop[$i + 1];
            $sum += ($u[$a] - $u0) * ($v[$b] - $v0) - ($u[$b] - $u0) * ($v[$a] - $v0);
        }

        return 0.5 * $sum;
    }

    /**
     * @param list<int> $loop
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function contains(array $loop, float $pu, float $pv, array $u, array $v): bool
    {
        $inside = false;
        $n = count($loop);
        for ($i = 0, $j = $n - 1; $i < $n; $j = $i++) {
            $a = $loop[$i];
            $b = $loop[$j];
            if (($v[$a] > $pv) !== ($v[$b] > $pv)
                && $pu < ($u[$b] - $u[$a]) * ($pv - $v[$a]) / ($v[$b] - $v[$a]) + $u[$a]) {
                $inside = ! $inside;
            }
        }

        return $inside;
    }

    /**
     * One chain out of an outline and a hole: from the hole's rightmost vertex to a vertex of the outline it can see.
     *
     * @param list<int> $outline
     * @param list<int> $hole
     * @param array<int, float> $u
     * @param array<int, float> $v
     *
     * @return list<int>
     */
    private static function bridge(array $outline, array $hole, array $u, array $v): array
    {
        $h = 0;
        foreach ($hole as $k => $p) {
            if ($u[$p] > $u[$hole[$h]]) {
                $h = $k;
            }
        }
        $pu = $u[$hole[$h]];
        $pv = $v[$hole[$h]];
        // The outline's edge that a ray to the right meets first.
        $n = count($outline);
        $nearest = INF;
        $target = -1;
        for ($i = 0; $i < $n; $i++) {
            $a = $outline[$i];
            $j = $i + 1 === $n ? 0 : $i + 1;
            $b = $outline[$j];
            if (($v[$a] <= $pv && $v[$b] > $pv) || ($v[$a] < $pv && $v[$b] >= $pv)) {
                $at = $u[$a] + ($pv - $v[$a]) / ($v[$b] - $v[$a]) * ($u[$b] - $u[$a]);
                if ($at >= $pu && $at < $nearest) {
                    $nearest = $at;
                    $target = $u[$a] > $u[$b] ? $i : $j;
                }
            }
        }
        if ($target < 0) {
            // Nothing to the right (rounding): the closest vertex will do.
            $closest = INF;
            foreach ($outline as $i => $p) {
                $d = ($u[$p] - $pu) ** 2 + ($v[$p] - $pv) ** 2;
                if ($d < $closest) {
                    $closest = $d;
                    $target = $i;
                }
            }
        } else {
            // Reflex vertices inside the triangle (hole, hit point, target) block the view: take the one at the smallest angle.
            $tu = $u[$outline[$target]];
            $tv = $v[$outline[$target]];
            $best = INF;
            $bestDistance = INF;
            $candidate = $target;
            for ($i = 0; $i < $n; $i++) {
                $p = $outline[$i];
                $qu = $u[$p];
                $qv = $v[$p];
                if ($qu < $pu || ($p === $outline[$target] && $i === $target)) {
                    continue;
                }
                $low = $tv < $pv ? self::inTriangle($pu, $pv, $tu, $tv, $nearest, $pv, $qu, $qv)
                    : self::inTriangle($pu, $pv, $nearest, $pv, $tu, $tv, $qu, $qv);
                if ($low) {
                    $slope = abs($qv - $pv) / max($qu - $pu, 1e-300);
                    $distance = $qu - $pu;
                    if ($slope < $best || ($slope === $best && $distance < $bestDistance)) {
                        if (self::opensTowards($outline, $i, $pu, $pv, $u, $v)) {
                            $best = $slope;
                            $bestDistance = $distance;
                            $candidate = $i;
                        }
                    }
                }
            }
            $own = abs($tv - $pv) / max($tu - $pu, 1e-300);
            if ($best <= $own) {
                $target = $candidate;
            }
        }
        $joined = array_slice($outline, 0, $target + 1);
        array_push($joined, ...array_slice($hole, $h), ...array_slice($hole, 0, $h + 1));
        array_push($joined, ...array_slice($outline, $target));

        return $joined;
    }

    /**
     * Whether the point lies within the region's angle at vertex $i of the chain.
     *
     * @param list<int> $loop
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function opensTowards(array $loop, int $i, float $pu, float $pv, array $u, array $v): bool
    {
        $n = count($loop);
        $a = $loop[$i === 0 ? $n - 1 : $i - 1];
        $b = $loop[$i];
        $c = $loop[$i + 1 === $n ? 0 : $i + 1];
        $turn = self::cross($u[$a], $v[$a], $u[$b], $v[$b], $u[$c], $v[$c]);
        $left1 = self::cross($u[$a], $v[$a], $u[$b], $v[$b], $pu, $pv) >= 0.0;
        $left2 = self::cross($u[$b], $v[$b], $u[$c], $v[$c], $pu, $pv) >= 0.0;

        return $turn >= 0.0 ? $left1 && $left2 : $left1 || $left2;
    }

    private static function cross(float $au, float $av, float $bu, float $bv, float $cu, float $cv): float
    {
        return ($bu - $au) * ($cv - $av) - ($bv - $av) * ($cu - $au);
    }

    private static function inTriangle(float $au, float $av, float $bu, float $bv, float $cu, float $cv, float $pu, float $pv): bool
    {
        return ($cu - $pu) * ($av - $pv) >= ($au - $pu) * ($cv - $pv)
            && ($au - $pu) * ($bv - $pv) >= ($bu - $pu) * ($av - $pv)
            && ($bu - $pu) * ($cv - $pv) >= ($cu - $pu) * ($bv - $pv);
    }

    /**
     * @param list<int> $loop
     * @param array<int, float> $u
     * @param array<int, float> $v
     *
     * @return list<int>
     */
    private static function clipEars(array $loop, array $u, array $v): array
    {
        $n = count($loop);
        $triangles = [];
        $next = [];
        $previous = [];
        $lu = [];
        $lv = [];
        foreach ($loop as $i => $p) {
            $next[$i] = $i + 1 === $n ? 0 : $i + 1;
            $previous[$i] = $i === 0 ? $n - 1 : $i - 1;
            $lu[$i] = $u[$p];
            $lv[$i] = $v[$p];
        }
        $left = $n;
        $at = 0;
        $misses = 0;
        // Corners on a straight line differ from it by rounding: such an ear has no area, and such a point lies on the edge.
        $reach = 0.0;
        foreach ($lu as $i => $cu) {
            $reach = max($reach, abs($cu), abs($lv[$i]));
        }
        $blur = self::ROUNDING * $reach;
        while ($left > 3) {
            $a = $previous[$at];
            $c = $next[$at];
            $au = $lu[$a];
            $av = $lv[$a];
            $bu = $lu[$at];
            $bv = $lv[$at];
            $cu = $lu[$c];
            $cv = $lv[$c];
            $none = $blur * (abs($bu - $au) + abs($bv - $av) + abs($cu - $bu) + abs($cv - $bv));
            $ear = ($bu - $au) * ($cv - $av) - ($bv - $av) * ($cu - $au) > $none;
            if ($ear) {
                $minU = $au < $bu ? ($au < $cu ? $au : $cu) : ($bu < $cu ? $bu : $cu);
                $maxU = $au > $bu ? ($au > $cu ? $au : $cu) : ($bu > $cu ? $bu : $cu);
                for ($i = $next[$c]; $i !== $a; $i = $next[$i]) {
                    $pu = $lu[$i];
                    if ($pu < $minU - $blur || $pu > $maxU + $blur) {
                        continue;
                    }
                    $pv = $lv[$i];
                    if (($cu - $pu) * ($av - $pv) - ($au - $pu) * ($cv - $pv) >= -$none
                        && ($au - $pu) * ($bv - $pv) - ($bu - $pu) * ($av - $pv) >= -$none
                        && ($bu - $pu) * ($cv - $pv) - ($cu - $pu) * ($bv - $pv) >= -$none
                        && $loop[$i] !== $loop[$a] && $loop[$i] !== $loop[$at] && $loop[$i] !== $loop[$c]) {
                        $ear = false;
                        break;
                    }
                }
            }
            if (! $ear && $misses < $left) {
                $misses++;
                $at = $c;
                continue;
            }
            if (! $ear) {
                $at = self::leastBadEar($at, $next, $previous, $lu, $lv);
                $a = $previous[$at];
                $c = $next[$at];
            }
            array_push($triangles, $loop[$a], $loop[$at], $loop[$c]);
            $next[$a] = $c;
            $previous[$c] = $a;
            $left--;
            $misses = 0;
            // Going on two ahead spreads the triangles instead of fanning them out of one vertex.
            $at = $next[$c];
        }
        array_push($triangles, $loop[$previous[$at]], $loop[$at], $loop[$next[$at]]);

        return self::withoutCollapsed($triangles);
    }

    /**
     * Where rounding left no clean ear: the corner whose triangle is nearest to having no area, convex ones first.
     *
     * @param array<int, int> $next
     * @param array<int, int> $previous
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function leastBadEar(int $from, array $next, array $previous, array $u, array $v): int
    {
        $best = $from;
        $least = INF;
        $i = $from;
        do {
            $a = $previous[$i];
            $c = $next[$i];
            $area = ($u[$i] - $u[$a]) * ($v[$c] - $v[$a]) - ($v[$i] - $v[$a]) * ($u[$c] - $u[$a]);
            $badness = $area >= 0.0 ? $area : -4.0 * $area;
            if ($badness < $least) {
                $least = $badness;
                $best = $i;
            }
            $i = $c;
        } while ($i !== $from);

        return $best;
    }

    /**
     * A triangle with a doubled vertex has two edges that cancel each other: leaving it out keeps the region closed.
     *
     * @param list<int> $triangles
     *
     * @return list<int>
     */
    private static function withoutCollapsed(array $triangles): array
    {
        $kept = [];
        for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
            [$a, $b, $c] = [$triangles[$k], $triangles[$k + 1], $triangles[$k + 2]];
            if ($a !== $b && $b !== $c && $c !== $a) {
                array_push($kept, $a, $b, $c);
            }
        }

        return $kept;
    }
}
