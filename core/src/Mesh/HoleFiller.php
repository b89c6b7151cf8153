<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** Closes the holes of a mesh whose faces look the same way: each rim that goes round once gets a cap. */
final class HoleFiller
{
    /** @return array{TriangleMesh, int} the mesh, and how many holes were filled */
    public static function fill(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $next = [];
        $used = [];
        $open = Topology::of($mesh)->openEdges;
        for ($k = 0, $end = count($open); $k < $end; $k += 2) {
            // A hole's rim runs against the edges of the faces around it.
            [$a, $b] = [$open[$k], $open[$k + 1]];
            if (isset($next[$b])) {
                // Two holes meet in a vertex: which way to go cannot be told.
                $used[$b] = true;
            }
            $next[$b] = $a;
        }
        foreach (array_keys($used) as $v) {
            unset($next[$v]);
        }
        $edges = [];
        foreach ($t as $k => $a) {
            $edges[self::edge($a, $t[$k % 3 === 2 ? $k - 2 : $k + 1])] = true;
        }
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $filled = 0;
        $more = $direction = [];
        while (($start = array_key_first($next)) !== null) {
            $loop = [];
            $at = $start;
            while (isset($next[$at])) {
                $loop[] = $at;
                $to = $next[$at];
                unset($next[$at]);
                $at = $to;
            }
            if ($at !== $start || count($loop) < 3) {
                continue;
            }
            [$triangles, $normal] = self::cap($mesh, $loop);
            if (self::meets($triangles, $loop, $edges)) {
                // Across the hole there is an edge already: all go to a new vertex in the middle instead.
                $middle = count($x);
                foreach ([&$x, &$y, &$z] as &$axis) {
                    $axis[] = array_sum(array_map(static fn (int $v): float => $axis[$v], $loop)) / count($loop);
                }
                unset($axis);
                $triangles = [];
                foreach ($loop as $k => $a) {
                    array_push($triangles, $a, $loop[$k + 1] ?? $loop[0], $middle);
                }
            }
            foreach ($triangles as $k => $a) {
                $edges[self::edge($a, $triangles[$k % 3 === 2 ? $k - 2 : $k + 1])] = true;
            }
            array_push($more, ...$triangles);
            for ($k = 0, $end = count($triangles); $k < $end; $k++) {
                array_push($direction, ...$normal);
            }
            $filled++;
        }
        if ($filled === 0) {
            return [$mesh, 0];
        }

        return [new TriangleMesh(
            $x,
            $y,
            $z,
            [...$t, ...$more],
            $mesh->normals === null ? null : [...$mesh->normals, ...$direction],
            $mesh->uvs === null ? null : [...$mesh->uvs, ...array_fill(0, 2 * count($more), 0.0)],
            $mesh->looks === null ? null : [...$mesh->looks, ...array_fill(0, intdiv(count($more), 3), TriangleMesh::LOOK_OUTER)],
        ), $filled];
    }

    private static function edge(int $a, int $b): string
    {
        return $a < $b ? "{$a},{$b}" : "{$b},{$a}";
    }

    /**
     * Whether an edge across a hole is one that the mesh has already.
     *
     * @param list<int> $triangles
     * @param list<int> $loop
     * @param array<string, true> $edges
     */
    private static function meets(array $triangles, array $loop, array $edges): bool
    {
        $rim = [];
        foreach ($loop as $k => $a) {
            $rim[self::edge($a, $loop[$k + 1] ?? $loop[0])] = true;
        }
        foreach ($triangles as $k => $a) {
            $edge = self::edge($a, $triangles[$k % 3 === 2 ? $k - 2 : $k + 1]);
            if (isset($edges[$edge]) && ! isset($rim[$edge])) {
                return true;
            }
        }

        return false;
    }

    /**
     * A rim closed by triangles, seen along its mean normal (Newell's method).
     *
     * @param list<int> $loop
     *
     * @return array{list<int>, array{float, float, float}}
     */
    private static function cap(TriangleMesh $mesh, array $loop): array
    {
        $nx = $ny = $nz = 0.0;
        foreach ($loop as $k => $a) {
            $b = $loop[$k + 1 === count($loop) ? 0 : $k + 1];
            $nx += ($mesh->y[$a] - $mesh->y[$b]) * ($mesh->z[$a] + $mesh->z[$b]);
            $ny += ($mesh->z[$a] - $mesh->z[$b]) * ($mesh->x[$a] + $mesh->x[$b]);
            $nz += ($mesh->x[$a] - $mesh->x[$b]) * ($mesh->y[$a] + $mesh->y[$b]);
        }
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $normal = $length > 0.0 ? [$nx / $length, $ny / $length, $nz / $length] : [0.0, 1.0, 0.0];
        [$first, $second, $sign] = match (true) {
            abs($nx) >= abs($ny) && abs($nx) >= abs($nz) => [$mesh->y, $mesh->z, $nx],
            abs($ny) >= abs($nz) => [$mesh->z, $mesh->x, $ny],
            default => [$mesh->x, $mesh->y, $nz],
        };
        if ($sign < 0.0) {
            [$first, $second] = [$second, $first];
        }
        $u = $v = [];
        foreach ($loop as $p) {
            $u[$p] = $first[$p];
            $v[$p] = $second[$p];
        }

        return [PolygonTriangulator::triangulate([$loop], $u, $v), $normal];
    }
}
