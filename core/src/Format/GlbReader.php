<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * glTF 2.0 in one binary file (ISO/IEC 12113): all triangle meshes of the default scene, in place. Only the file's own
 * binary chunk is read; references to anything outside are refused.
 *
 * @phpstan-type Json array<mixed>
 */
final class GlbReader
{
    private const COMPONENTS = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4, 'MAT4' => 16];

    /** @var array<mixed> */
    private array $json;

    /** @var array<int, true> nodes that have been read */
    private array $placed = [];

    private string $binary = '';

    private function __construct(string $data)
    {
        $length = strlen($data);
        if ($length < 20 || ! str_starts_with($data, 'glTF')) {
            throw new BadFile('This is not a GLB file: it does not start with “glTF”.');
        }
        /** @var array{v: int, l: int, j: int, t: int} $header */
        $header = unpack('Vv/Vl/Vj/Vt', $data, 4);
        if ($header['v'] !== 2) {
            throw BadFile::atByte(4, "only glTF version 2 can be read; this is version {$header['v']}.");
        }
        if ($header['l'] > $length || $header['j'] > $length - 20 || $header['t'] !== 0x4E4F534A) {
            throw BadFile::atByte($length, 'the file is shorter than its header says. It was cut off: copy it again.');
        }
        $json = json_decode(substr($data, 20, $header['j']), true, 64);
        if (! is_array($json)) {
            throw BadFile::atByte(20, 'the JSON part is damaged.');
        }
        $this->json = $json;
        $at = 20 + $header['j'];
        if ($at + 8 <= $length) {
            /** @var array{l: int, t: int} $chunk */
            $chunk = unpack('Vl/Vt', $data, $at);
            if ($chunk['l'] > $length - $at - 8) {
                throw BadFile::atByte($at, 'the binary part is shorter than its header says. It was cut off: copy it again.');
            }
            $this->binary = substr($data, $at + 8, $chunk['l']);
        }
    }

    /** @throws BadFile */
    public static function read(string $data): TriangleMesh
    {
        $reader = new self($data);
        $out = ['x' => [], 'y' => [], 'z' => [], 't' => [], 'n' => [], 'u' => [], 'hasN' => true, 'hasU' => true];
        $scenes = $reader->list($reader->json, 'scenes');
        $scene = $scenes[$reader->int($reader->json, 'scene', 0)] ?? null;
        $roots = is_array($scene) ? ($scene['nodes'] ?? []) : array_keys($reader->list($reader->json, 'nodes'));
        foreach (is_array($roots) ? $roots : [] as $root) {
            $reader->node(is_int($root) ? $root : -1, [1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0], 0, $out);
        }

        return (new TriangleMesh(
            $out['x'],
            $out['y'],
            $out['z'],
            $out['t'],
            $out['hasN'] && $out['n'] !== [] ? $out['n'] : null,
            $out['hasU'] && $out['u'] !== [] ? $out['u'] : null,
        ))->joined();
    }

    /**
     * @param array<int, float> $parent column by column
     * @param array{x: list<float>, y: list<float>, z: list<float>, t: list<int>, n: list<float>, u: list<float>, hasN: bool, hasU: bool} $out
     */
    private function node(int $index, array $parent, int $depth, array &$out): void
    {
        $node = $this->list($this->json, 'nodes')[$index] ?? null;
        if (! is_array($node) || $depth > 64) {
            throw new BadFile("The scene refers to node {$index}, which does not exist or is nested too deep.");
        }
        if (isset($this->placed[$index])) {
            // Nodes are strict trees (glTF 2.0, 3.5.2); else a small file could ask for a billion meshes.
            throw new BadFile("Node {$index} is placed twice in the scene; glTF allows it once. Export the scene again.");
        }
        $this->placed[$index] = true;
        $matrix = self::multiply($parent, $this->localMatrix($node));
        if (isset($node['mesh'])) {
            $mesh = $this->list($this->json, 'meshes')[$this->int($node, 'mesh', -1)] ?? null;
            foreach (is_array($mesh) ? $this->list($mesh, 'primitives') : [] as $primitive) {
                if (is_array($primitive)) {
                    $this->primitive($primitive, $matrix, $out);
                }
            }
        }
        foreach ($this->list($node, 'children') as $child) {
            $this->node(is_int($child) ? $child : -1, $matrix, $depth + 1, $out);
        }
    }

    /**
     * @param Json $primitive
     * @param array<int, float> $m
     * @param array{x: list<float>, y: list<float>, z: list<float>, t: list<int>, n: list<float>, u: list<float>, hasN: bool, hasU: bool} $out
     */
    private function primitive(array $primitive, array $m, array &$out): void
    {
        if ($this->int($primitive, 'mode', 4) !== 4) {
            return;
        }
        $attributes = $this->list($primitive, 'attributes');
        $positions = $this->accessor($this->int($attributes, 'POSITION', -1), 3);
        $count = intdiv(count($positions), 3);
        Limits::vertices(count($out['x']) + $count);
        $base = count($out['x']);
        for ($k = 0; $k < 3 * $count; $k += 3) {
            [$x, $y, $z] = [$positions[$k], $positions[$k + 1], $positions[$k + 2]];
            $px = $m[0] * $x + $m[4] * $y + $m[8] * $z + $m[12];
            $py = $m[1] * $x + $m[5] * $y + $m[9] * $z + $m[13];
            $pz = $m[2] * $x + $m[6] * $y + $m[10] * $z + $m[14];
            if (! Limits::isCoordinate($px) || ! Limits::isCoordinate($py) || ! Limits::isCoordinate($pz)) {
                throw new BadFile('Vertex ' . (intdiv($k, 3) + 1) . ' has no usable coordinates. Export the mesh again.');
            }
            $out['x'][] = $px;
            $out['y'][] = $py;
            $out['z'][] = $pz;
        }
        $indices = isset($primitive['indices'])
            ? array_map('intval', $this->accessor($this->int($primitive, 'indices', -1), 1))
            : ($count > 0 ? range(0, $count - 1) : []);
        $normals = isset($attributes['NORMAL']) ? $this->accessor($this->int($attributes, 'NORMAL', -1), 3) : null;
        $uvs = isset($attributes['TEXCOORD_0']) ? $this->accessor($this->int($attributes, 'TEXCOORD_0', -1), 2) : null;
        foreach (['normals' => [$normals, 3], 'texture coordinates' => [$uvs, 2]] as $what => [$values, $each]) {
            if ($values !== null && count($values) !== $each * $count) {
                throw new BadFile("There are {$count} vertices, but not as many {$what}. Export the mesh again.");
            }
        }
        $out['hasN'] = $out['hasN'] && $normals !== null;
        $out['hasU'] = $out['hasU'] && $uvs !== null;
        $usable = count($indices) - count($indices) % 3;
        Limits::triangles(intdiv(count($out['t']) + $usable, 3));
        for ($k = 0; $k < $usable; $k++) {
            $i = $indices[$k];
            if ($i < 0 || $i >= $count) {
                throw new BadFile("A triangle refers to vertex {$i}, but there are only {$count}.");
            }
            $out['t'][] = $base + $i;
            if ($normals !== null && $out['hasN']) {
                $nx = $m[0] * $normals[3 * $i] + $m[4] * $normals[3 * $i + 1] + $m[8] * $normals[3 * $i + 2];
                $ny = $m[1] * $normals[3 * $i] + $m[5] * $normals[3 * $i + 1] + $m[9] * $normals[3 * $i + 2];
                $nz = $m[2] * $normals[3 * $i] + $m[6] * $normals[3 * $i + 1] + $m[10] * $normals[3 * $i + 2];
                $length = max(1e-30, sqrt($nx * $nx + $ny * $ny + $nz * $nz));
                array_push($out['n'], $nx / $length, $ny / $length, $nz / $length);
            }
            if ($uvs !== null && $out['hasU']) {
                // glTF counts v from the top of the picture, we from its bottom.
                array_push($out['u'], $uvs[2 * $i], 1.0 - $uvs[2 * $i + 1]);
            }
        }
    }

    /** @return list<float> */
    private function accessor(int $index, int $components): array
    {
        $accessor = $this->list($this->json, 'accessors')[$index] ?? null;
        if (! is_array($accessor)) {
            throw new BadFile("Accessor {$index} does not exist.");
        }
        if (isset($accessor['sparse'])) {
            throw new BadFile('Sparse accessors cannot be read. Export the mesh without them.');
        }
        $count = $this->int($accessor, 'count', 0);
        Limits::vertices(intdiv($count, 3));
        $own = self::COMPONENTS[is_string($accessor['type'] ?? null) ? $accessor['type'] : ''] ?? 0;
        if ($own !== $components || $count < 0) {
            throw new BadFile("Accessor {$index} has the wrong shape.");
        }
        [$code, $size] = match ($this->int($accessor, 'componentType', 0)) {
            5126 => ['g', 4], 5125 => ['V', 4], 5123 => ['v', 2], 5121 => ['C', 1],
            default => throw new BadFile("Accessor {$index} has a number type that cannot be read."),
        };
        $view = $this->list($this->json, 'bufferViews')[$this->int($accessor, 'bufferView', -1)] ?? null;
        if (! is_array($view) || $this->int($view, 'buffer', 0) !== 0 || isset($this->list($this->list($this->json, 'buffers'), 0)['uri'])) {
            throw new BadFile('The mesh keeps its data outside the file. Export it as one GLB with everything inside.');
        }
        $stride = $this->int($view, 'byteStride', 0) ?: $size * $components;
        if ($stride < $size * $components) {
            throw new BadFile("Accessor {$index} steps through its data by {$stride} bytes, less than one entry has. Export the mesh again.");
        }
        $start = $this->int($view, 'byteOffset', 0) + $this->int($accessor, 'byteOffset', 0);
        if ($count > 0 && ($start < 0 || $start + $stride * ($count - 1) + $size * $components > strlen($this->binary))) {
            throw new BadFile("Accessor {$index} reaches beyond the end of the file. It was cut off: copy it again.");
        }
        $values = [];
        for ($i = 0; $i < $count; $i++) {
            foreach (unpack("{$code}{$components}", $this->binary, $start + $stride * $i) ?: [] as $value) {
                $values[] = is_int($value) || is_float($value) ? (float) $value : 0.0;
            }
        }

        return $values;
    }

    /**
     * @param Json $node
     *
     * @return array<int, float>
     */
    private function localMatrix(array $node): array
    {
        $matrix = $this->numbers($node, 'matrix', 16);
        if ($matrix !== null) {
            return $matrix;
        }
        $t = $this->numbers($node, 'translation', 3) ?? [0.0, 0.0, 0.0];
        $r = $this->numbers($node, 'rotation', 4) ?? [0.0, 0.0, 0.0, 1.0];
        $s = $this->numbers($node, 'scale', 3) ?? [1.0, 1.0, 1.0];
        $m = Quaternion::matrix([$r[0], $r[1], $r[2], $r[3]]);

        return [
            $m[0] * $s[0], $m[3] * $s[0], $m[6] * $s[0], 0.0,
            $m[1] * $s[1], $m[4] * $s[1], $m[7] * $s[1], 0.0,
            $m[2] * $s[2], $m[5] * $s[2], $m[8] * $s[2], 0.0,
            $t[0], $t[1], $t[2], 1.0,
        ];
    }

    /**
     * @param array<int, float> $a
     * @param array<int, float> $b
     *
     * @return array<int, float>
     */
    private static function multiply(array $a, array $b): array
    {
        $m = [];
        for ($c = 0; $c < 4; $c++) {
            for ($r = 0; $r < 4; $r++) {
                $m[] = $a[$r] * $b[4 * $c] + $a[4 + $r] * $b[4 * $c + 1] + $a[8 + $r] * $b[4 * $c + 2] + $a[12 + $r] * $b[4 * $c + 3];
            }
        }

        return $m;
    }

    /**
     * @param Json $from
     *
     * @return array<mixed>
     */
    private function list(array $from, string|int $key): array
    {
        $value = $from[$key] ?? [];

        return is_array($value) ? $value : [];
    }

    /** @param Json $from */
    private function int(array $from, string $key, int $default): int
    {
        $value = $from[$key] ?? $default;

        return is_int($value) ? $value : $default;
    }

    /**
     * @param Json $from
     *
     * @return array<int, float>|null
     */
    private function numbers(array $from, string $key, int $count): ?array
    {
        $values = $from[$key] ?? null;
        if (! is_array($values) || count($values) !== $count) {
            return null;
        }

        return array_map(static fn (mixed $v): float => is_int($v) || is_float($v) ? (float) $v : 0.0, array_values($values));
    }
}
