<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Pieces for drawing: unshared corners with the numbers of their vertices, each piece about its own centre, single precision. Layout in docs/frames.md.
 */
final class DisplayMesh
{
    /** Raised when the bytes change: stored ones of another version are not used. */
    public const VERSION = 3;

    private const CHUNK = 3000;

    /**
     * @param iterable<int, TriangleMesh> $pieces as many as centres
     * @param list<array{float, float, float}> $centres
     * @param list<float> $volumes
     * @param bool $withUvs whether texture coordinates follow
     */
    public static function encode(iterable $pieces, array $centres, array $volumes, bool $withUvs = false): string
    {
        $table = $positions = $normals = $uvs = $numbers = '';
        $first = $firstVertex = 0;
        foreach ($pieces as $k => $mesh) {
            [$cx, $cy, $cz] = $centres[$k];
            $corners = count($mesh->triangles);
            $table .= pack('g4VV', $cx, $cy, $cz, $volumes[$k], $first, $corners);
            $first += $corners;
            $px = $mesh->x;
            $py = $mesh->y;
            $pz = $mesh->z;
            $n = $mesh->normals;
            $looks = $mesh->looks;
            if ($withUvs) {
                foreach (array_chunk($mesh->uvs ?? array_fill(0, 2 * $corners, 0.0), self::CHUNK) as $part) {
                    $uvs .= pack('g*', ...$part);
                }
            }
            foreach (array_chunk($mesh->triangles, self::CHUNK) as $vertices) {
                $numbers .= pack('V*', ...array_map(static fn (int $v): int => $firstVertex + $v, $vertices));
            }
            $firstVertex += $mesh->vertexCount();
            foreach (array_chunk($mesh->triangles, self::CHUNK) as $part => $vertices) {
                $xyz = $directions = [];
                $c = self::CHUNK * $part;
                foreach ($vertices as $v) {
                    $xyz[] = $px[$v] - $cx;
                    $xyz[] = $py[$v] - $cy;
                    $xyz[] = $pz[$v] - $cz;
                    // Rounded: the shift keeps the cast from rounding towards zero.
                    $directions[] = $n === null ? 0 : (int) (127.0 * $n[3 * $c] + 127.5) - 127;
                    $directions[] = $n === null ? 127 : (int) (127.0 * $n[3 * $c + 1] + 127.5) - 127;
                    $directions[] = $n === null ? 0 : (int) (127.0 * $n[3 * $c + 2] + 127.5) - 127;
                    $directions[] = $looks === null ? TriangleMesh::LOOK_OUTER : $looks[(int) ($c / 3)];
                    $c++;
                }
                $positions .= pack('g*', ...$xyz);
                $normals .= pack('c*', ...$directions);
            }
        }

        return 'YBMESH1' . "\0" . pack('VV', count($centres), $first) . $table . $positions . $normals . $uvs . $numbers;
    }
}
