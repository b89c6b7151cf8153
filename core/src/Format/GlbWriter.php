<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use RuntimeException;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * glTF 2.0 as one binary file: a node a piece, its mesh about its own centre with one primitive per look, and optionally
 * translation and rotation keys, one a frame.
 *
 * A look is name, linear colour, roughness, and a PNG in place of the colour or null; a node's looks are the materials of the
 * looks of its faces, its track the place and turn at each frame (one entry: a still node). Where there are many nodes, the
 * motion may come as bytes instead: singles of "translation", "rotation" and "scale" at each frame.
 *
 * @phpstan-type Look array{string, array{float, float, float}, float, string|null}
 * @phpstan-type Node array{name: string, mesh: TriangleMesh, looks: list<int>, centre: array{float, float, float}, track: list<array{float, float, float, float, float, float, float}>, motion?: array<string, string>}
 */
final class GlbWriter
{
    /** @var resource the binary part, kept outside memory when it grows */
    private $binary;

    private int $length = 0;

    /** @var list<array<string, mixed>> */
    private array $views = [];

    /** @var list<array<string, mixed>> */
    private array $accessors = [];

    /** @var list<array<string, mixed>> */
    private array $images = [];

    /**
     * @param list<Look> $looks
     * @param iterable<Node> $nodes
     */
    public static function write(array $looks, iterable $nodes, float $fps, string $sceneName): string
    {
        $out = self::temporary();
        self::stream($out, $looks, $nodes, $fps, $sceneName);
        rewind($out);

        return (string) stream_get_contents($out);
    }

    /**
     * @param resource $out
     * @param list<Look> $looks
     * @param iterable<Node> $nodes taken one at a time
     */
    public static function stream($out, array $looks, iterable $nodes, float $fps, string $sceneName): void
    {
        (new self())->file($out, $looks, $nodes, $fps, $sceneName);
    }

    private function __construct()
    {
        $this->binary = self::temporary();
    }

    /** @return resource */
    private static function temporary()
    {
        return fopen('php://temp/maxmemory:33554432', 'w+b') ?: throw new RuntimeException('No temporary file can be made.');
    }

    private function put(string $bytes): void
    {
        $bytes .= str_repeat("\0", (4 - strlen($bytes) % 4) % 4);
        fwrite($this->binary, $bytes);
        $this->length += strlen($bytes);
    }

    /**
     * @param resource $out
     * @param list<Look> $looks
     * @param iterable<Node> $nodes
     */
    private function file($out, array $looks, iterable $nodes, float $fps, string $sceneName): void
    {
        $meshes = $nodeList = $channels = $samplers = [];
        $times = [];
        foreach ($nodes as $node) {
            $number = count($nodeList);
            $meshes[] = ['name' => $node['name'], 'primitives' => $this->primitives($node['mesh'], $node['looks'], $node['centre'])];
            $first = $node['track'][0];
            $nodeList[] = [
                'name' => $node['name'],
                'mesh' => $number,
                'translation' => self::singles(array_slice($first, 0, 3)),
                'rotation' => self::unitSingles(array_slice($first, 3, 4)),
            ];
            $paths = self::paths($node['track']) + ($node['motion'] ?? []);
            foreach ($paths as $path => $bytes) {
                $type = $path === 'rotation' ? 'VEC4' : 'VEC3';
                $frames = intdiv(strlen($bytes), $type === 'VEC4' ? 16 : 12);
                if (! isset($times[$frames])) {
                    $seconds = [];
                    for ($f = 0; $f < $frames; $f++) {
                        $seconds[] = $f / $fps;
                    }
                    $times[$frames] = $this->accessor($seconds, 'SCALAR', null, true);
                }
                $channels[] = ['sampler' => count($samplers), 'target' => ['node' => $number, 'path' => $path]];
                $samplers[] = ['input' => $times[$frames], 'interpolation' => 'LINEAR', 'output' => $this->packed($bytes, $frames, $type)];
            }
        }
        $json = [
            'asset' => ['version' => '2.0', 'generator' => 'Yard Break'],
            'scene' => 0,
            'scenes' => [['name' => $sceneName, 'nodes' => array_keys($nodeList)]],
            'nodes' => $nodeList,
            'meshes' => $meshes,
            'materials' => array_map($this->material(...), $looks),
            'accessors' => $this->accessors,
            'bufferViews' => $this->views,
            'buffers' => [['byteLength' => $this->length]],
        ];
        if ($this->images !== []) {
            $json['images'] = $this->images;
            $json['textures'] = array_map(static fn (int $image): array => ['source' => $image], array_keys($this->images));
            // The pictures' bytes came last.
            $json['bufferViews'] = $this->views;
            $json['buffers'] = [['byteLength' => $this->length]];
        }
        if ($nodeList === []) {
            $json = array_diff_key($json, ['nodes' => 0, 'meshes' => 0, 'accessors' => 0, 'bufferViews' => 0, 'buffers' => 0]);
            $json['scenes'] = [['name' => $sceneName]];
        }
        if ($channels !== []) {
            $json['animations'] = [['name' => 'bake', 'channels' => $channels, 'samplers' => $samplers]];
        }
        $text = json_encode($json, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        fwrite($out, 'glTF' . pack('VV', 2, 12 + 8 + strlen($text) + ($this->length > 0 ? 8 + $this->length : 0)) . pack('VV', strlen($text), 0x4E4F534A) . $text);
        if ($this->length > 0) {
            fwrite($out, pack('VV', $this->length, 0x004E4942));
            rewind($this->binary);
            stream_copy_to_stream($this->binary, $out);
        }
        fclose($this->binary);
    }

    /**
     * @param list<array{float, float, float, float, float, float, float}> $track
     *
     * @return array<string, string> singles of each path that is animated
     */
    private static function paths(array $track): array
    {
        if (count($track) < 2) {
            return [];
        }
        $places = $turns = '';
        foreach ($track as $pose) {
            $places .= pack('g3', $pose[0], $pose[1], $pose[2]);
            $turns .= pack('g4', ...self::unitSingles(array_slice($pose, 3, 4)));
        }

        return ['translation' => $places, 'rotation' => $turns];
    }

    private function packed(string $bytes, int $count, string $type): int
    {
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes)];
        $this->accessors[] = ['bufferView' => count($this->views) - 1, 'componentType' => 5126, 'count' => $count, 'type' => $type];
        $this->put($bytes);

        return count($this->accessors) - 1;
    }

    /**
     * @param Look $look
     *
     * @return array<string, mixed>
     */
    private function material(array $look): array
    {
        [$name, $colour, $roughness, $png] = $look;
        if ($png === null) {
            return ['name' => $name, 'pbrMetallicRoughness' => ['baseColorFactor' => [...$colour, 1.0], 'metallicFactor' => 0.0, 'roughnessFactor' => $roughness]];
        }
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($png)];
        $this->put($png);
        $this->images[] = ['name' => $name, 'mimeType' => 'image/png', 'bufferView' => count($this->views) - 1];

        return ['name' => $name, 'pbrMetallicRoughness' => ['baseColorTexture' => ['index' => count($this->images) - 1], 'metallicFactor' => 0.0, 'roughnessFactor' => $roughness]];
    }

    /**
     * @param list<int> $looks materials by look; the first for those that have none
     * @param array{float, float, float} $centre
     *
     * @return list<array<string, mixed>>
     */
    private function primitives(TriangleMesh $mesh, array $looks, array $centre): array
    {
        $primitives = [];
        foreach (range(0, TriangleMesh::LOOK_LAYER + TriangleMesh::LAYERS - 1) as $look) {
            $positions = $normals = $uvs = $indices = $seen = [];
            for ($k = 0, $end = count($mesh->triangles); $k < $end; $k++) {
                if (($mesh->looks[intdiv($k, 3)] ?? TriangleMesh::LOOK_OUTER) !== $look) {
                    continue;
                }
                $v = $mesh->triangles[$k];
                $corner = [$mesh->x[$v] - $centre[0], $mesh->y[$v] - $centre[1], $mesh->z[$v] - $centre[2]];
                $normal = $mesh->normals === null ? [] : array_slice($mesh->normals, 3 * $k, 3);
                $uv = $mesh->uvs === null ? [] : [$mesh->uvs[2 * $k], 1.0 - $mesh->uvs[2 * $k + 1]];
                $name = pack('g*', ...$corner, ...$normal, ...$uv);
                if (! isset($seen[$name])) {
                    $seen[$name] = count($seen);
                    array_push($positions, ...$corner);
                    array_push($normals, ...self::unitSingles($normal));
                    array_push($uvs, ...$uv);
                }
                $indices[] = $seen[$name];
            }
            if ($indices === []) {
                continue;
            }
            $attributes = ['POSITION' => $this->accessor($positions, 'VEC3', 34962, true)];
            if ($mesh->normals !== null) {
                $attributes['NORMAL'] = $this->accessor($normals, 'VEC3', 34962);
            }
            if ($mesh->uvs !== null) {
                $attributes['TEXCOORD_0'] = $this->accessor($uvs, 'VEC2', 34962);
            }
            $primitives[] = ['attributes' => $attributes, 'indices' => $this->indices($indices), 'material' => $looks[$look] ?? $looks[0]];
        }

        return $primitives;
    }

    /** @param list<float> $values */
    private function accessor(array $values, string $type, ?int $target = null, bool $bounds = false): int
    {
        $components = ['SCALAR' => 1, 'VEC2' => 2, 'VEC3' => 3, 'VEC4' => 4][$type];
        $view = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => 4 * count($values)];
        if ($target !== null) {
            $view['target'] = $target;
        }
        $this->views[] = $view;
        $accessor = ['bufferView' => count($this->views) - 1, 'componentType' => 5126, 'count' => intdiv(count($values), $components), 'type' => $type];
        if ($bounds) {
            $min = $max = [];
            foreach (self::singles($values) as $k => $value) {
                $c = $k % $components;
                $min[$c] = min($min[$c] ?? INF, $value);
                $max[$c] = max($max[$c] ?? -INF, $value);
            }
            $accessor['min'] = $min;
            $accessor['max'] = $max;
        }
        $this->put(pack('g*', ...$values));
        $this->accessors[] = $accessor;

        return count($this->accessors) - 1;
    }

    /** @param non-empty-list<int> $values */
    private function indices(array $values): int
    {
        $wide = max($values) > 65534;
        $bytes = pack($wide ? 'V*' : 'v*', ...$values);
        $this->views[] = ['buffer' => 0, 'byteOffset' => $this->length, 'byteLength' => strlen($bytes), 'target' => 34963];
        $this->put($bytes);
        $this->accessors[] = ['bufferView' => count($this->views) - 1, 'componentType' => $wide ? 5125 : 5123, 'count' => count($values), 'type' => 'SCALAR'];

        return count($this->accessors) - 1;
    }

    /**
     * The values as single precision will hold them, so that bounds and still poses match the data to the bit.
     *
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function singles(array $values): array
    {
        /** @var array<int, float> $singles */
        $singles = $values === [] ? [] : (unpack('g*', pack('g*', ...$values)) ?: []);

        return array_values($singles);
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function unitSingles(array $values): array
    {
        $length = sqrt(array_sum(array_map(static fn (float $v): float => $v * $v, $values)));

        return $length < 1e-12 ? ($values === [] ? [] : [...array_fill(0, count($values) - 1, 0.0), 1.0]) : self::singles(array_map(static fn (float $v): float => $v / $length, $values));
    }
}
