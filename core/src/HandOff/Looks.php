<?php

declare(strict_types=1);

namespace YardBreak\Core\HandOff;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Format\Tint;
use YardBreak\Core\Mesh\TriangleMesh;

/** How a prop's faces look in open formats, and what its pieces are called. */
final class Looks
{
    /** Roughness that clay and stone show. */
    public const ROUGHNESS = 0.9;

    /**
     * @param string|null $face PNG that its outside shows
     *
     * @return list<array{string, array{float, float, float}, float, string|null}> name, linear colour, roughness, picture
     */
    public static function of(Prop $prop, ?string $face): array
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

    /** Whether the outside of a prop turns to another colour with its weight. */
    public static function changes(Prop $prop): bool
    {
        return $prop->look->bool('changes');
    }

    /** @return array{string, array{float, float, float}, float, null} what its outside has then: white under colours of its own, see {@see tint()} */
    public static function changing(Prop $prop): array
    {
        return ["{$prop->name} outside, changing", [1.0, 1.0, 1.0], self::ROUGHNESS, null];
    }

    /** @param Closure(int, int): float $share how far it has turned at a frame, at a vertex */
    public static function tint(Prop $prop, int $white, Closure $share): Tint
    {
        return new Tint(TriangleMesh::LOOK_OUTER, $white, self::linear($prop->look->string('outer')), self::linear($prop->look->string('changed')), $share);
    }

    public static function pieceName(Prop $prop, int $piece, int $count): string
    {
        return $count === 1 ? $prop->name : sprintf('%s-%s-%03d', $prop->id, $prop->prefix(), $piece + 1);
    }

    /** @return array{float, float, float} sRGB as written in the document to the linear light that glTF wants (IEC 61966-2-1) */
    public static function linear(string $hex): array
    {
        $colour = [];
        foreach ([1, 3, 5] as $at) {
            $c = hexdec(substr($hex, $at, 2)) / 255.0;
            $colour[] = round($c <= 0.04045 ? $c / 12.92 : (($c + 0.055) / 1.055) ** 2.4, 6);
        }

        return [$colour[0], $colour[1], $colour[2]];
    }
}
