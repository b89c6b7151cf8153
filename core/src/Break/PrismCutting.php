<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\Orientation;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\PolygonTriangulator;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Plane\Triangulation;

/**
 * Cuts straight through a mesh along lines drawn on a plane across one of the axes: cells are the prisms over the areas that
 * the lines part from one another. Cells may have any outline, and holes.
 *
 * The mesh's triangles, seen along the axis, are overlaid with those of the drawing. Each cut vertex is named by what meets
 * in it (a mesh edge and a line, or a mesh triangle and a point of the drawing) and computed once. Sides are exact; the
 * drawing's points are moved by a hair (controlled perturbation, Halperin and Shelton 1998) so that none of them lies on an
 * edge of the mesh and no vertex of the mesh on a line.
 *
 * Cost: linear in the mesh's triangles and in the parts the lines cut them into.
 */
final class PrismCutting implements Cutting
{
    /** How far points of the drawing are moved, in parts of its size: far less than one sees, far more than rounding. */
    private const HAIR = 1e-10;

    /** The least such move, in parts of the largest coordinate: some dozens of roundings. */
    private const GRAINS = 1.5e-14;

    private const TRIES = 8;

    /** @var array<int, float> the mesh's vertices across the axis and along it */
    private array $u = [];

    /** @var array<int, float> */
    private array $v = [];

    /** @var array<int, float> */
    private array $w = [];

    /** @var array<int, int> area by triangle of the drawing */
    private readonly array $area;

    /** @var array<int, float> points of the drawing, moved by a hair */
    private array $px;

    /** @var array<int, float> */
    private array $py;

    /** @var array<int, int> cut vertex by mesh edge and edge of the drawing */
    private array $onEdge = [];

    /** @var array<int, list<int>> vertices over each point of the drawing: vertex, 1 where the inside begins going up, else -1 */
    private array $over = [];

    private SurfaceCut $cut;

    /**
     * @param int $axis 0: x, 1: y, 2: z; the drawing's axes are the two that follow it in turn
     */
    public function __construct(private readonly Triangulation $drawing, private readonly int $axis)
    {
        $this->area = $drawing->areas();
        $this->px = $drawing->x;
        $this->py = $drawing->y;
    }

    /** How many areas there are: cells have their numbers. */
    public function areas(): int
    {
        return $this->area === [] ? 0 : max($this->area) + 1;
    }

    public function cut(TriangleMesh $mesh): CutUp
    {
        $axes = [$mesh->x, $mesh->y, $mesh->z];
        [$this->u, $this->v, $this->w] = [$axes[($this->axis + 1) % 3], $axes[($this->axis + 2) % 3], $axes[$this->axis]];
        for ($try = 0;; $try++) {
            try {
                $this->move($try);

                return $this->cutSurface($mesh);
            } catch (Touch) {
                if ($try === self::TRIES) {
                    throw new BreakFailed('The lines run exactly along edges of the mesh. Move the lines, or the prop, a little.');
                }
            }
        }
    }

    /** How far points are moved, m. */
    public function hair(): float
    {
        $d = $this->drawing;

        return max(
            self::HAIR * max($d->x[2] - $d->x[0], $d->y[2] - $d->y[0]),
            self::GRAINS * max(abs($d->x[0]), abs($d->x[2]), abs($d->y[0]), abs($d->y[2])),
        );
    }

    private function move(int $try): void
    {
        $d = $this->drawing;
        $hair = $this->hair();
        for ($round = 0; $round < self::TRIES; $round++, $hair *= 0.1) {
            $stream = RandomStream::named($try, 'lines moved by a hair', $round);
            foreach ($d->x as $p => $x) {
                $this->px[$p] = $x + $hair * ($stream->float() - 0.5);
                $this->py[$p] = $d->y[$p] + $hair * ($stream->float() - 0.5);
            }
            for ($t = 0, $end = $d->triangleCount(); $t < $end; $t++) {
                [$a, $b, $c] = [$d->corner[3 * $t], $d->corner[3 * $t + 1], $d->corner[3 * $t + 2]];
                if (Orientation::turn($this->px[$a], $this->py[$a], $this->px[$b], $this->py[$b], $this->px[$c], $this->py[$c]) <= 0) {
                    continue 2;
                }
            }

            return;
        }
        throw new Touch();
    }

    private function cutSurface(TriangleMesh $mesh): CutUp
    {
        $this->cut = new SurfaceCut($mesh);
        $this->onEdge = $this->over = [];
        $home = [];
        foreach ($this->u as $i => $u) {
            $home[$i] = $this->locate($u, $this->v[$i]);
        }
        /** @var array<int, array<int, int>> $next vertex after each vertex along the outline of a cap, by wall */
        $next = [];
        $known = $mesh->vertexCount();
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            $corners = [$mesh->triangles[3 * $f], $mesh->triangles[3 * $f + 1], $mesh->triangles[3 * $f + 2]];
            if ($home[$corners[0]] === $home[$corners[1]] && $home[$corners[1]] === $home[$corners[2]]) {
                $this->addPart($this->area[$home[$corners[0]]], $f, $corners, [[1.0, 0.0], [0.0, 1.0], [0.0, 0.0]]);
                continue;
            }
            $this->cutTriangle($f, $corners, $home[$corners[0]], $known, $next);
        }

        return $this->close($next);
    }

    private function locate(float $u, float $v): int
    {
        $d = $this->drawing;
        // The drawing's own walk ends in the right triangle, or next to it as points were moved.
        $t = $d->find(min(max($u, $d->x[0]), $d->x[2]), min(max($v, $d->y[0]), $d->y[2]));
        for ($steps = 0; $steps < 100_000; $steps++) {
            for ($j = 0; $j < 3; $j++) {
                $k = ($j + $steps * 7 + ($steps >> 3)) % 3;
                $side = $this->side($t, $k, $u, $v);
                if ($side === 0) {
                    throw new Touch();
                }
                if ($side < 0) {
                    $t = $d->across[3 * $t + $k];
                    if ($t < 0) {
                        throw new BreakFailed('The drawing does not reach round the whole prop.');
                    }
                    continue 2;
                }
            }

            return $t;
        }
        throw new Touch();
    }

    /** 1 on the inner side of a drawing triangle's edge, -1 on the outer one. */
    private function side(int $t, int $k, float $u, float $v): int
    {
        $c = $this->drawing->corner;
        $a = $c[3 * $t + ($k + 1) % 3];
        $b = $c[3 * $t + ($k + 2) % 3];

        return Orientation::turn($this->px[$a], $this->py[$a], $this->px[$b], $this->py[$b], $u, $v);
    }

    /**
     * @param array{array{float, float}, array{float, float}, array{float, float}} $weights
     * @param array{int, int, int} $corners
     */
    private function addPart(int $cell, int $source, array $corners, array $weights): void
    {
        $cut = $this->cut;
        $cut->cell[] = $cell;
        $cut->source[] = $source;
        foreach ($corners as $k => $v) {
            $cut->corner[] = $v;
            [$cut->weight0[], $cut->weight1[]] = $weights[$k];
        }
        $cut->start[] = count($cut->corner);
    }

    /**
     * Overlays one triangle of the mesh with the drawing. Parts that lie in one area are joined again before they are
     * triangulated, so only lines leave marks.
     *
     * @param array{int, int, int} $corners
     * @param array<int, array<int, int>> $next
     */
    private function cutTriangle(int $f, array $corners, int $first, int $known, array &$next): void
    {
        $d = $this->drawing;
        $outline = [];
        /** @var array<int, array{float, float}> $weights by vertex */
        $weights = [$corners[0] => [1.0, 0.0], $corners[1] => [0.0, 1.0], $corners[2] => [0.0, 0.0]];
        $inside = $passing = [];
        $queue = [$first];
        $seen = [$first => true];
        while ($queue !== []) {
            $t = array_pop($queue);
            $polygon = $this->clip($t, $corners);
            $vertices = [];
            foreach ($polygon as [$kind, $wall]) {
                $vertices[] = match (true) {
                    $kind < 3 => $corners[$kind],
                    $kind < 6 => $this->vertexOnEdge($corners, $kind - 3, $t, $wall, $known, $weights, $passing),
                    default => $inside[$d->corner[3 * $t + $wall]] ??= $this->vertexOver($corners, $d->corner[3 * $t + $wall], $weights),
                };
            }
            $area = $this->area[$t];
            $count = count($polygon);
            foreach ($polygon as $k => [, , $label]) {
                $from = $vertices[$k];
                $to = $vertices[$k + 1 === $count ? 0 : $k + 1];
                if ($label < 0) {
                    $this->follow($outline, $area, $from, $to);
                    continue;
                }
                $beyond = $d->across[3 * $t + $label];
                if ($beyond < 0) {
                    throw new BreakFailed('The drawing does not reach round the whole prop.');
                }
                if (! isset($seen[$beyond])) {
                    $seen[$beyond] = true;
                    $queue[] = $beyond;
                }
                if ($this->area[$beyond] === $area) {
                    continue;
                }
                $this->follow($outline, $area, $from, $to);
                if ($area < $this->area[$beyond]) {
                    // The cap runs the other way.
                    $this->follow($next, 3 * $t + $label, $to, $from);
                }
            }
        }
        foreach ($outline as $area => $chain) {
            $this->addArea($area, $f, $chain, $weights, $passing);
        }
    }

    /**
     * @param array<int, array<int, int>> $chains
     */
    private function follow(array &$chains, int $of, int $from, int $to): void
    {
        if (isset($chains[$of][$from])) {
            throw new BreakFailed(sprintf(
                'Two lines or loops touch in one point only, at %.3g m, %.3g m (%s). Move one of them a little, so that they cross or stay apart.',
                [$this->cut->y, $this->cut->z, $this->cut->x][$this->axis][$from],
                [$this->cut->z, $this->cut->x, $this->cut->y][$this->axis][$from],
                ['y and z', 'z and x', 'x and y'][$this->axis],
            ));
        }
        $chains[$of][$from] = $to;
    }

    /**
     * @param array<int, int> $chain
     * @param array<int, array{float, float}> $weights
     * @param array<int, true> $passing vertices where only the drawing's own triangles end
     */
    private function addArea(int $area, int $f, array $chain, array $weights, array $passing): void
    {
        $loops = $a = $b = [];
        while (($start = array_key_first($chain)) !== null) {
            $loop = [];
            $at = $start;
            do {
                if (! isset($passing[$at])) {
                    $loop[] = $at;
                    [$a[$at], $b[$at]] = $weights[$at];
                }
                $to = $chain[$at] ?? throw new BreakFailed('The cut lines on the surface do not meet. Move the lines a little.');
                unset($chain[$at]);
                $at = $to;
            } while ($at !== $start);
            if (count($loop) > 2) {
                $loops[] = $loop;
            }
        }
        if ($loops === []) {
            return;
        }
        foreach (array_chunk(PolygonTriangulator::triangulate($loops, $a, $b), 3) as $corners) {
            /** @var array{int, int, int} $corners */
            $this->addPart($area, $f, $corners, [$weights[$corners[0]], $weights[$corners[1]], $weights[$corners[2]]]);
        }
    }

    /**
     * The part of a mesh triangle over a triangle of the drawing. Corners are [kind, wall, label of the edge that starts
     * here]; kinds 0 to 2 are the mesh triangle's corners, 3 to 5 lie on its edges where the given edge of the drawing's
     * triangle passes under them, 6 over the corner of the drawing's triangle. Labels are -1 to -3 for the mesh triangle's
     * edges, else the edge of the drawing's triangle.
     *
     * @param array{int, int, int} $corners
     *
     * @return array<int, array{int, int, int}>
     */
    private function clip(int $t, array $corners): array
    {
        $d = $this->drawing;
        /** @var array<int, array<int, int>> $sides of the mesh triangle's corners by edge */
        $sides = [];
        for ($k = 0; $k < 3; $k++) {
            foreach ($corners as $c => $i) {
                $sides[$k][$c] = $this->side($t, $k, $this->u[$i], $this->v[$i]);
                if ($sides[$k][$c] === 0) {
                    throw new Touch();
                }
            }
        }
        /** @var array<int, array{int, int, int}> $polygon */
        $polygon = [[0, -1, -1], [1, -1, -2], [2, -1, -3]];
        for ($wall = 0; $wall < 3 && $polygon !== []; $wall++) {
            /** @var array<int, bool> $inside */
            $inside = [];
            $all = true;
            foreach ($polygon as $k => [$kind, $on]) {
                $inside[$k] = match (true) {
                    $kind < 3 => $sides[$wall][$kind] > 0,
                    $kind < 6 => $this->beside($d->corner, $t, $corners, $kind - 3, $on, $wall, $sides[$on][$kind - 3] > 0),
                    default => true,
                };
                $all = $all && $inside[$k];
            }
            if ($all) {
                continue;
            }
            $clipped = [];
            $count = count($polygon);
            for ($k = 0; $k < $count; $k++) {
                $n = $k + 1 === $count ? 0 : $k + 1;
                [, , $label] = $polygon[$k];
                if ($inside[$k]) {
                    $clipped[] = $polygon[$k];
                }
                if ($inside[$k] !== $inside[$n]) {
                    // Where the polygon leaves, the wall itself is the next edge.
                    $new = $inside[$k] ? $wall : $label;
                    $clipped[] = $label < 0 ? [2 - $label, $wall, $new] : [6, 3 - $wall - $label, $new];
                }
            }
            $polygon = $clipped;
        }

        return $polygon;
    }

    /**
     * Whether the place where a mesh edge passes over one edge of the drawing's triangle lies on the inner side of another.
     *
     * @param array<int, int> $c
     * @param array{int, int, int} $corners
     * @param bool $startsInside whether the mesh edge comes from the inner side of the edge it passes over
     */
    private function beside(array $c, int $t, array $corners, int $edge, int $on, int $wall, bool $startsInside): bool
    {
        $shared = 3 - $on - $wall;
        $p = $corners[$edge];
        $q = $corners[($edge + 1) % 3];
        $s = $c[3 * $t + $shared];
        $side = Orientation::turn($this->u[$p], $this->v[$p], $this->u[$q], $this->v[$q], $this->px[$s], $this->py[$s]);
        if ($side === 0) {
            throw new Touch();
        }
        // The side of the shared corner, and how it changes from there along the edge: towards 0 if the place lies that way.
        $change = ($startsInside ? 1 : -1) * ($shared === ($on + 2) % 3 ? 1 : -1);

        return $side === $change;
    }

    /**
     * @param array{int, int, int} $corners
     * @param array<int, array{float, float}> $weights
     * @param array<int, true> $passing
     */
    private function vertexOnEdge(array $corners, int $edge, int $t, int $wall, int $known, array &$weights, array &$passing): int
    {
        $d = $this->drawing;
        $p = $corners[$edge];
        $q = $corners[($edge + 1) % 3];
        [$low, $high] = $p < $q ? [$p, $q] : [$q, $p];
        $beyond = $d->across[3 * $t + $wall];
        // Each edge of the drawing by the lower of its two triangles.
        $line = 3 * $t + $wall;
        if ($beyond >= 0 && $beyond < $t) {
            $line = 3 * $beyond + ($d->across[3 * $beyond] === $t ? 0 : ($d->across[3 * $beyond + 1] === $t ? 1 : 2));
        }
        $key = ($low * $known + $high) * (3 * $d->triangleCount()) + $line;
        $owner = intdiv($line, 3);
        $a = $d->corner[3 * $owner + ($line + 1) % 3];
        $b = $d->corner[3 * $owner + ($line + 2) % 3];
        $ux = $this->px[$b] - $this->px[$a];
        $uy = $this->py[$b] - $this->py[$a];
        $atLow = $ux * ($this->v[$low] - $this->py[$a]) - $uy * ($this->u[$low] - $this->px[$a]);
        $atHigh = $ux * ($this->v[$high] - $this->py[$a]) - $uy * ($this->u[$high] - $this->px[$a]);
        $s = $atLow / ($atLow - $atHigh);
        $s = $s > 0.0 ? ($s < 1.0 ? $s : 1.0) : 0.0;
        if (! isset($this->onEdge[$key])) {
            $vertex = count($this->cut->x);
            $this->onEdge[$key] = $vertex;
            $cut = $this->cut;
            $cut->x[] = $cut->x[$low] + $s * ($cut->x[$high] - $cut->x[$low]);
            $cut->y[] = $cut->y[$low] + $s * ($cut->y[$high] - $cut->y[$low]);
            $cut->z[] = $cut->z[$low] + $s * ($cut->z[$high] - $cut->z[$low]);
            if ($beyond >= 0 && $this->area[$beyond] !== $this->area[$t]) {
                $this->cut->onEdge[$low * $known + $high][] = $vertex;
            }
        }
        $vertex = $this->onEdge[$key];
        $r = $p === $low ? 1.0 - $s : $s;
        $weights[$vertex] = match ($edge) {
            0 => [$r, 1.0 - $r],
            1 => [0.0, $r],
            default => [1.0 - $r, 0.0],
        };
        if ($beyond >= 0 && $this->area[$beyond] === $this->area[$t]) {
            $passing[$vertex] = true;
        }

        return $vertex;
    }

    /**
     * @param array{int, int, int} $corners
     * @param array<int, array{float, float}> $weights
     */
    private function vertexOver(array $corners, int $point, array &$weights): int
    {
        [$a, $b, $c] = $corners;
        $x = $this->px[$point];
        $y = $this->py[$point];
        $of = fn (int $i, int $j): float => ($this->u[$i] - $x) * ($this->v[$j] - $y) - ($this->v[$i] - $y) * ($this->u[$j] - $x);
        $wa = $of($b, $c);
        $wb = $of($c, $a);
        $wc = $of($a, $b);
        $sum = $wa + $wb + $wc;
        $up = Orientation::turn($this->u[$a], $this->v[$a], $this->u[$b], $this->v[$b], $this->u[$c], $this->v[$c]);
        $wa = $sum === 0.0 ? 1.0 / 3.0 : min(1.0, max(0.0, $wa / $sum));
        $wb = $sum === 0.0 ? 1.0 / 3.0 : min(1.0 - $wa, max(0.0, $wb / $sum));
        $vertex = count($this->cut->x);
        $place = [$x, $y, $wa * $this->w[$a] + $wb * $this->w[$b] + (1.0 - $wa - $wb) * $this->w[$c]];
        // u, v, w are the axes after the drawing's axis, in turn.
        $this->cut->x[] = $place[(2 - $this->axis + 3) % 3];
        $this->cut->y[] = $place[(3 - $this->axis) % 3];
        $this->cut->z[] = $place[(4 - $this->axis) % 3];
        $weights[$vertex] = [$wa, $wb];
        // A triangle that faces up ends the inside for who goes up.
        $this->over[$point][] = $vertex;
        $this->over[$point][] = $up > 0 ? -1 : 1;

        return $vertex;
    }

    /** @param array<int, array<int, int>> $next */
    private function close(array $next): CutUp
    {
        $d = $this->drawing;
        $heights = [$this->cut->x, $this->cut->y, $this->cut->z][$this->axis];
        $spans = [];
        foreach ($this->over as $point => $list) {
            $entering = $leaving = [];
            for ($k = 0, $end = count($list); $k < $end; $k += 2) {
                if ($list[$k + 1] > 0) {
                    $entering[$list[$k]] = $heights[$list[$k]];
                } else {
                    $leaving[$list[$k]] = $heights[$list[$k]];
                }
            }
            $sorted = CapBuilder::inOrder($entering, $leaving);
            if (count($entering) !== count($leaving) || $sorted[1] < 0) {
                throw new BreakFailed('The surface crosses itself, so inside and outside cannot be told apart. Repair the mesh first.');
            }
            $spans[$point] = $sorted;
        }
        $caps = $low = $high = $normals = $seams = [];
        foreach ($d->across as $edge => $beyond) {
            $t = intdiv($edge, 3);
            if ($beyond < 0 || $this->area[$t] >= $this->area[$beyond]) {
                continue;
            }
            $chain = $next[$edge] ?? [];
            $a = $d->corner[3 * $t + ($edge + 1) % 3];
            $b = $d->corner[3 * $t + ($edge + 2) % 3];
            // Seen from the high area, which lies to the right of the edge: up at its end, down at its start.
            foreach ([[$a, false], [$b, true]] as [$point, $up]) {
                $span = $spans[$point] ?? [];
                for ($k = 0, $end = count($span); $k < $end; $k += 4) {
                    [$from, $to] = $up ? [$span[$k], $span[$k + 2]] : [$span[$k + 2], $span[$k]];
                    $chain[$from] = $to;
                }
            }
            if ($chain === []) {
                continue;
            }
            $across = [$this->py[$a] - $this->py[$b], $this->px[$b] - $this->px[$a], 0.0];
            $length = sqrt($across[0] ** 2 + $across[1] ** 2);
            $into = [$across[(2 - $this->axis + 3) % 3] / $length, $across[(3 - $this->axis) % 3] / $length, $across[(4 - $this->axis) % 3] / $length];
            $wall = count($low);
            $low[] = $this->area[$t];
            $high[] = $this->area[$beyond];
            $triangles = CapBuilder::close($chain, $this->cut, $into);
            if ($triangles !== []) {
                $caps[$wall] = $triangles;
                $normals[$wall] = [-$into[0], -$into[1], -$into[2]];
                if ($d->kind[$edge] === Triangulation::SEAM) {
                    $seams[$wall] = true;
                }
            }
        }

        return new CutUp($this->cut, $caps, $this->areas(), $low, $high, $normals, 0, $seams);
    }
}
