<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/** OBJ text: one object a piece, with normals, texture coordinates and the two looks as materials. */
final class ObjWriter
{
    public const HEAD = "# metres, y up\n";

    /** Of a file whose materials are looks, and are read as such. */
    public const FROZEN = "# Yard Break, frozen: materials are looks.\n";

    /** Numbers of the next vertex, texture coordinates and normal. */
    private int $v = 1;

    private int $t = 1;

    private int $n = 1;

    /**
     * @param iterable<array{string, TriangleMesh}> $objects names and meshes, in the world
     */
    public static function write(iterable $objects): string
    {
        $writer = new self();
        $out = self::HEAD;
        foreach ($objects as [$name, $mesh]) {
            $out .= $writer->object($name, $mesh);
        }

        return $out;
    }

    /** The next object of the file. */
    public function object(string $name, TriangleMesh $mesh): string
    {
        [$v, $t, $n] = [$this->v, $this->t, $this->n];
        $out = 'o ' . preg_replace('/[^A-Za-z0-9_.-]/', '_', $name) . "\n";
        foreach ($mesh->x as $i => $x) {
            // As many digits as it takes to be the same number again.
            $out .= 'v ' . strtr(substr(json_encode([$x, $mesh->y[$i], $mesh->z[$i]], JSON_THROW_ON_ERROR), 1, -1), ',', ' ') . "\n";
        }
        $corners = count($mesh->triangles);
        if ($mesh->uvs !== null) {
            for ($k = 0; $k < 2 * $corners; $k += 2) {
                $out .= sprintf("vt %.6g %.6g\n", $mesh->uvs[$k], $mesh->uvs[$k + 1]);
            }
        }
        if ($mesh->normals !== null) {
            for ($k = 0; $k < 3 * $corners; $k += 3) {
                $out .= sprintf("vn %.6g %.6g %.6g\n", $mesh->normals[$k], $mesh->normals[$k + 1], $mesh->normals[$k + 2]);
            }
        }
        $look = -1;
        for ($k = 0; $k < $corners; $k += 3) {
            $own = $mesh->looks[intdiv($k, 3)] ?? TriangleMesh::LOOK_OUTER;
            if ($own !== $look) {
                $look = $own;
                $out .= 'usemtl ' . self::material($look) . "\n";
            }
            $out .= 'f';
            for ($c = $k; $c < $k + 3; $c++) {
                $out .= ' ' . ($v + $mesh->triangles[$c]);
                if ($mesh->uvs !== null || $mesh->normals !== null) {
                    $out .= '/' . ($mesh->uvs !== null ? $t + $c : '') . ($mesh->normals !== null ? '/' . ($n + $c) : '');
                }
            }
            $out .= "\n";
        }
        $this->v += count($mesh->x);
        $this->t += $mesh->uvs !== null ? $corners : 0;
        $this->n += $mesh->normals !== null ? $corners : 0;

        return $out;
    }

    /** The look that a material stands for; null: none of ours. */
    public static function look(string $material): ?int
    {
        $looks = range(TriangleMesh::LOOK_OUTER, TriangleMesh::LOOK_LAYER + TriangleMesh::LAYERS - 1);

        return array_combine(array_map(self::material(...), $looks), $looks)[$material] ?? null;
    }

    private static function material(int $look): string
    {
        return match ($look) {
            TriangleMesh::LOOK_OUTER => 'outer',
            TriangleMesh::LOOK_INNER => 'inner',
            TriangleMesh::LOOK_SIDE => 'side',
            default => 'layer' . ($look - TriangleMesh::LOOK_LAYER + 1),
        };
    }
}
