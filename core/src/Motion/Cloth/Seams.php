<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use Closure;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Patches that are sewn together: where they meet, their vertices are one node of the cloth, so that it hangs and folds as if it were one. A
 * seam opens edge by edge, where it is stretched across; a node comes apart where no edge that holds joins what is around it.
 */
final class Seams
{
    /** @var list<bool> of each edge */
    private array $holds;

    /** @var list<int> edges that open before the next step */
    private array $opening = [];

    /** @var list<float> share by which each vertex's edges may be stretched */
    private array $most = [];

    /** @var array<int, float> edges that bear more than they can since they were looked at last, and how many times as much */
    private array $loaded = [];

    /** @var list<int> node of each vertex */
    private array $nodes;

    /** @var list<int> a vertex of each node, the lowest */
    private array $vertexOf;

    /** How many nodes there are while all seams hold. */
    private readonly int $sewn;

    /** @var list<array{float, float, float, float, float}> of each edge at rest: its length, and height and foot of the triangles on both sides, m */
    private readonly array $rest;

    /** @var list<array{float, float, float}> way across each edge, as it was woven, m */
    private readonly array $across;

    /**
     * @param int $vertices how many there are
     * @param list<array{int, int, int, int, int, int}> $edges ends and far corner of one patch's triangle, then the same ends and the far corner of the other's
     * @param list<int> $piece of each vertex
     */
    private function __construct(private readonly int $vertices, private readonly array $edges, TriangleMesh $mesh, private readonly Fabric $fabric, private readonly array $piece)
    {
        $this->holds = array_fill(0, count($edges), true);
        [$this->nodes, $this->vertexOf] = $this->joined();
        $this->sewn = count($this->vertexOf);
        $rest = $across = [];
        foreach ($edges as [$a, $b, $c, $p, $q, $r]) {
            $across[] = self::away($mesh->x, $mesh->y, $mesh->z, $a, $b, $c);
            $rest[] = [...self::over($mesh->x, $mesh->y, $mesh->z, $a, $b, $c), ...array_slice(self::over($mesh->x, $mesh->y, $mesh->z, $p, $q, $r), 1)];
        }
        $this->rest = $rest;
        $this->across = $across;
    }

    /**
     * Between the pieces of a mesh that lie side by side: edges with the same ends, to the bit.
     *
     * @param list<int> $piece of each vertex
     */
    public static function between(TriangleMesh $mesh, array $piece, Fabric $fabric): self
    {
        $place = $mesh->places();
        /** @var array<string, list<array{int, int, int}>> $open edges that have found no other yet */
        $open = [];
        $edges = [];
        foreach ($mesh->triangles as $c => $a) {
            $first = $c - $c % 3;
            $b = $mesh->triangles[$first + ($c + 1) % 3];
            $far = $mesh->triangles[$first + ($c + 2) % 3];
            [$low, $high] = $place[$a] < $place[$b] ? [$a, $b] : [$b, $a];
            $key = "{$place[$low]} {$place[$high]}";
            $others = $open[$key] ?? [];
            foreach ($others as $k => [$p, $q, $r]) {
                if ($piece[$p] !== $piece[$a]) {
                    $edges[] = [$p, $q, $r, $low, $high, $far];
                    array_splice($others, $k, 1);
                    $open[$key] = $others;
                    continue 2;
                }
            }
            $open[$key][] = [$low, $high, $far];
        }

        return new self($mesh->vertexCount(), $edges, $mesh, $fabric, $piece);
    }

    /** @return list<int> node of each vertex */
    public function nodes(): array
    {
        return $this->nodes;
    }

    /** @return list<int> a vertex of each node */
    public function vertexOf(): array
    {
        return $this->vertexOf;
    }

    /** How many vertices have come apart from others. */
    public function torn(): int
    {
        return count($this->vertexOf) - $this->sewn;
    }

    /** The mesh of the nodes. */
    public function sewn(TriangleMesh $mesh): TriangleMesh
    {
        $x = $y = $z = [];
        foreach ($this->vertexOf as $v) {
            [$x[], $y[], $z[]] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }

        return new TriangleMesh($x, $y, $z, array_map(fn (int $v): int => $this->nodes[$v], array_values($mesh->triangles)));
    }

    /** @param list<float> $most share by which each vertex's edges may be stretched from now on */
    public function weaken(array $most): void
    {
        $this->most = $most;
    }

    /** Share by which an edge may be stretched across. */
    private function limit(int $edge): float
    {
        return 0.5 * ($this->most[$this->edges[$edge][0]] + $this->most[$this->edges[$edge][1]]);
    }

    /**
     * What presses on some nodes presses on the patches they are of: how much the seams around those bear, N (any text on membranes: the pull for each
     * metre, along all of them).
     *
     * @param list<int> $nodes
     */
    public function bears(array $nodes): float
    {
        $bears = 0.0;
        foreach ($this->around($nodes) as $e) {
            $bears += $this->fabric->stretch * max(0.0, $this->limit($e)) * $this->rest[$e][0];
        }

        return $bears;
    }

    /**
     * They bear so many times as much as they can.
     *
     * @param list<int> $nodes
     */
    public function load(array $nodes, float $times): void
    {
        foreach ($this->around($nodes) as $e) {
            $this->loaded[$e] = max($this->loaded[$e] ?? 0.0, $times);
        }
    }

    /**
     * @param list<int> $nodes
     *
     * @return list<int> edges that hold between the patches of these nodes and others
     */
    private function around(array $nodes): array
    {
        $touched = array_fill_keys($nodes, true);
        $pieces = [];
        foreach ($this->nodes as $v => $node) {
            if (isset($touched[$node])) {
                $pieces[$this->piece[$v]] = true;
            }
        }
        $around = [];
        foreach ($this->edges as $e => [$a, , , $p]) {
            if ($this->holds[$e] && isset($pieces[$this->piece[$a]]) !== isset($pieces[$this->piece[$p]])) {
                $around[] = $e;
            }
        }

        return $around;
    }

    /**
     * Notes which edges are stretched across, or sheared along, too far: of both triangles, how much higher they are over the edge, and how far their
     * corners have moved along it, by half of what the fabric resists. Of those that bear more than they can, the one that is stretched most is too far.
     *
     * @param array<int, float> $x of the nodes, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param Closure(int, int, float, float, float): float $longer how many times as long as it was woven the cloth is between two nodes, along a way
     */
    public function strain(array $x, array $y, array $z, Closure $longer): void
    {
        $over = $share = [];
        foreach ($this->edges as $e => [$a, $b, $c, $p, $q, $r]) {
            if (! $this->holds[$e]) {
                continue;
            }
            [$a, $b, $c, $p, $q, $r] = [$this->nodes[$a], $this->nodes[$b], $this->nodes[$c], $this->nodes[$p], $this->nodes[$q], $this->nodes[$r]];
            [$long, $high, $foot, $higher, $feet] = $this->rest[$e];
            [$now, $h, $f] = self::over($x, $y, $z, $a, $b, $c);
            [, $k, $g] = self::over($x, $y, $z, $p, $q, $r);
            $rest = max(1e-12, $longer($a, $b, ...$this->across[$e]) * ($high + $higher));
            $wider = $now / max(1e-12, $long);
            // The far corners lie on both sides: sheared, they move apart.
            $shear = 0.5 * $this->fabric->shear * abs(($f - $wider * $foot) - ($g - $wider * $feet)) / $rest;
            $strain = sqrt(max(0.0, ($h + $k) / $rest - 1.0) ** 2 + $shear * $shear);
            $limit = $this->limit($e);
            if (isset($this->loaded[$e])) {
                $share[$e] = $limit > 0.0 ? max(1e-12, $strain / $limit) : 1.0;
            }
            if ($limit <= 0.0) {
                $over[$e] = INF;
            } elseif ($strain > $limit) {
                $over[$e] = $strain / $limit;
            }
        }
        foreach ($share as $e => $of) {
            $times = $this->loaded[$e] * $of / max($share);
            if ($times > 1.0) {
                $over[$e] = max($over[$e] ?? 0.0, $times);
            }
        }
        $this->loaded = [];
        // The worst go, and by that others are eased: where it is little too much, those near the worst; where it is a hundred times, all beyond ten.
        $enough = $over === [] ? 0.0 : sqrt(max($over));
        $this->opening = array_keys(array_filter($over, static fn (float $of): bool => $of >= $enough));
    }

    /**
     * Opens the edges that were noted.
     *
     * @return list<int>|null the node that each node was before; null: nothing has come apart
     */
    public function open(): ?array
    {
        if ($this->opening === []) {
            return null;
        }
        $opening = array_fill_keys($this->opening, true);
        $this->holds = array_map(static fn (bool $holds, int $e): bool => $holds && ! isset($opening[$e]), $this->holds, array_keys($this->holds));
        $this->opening = [];
        [$nodes, $vertexOf] = $this->joined();
        if (count($vertexOf) === count($this->vertexOf)) {
            return null;
        }
        $before = array_map(fn (int $v): int => $this->nodes[$v], $vertexOf);
        [$this->nodes, $this->vertexOf] = [$nodes, $vertexOf];

        return $before;
    }

    /** @return array{list<int>, list<int>} node of each vertex, and the lowest vertex of each node: vertices are one that an edge that holds joins */
    private function joined(): array
    {
        $root = range(0, max(0, $this->vertices - 1));
        $find = static function (int $v) use (&$root): int {
            while ($root[$v] !== $v) {
                $v = $root[$v] = $root[$root[$v]];
            }

            return $v;
        };
        foreach ($this->edges as $e => [$a, $b, , $p, $q]) {
            if ($this->holds[$e]) {
                foreach ([[$a, $p], [$b, $q]] as [$one, $other]) {
                    [$one, $other] = [$find($one), $find($other)];
                    $root[max($one, $other)] = min($one, $other);
                }
            }
        }
        $nodes = $vertexOf = $number = [];
        for ($v = 0; $v < $this->vertices; $v++) {
            $of = $find($v);
            if (! isset($number[$of])) {
                $number[$of] = count($vertexOf);
                $vertexOf[] = $of;
            }
            $nodes[] = $number[$of];
        }

        return [$nodes, $vertexOf];
    }

    /**
     * A triangle over the edge from a to b.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{float, float, float} length of the edge, how high its far corner is over it, and how far along the edge, m
     */
    private static function over(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        $edge = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        $corner = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
        $cross = Vector::cross($edge, $corner);
        $length = sqrt(Vector::dot($edge, $edge));

        return $length > 0.0 ? [$length, sqrt(Vector::dot($cross, $cross)) / $length, Vector::dot($corner, $edge) / $length] : [0.0, 0.0, 0.0];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{float, float, float} from an edge straight to a corner
     */
    private static function away(array $x, array $y, array $z, int $a, int $b, int $c): array
    {
        $edge = [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]];
        $corner = [$x[$c] - $x[$a], $y[$c] - $y[$a], $z[$c] - $z[$a]];
        $share = Vector::dot($corner, $edge) / max(1e-24, Vector::dot($edge, $edge));

        return [$corner[0] - $share * $edge[0], $corner[1] - $share * $edge[1], $corner[2] - $share * $edge[2]];
    }

    /** @return array{holds: list<bool>, opening: list<int>} */
    public function save(): array
    {
        return ['holds' => $this->holds, 'opening' => $this->opening];
    }

    /**
     * @param list<bool> $holds
     * @param list<int> $opening
     */
    public function restore(array $holds, array $opening): void
    {
        [$this->holds, $this->opening] = [$holds, $opening];
        [$this->nodes, $this->vertexOf] = $this->joined();
    }
}
