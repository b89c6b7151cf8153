<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Binary PLY (Turk 1994): all pieces in one mesh. Each face says which look it has and which piece it is of, from 0 in the order of
 * the file, so that mattes can be made of it; the comments say what the pieces are called.
 */
final class PlyFile implements MeshFile
{
    public static function extension(): string
    {
        return 'ply';
    }

    public static function type(): string
    {
        return 'model/ply';
    }

    public static function parts(iterable $objects): Generator
    {
        $vertices = $faces = $names = [];
        $count = $triangles = 0;
        foreach ($objects as [$name, $mesh]) {
            $vertices[] = self::vertices($mesh);
            $faces[] = self::faces($mesh, $count, count($names));
            $names[] = 'comment piece ' . count($names) . ' ' . preg_replace('/[\x00-\x1f\x7f]/', ' ', $name);
            $count += $mesh->vertexCount();
            $triangles += $mesh->triangleCount();
        }
        yield implode("\n", [
            'ply', 'format binary_little_endian 1.0', 'comment metres, y up', 'comment look 0 outside, 1 fresh faces, 2 sides, 3 and more layers', ...$names,
            "element vertex {$count}", 'property float x', 'property float y', 'property float z',
            "element face {$triangles}", 'property list uchar int vertex_indices', 'property uchar look', 'property int piece', 'end_header', '',
        ]);
        yield from $vertices;
        yield from $faces;
    }

    private static function vertices(TriangleMesh $mesh): string
    {
        $bytes = '';
        foreach ($mesh->x as $v => $x) {
            $bytes .= pack('g3', $x, $mesh->y[$v], $mesh->z[$v]);
        }

        return $bytes;
    }

    /** @param int $from number of its first vertex in the file */
    private static function faces(TriangleMesh $mesh, int $from, int $piece): string
    {
        $bytes = '';
        $triangles = $mesh->triangles;
        for ($t = 0, $k = 0, $end = $mesh->triangleCount(); $t < $end; $t++, $k += 3) {
            $bytes .= pack('CVVVCV', 3, $from + $triangles[$k], $from + $triangles[$k + 1], $from + $triangles[$k + 2], $mesh->looks[$t] ?? TriangleMesh::LOOK_OUTER, $piece);
        }

        return $bytes;
    }
}
