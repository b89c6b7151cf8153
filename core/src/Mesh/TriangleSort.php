<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** Triangles sorted into a tree: split at the median of the longest side, again and again, until few are left together. */
final class TriangleSort
{
    private const LEAF = 4;

    /** @return array{list<int>, list<int>, list<int>} first child of each node (the second follows it), or first triangle of a leaf; triangles of a leaf (0: it has children); triangles in the order of the leaves */
    public static function of(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        /** @var array{list<float>, list<float>, list<float>} $middles */
        $middles = [[], [], []];
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $middles[0][] = $mesh->x[$t[$k]] + $mesh->x[$t[$k + 1]] + $mesh->x[$t[$k + 2]];
            $middles[1][] = $mesh->y[$t[$k]] + $mesh->y[$t[$k + 1]] + $mesh->y[$t[$k + 2]];
            $middles[2][] = $mesh->z[$t[$k]] + $mesh->z[$t[$k + 1]] + $mesh->z[$t[$k + 2]];
        }
        $order = [];
        $left = $count = [0];
        $todo = [[0, self::withArea($mesh)]];
        while ($todo !== []) {
            [$node, $own] = array_pop($todo);
            if (count($own) <= self::LEAF) {
                $left[$node] = count($order);
                $count[$node] = count($own);
                array_push($order, ...$own);
                continue;
            }
            $longest = -1.0;
            $by = [];
            foreach ($middles as $along) {
                $values = [];
                foreach ($own as $triangle) {
                    $values[$triangle] = $along[$triangle];
                }
                $side = max($values) - min($values);
                if ($side > $longest) {
                    [$longest, $by] = [$side, $values];
                }
            }
            // The order that triangles had stays where they are level.
            asort($by, SORT_NUMERIC);
            $own = array_keys($by);
            $half = intdiv(count($own), 2);
            $child = count($left);
            $left[$node] = $child;
            array_push($left, 0, 0);
            array_push($count, 0, 0);
            $todo[] = [$child, array_slice($own, 0, $half)];
            $todo[] = [$child + 1, array_slice($own, $half)];
        }

        return [array_values($left), array_values($count), $order];
    }

    /** @return list<int> the triangles that have an area: the others lie within their neighbours' edges */
    private static function withArea(TriangleMesh $mesh): array
    {
        $faces = [];
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            [$nx, $ny, $nz] = $mesh->cross($f);
            if ($nx * $nx + $ny * $ny + $nz * $nz > 0.0) {
                $faces[] = $f;
            }
        }

        return $faces;
    }
}
