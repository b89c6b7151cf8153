<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Makes vertices of the same place one, as formats without shared vertices (STL) or with split ones (glTF) need it. Places
 * are the same if their coordinates are equal bit for bit (-0 counts as 0).
 */
final class VertexWelder
{
    public static function weld(TriangleMesh $mesh): TriangleMesh
    {
        $number = $to = $x = $y = $z = [];
        foreach ($mesh->x as $i => $px) {
            // Not by adding 0.0, which opcache may leave out: -0 would stay.
            $px = $px === 0.0 ? 0.0 : $px;
            $py = $mesh->y[$i] === 0.0 ? 0.0 : $mesh->y[$i];
            $pz = $mesh->z[$i] === 0.0 ? 0.0 : $mesh->z[$i];
            $key = pack('d3', $px, $py, $pz);
            if (! isset($number[$key])) {
                $number[$key] = count($x);
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
            $to[$i] = $number[$key];
        }
        $triangles = $normals = $uvs = [];
        for ($k = 0, $end = count($mesh->triangles); $k < $end; $k += 3) {
            $a = $to[$mesh->triangles[$k]];
            $b = $to[$mesh->triangles[$k + 1]];
            $c = $to[$mesh->triangles[$k + 2]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            array_push($triangles, $a, $b, $c);
            if ($mesh->normals !== null) {
                array_push($normals, ...array_slice($mesh->normals, 3 * $k, 9));
            }
            if ($mesh->uvs !== null) {
                array_push($uvs, ...array_slice($mesh->uvs, 2 * $k, 6));
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, $mesh->normals === null ? null : $normals, $mesh->uvs === null ? null : $uvs);
    }
}
