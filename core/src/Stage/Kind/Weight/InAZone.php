<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Stage\Axes;
use YardBreak\Core\Stage\Kind\HasOutline;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Full within a ball, a box or a cylinder that stands in the prop's space or the shot's, and may move. */
final class InAZone implements WeightKind, HasOutline
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $axes = Axes::read($settings, $prop, 'turn');
        $sizes = self::sizes($settings);
        $shape = $settings->string('shape');
        $beyond = static function (Samples $at, float $frame) use ($axes, $sizes, $shape): array {
            [$u, $v, $w] = $axes->seen($at, $frame);
            $size = array_map(static fn (Animated $value): float => $value->at($frame), $sizes);

            return match ($shape) {
                'box' => array_map(static fn (float $x, float $y, float $z): float => self::outside(abs($x) - 0.5 * $size[0], abs($y) - 0.5 * $size[1], abs($z) - 0.5 * $size[2]), $u, $v, $w),
                'cylinder' => array_map(static fn (float $x, float $y, float $z): float => self::outside(sqrt($x * $x + $z * $z) - $size[0], abs($y) - 0.5 * $size[1], 0.0), $u, $v, $w),
                default => array_map(static fn (float $x, float $y, float $z): float => sqrt($x * $x + $y * $y + $z * $z) - $size[0], $u, $v, $w),
            };
        };
        $sample = static fn (float $frame): array => [...$axes->sample($frame), ...array_map(static fn (Animated $value): float => $value->at($frame), $sizes)];

        return new Edged($beyond, $settings->float('softness'), SoftEdge::of($settings), ['zone', $shape, $settings->string('space')], $sample);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return Axes::read($settings, $prop, 'turn')->inputs();
    }

    /**
     * @return list<Animated> radius; sides of the box; radius and height
     *
     * @throws BadDocument
     */
    private static function sizes(Settings $settings): array
    {
        return match ($settings->string('shape')) {
            'box' => array_map($settings->at('size')->animated(...), ['x', 'y', 'z']),
            'cylinder' => [$settings->animated('within'), $settings->animated('height')],
            default => [$settings->animated('within')],
        };
    }

    /** How far outside, by how far past each pair of sides, m. */
    private static function outside(float $x, float $y, float $z): float
    {
        $x = $x > 0.0 ? $x : 0.0;
        $y = $y > 0.0 ? $y : 0.0;
        $z = $z > 0.0 ? $z : 0.0;

        return sqrt($x * $x + $y * $y + $z * $z);
    }

    public static function outlines(Settings $settings, Prop $prop, PropShape $shape, float $frame): array
    {
        $size = array_map(static fn (Animated $value): float => $value->at($frame), self::sizes($settings));
        $axes = Axes::read($settings, $prop, 'turn');

        return [match ($settings->string('shape')) {
            'box' => $axes->outline('box', [0.5 * $size[0], 0.5 * $size[1], 0.5 * $size[2]], $frame),
            'cylinder' => $axes->outline('cylinder', [$size[0], 0.5 * $size[1], $size[0]], $frame),
            default => $axes->outline('ball', [$size[0], $size[0], $size[0]], $frame),
        }];
    }
}
