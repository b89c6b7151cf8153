<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Mesh\TriangleMesh;

/** The meshes of a glTF scene ({@see GlbScene}) at rest as one. */
final class GlbReader
{
    /** @throws BadFile */
    public static function read(string $data): TriangleMesh
    {
        return self::mesh(GlbScene::open($data))->joined();
    }

    /**
     * Not joined: vertex for vertex as the parts of the scene come.
     *
     * @throws BadFile
     */
    public static function mesh(GlbScene $scene): TriangleMesh
    {
        $x = $y = $z = $triangles = $normals = $uvs = [];
        $hasNormals = $hasUvs = true;
        $places = $scene->nodes->places(null);
        foreach ($scene->parts as $k => ['primitive' => $primitive]) {
            [$at, $carriers, $by] = $scene->placed($k, $places, null);
            $attributes = GlbFile::list($primitive, 'attributes');
            [$base, $count] = [count($x), count($by)];
            foreach ($by as $v => $_) {
                [$x[], $y[], $z[]] = [$at[3 * $v], $at[3 * $v + 1], $at[3 * $v + 2]];
            }
            $indices = isset($primitive['indices'])
                ? array_map('intval', $scene->file->accessor(GlbFile::int($primitive, 'indices', -1), 1))
                : ($count > 0 ? range(0, $count - 1) : []);
            $ownNormals = self::attribute($scene->file, $attributes, 'NORMAL', 3, $count, 'normals');
            $ownUvs = self::attribute($scene->file, $attributes, 'TEXCOORD_0', 2, $count, 'texture coordinates');
            $hasNormals = $hasNormals && $ownNormals !== null;
            $hasUvs = $hasUvs && $ownUvs !== null;
            $usable = count($indices) - count($indices) % 3;
            Limits::triangles(intdiv(count($triangles) + $usable, 3));
            for ($n = 0; $n < $usable; $n++) {
                $i = $indices[$n];
                if ($i < 0 || $i >= $count) {
                    throw new BadFile("A triangle refers to vertex {$i}, but there are only {$count}.");
                }
                $triangles[] = $base + $i;
                if ($ownNormals !== null && $hasNormals) {
                    $m = $carriers[$by[$i]];
                    $nx = $m[0] * $ownNormals[3 * $i] + $m[4] * $ownNormals[3 * $i + 1] + $m[8] * $ownNormals[3 * $i + 2];
                    $ny = $m[1] * $ownNormals[3 * $i] + $m[5] * $ownNormals[3 * $i + 1] + $m[9] * $ownNormals[3 * $i + 2];
                    $nz = $m[2] * $ownNormals[3 * $i] + $m[6] * $ownNormals[3 * $i + 1] + $m[10] * $ownNormals[3 * $i + 2];
                    $length = max(1e-30, sqrt($nx * $nx + $ny * $ny + $nz * $nz));
                    array_push($normals, $nx / $length, $ny / $length, $nz / $length);
                }
                if ($ownUvs !== null && $hasUvs) {
                    // glTF counts v from the top of the picture, we from its bottom.
                    array_push($uvs, $ownUvs[2 * $i], 1.0 - $ownUvs[2 * $i + 1]);
                }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, $hasNormals && $normals !== [] ? $normals : null, $hasUvs && $uvs !== [] ? $uvs : null);
    }

    /**
     * @param array<mixed> $attributes
     *
     * @return list<float>|null null: there is none
     */
    private static function attribute(GlbFile $file, array $attributes, string $name, int $each, int $count, string $what): ?array
    {
        $values = isset($attributes[$name]) ? $file->accessor(GlbFile::int($attributes, $name, -1), $each) : null;
        if ($values !== null && count($values) !== $each * $count) {
            throw new BadFile("There are {$count} vertices, but not as many {$what}. Export the mesh again.");
        }

        return $values;
    }
}
