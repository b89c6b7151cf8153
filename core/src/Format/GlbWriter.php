<?php

declare(strict_types=1);

namespace YardBreak\Core\Format;

use Closure;
use YardBreak\Core\Mesh\BentNormals;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * glTF 2.0 as one binary file: a node a piece, its mesh about its own centre with one primitive per look, and optionally
 * translation and rotation keys, one a frame.
 *
 * A look is name, linear colour, roughness, and a PNG in place of the colour or null; a node's looks are the materials of the
 * looks of its faces, its track the place and turn at each frame (one entry: a still node). Where there are many nodes, the
 * motion may come as bytes instead: singles of "translation", "rotation" and "scale" at each frame. What is bent says where
 * its vertices are at each frame: the first is its mesh, each other one a morph target that has its weight at its frame alone.
 * What has a tint has colours at its vertices where that look is: of what is bent they are in the targets too; other meshes have
 * the way to the other colour as their only target, and "weights" in their motion that say how far they have gone.
 *
 * @phpstan-type Look array{string, array{float, float, float}, float, string|null}
 * @phpstan-type Node array{name: string, mesh: TriangleMesh, looks: list<int>, centre: array{float, float, float}, track: list<array{float, float, float, float, float, float, float}>, motion?: array<string, string>, bent?: array{normals: BentNormals, frames: int, places: Closure(int): array<int, float|int>}, tint?: Tint}
 * A camera has the angle from the lower to the upper edge of its picture, in radians, width by height, and a track like a node.
 *
 * A light from afar has its linear colour, its strength in lux, and a track like a node, along whose -z it shines (KHR_lights_punctual).
 *
 * @phpstan-type Lamp array{name: string, colour: array{float, float, float}, intensity: float, track: list<array{float, float, float, float, float, float, float}>}
 * @phpstan-type Eye array{height: float, aspect: float, track: list<array{float, float, float, float, float, float, float}>}
 */
final class GlbWriter
{
    /** Nearer than this a camera sees nothing, m. */
    private const NEAR = 0.01;

    private const LIGHTS = 'KHR_lights_punctual';

    /** @var list<array<string, mixed>> */
    private array $images = [];

    /** @var list<array<string, mixed>> */
    private array $nodes = [];

    /** @var list<array<string, mixed>> */
    private array $channels = [];

    /** @var list<array<string, mixed>> */
    private array $samplers = [];

    /** @var array<int, int> accessor of the times of so many frames */
    private array $times = [];

    /**
     * @param list<Look> $looks
     * @param iterable<Node> $nodes
     * @param array<string, mixed> $over the node they hang from, in double precision: far from the origin its place is theirs; none: they are in the scene itself
     */
    public static function write(array $looks, iterable $nodes, float $fps, string $sceneName, array $over = []): string
    {
        $out = GlbBinary::temporary();
        (new self())->file($out, $looks, $nodes, $fps, $sceneName, null, $over, []);
        rewind($out);

        return (string) stream_get_contents($out);
    }

    /**
     * @param resource $out
     * @param list<Look> $looks
     * @param iterable<Node> $nodes taken one at a time
     * @param Eye|null $camera a node of its own in the scene
     * @param list<Lamp> $lights nodes of their own too
     * @param array<string, mixed> $over
     */
    public static function stream($out, array $looks, iterable $nodes, float $fps, string $sceneName, ?array $camera = null, array $over = [], array $lights = []): void
    {
        (new self())->file($out, $looks, $nodes, $fps, $sceneName, $camera, $over, $lights);
    }

    private readonly GlbBinary $binary;

    private function __construct()
    {
        $this->binary = new GlbBinary();
    }

    /**
     * @param resource $out
     * @param list<Look> $looks
     * @param iterable<Node> $nodes
     * @param Eye|null $camera
     * @param array<string, mixed> $over
     * @param list<Lamp> $lights
     */
    private function file($out, array $looks, iterable $nodes, float $fps, string $sceneName, ?array $camera, array $over, array $lights): void
    {
        $meshes = [];
        foreach ($nodes as $node) {
            $bent = $node['bent'] ?? null;
            $tint = $node['tint'] ?? null;
            [$primitives, $corners] = $this->primitives($node['mesh'], $node['looks'], $node['centre'], $bent['normals'] ?? null, $tint);
            $mesh = ['name' => $node['name'], 'primitives' => $primitives];
            $paths = self::paths($node['track']) + ($node['motion'] ?? []);
            if (! in_array($tint?->material, array_column($primitives, 'material'), true)) {
                // Of a piece from within nothing turns.
                unset($paths['weights']);
            }
            if ($bent !== null && $bent['frames'] > 1) {
                $mesh['primitives'] = $this->targets($primitives, $corners, $node['mesh'], $bent, $tint);
                $mesh['weights'] = array_fill(0, $bent['frames'] - 1, 0.0);
                $paths['weights'] = self::oneByOne(count($mesh['weights']));
            } elseif ($tint !== null && isset($paths['weights'])) {
                $mesh['primitives'] = $this->turning($primitives, $corners, $tint);
                $mesh['weights'] = [0.0];
            }
            $this->place(['name' => $node['name'], 'mesh' => count($meshes)], $node['track'][0], $paths, count($mesh['weights'] ?? []), $fps);
            $meshes[] = $mesh;
        }
        $roots = array_keys($this->nodes);
        if ($over !== [] && $roots !== []) {
            $this->nodes[] = [...$over, 'children' => $roots];
            $roots = [count($this->nodes) - 1];
        }
        if ($camera !== null) {
            $this->place(['name' => 'camera', 'camera' => 0], $camera['track'][0], self::paths($camera['track']), 0, $fps);
            $roots[] = count($this->nodes) - 1;
        }
        foreach ($lights as $k => $light) {
            $this->place(['name' => $light['name'], 'extensions' => [self::LIGHTS => ['light' => $k]]], $light['track'][0], self::paths($light['track']), 0, $fps);
            $roots[] = count($this->nodes) - 1;
        }
        $json = [
            'asset' => ['version' => '2.0', 'generator' => 'Yard Break'],
            'scene' => 0,
            'scenes' => [['name' => $sceneName, 'nodes' => $roots]],
            'nodes' => $this->nodes,
            'meshes' => $meshes,
            'materials' => array_map($this->material(...), $looks),
            'accessors' => $this->binary->accessors,
            'bufferViews' => $this->binary->views,
            'buffers' => [['byteLength' => $this->binary->length]],
        ];
        if ($this->images !== []) {
            $json['images'] = $this->images;
            $json['textures'] = array_map(static fn (int $image): array => ['source' => $image], array_keys($this->images));
            // The pictures' bytes came last.
            $json['bufferViews'] = $this->binary->views;
            $json['buffers'] = [['byteLength' => $this->binary->length]];
        }
        if ($this->nodes === []) {
            $json['scenes'] = [['name' => $sceneName]];
        }
        if ($camera !== null) {
            $json['cameras'] = [['type' => 'perspective', 'perspective' => ['yfov' => $camera['height'], 'aspectRatio' => $camera['aspect'], 'znear' => self::NEAR]]];
        }
        if ($lights !== []) {
            $json['extensionsUsed'] = [self::LIGHTS];
            $json['extensions'] = [self::LIGHTS => ['lights' => array_map(static fn (array $light): array => ['type' => 'directional', 'name' => $light['name'], 'color' => $light['colour'], 'intensity' => $light['intensity']], $lights)]];
        }
        if ($this->channels !== []) {
            $json['animations'] = [['name' => 'bake', 'channels' => $this->channels, 'samplers' => $this->samplers]];
        }
        // Lists without anything are left out, and so is a buffer without a byte.
        $json = array_filter($json, static fn (mixed $part): bool => $part !== []);
        if ($this->binary->length === 0) {
            unset($json['buffers']);
        }
        $text = json_encode($json, JSON_UNESCAPED_SLASHES | JSON_UNESCAPED_UNICODE | JSON_THROW_ON_ERROR);
        $text .= str_repeat(' ', (4 - strlen($text) % 4) % 4);
        fwrite($out, 'glTF' . pack('VV', 2, 12 + 8 + strlen($text) + ($this->binary->length > 0 ? 8 + $this->binary->length : 0)) . pack('VV', strlen($text), 0x4E4F534A) . $text);
        if ($this->binary->length > 0) {
            fwrite($out, pack('VV', $this->binary->length, 0x004E4942));
            $this->binary->copyTo($out);
        }
        $this->binary->close();
    }

    /**
     * Adds a node, and what animates it.
     *
     * @param array<string, mixed> $node
     * @param array{float, float, float, float, float, float, float} $first where it stands to begin with
     * @param array<string, string> $paths singles of each path that is animated
     * @param int $targets of its mesh
     */
    private function place(array $node, array $first, array $paths, int $targets, float $fps): void
    {
        foreach ($paths as $path => $bytes) {
            $type = ['rotation' => 'VEC4', 'weights' => 'SCALAR'][$path] ?? 'VEC3';
            $frames = intdiv(strlen($bytes), match ($path) {
                'weights' => 4 * max(1, $targets),
                'rotation' => 16,
                default => 12,
            });
            $this->times[$frames] ??= $this->binary->accessor(array_map(static fn (int $f): float => $f / $fps, range(0, $frames - 1)), 'SCALAR', null, true);
            $this->channels[] = ['sampler' => count($this->samplers), 'target' => ['node' => count($this->nodes), 'path' => $path]];
            $output = $this->binary->packed($bytes, $path === 'weights' ? intdiv(strlen($bytes), 4) : $frames, $type);
            $this->samplers[] = ['input' => $this->times[$frames], 'interpolation' => 'LINEAR', 'output' => $output];
        }
        $this->nodes[] = [...$node, 'translation' => GlbBinary::singles(array_slice($first, 0, 3)), 'rotation' => GlbBinary::unitSingles(array_slice($first, 3, 4))];
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
            $turns .= pack('g4', ...GlbBinary::unitSingles(array_slice($pose, 3, 4)));
        }

        return ['translation' => $places, 'rotation' => $turns];
    }

    /**
     * Primitives with a target for each frame but the first: how far each vertex is from there, and its normal.
     *
     * @param list<array<string, mixed>> $primitives
     * @param list<list<int>> $corners of the mesh, for each vertex of each primitive
     * @param TriangleMesh $first the mesh at the first frame
     * @param array{normals: BentNormals, frames: int, places: Closure(int): array<int, float|int>} $bent
     *
     * @return list<array<string, mixed>>
     */
    private function targets(array $primitives, array $corners, TriangleMesh $first, array $bent, ?Tint $tint): array
    {
        $shared = $bent['normals']->shared;
        for ($frame = 2; $frame <= $bent['frames']; $frame++) {
            $places = ($bent['places'])($frame);
            $normals = $bent['normals']->at($places);
            foreach ($corners as $k => $from) {
                $way = $turn = $colours = [];
                $tinted = $tint !== null && $primitives[$k]['material'] === $tint->material ? $tint : null;
                foreach ($from as $corner) {
                    $v = $first->triangles[$corner];
                    array_push($way, $places[3 * $v] - $first->x[$v], $places[3 * $v + 1] - $first->y[$v], $places[3 * $v + 2] - $first->z[$v]);
                    $n = 3 * $shared[$corner];
                    $own = $first->normals === null ? [0.0, 0.0, 0.0] : array_slice($first->normals, 3 * $corner, 3);
                    array_push($turn, $normals[$n] - $own[0], $normals[$n + 1] - $own[1], $normals[$n + 2] - $own[2]);
                    array_push($colours, ...$tinted?->since($frame, $v) ?? []);
                }
                $target = ['POSITION' => $this->binary->accessor($way, 'VEC3', 34962, true)];
                if ($first->normals !== null) {
                    $target['NORMAL'] = $this->binary->accessor($turn, 'VEC3', 34962);
                }
                if ($colours !== []) {
                    $target['COLOR_0'] = $this->binary->accessor($colours, 'VEC3', 34962);
                }
                $primitives[$k]['targets'] = [...(array) ($primitives[$k]['targets'] ?? []), $target];
            }
        }

        return $primitives;
    }

    /**
     * Primitives with the other colour as their only target. All of a mesh have as many: those that stay as they are have one
     * that moves nothing.
     *
     * @param list<array<string, mixed>> $primitives
     * @param list<list<int>> $corners
     *
     * @return list<array<string, mixed>>
     */
    private function turning(array $primitives, array $corners, Tint $tint): array
    {
        foreach ($corners as $k => $from) {
            $primitives[$k]['targets'] = [
                $primitives[$k]['material'] === $tint->material
                    ? ['COLOR_0' => $this->binary->accessor(array_merge(...array_fill(0, count($from), $tint->way())), 'VEC3', 34962)]
                    : ['POSITION' => $this->binary->nothing(count($from))],
            ];
        }

        return $primitives;
    }

    /** Weights of so many targets at each frame: at the first none has any, at each other one its own alone. */
    private static function oneByOne(int $targets): string
    {
        $none = str_repeat("\0", 4 * $targets);
        $bytes = $none;
        for ($t = 0; $t < $targets; $t++) {
            $bytes .= substr_replace($none, pack('g', 1.0), 4 * $t, 4);
        }

        return $bytes;
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
            return self::seen($name, ['baseColorFactor' => [...$colour, 1.0]], $roughness);
        }
        $this->images[] = ['name' => $name, 'mimeType' => 'image/png', 'bufferView' => $this->binary->view($png)];

        return self::seen($name, ['baseColorTexture' => ['index' => count($this->images) - 1]], $roughness);
    }

    /**
     * From both sides: cloth and skins have two, and of what is closed nobody sees the other one.
     *
     * @param array<string, mixed> $base
     *
     * @return array<string, mixed>
     */
    private static function seen(string $name, array $base, float $roughness): array
    {
        return ['name' => $name, 'doubleSided' => true, 'pbrMetallicRoughness' => [...$base, 'metallicFactor' => 0.0, 'roughnessFactor' => $roughness]];
    }

    /**
     * @param list<int> $looks materials by look; the first for those that have none
     * @param array{float, float, float} $centre
     *
     * @return array{list<array<string, mixed>>, list<list<int>>} and a corner of the mesh for each vertex of each primitive
     */
    private function primitives(TriangleMesh $mesh, array $looks, array $centre, ?BentNormals $bent, ?Tint $tint): array
    {
        $primitives = $corners = [];
        foreach (range(0, TriangleMesh::LOOK_LAYER + TriangleMesh::LAYERS - 1) as $look) {
            $positions = $normals = $uvs = $colours = $indices = $seen = $from = [];
            $tinted = $tint?->look === $look ? $tint : null;
            for ($k = 0, $end = count($mesh->triangles); $k < $end; $k++) {
                if (($mesh->looks[intdiv($k, 3)] ?? TriangleMesh::LOOK_OUTER) !== $look) {
                    continue;
                }
                $v = $mesh->triangles[$k];
                $corner = [$mesh->x[$v] - $centre[0], $mesh->y[$v] - $centre[1], $mesh->z[$v] - $centre[2]];
                $normal = $mesh->normals === null ? [] : array_slice($mesh->normals, 3 * $k, 3);
                $uv = $mesh->uvs === null ? [] : [$mesh->uvs[2 * $k], 1.0 - $mesh->uvs[2 * $k + 1]];
                // What lies in one place may come apart when it is bent.
                $name = $bent === null ? pack('g*', ...$corner, ...$normal, ...$uv) : pack('V2g*', $v, $bent->shared[$k], ...$uv);
                if (! isset($seen[$name])) {
                    $from[] = $k;
                    $seen[$name] = count($seen);
                    array_push($positions, ...$corner);
                    array_push($normals, ...GlbBinary::unitSingles($normal));
                    array_push($uvs, ...$uv);
                    array_push($colours, ...$tinted?->colour($v) ?? []);
                }
                $indices[] = $seen[$name];
            }
            if ($indices === []) {
                continue;
            }
            $attributes = ['POSITION' => $this->binary->accessor($positions, 'VEC3', 34962, true)];
            if ($mesh->normals !== null) {
                $attributes['NORMAL'] = $this->binary->accessor($normals, 'VEC3', 34962);
            }
            if ($mesh->uvs !== null) {
                $attributes['TEXCOORD_0'] = $this->binary->accessor($uvs, 'VEC2', 34962);
            }
            if ($colours !== []) {
                $attributes['COLOR_0'] = $this->binary->accessor($colours, 'VEC3', 34962);
            }
            $corners[] = $from;
            $primitives[] = ['attributes' => $attributes, 'indices' => $this->binary->indices($indices), 'material' => $tinted->material ?? $looks[$look] ?? $looks[0]];
        }

        return [$primitives, $corners];
    }
}
