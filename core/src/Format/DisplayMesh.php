<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Pieces for drawing: unshared corners, each piece about its own centre, single precision. Layout in docs/formats.md.
 */
final class DisplayMesh
{
    private const CHUNK = 3000;

    /**
     * @param list<TriangleMesh> $pieces
     * @param list<array{float, float, float}> $centres
     * @param list<float> $volumes
     */
    public static function encode(array $pieces, array $centres, array $volumes): string
    {
        $table = $positions = $normals = '';
        $first = 0;
        foreach ($pieces as $k => $mesh) {
            [$cx, $cy, $cz] = $centres[$k];
            $corners = count($mesh->triangles);
            $table .= pack('g4VV', $cx, $cy, $cz, $volumes[$k], $first, $corners);
            $first += $corners;
            $xyz = $directions = [];
            foreach ($mesh->triangles as $c => $v) {
                array_push($xyz, $mesh->x[$v] - $cx, $mesh->y[$v] - $cy, $mesh->z[$v] - $cz);
                $n = $mesh->normals;
                array_push(
                    $directions,
                    (int) round(127.0 * ($n[3 * $c] ?? 0.0)),
                    (int) round(127.0 * ($n[3 * $c + 1] ?? 1.0)),
                    (int) round(127.0 * ($n[3 * $c + 2] ?? 0.0)),
                    $mesh->looks[intdiv($c, 3)] ?? TriangleMesh::LOOK_OUTER,
                );
                if (count($xyz) >= self::CHUNK) {
                    $positions .= pack('g*', ...$xyz);
                    $normals .= pack('c*', ...$directions);
                    $xyz = $directions = [];
                }
            }
            $positions .= $xyz === [] ? '' : pack('g*', ...$xyz);
            $normals .= $directions === [] ? '' : pack('c*', ...$directions);
        }

        return 'YBMESH1' . "\0" . pack('VV', count($pieces), $first) . $table . $positions . $normals;
    }
}
