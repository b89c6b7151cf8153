<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use RuntimeException;
use YardBreak\Core\Bake\FramesFile;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\GlbWriter;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Pipeline;

/** What other departments get: the pieces with their motion in open formats. */
final class HandOff
{
    /** Roughness that clay and stone show. */
    private const ROUGHNESS = 0.9;

    public function __construct(private readonly Pipeline $pipeline)
    {
    }

    /** Animated GLB of a finished bake: a node a piece, keys at every frame. */
    public function glb(Shot $shot, string $framesPath, string $name): string
    {
        $tracks = $this->tracks($shot, $framesPath);
        $looks = $nodes = [];
        $index = 0;
        foreach ($shot->props as $prop) {
            $broken = $this->pipeline->broken($prop);
            $first = count($looks);
            array_push($looks, ...self::looks($prop, $this->pipeline->facePicture($prop)));
            foreach ($broken->pieces as $p => $mesh) {
                $track = $tracks[$index++];
                $still = count(array_unique(array_map('serialize', $track))) === 1;
                $nodes[] = [
                    'name' => self::pieceName($prop, $p, count($broken->pieces)),
                    'mesh' => $mesh,
                    'looks' => range($first, count($looks) - 1),
                    'centre' => $broken->centre($p),
                    'track' => $still ? [$track[0]] : $track,
                ];
            }
        }

        return GlbWriter::write($looks, $nodes, $shot->fps, $name);
    }

    /** Pieces of one prop at rest as GLB, a node each. */
    public static function restGlb(BrokenProp $broken, string $prefix): string
    {
        $nodes = [];
        foreach ($broken->pieces as $p => $mesh) {
            $nodes[] = [
                'name' => sprintf('%s-%03d', $prefix, $p + 1), 'mesh' => $mesh, 'looks' => [0, 1, 0], 'centre' => $broken->centre($p),
                'track' => [[...$broken->centre($p), ...Quaternion::IDENTITY]],
            ];
        }

        return GlbWriter::write([['outer', self::linear('#b9793f'), self::ROUGHNESS, null], ['inner', self::linear('#c4532b'), self::ROUGHNESS, null]], $nodes, 24.0, $prefix);
    }

    /** All pieces at one frame as OBJ, in the world. */
    public function obj(Shot $shot, string $framesPath, int $number): string
    {
        $frame = FramesFile::readFrame($framesPath, $number)
            ?? throw new RuntimeException("Frame {$number} has not been baked.");
        $objects = [];
        $index = 0;
        foreach ($shot->props as $prop) {
            $broken = $this->pipeline->broken($prop);
            foreach ($broken->pieces as $p => $mesh) {
                $pose = array_slice($frame->poses, 7 * $index++, 7);
                $objects[] = [self::pieceName($prop, $p, count($broken->pieces)), self::posed($mesh, $broken->centre($p), $pose)];
            }
        }

        return ObjWriter::write($objects);
    }

    public static function pieceName(Prop $prop, int $piece, int $count): string
    {
        return $count === 1 ? $prop->name : sprintf('%s-%s-%03d', $prop->id, $prop->prefix(), $piece + 1);
    }

    /**
     * @return list<list<array{float, float, float, float, float, float, float}>> by piece, then frame
     */
    private function tracks(Shot $shot, string $framesPath): array
    {
        $tracks = [];
        for ($f = 1; $f <= $shot->frames; $f++) {
            $frame = FramesFile::readFrame($framesPath, $f) ?? throw new RuntimeException("Frame {$f} has not been baked yet. Wait for the bake to finish.");
            foreach ($frame->flags as $k => $_) {
                $p = 7 * $k;
                $tracks[$k][] = [
                    $frame->poses[$p], $frame->poses[$p + 1], $frame->poses[$p + 2],
                    $frame->poses[$p + 3], $frame->poses[$p + 4], $frame->poses[$p + 5], $frame->poses[$p + 6],
                ];
            }
        }

        return array_values($tracks);
    }

    /**
     * @param array{float, float, float} $centre
     * @param array<int, float> $pose
     */
    private static function posed(TriangleMesh $mesh, array $centre, array $pose): TriangleMesh
    {
        $turn = Quaternion::normalized([$pose[3], $pose[4], $pose[5], $pose[6]]);
        [$x, $y, $z] = Quaternion::rotate($turn, $centre);

        return $mesh->transformed(1.0, $turn, [$pose[0] - $x, $pose[1] - $y, $pose[2] - $z]);
    }

    /** @return list<array{string, array{float, float, float}, float, string|null}> */
    private static function looks(Prop $prop, ?string $face): array
    {
        $colour = static fn (string $name): array => self::linear($prop->look->string($name));
        $looks = [
            ["{$prop->name} outside", $colour('outer'), self::ROUGHNESS, $face],
            ["{$prop->name} fresh faces", $colour('inner'), self::ROUGHNESS, null],
            ["{$prop->name} sides", $colour('side'), self::ROUGHNESS, null],
        ];
        $layers = $prop->pattern->trait('layers');
        for ($k = 1; is_string($layers) && $k <= min($prop->pattern->settings->int($layers), TriangleMesh::LAYERS); $k++) {
            $looks[] = ["{$prop->name} layer {$k}", $colour("layer{$k}"), self::ROUGHNESS, null];
        }

        return $looks;
    }

    /** @return array{float, float, float} sRGB as written in the document to the linear light that glTF wants (IEC 61966-2-1) */
    private static function linear(string $hex): array
    {
        $colour = [];
        foreach ([1, 3, 5] as $at) {
            $c = hexdec(substr($hex, $at, 2)) / 255.0;
            $colour[] = round($c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4, 6);
        }

        return [$colour[0], $colour[1], $colour[2]];
    }
}
