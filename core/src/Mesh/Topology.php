<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * How the triangles of a mesh hang together: a mesh is watertight and oriented when every directed edge is used once and
 * its opposite once.
 */
final readonly class Topology
{
    /**
     * @param array<int, int> $openEdges pairs of vertices of edges that have a triangle on one side only
     * @param array<int, int> $crowdedEdges pairs of vertices of edges used by more than two triangles, or twice in one direction
     */
    private function __construct(
        public array $openEdges,
        public array $crowdedEdges,
        public int $parts,
    ) {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $t = $mesh->triangles;
        $n = $mesh->vertexCount();
        $uses = [];
        $parent = range(0, max(0, $n - 1));
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            for ($e = 0; $e < 3; $e++) {
                $a = $t[$k + $e];
                $b = $t[$k + ($e === 2 ? 0 : $e + 1)];
                $key = $a * $n + $b;
                $uses[$key] = ($uses[$key] ?? 0) + 1;
                while ($parent[$a] !== $a) {
                    $a = $parent[$a] = $parent[$parent[$a]];
                }
                while ($parent[$b] !== $b) {
                    $b = $parent[$b] = $parent[$parent[$b]];
                }
                $parent[max($a, $b)] = min($a, $b);
            }
        }
        $open = [];
        $crowded = [];
        foreach ($uses as $key => $count) {
            $a = intdiv($key, $n);
            $b = $key % $n;
            $back = $uses[$b * $n + $a] ?? 0;
            if ($count > 1 || $back > 1) {
                if ($a < $b || $back === 0) {
                    array_push($crowded, $a, $b);
                }
            } elseif ($back === 0) {
                array_push($open, $a, $b);
            }
        }
        $roots = [];
        foreach ($t as $v) {
            while ($parent[$v] !== $v) {
                $v = $parent[$v];
            }
            $roots[$v] = true;
        }

        return new self($open, $crowded, count($roots));
    }

    /**
     * The triangles of each part that hangs together by edges, in order of their first triangle.
     *
     * @return list<list<int>>
     */
    public static function parts(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $parent = range(0, max(0, $mesh->triangleCount() - 1));
        $byEdge = [];
        foreach ($t as $k => $a) {
            $b = $t[$k % 3 === 2 ? $k - 2 : $k + 1];
            $f = intdiv($k, 3);
            $g = $byEdge[$a < $b ? "{$a},{$b}" : "{$b},{$a}"] ??= $f;
            while ($parent[$f] !== $f) {
                $f = $parent[$f] = $parent[$parent[$f]];
            }
            while ($parent[$g] !== $g) {
                $g = $parent[$g] = $parent[$parent[$g]];
            }
            $parent[max($f, $g)] = min($f, $g);
        }
        $parts = [];
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            $root = $f;
            while ($parent[$root] !== $root) {
                $root = $parent[$root];
            }
            $parts[$root][] = $f;
        }

        return array_values($parts);
    }

    /**
     * The parts of a mesh that have an inside, each as a mesh of its own.
     *
     * @return list<array{list<int>, TriangleMesh}> vertices of the whole that it has, and the part over those
     */
    public static function closedParts(TriangleMesh $mesh): array
    {
        $closed = [];
        foreach (self::parts($mesh) as $faces) {
            $corners = array_merge(...array_map(static fn (int $f): array => array_slice($mesh->triangles, 3 * $f, 3), $faces));
            $vertices = array_values(array_unique($corners));
            $number = array_flip($vertices);
            $x = $y = $z = [];
            foreach ($vertices as $v) {
                [$x[], $y[], $z[]] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
            }
            $part = new TriangleMesh($x, $y, $z, array_map(static fn (int $v): int => $number[$v], $corners));
            if (self::of($part)->isWatertight()) {
                $closed[] = [$vertices, $part];
            }
        }

        return $closed;
    }

    public function isWatertight(): bool
    {
        return $this->openEdges === [] && $this->crowdedEdges === [];
    }

    public function openEdgeCount(): int
    {
        return intdiv(count($this->openEdges), 2);
    }

    public function crowdedEdgeCount(): int
    {
        return intdiv(count($this->crowdedEdges), 2);
    }
}
