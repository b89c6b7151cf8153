<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\PolygonTriangulator;

/**
 * The inner faces: for each facet of the diagram, the part of it that lies inside the mesh. Its outline is made of the
 * surface's lines along the facet and of the insides of the facet's edges; both cells beside it use the same triangles,
 * one of them turned around.
 */
final class CapBuilder
{
    /**
     * @return array<int, list<int>> triangles (three vertices of the cut each) by facet, facing from the low cell to the
     *                               high one
     */
    public static function build(SurfaceCut $cut, CellDiagram $diagram, Progress $progress = new Progress()): array
    {
        $n = $diagram->complex->cells;
        $insides = self::edgeInsides($cut, $diagram);
        $caps = [];
        foreach ($diagram->low as $f => $i) {
            $j = $diagram->high[$f];
            if ($j >= $n) {
                continue;
            }
            if (($f & 255) === 0) {
                $progress->at('closing cuts', $f, count($diagram->low));
            }
            $next = [];
            $lines = $cut->lines[$i * $n + $j] ?? [];
            unset($cut->lines[$i * $n + $j]);
            for ($k = 0, $end = count($lines); $k < $end; $k += 2) {
                $next[$lines[$k + 1]] = $lines[$k];
            }
            $from = $diagram->start[$f];
            $to = $diagram->start[$f + 1];
            for ($t = $from; $t < $to; $t++) {
                if ($diagram->edge[$t] >= $n) {
                    continue;
                }
                $cells = [$i, $j, $diagram->edge[$t]];
                sort($cells);
                $inside = $insides[implode(',', $cells)] ?? null;
                if ($inside === null) {
                    continue;
                }
                $forward = $inside[0] === $diagram->corner[$t];
                for ($k = 1, $end = count($inside); $k < $end; $k += 2) {
                    if ($forward) {
                        $next[$inside[$k]] = $inside[$k + 1];
                    } else {
                        $next[$inside[$k + 1]] = $inside[$k];
                    }
                }
            }
            if ($next !== []) {
                $caps[$f] = self::close($next, $cut, $diagram->complex->form($i, $j));
            }
        }
        if ($cut->lines !== []) {
            throw new BreakFailed('The cut lines on the surface do not meet the pattern; the surface may cross itself. Repair the mesh, or try another seed.');
        }

        return $caps;
    }

    /**
     * For each edge of the diagram the stretches of it that lie inside the mesh.
     *
     * @return array<string, list<int>> by "a,b,c": the diagram corner it starts from, then pairs of vertices
     */
    private static function edgeInsides(SurfaceCut $cut, CellDiagram $diagram): array
    {
        $n = $diagram->complex->cells;
        $base = count($cut->x);
        array_push($cut->x, ...$diagram->x);
        array_push($cut->y, ...$diagram->y);
        array_push($cut->z, ...$diagram->z);
        /** @var array<int, int> $state of the diagram's corners: 1 inside, -1 outside */
        $state = [];
        foreach ($diagram->onWall as $corner => $onWall) {
            if ($onWall) {
                $state[$corner] = -1;
            }
        }
        $links = [];
        $edges = [];
        foreach ($diagram->low as $f => $i) {
            $j = $diagram->high[$f];
            if ($j >= $n) {
                continue;
            }
            $from = $diagram->start[$f];
            $to = $diagram->start[$f + 1];
            for ($t = $from; $t < $to; $t++) {
                $k = $diagram->edge[$t];
                if ($k >= $n || $k < $j) {
                    continue;
                }
                $a = $diagram->corner[$t];
                $b = $diagram->corner[$t + 1 === $to ? $from : $t + 1];
                $name = "{$i},{$j},{$k}";
                $sorted = isset($cut->crossings[$name]) ? self::alongEdge($cut->crossings[$name], $cut, $base + $a, $base + $b) : [];
                $edges[$name] = [$a, $b, $sorted];
                if ($sorted === []) {
                    $links[$a][] = $b;
                    $links[$b][] = $a;
                } else {
                    self::mark($state, $a, -$sorted[1]);
                    self::mark($state, $b, $sorted[count($sorted) - 1]);
                }
            }
        }
        $queue = array_keys($state);
        while ($queue !== []) {
            $a = array_pop($queue);
            foreach ($links[$a] ?? [] as $b) {
                if (! isset($state[$b])) {
                    $queue[] = $b;
                }
                self::mark($state, $b, $state[$a]);
            }
        }
        $insides = [];
        foreach ($edges as $name => [$a, $b, $sorted]) {
            $stretch = [$a];
            if (($state[$a] ?? -1) > 0) {
                $stretch[] = $base + $a;
            }
            for ($k = 0, $end = count($sorted); $k < $end; $k += 2) {
                $stretch[] = $sorted[$k];
            }
            if (($state[$b] ?? -1) > 0) {
                $stretch[] = $base + $b;
            }
            if (count($stretch) > 1) {
                $insides[$name] = $stretch;
            }
        }

        return $insides;
    }

    /** @param array<int, int> $state */
    private static function mark(array &$state, int $corner, int $value): void
    {
        if (isset($state[$corner]) && $state[$corner] !== $value) {
            throw self::crossesItself();
        }
        $state[$corner] = $value;
    }

    private static function crossesItself(): BreakFailed
    {
        return new BreakFailed('The surface crosses itself, so inside and outside cannot be told apart. Repair the mesh (parts that poke through one another must be joined first).');
    }

    /**
     * Crossings in their order along the edge. Where rounding blurs the order of two, entering and leaving must still
     * take turns.
     *
     * @param list<int> $crossings
     *
     * @return list<int> vertex, 1 or -1, ...
     */
    private static function alongEdge(array $crossings, SurfaceCut $cut, int $a, int $b): array
    {
        $dx = $cut->x[$b] - $cut->x[$a];
        $dy = $cut->y[$b] - $cut->y[$a];
        $dz = $cut->z[$b] - $cut->z[$a];
        $entering = [];
        $leaving = [];
        for ($k = 0, $end = count($crossings); $k < $end; $k += 2) {
            $v = $crossings[$k];
            $at = ($cut->x[$v] - $cut->x[$a]) * $dx + ($cut->y[$v] - $cut->y[$a]) * $dy + ($cut->z[$v] - $cut->z[$a]) * $dz;
            if ($crossings[$k + 1] > 0) {
                $entering[$v] = $at;
            } else {
                $leaving[$v] = $at;
            }
        }

        return self::inOrder($entering, $leaving);
    }

    /**
     * Places where a line enters and leaves the mesh, in their order; it does so in turns, whatever rounding says.
     *
     * @param array<int, float> $entering how far along the line, by vertex
     * @param array<int, float> $leaving
     *
     * @return list<int> vertex, 1 or -1, ...
     */
    public static function inOrder(array $entering, array $leaving): array
    {
        asort($entering);
        asort($leaving);
        $in = array_keys($entering);
        $out = array_keys($leaving);
        if (abs(count($in) - count($out)) > 1) {
            throw self::crossesItself();
        }
        $begins = count($in) > count($out)
            || (count($in) === count($out) && $entering[$in[0]] <= $leaving[$out[0]]);
        $sorted = [];
        [$odd, $even] = $begins ? [$in, $out] : [$out, $in];
        foreach ($odd as $k => $v) {
            array_push($sorted, $v, $begins ? 1 : -1);
            if (isset($even[$k])) {
                array_push($sorted, $even[$k], $begins ? -1 : 1);
            }
        }

        return $sorted;
    }

    /**
     * The flat region within closed chains of vertices.
     *
     * @param array<int, int> $next vertex after each vertex
     * @param array{0: float, 1: float, 2: float, 3?: float} $form a direction into the low cell
     *
     * @return list<int> three vertices a triangle
     */
    public static function close(array $next, SurfaceCut $cut, array $form): array
    {
        $loops = [];
        // Along the plane's two axes with the smaller normal parts, turned so that the outline runs counter-clockwise.
        [$nx, $ny, $nz] = $form;
        $mx = abs($nx);
        $my = abs($ny);
        $mz = abs($nz);
        [$first, $second, $sign] = match (true) {
            $mx >= $my && $mx >= $mz => [$cut->y, $cut->z, $nx],
            $my >= $mz => [$cut->z, $cut->x, $ny],
            default => [$cut->x, $cut->y, $nz],
        };
        if ($sign > 0.0) {
            // The form grows towards the low cell, so the cap of the low cell faces against it.
            [$first, $second] = [$second, $first];
        }
        $u = [];
        $v = [];
        while (($start = array_key_first($next)) !== null) {
            $loop = [];
            $at = $start;
            do {
                if (! isset($next[$at])) {
                    throw self::crossesItself();
                }
                $loop[] = $at;
                $u[$at] = $first[$at];
                $v[$at] = $second[$at];
                $to = $next[$at];
                unset($next[$at]);
                $at = $to;
            } while ($at !== $start);
            if (count($loop) > 2) {
                $loops[] = $loop;
            }
        }

        return $loops === [] ? [] : PolygonTriangulator::triangulate($loops, $u, $v);
    }
}
