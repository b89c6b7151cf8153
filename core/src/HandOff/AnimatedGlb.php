<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Closure;
use Generator;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Manifest;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\Tint;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\BentNormals;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Pipeline;

/** Animated glTF: a node a piece, keys at every frame; what moves by its vertices is one node with a morph target a frame. */
final readonly class AnimatedGlb implements Exporter
{
    /** Farther from the origin than so many times their size pieces lose more than they should in singles. */
    private const FAR = 10.0;

    /** Keys and places of vertices that are written in a second. */
    private const QUICK = 100_000;

    /** The weights of the targets grow with the square of the frames. */
    private const BENT_FRAMES = 1000;

    public function __construct(private Pipeline $pipeline)
    {
    }

    public function format(): array
    {
        return ['extension' => 'glb', 'type' => 'model/gltf-binary', 'ofOneFrame' => false];
    }

    public function isQuick(Manifest $manifest): bool
    {
        return $manifest->parts() * $manifest->frames <= self::QUICK;
    }

    public function write(Shot $shot, BakeReader $bake, $out, string $name, array $options, callable $progress): void
    {
        $looks = $own = $white = [];
        foreach ($shot->props as $k => $prop) {
            $face = $this->pipeline->facePicture($prop);
            $first = count($looks);
            array_push($looks, ...Looks::of($prop, $face));
            $own[$k] = range($first, count($looks) - 1);
            // A picture cannot turn into a colour in this format: it stays.
            $white[$k] = $face === null && Looks::changes($prop) ? count($looks) : null;
            if ($white[$k] !== null) {
                $looks[] = Looks::changing($prop);
            }
        }
        $cords = $bake->manifest->frames > self::BENT_FRAMES ? [] : Cord::all($shot, $bake);
        if ($cords !== []) {
            $looks[] = Cord::look();
        }
        $nodes = (function () use ($shot, $bake, $own, $white, $progress, $cords, $looks): Generator {
            yield from $this->nodes($shot, $bake, $own, $white, $progress);
            foreach ($cords as $cord) {
                yield self::cord($cord, count($looks) - 1, $bake->manifest->frames);
            }
        })();
        $placing = $shot->placing;
        $placed = $placing === null ? [] : ['name' => 'placed', 'translation' => $placing->position, 'rotation' => $placing->rotation, 'scale' => [$placing->scale, $placing->scale, $placing->scale]];
        GlbWriter::stream($out, $looks, $nodes, $shot->fps, $name, self::camera($shot), $placed, self::lights($shot));
    }

    /** @return array{height: float, aspect: float, track: list<array{float, float, float, float, float, float, float}>}|null */
    private static function camera(Shot $shot): ?array
    {
        $camera = $shot->camera;
        if ($camera === null) {
            return null;
        }
        $track = array_map(static fn (int $frame): array => $camera->poseAt($frame), range(1, $shot->frames));

        // In this format nobody zooms.
        return ['height' => $camera->heightAt(1.0), 'aspect' => $camera->aspect, 'track' => self::still($track)];
    }

    /** @return list<array{name: string, colour: array{float, float, float}, intensity: float, track: list<array{float, float, float, float, float, float, float}>}> */
    private static function lights(Shot $shot): array
    {
        $lights = [];
        foreach ($shot->lights->on($shot->frames) as $name => $light) {
            $track = array_map(static fn (int $frame): array => [0.0, 0.0, 0.0, ...$light->rotationAt($frame)], range(1, $shot->frames));
            // In this format nothing becomes brighter.
            $lights[] = ['name' => $name, 'colour' => Looks::linear($light->colour), 'intensity' => $light->strengthAt(1.0), 'track' => self::still($track)];
        }

        return $lights;
    }

    /**
     * One that stands still needs no keys.
     *
     * @param list<array{float, float, float, float, float, float, float}> $track
     *
     * @return list<array{float, float, float, float, float, float, float}>
     */
    private static function still(array $track): array
    {
        return count(array_unique($track, SORT_REGULAR)) === 1 ? [$track[0]] : $track;
    }

    /** Pieces of one prop at rest, a node each; about a place beside them where they lie far from the origin. */
    public static function atRest(BrokenProp $broken, string $prefix): string
    {
        [$low, $high] = $broken->bounds;
        $origin = array_map(static fn (float $a, float $b): float => 0.5 * ($a + $b), $low, $high);
        $far = max(array_map(abs(...), $origin)) > self::FAR * max(array_map(static fn (float $a, float $b): float => $b - $a, $low, $high));
        $origin = $far ? [$origin[0], $origin[1], $origin[2]] : [0.0, 0.0, 0.0];
        $nodes = [];
        foreach ($broken->pieces as $p => $mesh) {
            [$x, $y, $z] = $broken->centre($p);
            $nodes[] = [
                'name' => sprintf('%s-%03d', $prefix, $p + 1), 'mesh' => $mesh, 'looks' => [0, 1, 0], 'centre' => [$x, $y, $z],
                'track' => [[$x - $origin[0], $y - $origin[1], $z - $origin[2], ...Quaternion::IDENTITY]],
            ];
        }

        return GlbWriter::write([['outer', Looks::linear('#b9793f'), Looks::ROUGHNESS, null], ['inner', Looks::linear('#c4532b'), Looks::ROUGHNESS, null]], $nodes, 24.0, $prefix, $far ? ['name' => 'origin', 'translation' => $origin] : []);
    }

    /**
     * @param array<int, list<int>> $looks of each prop
     * @param array<int, int|null> $white the one its outside has where that changes
     * @param callable(int, int): void $progress
     *
     * @return Generator<int, array{name: string, mesh: TriangleMesh, looks: list<int>, centre: array{float, float, float}, track: list<array{float, float, float, float, float, float, float}>, motion?: array<string, string>, bent?: array{normals: BentNormals, frames: int, places: Closure(int): array<int, float|int>}, tint?: Tint}>
     */
    private function nodes(Shot $shot, BakeReader $bake, array $looks, array $white, callable $progress): Generator
    {
        $tell = Telling::of($bake->manifest, $progress);
        foreach ($shot->props as $k => $prop) {
            $broken = $this->pipeline->broken($prop);
            if ($bake->manifest->track($prop->id, Track::VERTICES) !== null) {
                yield $this->bent($prop, $broken, $bake, $looks[$k], $white[$k], $tell);
                continue;
            }
            $count = count($broken->pieces);
            $turn = PieceKeys::turn($shot->frames);
            for ($from = 0; $from < $count; $from += $turn) {
                $to = min($count, $from + $turn);
                $motion = PieceKeys::of($prop, $bake, $from, $to, $white[$k] !== null);
                for ($p = $from; $p < $to; $p++) {
                    $keys = $motion[$p - $from];
                    /** @var array<int, float> $pose */
                    $pose = unpack('g7', substr($keys['translation'], 0, 12) . substr($keys['rotation'], 0, 16));
                    $share = isset($keys['weights']) && self::isStill($keys['weights'], $shot->frames) ? self::single($keys['weights']) : 0.0;
                    $tint = $white[$k] === null ? [] : ['tint' => Looks::tint($prop, $white[$k], static fn (): float => $share)];
                    yield $tint + [
                        'name' => Looks::pieceName($prop, $p, $count),
                        'mesh' => $broken->pieces->mesh($p),
                        'looks' => $looks[$k],
                        'centre' => $broken->centre($p),
                        'track' => [[$pose[1], $pose[2], $pose[3], $pose[4], $pose[5], $pose[6], $pose[7]]],
                        // What is gone has no other way to be gone in this format than to have no size.
                        'motion' => array_filter(
                            $keys,
                            static fn (string $bytes, string $path): bool => $path === 'scale' || ! self::isStill($bytes, $shot->frames),
                            ARRAY_FILTER_USE_BOTH,
                        ),
                    ];
                    $tell();
                }
            }
        }
    }

    /**
     * A prop that moves by its vertices, all its pieces in one node.
     *
     * @param list<int> $looks
     * @param int|null $white look of its outside where that changes
     * @param Closure(): void $tell called at each frame
     *
     * @return array{name: string, mesh: TriangleMesh, looks: list<int>, centre: array{float, float, float}, track: list<array{float, float, float, float, float, float, float}>, bent: array{normals: BentNormals, frames: int, places: Closure(int): array<int, float|int>}, tint?: Tint}
     */
    private function bent(Prop $prop, BrokenProp $broken, BakeReader $bake, array $looks, ?int $white, Closure $tell): array
    {
        $frames = $bake->manifest->frames;
        if ($frames > self::BENT_FRAMES) {
            throw new BadBake("{$prop->name} moves by its vertices over {$frames} frames; a GLB takes " . self::BENT_FRAMES . ' at most. Shorten the shot, or take single frames as OBJ.');
        }
        $track = $bake->manifest->track($prop->id, Track::VERTICES) ?? 0;
        $places = static function (int $frame) use ($bake, $track, $tell): array {
            $tell();

            return $bake->track($frame, $track) ?? throw PieceKeys::unbaked($frame);
        };
        $normals = new BentNormals(TriangleMesh::together($broken->pieces));
        $weight = $bake->manifest->track($prop->id, Track::WEIGHT);

        return ($white === null || $weight === null ? [] : ['tint' => Looks::tint($prop, $white, self::shares($bake, $weight))]) + [
            'name' => $prop->name,
            'mesh' => $normals->bent($places(1)),
            'looks' => $looks,
            'centre' => [0.0, 0.0, 0.0],
            'track' => [[0.0, 0.0, 0.0, ...Quaternion::IDENTITY]],
            'bent' => ['normals' => $normals, 'frames' => $frames, 'places' => $places],
        ];
    }

    /** @return array{name: string, mesh: TriangleMesh, looks: list<int>, centre: array{float, float, float}, track: list<array{float, float, float, float, float, float, float}>, bent: array{normals: BentNormals, frames: int, places: Closure(int): array<int, float|int>}} */
    private static function cord(Cord $cord, int $look, int $frames): array
    {
        // Drawn together to a point when it holds no more.
        $places = static function (int $frame) use ($cord): array {
            $places = $cord->placesAt($frame);

            return $cord->holds($frame) ? $places : array_merge(...array_fill(0, intdiv(count($places), 3), array_slice($places, 0, 3)));
        };
        $normals = new BentNormals($cord->mesh);

        return [
            'name' => $cord->name,
            'mesh' => $normals->bent($places(1)),
            'looks' => [$look],
            'centre' => [0.0, 0.0, 0.0],
            'track' => [[0.0, 0.0, 0.0, ...Quaternion::IDENTITY]],
            'bent' => ['normals' => $normals, 'frames' => $frames, 'places' => $places],
        ];
    }

    /** @return Closure(int, int): float what a track of weights says at a frame about a vertex; the first is kept at hand */
    private static function shares(BakeReader $bake, int $track): Closure
    {
        $kept = [];

        return static function (int $frame, int $vertex) use ($bake, $track, &$kept): float {
            if (! isset($kept[$frame])) {
                $kept = array_intersect_key($kept, [1 => true]) + [$frame => $bake->track($frame, $track) ?? throw PieceKeys::unbaked($frame)];
            }

            return (float) $kept[$frame][$vertex];
        };
    }

    private static function single(string $bytes): float
    {
        /** @var array{1: float} $first */
        $first = unpack('g', $bytes);

        return $first[1];
    }

    /** Whether the same is said at each frame. */
    private static function isStill(string $bytes, int $frames): bool
    {
        return $bytes === str_repeat(substr($bytes, 0, intdiv(strlen($bytes), $frames)), $frames);
    }
}
