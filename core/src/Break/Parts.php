<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\WindingNumber;

/**
 * Which parts of a cut mesh hang together: the faces of one cell that share vertices, directly or through others. A hollow
 * inside a part belongs to it.
 */
final class Parts
{
    /** @var array<int, int> union-find over (vertex, cell); the mesh's own vertices lie in one cell each and come first */
    private array $parent;

    /** @var array<int, int> node of a later vertex in a cell, by vertex * cells + cell */
    private array $node = [];

    /** @var array<int, int> part of each root */
    private array $part = [];

    /** @var list<int> cell of each part, in order of cells, larger parts first */
    public array $cells = [];

    private function __construct(private readonly int $known, private readonly int $cellCount)
    {
        $this->parent = $known > 0 ? range(0, $known - 1) : [];
    }

    /** @param int $known how many of the cut's vertices are the mesh's own */
    public static function of(CutUp $up, int $known): self
    {
        $cut = $up->cut;
        $parts = new self($known, $up->cells);
        $parts->joinWhole($cut);
        foreach ($cut->cell as $p => $cell) {
            if ($cut->isWhole($p, $known)) {
                continue;
            }
            $first = $parts->nodeOf($cut->corner[$cut->start[$p]], $cell);
            for ($t = $cut->start[$p] + 1; $t < $cut->start[$p + 1]; $t++) {
                $parts->join($first, $parts->nodeOf($cut->corner[$t], $cell));
            }
        }
        foreach ($up->caps as $facet => $triangles) {
            foreach ([$up->low[$facet], $up->high[$facet]] as $cell) {
                for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
                    $first = $parts->nodeOf($triangles[$k], $cell);
                    $parts->join($first, $parts->nodeOf($triangles[$k + 1], $cell));
                    $parts->join($first, $parts->nodeOf($triangles[$k + 2], $cell));
                }
            }
        }
        foreach ($up->seams as $facet => $_) {
            foreach ($up->caps[$facet] as $v) {
                $parts->join($parts->nodeOf($v, $up->low[$facet]), $parts->nodeOf($v, $up->high[$facet]));
            }
        }
        $parts->order($up);

        return $parts;
    }

    /** Makes pieces of a fracture that are several loose parts (none a hollow of another) pieces of their own. */
    public static function separate(Fracture $fracture): void
    {
        $faces = new PieceFaces($fracture);
        for ($piece = 0, $end = $fracture->pieces; $piece < $end; $piece++) {
            [$mesh, , $numbers] = $faces->mesh($piece);
            foreach (Topology::parts($mesh) as $k => $part) {
                if ($k === 0 || MassProperties::of($mesh->picked($part))->volume <= 0.0) {
                    continue;
                }
                $new = $faces->newPiece();
                foreach ($part as $triangle) {
                    $face = $numbers[$triangle];
                    if ($fracture->back[$face] === $piece) {
                        $fracture->back[$face] = $new;
                    } else {
                        $fracture->front[$face] = $new;
                    }
                }
            }
        }
    }

    /** Triangles that lie wholly in one cell, the great majority: their vertices are nodes by themselves. */
    private function joinWhole(SurfaceCut $cut): void
    {
        $P = $this->parent;
        $this->parent = [];
        $known = $this->known;
        $C = $cut->corner;
        $S = $cut->start;
        foreach ($cut->cell as $p => $_) {
            $k = $S[$p];
            $a = $C[$k];
            $b = $C[$k + 1];
            $c = $C[$k + 2];
            if ($a >= $known || $b >= $known || $c >= $known || $S[$p + 1] - $k !== 3) {
                continue;
            }
            while ($P[$a] !== $a) {
                $a = $P[$a] = $P[$P[$a]];
            }
            while ($P[$b] !== $b) {
                $b = $P[$b] = $P[$P[$b]];
            }
            while ($P[$c] !== $c) {
                $c = $P[$c] = $P[$P[$c]];
            }
            $least = $a < $b ? ($a < $c ? $a : $c) : ($b < $c ? $b : $c);
            $P[$a] = $least;
            $P[$b] = $least;
            $P[$c] = $least;
        }
        $this->parent = $P;
    }

    /** The part that a vertex of a cell's faces belongs to. */
    public function at(int $vertex, int $cell): int
    {
        return $this->part[$this->root($this->nodeOf($vertex, $cell))];
    }

    private function nodeOf(int $vertex, int $cell): int
    {
        if ($vertex < $this->known) {
            return $vertex;
        }
        $key = $vertex * $this->cellCount + $cell;
        if (! isset($this->node[$key])) {
            $this->node[$key] = count($this->parent);
            $this->parent[] = count($this->parent);
        }

        return $this->node[$key];
    }

    private function root(int $node): int
    {
        while ($this->parent[$node] !== $node) {
            $node = $this->parent[$node] = $this->parent[$this->parent[$node]];
        }

        return $node;
    }

    private function join(int $a, int $b): void
    {
        $a = $this->root($a);
        $b = $this->root($b);
        if ($a < $b) {
            $this->parent[$b] = $a;
        } elseif ($b < $a) {
            $this->parent[$a] = $b;
        }
    }

    private function order(CutUp $up): void
    {
        $cut = $up->cut;
        $volume = $cellOf = [];
        // From a place in the middle, so that far-away meshes lose no digits.
        $ox = 0.5 * (min($cut->x ?: [0.0]) + max($cut->x ?: [0.0]));
        $oy = 0.5 * (min($cut->y ?: [0.0]) + max($cut->y ?: [0.0]));
        $oz = 0.5 * (min($cut->z ?: [0.0]) + max($cut->z ?: [0.0]));
        $of = static function (int $a, int $b, int $c) use ($cut, $ox, $oy, $oz): float {
            $bx = $cut->x[$b] - $ox;
            $by = $cut->y[$b] - $oy;
            $bz = $cut->z[$b] - $oz;
            $cx = $cut->x[$c] - $ox;
            $cy = $cut->y[$c] - $oy;
            $cz = $cut->z[$c] - $oz;

            return ($cut->x[$a] - $ox) * ($by * $cz - $bz * $cy) + ($cut->y[$a] - $oy) * ($bz * $cx - $bx * $cz) + ($cut->z[$a] - $oz) * ($bx * $cy - $by * $cx);
        };
        foreach ($cut->cell as $p => $cell) {
            $first = $cut->corner[$cut->start[$p]];
            $root = $this->root($this->nodeOf($first, $cell));
            $cellOf[$root] = $cell;
            $volume[$root] ??= 0.0;
            for ($t = $cut->start[$p] + 2; $t < $cut->start[$p + 1]; $t++) {
                $volume[$root] += $of($first, $cut->corner[$t - 1], $cut->corner[$t]);
            }
        }
        foreach ($up->caps as $facet => $triangles) {
            foreach ([[$up->low[$facet], 1.0], [$up->high[$facet], -1.0]] as [$cell, $sign]) {
                for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
                    $root = $this->root($this->nodeOf($triangles[$k], $cell));
                    $cellOf[$root] = $cell;
                    $volume[$root] = ($volume[$root] ?? 0.0) + $sign * $of($triangles[$k], $triangles[$k + 1], $triangles[$k + 2]);
                }
            }
        }
        $solids = array_keys(array_filter($volume, static fn (float $v): bool => $v >= 0.0));
        usort($solids, static fn (int $a, int $b): int => [$cellOf[$a], -$volume[$a], $a] <=> [$cellOf[$b], -$volume[$b], $b]);
        foreach ($solids as $k => $root) {
            $this->part[$root] = $k;
            $this->cells[] = $cellOf[$root];
        }
        foreach (array_diff(array_keys($volume), $solids) as $root) {
            $owner = $this->around($root, $cellOf[$root], $solids, $cellOf, $up);
            if ($owner === null) {
                // A sliver that rounding turned inside out, not a hollow.
                $this->part[$root] = count($this->cells);
                $this->cells[] = $cellOf[$root];
            } else {
                $this->part[$root] = $this->part[$owner];
            }
        }
    }

    /**
     * The smallest solid part of the cell that lies around a hollow.
     *
     * @param list<int> $solids
     * @param array<int, int> $cellOf
     */
    private function around(int $hollow, int $cell, array $solids, array $cellOf, CutUp $up): ?int
    {
        $cut = $up->cut;
        $candidates = array_filter($solids, static fn (int $root): bool => $cellOf[$root] === $cell);
        if (count($candidates) === 1) {
            return array_values($candidates)[0];
        }
        $vertex = $hollow < $this->known ? $hollow : intdiv((int) array_search($hollow, $this->node, true), $this->cellCount);
        // Solids are sorted by size, so the last one that contains it is the smallest.
        foreach (array_reverse($candidates) as $root) {
            $triangles = [];
            foreach ($cut->cell as $p => $c) {
                $first = $cut->corner[$cut->start[$p]];
                if ($c === $cell && $this->root($this->nodeOf($first, $c)) === $root) {
                    for ($t = $cut->start[$p] + 2; $t < $cut->start[$p + 1]; $t++) {
                        array_push($triangles, $first, $cut->corner[$t - 1], $cut->corner[$t]);
                    }
                }
            }
            foreach ($up->caps as $facet => $cap) {
                $isLow = $up->low[$facet] === $cell;
                if ($isLow || $up->high[$facet] === $cell) {
                    for ($k = 0, $end = count($cap); $k < $end; $k += 3) {
                        if ($this->root($this->nodeOf($cap[$k], $cell)) === $root) {
                            array_push($triangles, $cap[$k], $cap[$k + ($isLow ? 1 : 2)], $cap[$k + ($isLow ? 2 : 1)]);
                        }
                    }
                }
            }
            if (WindingNumber::at(new TriangleMesh($cut->x, $cut->y, $cut->z, $triangles), $cut->x[$vertex], $cut->y[$vertex], $cut->z[$vertex]) > 0.5) {
                return $root;
            }
        }

        return null;
    }
}
