<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cuts one piece of a fracture along walls. What belongs to one cell but hangs together nowhere
 * becomes separate pieces. Neighbours get the new vertices along the edges they share with the piece, so the whole stays
 * one complex; that also makes cuts of cuts (halving, courses, breaking a piece again) fit.
 *
 * Cost: linear in the faces of the piece and of its neighbours.
 */
final class PieceCutter
{
    public readonly PieceFaces $faces;

    /** @param bool $cutsFollow whether pieces will be cut again: then triangles are kept well shaped, which takes some time */
    public function __construct(
        private readonly Fracture $fracture,
        private readonly bool $cutsFollow = false,
    ) {
        $this->faces = new PieceFaces($fracture);
    }

    /**
     * @param (callable(TriangleMesh): TriangleMesh)|null $warp to the space in which the walls are flat: same triangles, other
     *                                                          places. Null: the prop's own space
     * @param (callable(float, float, float): array{float, float, float})|null $unwarp the way back, for corners inside the prop
     *
     * @return array<int, int> the cell of each piece that came out of it; the first keeps the number
     *
     * @throws BreakFailed if the surface crosses itself
     */
    public function cut(int $piece, Cutting $walls, ?callable $warp = null, ?callable $unwarp = null): array
    {
        [$mesh, $vertices, $faces] = $this->faces->mesh($piece);
        $up = $walls->cut($warp === null ? $mesh : $warp($mesh));
        $cut = $up->cut;
        $caps = $up->caps;
        if ($caps === [] && count(array_unique($cut->cell)) === 1) {
            return [$piece => $cut->cell[0]];
        }
        if ($warp !== null) {
            $cut->place($mesh, $unwarp, $up->corners);
        }
        $known = $mesh->vertexCount();
        $parts = Parts::of($up, $known);
        /** @var list<int> $names pieces of the parts */
        $names = [];
        $result = [];
        foreach ($parts->cells as $k => $cell) {
            $names[] = $k === 0 ? $piece : $this->faces->newPiece();
            $result[$names[$k]] = $cell;
            if (isset($this->fracture->layer[$piece])) {
                $this->fracture->layer[$names[$k]] = $this->fracture->layer[$piece];
            }
        }
        $this->faces->clear($piece);
        $f = $this->fracture;
        // Vertices of the cut in the fracture's numbers: those of the mesh, then new ones as they are used.
        $global = $vertices;
        $name = static function (int $v) use (&$global, $f, $cut): int {
            if (! isset($global[$v])) {
                $global[$v] = count($f->x);
                $f->x[] = $cut->x[$v];
                $f->y[] = $cut->y[$v];
                $f->z[] = $cut->z[$v];
            }

            return $global[$v];
        };
        $firstNew = $f->faceCount();
        $others = [];
        /** @var array<int, array{bool, int}> $cutUp faces that came apart: whether the piece lay behind, and what on the other side */
        $cutUp = [];
        foreach ($cut->cell as $p => $cell) {
            $face = $faces[$cut->source[$p]];
            $from = $cut->start[$p];
            $to = $cut->start[$p + 1];
            $first = $cut->corner[$from];
            $new = $names[$parts->at($first, $cell)];
            if ($cut->isWhole($p, $known)) {
                // A triangle that lies wholly in the cell.
                if ($f->back[$face] === $piece) {
                    $f->back[$face] = $new;
                    $others[$f->front[$face]] = true;
                } else {
                    $f->front[$face] = $new;
                    $others[$f->back[$face]] = true;
                }
                $this->faces->give($face, $new);
                continue;
            }
            $cutUp[$face] ??= $f->back[$face] === $piece ? [true, $f->front[$face]] : [false, $f->back[$face]];
            [$isBack, $other] = $cutUp[$face];
            $f->back[$face] = Fracture::GONE;
            $others[$other] = true;
            for ($t = $from + 1; $t + 1 < $to; $t++) {
                $this->addPart($face, $isBack, $new, $other, $cut, [$from, $t, $t + 1], $name);
            }
        }
        $this->addCaps($up, $parts, $names, $name);
        unset($others[Fracture::OUTSIDE]);
        (new EdgeInserter($this->faces))->insert($this->edgeVertices($cut, $vertices, $known, $name), array_keys($others));
        if ($this->cutsFollow) {
            $this->fair($firstNew, [...$names, ...array_keys($others)], $warp !== null);
        }

        return $result;
    }

    /**
     * Good shapes for the triangles of every wall and every triangle of the skin that got new ones.
     *
     * @param list<int> $pieces
     * @param bool $curved whether walls may be curved
     */
    private function fair(int $firstNew, array $pieces, bool $curved): void
    {
        $f = $this->fracture;
        $changed = [];
        for ($face = $firstNew, $end = $f->faceCount(); $face < $end; $face++) {
            $changed[$f->origin[$face]] = true;
        }
        $faces = $others = [];
        $origin = $f->origin;
        foreach ($pieces as $piece) {
            foreach ($this->faces->of($piece) as $face) {
                if (isset($changed[$origin[$face]])) {
                    $faces[$face] = $face;
                } elseif ($curved) {
                    $others[$face] = $face;
                }
            }
        }
        EdgeFlipper::fair($f, array_values($faces), array_values($others));
    }

    /**
     * A triangle of a face that was cut up.
     *
     * @param array{int, int, int} $k corners in the cut
     * @param callable(int): int $name
     */
    private function addPart(int $face, bool $isBack, int $piece, int $other, SurfaceCut $cut, array $k, callable $name): void
    {
        $f = $this->fracture;
        // The mesh's triangle was turned around where the piece lies in front.
        [$i, $j] = $isBack ? [1, 2] : [2, 1];
        $weights = [];
        $w = 6 * $face;
        foreach ($isBack ? $k : [$k[0], $k[2], $k[1]] as $corner) {
            $w0 = $cut->weight0[$corner];
            $wi = $cut->weight1[$corner];
            $wj = 1.0 - $w0 - $wi;
            $weights[] = $w0 * $f->weight[$w] + $wi * $f->weight[$w + 2 * $i] + $wj * $f->weight[$w + 2 * $j];
            $weights[] = $w0 * $f->weight[$w + 1] + $wi * $f->weight[$w + 2 * $i + 1] + $wj * $f->weight[$w + 2 * $j + 1];
        }
        [$a, $b, $c] = [$name($cut->corner[$k[0]]), $name($cut->corner[$k[1]]), $name($cut->corner[$k[2]])];
        $this->faces->add($isBack ? [$a, $b, $c] : [$a, $c, $b], $isBack ? $piece : $other, $isBack ? $other : $piece, $f->origin[$face], $weights);
    }

    /**
     * @param list<int> $names
     * @param callable(int): int $name
     */
    private function addCaps(CutUp $up, Parts $parts, array $names, callable $name): void
    {
        $none = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        foreach (array_diff_key($up->caps, $up->seams) as $facet => $triangles) {
            $low = $up->low[$facet];
            $high = $up->high[$facet];
            $wall = $this->fracture->addWall($up->normal[$facet]);
            for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
                $v = $triangles[$k];
                $back = $names[$parts->at($v, $low)];
                $front = $names[$parts->at($v, $high)];
                // A slit that parts nothing is no face.
                if ($back !== $front) {
                    $this->faces->add([$name($v), $name($triangles[$k + 1]), $name($triangles[$k + 2])], $back, $front, -1 - $wall, $none);
                }
            }
        }
    }

    /**
     * The vertices that came onto the piece's edges, in their order from the end with the lower number.
     *
     * @param list<int> $vertices
     * @param callable(int): int $name
     *
     * @return array<int, list<int>> by {@see EdgeInserter::key()}
     */
    private function edgeVertices(SurfaceCut $cut, array $vertices, int $known, callable $name): array
    {
        $f = $this->fracture;
        $inserted = [];
        foreach ($cut->onEdge as $key => $list) {
            $a = $vertices[intdiv($key, $known)];
            $b = $vertices[$key % $known];
            [$a, $b] = [min($a, $b), max($a, $b)];
            $along = [];
            foreach ($list as $v) {
                $v = $name($v);
                $along[$v] = ($f->x[$v] - $f->x[$a]) * ($f->x[$b] - $f->x[$a]) + ($f->y[$v] - $f->y[$a]) * ($f->y[$b] - $f->y[$a])
                    + ($f->z[$v] - $f->z[$a]) * ($f->z[$b] - $f->z[$a]);
            }
            asort($along);
            $inserted[EdgeInserter::key($a, $b)] = array_keys($along);
        }

        return $inserted;
    }
}
