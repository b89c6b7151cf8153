<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * A mesh as bytes: exact (doubles), little-endian. Five counts (vertices, corners, normals, texture coordinates, looks; 32
 * bits each), then the values in that order.
 */
final class MeshCodec
{
    /** Values packed in one call; longer argument lists cost memory. */
    private const CHUNK = 16384;

    public static function encode(TriangleMesh $mesh): string
    {
        $out = pack(
            'V5',
            count($mesh->x),
            count($mesh->triangles),
            count($mesh->normals ?? []),
            count($mesh->uvs ?? []),
            count($mesh->looks ?? []),
        );
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis) {
            $out .= self::packed('e', $axis);
        }

        return $out . self::packed('V', $mesh->triangles)
            . self::packed('e', $mesh->normals ?? [])
            . self::packed('e', $mesh->uvs ?? [])
            . self::packed('C', $mesh->looks ?? []);
    }

    /** How many bytes the mesh that begins here takes. */
    public static function length(string $bytes, int $at = 0): int
    {
        [$vertices, $corners, $normals, $uvs, $looks] = self::ints($bytes, $at, 5);

        return 20 + 24 * $vertices + 4 * $corners + 8 * $normals + 8 * $uvs + $looks;
    }

    public static function decode(string $bytes, int $at = 0): TriangleMesh
    {
        [$vertices, $corners, $normals, $uvs, $looks] = self::ints($bytes, $at, 5);
        $at += 20;
        $axes = [];
        for ($k = 0; $k < 3; $k++) {
            $axes[] = self::doubles($bytes, $at, $vertices);
            $at += 8 * $vertices;
        }
        $triangles = self::ints($bytes, $at, $corners);
        $at += 4 * $corners;
        $n = self::doubles($bytes, $at, $normals);
        $at += 8 * $normals;
        $u = self::doubles($bytes, $at, $uvs);
        $at += 8 * $uvs;
        /** @var array<int, int> $l */
        $l = $looks === 0 ? [] : (unpack("C{$looks}", $bytes, $at) ?: []);

        return new TriangleMesh($axes[0], $axes[1], $axes[2], $triangles, $n === [] ? null : $n, $u === [] ? null : $u, $l === [] ? null : array_values($l));
    }

    /** @param array<int, int|float> $values */
    public static function packed(string $code, array $values): string
    {
        $out = '';
        foreach (array_chunk($values, self::CHUNK) as $chunk) {
            $out .= pack("{$code}*", ...$chunk);
        }

        return $out;
    }

    /** @return list<float> */
    private static function doubles(string $bytes, int $at, int $count): array
    {
        /** @var array<int, float> $values */
        $values = $count === 0 ? [] : (unpack("e{$count}", $bytes, $at) ?: []);

        return array_values($values);
    }

    /** @return list<int> */
    private static function ints(string $bytes, int $at, int $count): array
    {
        /** @var array<int, int> $values */
        $values = $count === 0 ? [] : (unpack("V{$count}", $bytes, $at) ?: []);

        return array_values($values);
    }
}
