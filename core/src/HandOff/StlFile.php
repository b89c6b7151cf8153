<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Generator;
use YardBreak\Core\Mesh\TriangleMesh;

/** Binary STL: the triangles of all pieces, with the direction each looks; nothing else fits in. */
final class StlFile implements MeshFile
{
    public static function extension(): string
    {
        return 'stl';
    }

    public static function type(): string
    {
        return 'model/stl';
    }

    public static function parts(iterable $objects): Generator
    {
        $count = 0;
        $facets = [];
        foreach ($objects as [, $mesh]) {
            $facets[] = self::facets($mesh);
            $count += $mesh->triangleCount();
        }
        yield str_pad('metres, y up', 80, "\0") . pack('V', $count);
        yield from $facets;
    }

    private static function facets(TriangleMesh $mesh): string
    {
        $bytes = '';
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            [$nx, $ny, $nz] = $mesh->cross($t);
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $by = $l > 0.0 ? 1.0 / $l : 0.0;
            $corners = [];
            foreach (array_slice($mesh->triangles, 3 * $t, 3) as $v) {
                array_push($corners, $mesh->x[$v], $mesh->y[$v], $mesh->z[$v]);
            }
            $bytes .= pack('g12v', $by * $nx, $by * $ny, $by * $nz, ...[...$corners, 0]);
        }

        return $bytes;
    }
}
