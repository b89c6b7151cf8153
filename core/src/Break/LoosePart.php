<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\WindingNumber;

/** Splits a closed mesh into parts that share no edge; a hollow inside a part stays with it. */
final class LoosePart
{
    /** @return list<TriangleMesh> largest volume first */
    public static function split(TriangleMesh $mesh): array
    {
        $shells = self::shells($mesh);
        if (count($shells) === 1) {
            return [$mesh];
        }
        /** @var list<array{float, list<int>, TriangleMesh}> $solids */
        $solids = [];
        $hollows = [];
        foreach ($shells as $faces) {
            $part = self::pick($mesh, $faces);
            $volume = MassProperties::of($part)->volume;
            if ($volume < 0.0) {
                $hollows[] = [$faces, $part];
            } else {
                $solids[] = [$volume, $faces, $part];
            }
        }
        usort($solids, static fn (array $a, array $b): int => $b[0] <=> $a[0]);
        foreach ($hollows as [$faces, $hollow]) {
            // The smallest solid around it; solids are sorted, so the last that contains it.
            $owner = 0;
            foreach ($solids as $s => [, , $solid]) {
                if (WindingNumber::at($solid, $hollow->x[0], $hollow->y[0], $hollow->z[0]) > 0.5) {
                    $owner = $s;
                }
            }
            if ($solids === []) {
                return [$mesh];
            }
            [$volume, $own, $solid] = $solids[$owner];
            $solids[$owner] = [$volume, [...$own, ...$faces], $solid];
        }

        return array_map(static fn (array $solid): TriangleMesh => self::pick($mesh, $solid[1]), $solids);
    }

    /** @return list<list<int>> faces of each set that hangs together by edges */
    private static function shells(TriangleMesh $mesh): array
    {
        $t = $mesh->triangles;
        $n = $mesh->vertexCount();
        $faces = $mesh->triangleCount();
        $parent = range(0, max(0, $faces - 1));
        $byEdge = [];
        for ($k = 0, $end = 3 * $faces; $k < $end; $k++) {
            $a = $t[$k];
            $b = $t[$k % 3 === 2 ? $k - 2 : $k + 1];
            $key = $a < $b ? $a * $n + $b : $b * $n + $a;
            $f = intdiv($k, 3);
            if (isset($byEdge[$key])) {
                $g = $byEdge[$key];
                while ($parent[$f] !== $f) {
                    $f = $parent[$f] = $parent[$parent[$f]];
                }
                while ($parent[$g] !== $g) {
                    $g = $parent[$g] = $parent[$parent[$g]];
                }
                $parent[max($f, $g)] = min($f, $g);
            } else {
                $byEdge[$key] = $f;
            }
        }
        $shells = [];
        for ($f = 0; $f < $faces; $f++) {
            $root = $f;
            while ($parent[$root] !== $root) {
                $root = $parent[$root];
            }
            $shells[$root][] = $f;
        }

        return array_values($shells);
    }

    /** @param list<int> $faces */
    private static function pick(TriangleMesh $mesh, array $faces): TriangleMesh
    {
        $number = $x = $y = $z = $triangles = $normals = $uvs = $looks = [];
        foreach ($faces as $f) {
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $v = $mesh->triangles[$k];
                if (! isset($number[$v])) {
                    $number[$v] = count($x);
                    $x[] = $mesh->x[$v];
                    $y[] = $mesh->y[$v];
                    $z[] = $mesh->z[$v];
                }
                $triangles[] = $number[$v];
            }
            if ($mesh->normals !== null) {
                array_push($normals, ...array_slice($mesh->normals, 9 * $f, 9));
            }
            if ($mesh->uvs !== null) {
                array_push($uvs, ...array_slice($mesh->uvs, 6 * $f, 6));
            }
            $looks[] = $mesh->looks[$f] ?? TriangleMesh::LOOK_OUTER;
        }

        return new TriangleMesh(
            $x,
            $y,
            $z,
            $triangles,
            $mesh->normals === null ? null : $normals,
            $mesh->uvs === null ? null : $uvs,
            $looks,
        );
    }
}
