<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cuts the triangles of a mesh along the walls of a cell complex (restricted Voronoi diagram, Yan et al. 2009). Each cut
 * vertex is named by what meets in it (a mesh edge and one wall, or a triangle and two walls) and computed once, so all
 * cells and triangles that touch it share it bit for bit. Sides are exact (see {@see CellComplex}).
 *
 * Triangles whose corners lie in one cell are wholly inside it (cells are convex) and cost next to nothing.
 */
final class SurfaceCutter
{
    private const NONE = -9;

    public static function cut(TriangleMesh $mesh, CellDiagram $diagram, Progress $progress = new Progress()): SurfaceCut
    {
        $cut = new SurfaceCut($mesh);
        $home = self::locate($mesh, $diagram);
        $t = $mesh->triangles;
        $n = $diagram->complex->cells;
        $vertices = $mesh->vertexCount();
        /** @var array<int, int> $onEdges cut vertices by mesh edge, then pair of cells */
        $onEdges = [];
        $edgeIds = [];
        $crossing = self::takeWhole($cut, $t, $home);
        foreach ($crossing as $k => $f) {
            if (($k & 255) === 0) {
                $progress->at('cutting faces', $k, count($crossing));
            }
            $a = $t[3 * $f];
            $b = $t[3 * $f + 1];
            $c = $t[3 * $f + 2];
            $edges = [];
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$from, $to]) {
                $key = $from < $to ? $from * $vertices + $to : $to * $vertices + $from;
                $edges[] = $edgeIds[$key] ??= count($edgeIds);
            }
            self::cutTriangle($cut, $mesh, $diagram, $f, [$a, $b, $c], $edges, $home[$a], $n, $onEdges);
        }

        return $cut;
    }

    /**
     * The triangles whose corners lie in one cell, taken as they are.
     *
     * @param array<int, int> $t
     * @param array<int, int> $home
     *
     * @return list<int> the others
     */
    private static function takeWhole(SurfaceCut $cut, array $t, array $home): array
    {
        $crossing = $cells = $source = $corner = $weight0 = $weight1 = [];
        $start = [0];
        $count = 0;
        for ($k = 0, $f = 0, $end = count($t); $k < $end; $k += 3, $f++) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            $cell = $home[$a];
            if ($home[$b] !== $cell || $home[$c] !== $cell) {
                $crossing[] = $f;
                continue;
            }
            $cells[] = $cell;
            $source[] = $f;
            $corner[] = $a;
            $corner[] = $b;
            $corner[] = $c;
            $weight0[] = 1.0;
            $weight0[] = 0.0;
            $weight0[] = 0.0;
            $weight1[] = 0.0;
            $weight1[] = 1.0;
            $weight1[] = 0.0;
            $count += 3;
            $start[] = $count;
        }
        $cut->cell = $cells;
        $cut->source = $source;
        $cut->start = $start;
        $cut->corner = $corner;
        $cut->weight0 = $weight0;
        $cut->weight1 = $weight1;

        return $crossing;
    }

    /**
     * The cell of each mesh vertex, by walking from cell to cell; neighbouring vertices start where the last one ended.
     *
     * @return array<int, int>
     */
    private static function locate(TriangleMesh $mesh, CellDiagram $diagram): array
    {
        $complex = $diagram->complex;
        $ax = $complex->ax;
        $ay = $complex->ay;
        $az = $complex->az;
        $bb = $complex->b;
        $neighbours = $diagram->neighbours;
        $home = [];
        $at = 0;
        foreach ($neighbours as $i => $list) {
            if ($list !== []) {
                $at = $i;
                break;
            }
        }
        $Y = $mesh->y;
        $Z = $mesh->z;
        foreach ($mesh->x as $v => $x) {
            $y = $Y[$v];
            $z = $Z[$v];
            do {
                $from = $at;
                // How far the cell's own function lies below each neighbour's; its rounding is bounded by the terms' sizes.
                $px = $ax[$from];
                $py = $ay[$from];
                $pz = $az[$from];
                $pb = $bb[$from];
                foreach ($neighbours[$from] as $m) {
                    $tx = ($ax[$m] - $px) * $x;
                    $ty = ($ay[$m] - $py) * $y;
                    $tz = ($az[$m] - $pz) * $z;
                    $td = $bb[$m] - $pb;
                    $value = $tx + $ty + $tz + $td;
                    $blur = CellComplex::ROUNDING * (($tx < 0.0 ? -$tx : $tx) + ($ty < 0.0 ? -$ty : $ty) + ($tz < 0.0 ? -$tz : $tz) + ($td < 0.0 ? -$td : $td));
                    if ($value < -$blur || ($value <= $blur && $complex->sideOfPoint($from, [[$x, $y, $z]], [], $m) < 0)) {
                        $at = $m;
                        break;
                    }
                }
            } while ($at !== $from);
            $home[$v] = $at;
        }

        return $home;
    }

    /**
     * @param array{int, int, int} $corners mesh vertices
     * @param list<int> $edges numbers of the mesh edges 01, 12, 20
     * @param array<int, int> $onEdges
     */
    private static function cutTriangle(
        SurfaceCut $cut,
        TriangleMesh $mesh,
        CellDiagram $diagram,
        int $triangle,
        array $corners,
        array $edges,
        int $first,
        int $n,
        array &$onEdges,
    ): void {
        $complex = $diagram->complex;
        $points = [];
        foreach ($corners as $v) {
            $points[] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }
        /** @var array<string, int> $inside cut vertices within this triangle by their three cells */
        $inside = [];
        $queue = [$first];
        $seen = [$first => true];
        while ($queue !== []) {
            $i = array_pop($queue);
            $polygon = self::clip($complex, $i, $diagram->neighbours[$i], $points);
            if ($polygon === []) {
                continue;
            }
            $vertices = [];
            foreach ($polygon as [$kind, $on1, $on2, , $l0, $l1]) {
                if ($kind < 3) {
                    $vertices[] = $corners[$kind];
                    $w0 = $kind === 0 ? 1.0 : 0.0;
                    $w1 = $kind === 1 ? 1.0 : 0.0;
                } elseif ($kind < 6) {
                    $vertices[] = self::vertexOnEdge($cut, $complex, $mesh, $corners, $edges[$kind - 3], $kind - 3, $i, $on1, $n, $onEdges);
                    $w0 = $l0;
                    $w1 = $l1;
                } else {
                    $vertices[] = self::vertexInside($cut, $complex, $points, $i, $on1, $on2, $inside);
                    $w0 = $l0;
                    $w1 = $l1;
                }
                $cut->weight0[] = $w0;
                $cut->weight1[] = $w1;
            }
            array_push($cut->corner, ...$vertices);
            $cut->cell[] = $i;
            $cut->source[] = $triangle;
            $cut->start[] = count($cut->corner);
            $count = count($polygon);
            foreach ($polygon as $k => [$kind, $on1, $on2, $label]) {
                if ($label < 0) {
                    continue;
                }
                if (! isset($seen[$label])) {
                    $seen[$label] = true;
                    $queue[] = $label;
                }
                if ($label < $i) {
                    continue;
                }
                $next = $k + 1 === $count ? 0 : $k + 1;
                $cut->lines[$i * $n + $label][] = $vertices[$k];
                $cut->lines[$i * $n + $label][] = $vertices[$next];
                // In the cap the line runs the other way: it arrives at this corner, where the inside of the edge begins.
                foreach ([[$k, 1], [$next, -1]] as [$end, $begins]) {
                    if ($polygon[$end][0] === 6) {
                        $third = $polygon[$end][1] === $label ? $polygon[$end][2] : $polygon[$end][1];
                        if ($third > $label) {
                            $cut->crossings["{$i},{$label},{$third}"][] = $vertices[$end];
                            $cut->crossings["{$i},{$label},{$third}"][] = $begins;
                        }
                    }
                }
            }
        }
    }

    /**
     * The part of a triangle in cell i, as a convex polygon. Each corner is [kind, on1, on2, label of the edge that
     * starts here, weight of vertex 0, weight of vertex 1, bound on the weights' error]; kinds 0 to 2 are the triangle's
     * vertices, 3 to 5 lie on its edges where cell on1 begins, 6 inside it where cells on1 and on2 begin. Labels are -1 to
     * -3 for the triangle's own edges, else the cell beyond.
     *
     * @param array<int, int> $neighbours
     * @param list<array{float, float, float}> $points
     *
     * @return list<array{int, int, int, int, float, float, float}>
     */
    private static function clip(CellComplex $complex, int $i, array $neighbours, array $points): array
    {
        [[$x0, $y0, $z0], [$x1, $y1, $z1], [$x2, $y2, $z2]] = $points;
        $polygon = [
            [0, self::NONE, self::NONE, -1, 1.0, 0.0, 0.0],
            [1, self::NONE, self::NONE, -2, 0.0, 1.0, 0.0],
            [2, self::NONE, self::NONE, -3, 0.0, 0.0, 0.0],
        ];
        $reach = max(abs($x0), abs($y0), abs($z0), abs($x1), abs($y1), abs($z1), abs($x2), abs($y2), abs($z2));
        /** @var array<int, array{float, float, float, float}> $values forms at the three vertices and their blur */
        $values = [];
        foreach ($neighbours as $m) {
            [$nx, $ny, $nz, $d] = $complex->form($i, $m);
            $g0 = $nx * $x0 + $ny * $y0 + $nz * $z0 + $d;
            $g1 = $nx * $x1 + $ny * $y1 + $nz * $z1 + $d;
            $g2 = $nx * $x2 + $ny * $y2 + $nz * $z2 + $d;
            $blur = CellComplex::ROUNDING * ((abs($nx) + abs($ny) + abs($nz)) * $reach + abs($d));
            if ($g0 > $blur && $g1 > $blur && $g2 > $blur) {
                continue;
            }
            $values[$m] = [$g0, $g1, $g2, $blur];
            $largest = max(abs($g0), abs($g1), abs($g2));
            /** @var array<int, int> $sides */
            $sides = [];
            $outside = 0;
            foreach ($polygon as $k => [$kind, $on1, $on2, , $l0, $l1, $error]) {
                $value = $l0 * $g0 + $l1 * $g1 + (1.0 - $l0 - $l1) * $g2;
                $doubt = 3.0 * $blur + 4.0 * $error * $largest;
                if ($value > $doubt) {
                    $sides[$k] = 1;
                } elseif ($value < -$doubt) {
                    $sides[$k] = -1;
                } else {
                    $sides[$k] = match (true) {
                        $kind < 3 => $complex->sideOfPoint($i, [$points[$kind]], [], $m),
                        $kind < 6 => $complex->sideOfPoint($i, [$points[$kind - 3], $points[($kind - 2) % 3]], [$on1], $m),
                        default => $complex->sideOfPoint($i, $points, [$on1, $on2], $m),
                    };
                }
                $outside += $sides[$k] < 0 ? 1 : 0;
            }
            if ($outside === 0) {
                continue;
            }
            $count = count($polygon);
            if ($outside === $count) {
                return [];
            }
            $kept = [];
            foreach ($polygon as $k => $corner) {
                $next = $k + 1 === $count ? 0 : $k + 1;
                if ($sides[$k] > 0) {
                    $kept[] = $corner;
                    if ($sides[$next] < 0) {
                        $kept[] = self::crossing($corner[3], $m, $m, $values);
                    }
                } elseif ($sides[$next] > 0) {
                    $kept[] = self::crossing($corner[3], $m, $corner[3], $values);
                }
            }
            $polygon = $kept;
        }

        return $polygon;
    }

    /**
     * The corner where the edge with label $on meets the wall to cell $m.
     *
     * @param array<int, array{float, float, float, float}> $values
     *
     * @return array{int, int, int, int, float, float, float}
     */
    private static function crossing(int $on, int $m, int $label, array $values): array
    {
        $g = $values[$m];
        if ($on < 0) {
            $p = $on === -1 ? 0 : ($on === -2 ? 1 : 2);
            $q = $p === 2 ? 0 : $p + 1;
            $span = abs($g[$p] - $g[$q]);
            $w = $span > 0.0 ? $g[$q] / ($g[$q] - $g[$p]) : 0.5;
            $w = $w < 0.0 ? 0.0 : ($w > 1.0 ? 1.0 : $w);
            [$w0, $w1] = [[$w, 1.0 - $w], [0.0, $w], [1.0 - $w, 0.0]][$p];

            return [3 + $p, $m, self::NONE, $label, $w0, $w1, $span > 0.0 ? 3.0 * $g[3] / $span : INF];
        }
        $h = $values[$on];
        [$w0, $w1, $error] = self::weightsInside($h, $g);

        return [6, $on, $m, $label, $w0, $w1, $error];
    }

    /**
     * Weights of a triangle's vertices 0 and 1 at the point where two forms vanish, and a bound on their error.
     *
     * @param array{float, float, float, float} $h the one form at the three vertices, and its blur
     * @param array{float, float, float, float} $g the other
     *
     * @return array{float, float, float}
     */
    private static function weightsInside(array $h, array $g): array
    {
        $c0 = $h[1] * $g[2] - $h[2] * $g[1];
        $c1 = $h[2] * $g[0] - $h[0] * $g[2];
        $c2 = $h[0] * $g[1] - $h[1] * $g[0];
        $sum = $c0 + $c1 + $c2;
        if ($sum === 0.0) {
            return [1.0 / 3.0, 1.0 / 3.0, INF];
        }
        $hMax = max(abs($h[0]), abs($h[1]), abs($h[2]));
        $gMax = max(abs($g[0]), abs($g[1]), abs($g[2]));
        $error = 8.0 * ($hMax * $g[3] + $gMax * $h[3] + CellComplex::ROUNDING * $hMax * $gMax) / abs($sum);
        $w0 = min(1.0, max(0.0, $c0 / $sum));
        $w1 = min(1.0 - $w0, max(0.0, $c1 / $sum));

        return [$w0, $w1, $error];
    }

    /**
     * @param array{int, int, int} $corners
     * @param array<int, int> $onEdges
     */
    private static function vertexOnEdge(
        SurfaceCut $cut,
        CellComplex $complex,
        TriangleMesh $mesh,
        array $corners,
        int $edge,
        int $side,
        int $i,
        int $j,
        int $n,
        array &$onEdges,
    ): int {
        $low = min($i, $j);
        $high = max($i, $j);
        $name = ($edge * $n + $low) * $n + $high;
        if (isset($onEdges[$name])) {
            return $onEdges[$name];
        }
        $a = min($corners[$side], $corners[($side + 1) % 3]);
        $b = max($corners[$side], $corners[($side + 1) % 3]);
        [$nx, $ny, $nz, $d] = $complex->form($low, $high);
        $ga = $nx * $mesh->x[$a] + $ny * $mesh->y[$a] + $nz * $mesh->z[$a] + $d;
        $gb = $nx * $mesh->x[$b] + $ny * $mesh->y[$b] + $nz * $mesh->z[$b] + $d;
        $s = $ga === $gb ? 0.5 : min(1.0, max(0.0, $ga / ($ga - $gb)));
        $cut->x[] = $mesh->x[$a] + $s * ($mesh->x[$b] - $mesh->x[$a]);
        $cut->y[] = $mesh->y[$a] + $s * ($mesh->y[$b] - $mesh->y[$a]);
        $cut->z[] = $mesh->z[$a] + $s * ($mesh->z[$b] - $mesh->z[$a]);
        $cut->onEdge[$a * $mesh->vertexCount() + $b][] = count($cut->x) - 1;

        return $onEdges[$name] = count($cut->x) - 1;
    }

    /**
     * @param list<array{float, float, float}> $points
     * @param array<string, int> $inside
     */
    private static function vertexInside(
        SurfaceCut $cut,
        CellComplex $complex,
        array $points,
        int $i,
        int $j,
        int $k,
        array &$inside,
    ): int {
        $low = min($i, $j, $k);
        $high = max($i, $j, $k);
        $cells = [$low, $i + $j + $k - $low - $high, $high];
        $name = implode(',', $cells);
        if (isset($inside[$name])) {
            return $inside[$name];
        }
        $values = [];
        foreach ([$cells[1], $cells[2]] as $m) {
            [$nx, $ny, $nz, $d] = $complex->form($cells[0], $m);
            $row = [];
            foreach ($points as [$x, $y, $z]) {
                $row[] = $nx * $x + $ny * $y + $nz * $z + $d;
            }
            $values[] = [$row[0], $row[1], $row[2], 0.0];
        }
        [$w0, $w1] = self::weightsInside($values[0], $values[1]);
        $w2 = 1.0 - $w0 - $w1;
        $cut->x[] = $w0 * $points[0][0] + $w1 * $points[1][0] + $w2 * $points[2][0];
        $cut->y[] = $w0 * $points[0][1] + $w1 * $points[1][1] + $w2 * $points[2][1];
        $cut->z[] = $w0 * $points[0][2] + $w1 * $points[1][2] + $w2 * $points[2][2];

        return $inside[$name] = count($cut->x) - 1;
    }
}
