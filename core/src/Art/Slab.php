<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Plane\Pinches;
use YardBreak\Core\Plane\TooIntricate;
use YardBreak\Core\Plane\Triangulation;

/**
 * Flat art as a slab: its painted area drawn out along z, with holes kept and edges bevelled where there is room. The front
 * (towards +z) and the back carry texture coordinates over the art's bounds, the sides run along the outline.
 */
final class Slab
{
    /** Of the art's larger side: points this near are one. */
    private const NEAR = 2e-5;

    /** Triangles that may be looked at while the art is taken apart: some five seconds. */
    private const EFFORT = 3_000_000;

    /** A bevel takes at most this part of the depth. */
    private const MOST_BEVEL = 0.45;

    /**
     * @param float $height of the slab, m
     * @param float $depth m
     * @param float $bevel m
     *
     * @throws BadFile if nothing is painted, or it is too intricate
     */
    public static function of(Artwork $art, float $height, float $depth, float $bevel): TriangleMesh
    {
        [$x0, $y0, $x1, $y1] = $art->bounds();
        if (! ($y1 > $y0) || ! ($x1 > $x0)) {
            throw new BadFile('The art has no area.');
        }
        $scale = $height / ($y1 - $y0);
        try {
            [$drawing, $covered] = self::outline($art, 0.5 * ($x0 + $x1), 0.5 * ($y0 + $y1), $scale);
        } catch (TooIntricate $error) {
            throw new BadFile($error->getMessage());
        }
        $bevel = min($bevel, self::MOST_BEVEL * $depth);

        return self::build($drawing, $covered, $depth, $bevel, $scale * ($x1 - $x0), $height);
    }

    /**
     * The outline of all that is painted, triangulated, and which triangles lie inside.
     *
     * @return array{Triangulation, array<int, bool>}
     */
    private static function outline(Artwork $art, float $mx, float $my, float $scale): array
    {
        [$x0, $y0, $x1, $y1] = $art->bounds();
        $w = 0.6 * $scale * ($x1 - $x0);
        $h = 0.6 * $scale * ($y1 - $y0);
        $all = new Triangulation([-$w, -$h], [$w, $h], self::NEAR, self::EFFORT);
        $shapes = [];
        foreach ($art->shapes as $shape) {
            $loops = [];
            foreach ($shape->outlines as $outline) {
                $loop = [];
                foreach ($outline as [$x, $y]) {
                    $loop[] = $all->point($scale * ($x - $mx), $scale * ($y - $my));
                }
                $loops[] = $loop;
            }
            $shapes[] = [$loops, $shape->evenOdd];
        }
        foreach ($shapes as [$loops]) {
            foreach ($loops as $loop) {
                foreach ($loop as $k => $p) {
                    $all->line($p, $loop[$k + 1] ?? $loop[0]);
                }
            }
        }
        $painted = self::painted($all, $shapes);
        // Only lines between painted and bare; then no area touches itself in a point.
        $rim = new Triangulation([-$w, -$h], [$w, $h], 0.0);
        $name = [];
        $lines = [];
        foreach ($all->across as $e => $beyond) {
            $t = intdiv($e, 3);
            if ($beyond > $t && $painted[$t] !== $painted[$beyond]) {
                $p = $all->corner[3 * $t + ($e + 1) % 3];
                $q = $all->corner[3 * $t + ($e + 2) % 3];
                $name[$p] ??= $rim->point($all->x[$p], $all->y[$p]);
                $name[$q] ??= $rim->point($all->x[$q], $all->y[$q]);
                $lines[] = [$name[$p], $name[$q]];
            }
        }
        if ($lines === []) {
            throw new BadFile('The art has no painted area.');
        }
        foreach ($lines as [$a, $b]) {
            $rim->line($a, $b);
        }
        $rim = Pinches::apart($rim);
        $areas = $rim->areas();
        $inside = $covered = [];
        for ($t = 0, $end = $rim->triangleCount(); $t < $end; $t++) {
            if (! isset($inside[$areas[$t]])) {
                [$a, $b, $c] = [$rim->corner[3 * $t], $rim->corner[3 * $t + 1], $rim->corner[3 * $t + 2]];
                $found = $all->find(($rim->x[$a] + $rim->x[$b] + $rim->x[$c]) / 3.0, ($rim->y[$a] + $rim->y[$b] + $rim->y[$c]) / 3.0);
                $inside[$areas[$t]] = $painted[$found];
            }
            $covered[$t] = $inside[$areas[$t]];
        }

        return [$rim, $covered];
    }

    /**
     * Which triangles some shape paints, by how often each outline goes round their middle.
     *
     * @param list<array{list<list<int>>, bool}> $shapes
     *
     * @return array<int, bool>
     */
    private static function painted(Triangulation $all, array $shapes): array
    {
        $areas = $all->areas();
        // A shape paints nothing outside its bounds: most of many are passed over by these.
        $bounds = array_map(static fn (array $shape): array => self::boundsOf(array_merge(...$shape[0]), $all), $shapes);
        $painted = $known = [];
        for ($t = 0, $end = $all->triangleCount(); $t < $end; $t++) {
            $area = $areas[$t];
            if (! isset($known[$area])) {
                [$a, $b, $c] = [$all->corner[3 * $t], $all->corner[3 * $t + 1], $all->corner[3 * $t + 2]];
                $x = ($all->x[$a] + $all->x[$b] + $all->x[$c]) / 3.0;
                $y = ($all->y[$a] + $all->y[$b] + $all->y[$c]) / 3.0;
                $known[$area] = false;
                foreach ($shapes as $s => [$loops, $evenOdd]) {
                    [$x0, $y0, $x1, $y1] = $bounds[$s];
                    if ($x < $x0 || $x > $x1 || $y < $y0 || $y > $y1) {
                        continue;
                    }
                    $winding = 0;
                    foreach ($loops as $loop) {
                        $winding += self::winding($loop, $all, $x, $y);
                    }
                    if ($evenOdd ? ($winding & 1) === 1 : $winding !== 0) {
                        $known[$area] = true;
                        break;
                    }
                }
            }
            $painted[$t] = $known[$area];
        }

        return $painted;
    }

    /**
     * @param list<int> $points
     *
     * @return array{float, float, float, float} lowest x and y, highest x and y
     */
    private static function boundsOf(array $points, Triangulation $d): array
    {
        [$x0, $y0, $x1, $y1] = [INF, INF, -INF, -INF];
        foreach ($points as $p) {
            [$x0, $y0] = [min($x0, $d->x[$p]), min($y0, $d->y[$p])];
            [$x1, $y1] = [max($x1, $d->x[$p]), max($y1, $d->y[$p])];
        }

        return [$x0, $y0, $x1, $y1];
    }

    /** @param list<int> $loop */
    private static function winding(array $loop, Triangulation $d, float $x, float $y): int
    {
        $winding = 0;
        foreach ($loop as $k => $p) {
            $q = $loop[$k + 1] ?? $loop[0];
            $py = $d->y[$p] - $y;
            $qy = $d->y[$q] - $y;
            if (($py < 0.0) === ($qy < 0.0)) {
                continue;
            }
            $left = ($d->x[$p] - $x) * $qy - ($d->x[$q] - $x) * $py;
            if ($py < 0.0 && $left > 0.0) {
                $winding++;
            } elseif ($py >= 0.0 && $left < 0.0) {
                $winding--;
            }
        }

        return $winding;
    }

    /**
     * @param array<int, bool> $covered
     *
     * @throws BadFile if outlines only touch somewhere
     */
    private static function build(Triangulation $d, array $covered, float $depth, float $bevel, float $width, float $height): TriangleMesh
    {
        /** @var array<int, int> $next point after each point of the outline, the inside to the left */
        $next = [];
        foreach ($d->across as $e => $beyond) {
            $t = intdiv($e, 3);
            if ($covered[$t] && ($beyond < 0 || ! $covered[$beyond])) {
                $p = $d->corner[3 * $t + ($e + 1) % 3];
                if (isset($next[$p])) {
                    throw new BadFile('The art has outlines that only touch in a point, too close to others to be drawn apart. Move or simplify them there.');
                }
                $next[$p] = $d->corner[3 * $t + ($e + 2) % 3];
            }
        }
        [$inX, $inY] = $bevel > 0.0 ? self::inset($d, $covered, $next, $bevel) : [$d->x, $d->y];
        $x = $y = $z = [];
        $add = static function (float $px, float $py, float $pz) use (&$x, &$y, &$z): int {
            $x[] = $px;
            $y[] = $py;
            $z[] = $pz;

            return count($x) - 1;
        };
        $h = 0.5 * $depth;
        $front = $back = $sideFront = $sideBack = [];
        foreach ($d->corner as $k => $p) {
            if ($covered[intdiv($k, 3)] && ! isset($front[$p])) {
                $front[$p] = $add($inX[$p], $inY[$p], $h);
                $back[$p] = $add($inX[$p], $inY[$p], -$h);
            }
        }
        foreach (array_keys($next) as $p) {
            $sideFront[$p] = $bevel > 0.0 ? $add($d->x[$p], $d->y[$p], $h - $bevel) : $front[$p];
            $sideBack[$p] = $bevel > 0.0 ? $add($d->x[$p], $d->y[$p], $bevel - $h) : $back[$p];
        }
        $triangles = $uvs = $looks = [];
        $uv = static fn (int $v): array => [$x[$v] / $width + 0.5, $y[$v] / $height + 0.5];
        for ($t = 0, $end = $d->triangleCount(); $t < $end; $t++) {
            if (! $covered[$t]) {
                continue;
            }
            [$a, $b, $c] = [$d->corner[3 * $t], $d->corner[3 * $t + 1], $d->corner[3 * $t + 2]];
            array_push($triangles, $front[$a], $front[$b], $front[$c], $back[$a], $back[$c], $back[$b]);
            foreach ([$front[$a], $front[$b], $front[$c], $back[$a], $back[$c], $back[$b]] as $v) {
                array_push($uvs, ...$uv($v));
            }
            array_push($looks, TriangleMesh::LOOK_OUTER, TriangleMesh::LOOK_OUTER);
        }
        $along = 0.0;
        foreach ($next as $p => $q) {
            $length = hypot($d->x[$q] - $d->x[$p], $d->y[$q] - $d->y[$p]);
            $strips = $bevel > 0.0
                ? [[$front, $sideFront, 0.0], [$sideFront, $sideBack, $bevel], [$sideBack, $back, $depth - $bevel]]
                : [[$front, $back, 0.0]];
            foreach ($strips as $k => [$upper, $lower, $from]) {
                $to = $strips[$k + 1][2] ?? $depth;
                array_push($triangles, $upper[$p], $lower[$p], $lower[$q], $upper[$p], $lower[$q], $upper[$q]);
                array_push($uvs, $along, $from, $along, $to, $along + $length, $to, $along, $from, $along + $length, $to, $along + $length, $from);
                array_push($looks, TriangleMesh::LOOK_SIDE, TriangleMesh::LOOK_SIDE);
            }
            $along += $length;
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, $uvs, $looks);
    }

    /**
     * The outline's points moved inwards by a width, less where the faces would fold over.
     *
     * @param array<int, bool> $covered
     * @param array<int, int> $next
     *
     * @return array{array<int, float>, array<int, float>}
     */
    private static function inset(Triangulation $d, array $covered, array $next, float $width): array
    {
        $previous = array_flip($next);
        $moveX = $moveY = $share = [];
        foreach ($next as $p => $q) {
            $o = $previous[$p];
            [$ax, $ay] = self::inward($d, $o, $p);
            [$bx, $by] = self::inward($d, $p, $q);
            // Both edges move by the width; at most twice that at a sharp corner.
            $s = $width / max(0.5, 1.0 + $ax * $bx + $ay * $by);
            $moveX[$p] = $s * ($ax + $bx);
            $moveY[$p] = $s * ($ay + $by);
            $share[$p] = 1.0;
        }
        for ($round = 0; $round < 24; $round++) {
            $x = $d->x;
            $y = $d->y;
            foreach ($share as $p => $s) {
                $x[$p] += $s * $moveX[$p];
                $y[$p] += $s * $moveY[$p];
            }
            $less = [];
            for ($t = 0, $end = $d->triangleCount(); $t < $end; $t++) {
                if (! $covered[$t]) {
                    continue;
                }
                [$a, $b, $c] = [$d->corner[3 * $t], $d->corner[3 * $t + 1], $d->corner[3 * $t + 2]];
                $area = ($x[$b] - $x[$a]) * ($y[$c] - $y[$a]) - ($y[$b] - $y[$a]) * ($x[$c] - $x[$a]);
                $before = ($d->x[$b] - $d->x[$a]) * ($d->y[$c] - $d->y[$a]) - ($d->y[$b] - $d->y[$a]) * ($d->x[$c] - $d->x[$a]);
                if ($area < 0.05 * $before) {
                    $less += [$a => true, $b => true, $c => true];
                }
            }
            if ($less === []) {
                return [$x, $y];
            }
            foreach (array_keys($less) as $p) {
                if (isset($share[$p])) {
                    $share[$p] = $round < 22 ? 0.6 * $share[$p] : 0.0;
                }
            }
        }

        return [$d->x, $d->y];
    }

    /** @return array{float, float} of length 1, across the outline's stretch from p to q */
    private static function inward(Triangulation $d, int $p, int $q): array
    {
        $x = $d->x[$q] - $d->x[$p];
        $y = $d->y[$q] - $d->y[$p];
        $length = max(1e-300, hypot($x, $y));

        return [-$y / $length, $x / $length];
    }
}
