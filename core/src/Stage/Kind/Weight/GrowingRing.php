<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use Closure;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Axes;
use YardBreak\Core\Stage\Kind\HasOutline;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** A circle or a ball that grows from a place, by its speed or by keys. */
final class GrowingRing implements WeightKind, HasOutline
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $axes = Axes::read($settings, $prop, 'turn');
        $front = self::front($settings, $prop);
        $flat = $settings->string('form') === 'circle';
        $fills = $settings->bool('fills');
        [$width, $softness] = [$settings->float('width'), $settings->float('softness')];
        $beyond = static function (Samples $at, float $frame) use ($axes, $front, $flat, $fills, $width, $softness): array {
            [$u, $v, $w] = $axes->seen($at, $frame);
            // The soft edge lies before the front: where the front is nothing has been felt yet.
            $full = $front($frame) - $softness;
            $beyond = [];
            foreach ($u as $k => $x) {
                $far = sqrt($x * $x + ($flat ? 0.0 : $v[$k] * $v[$k]) + $w[$k] * $w[$k]);
                $behind = $full - $width - $far;
                $beyond[] = $fills || $behind < $far - $full ? $far - $full : $behind;
            }

            return $beyond;
        };

        return new Edged($beyond, $softness, SoftEdge::of($settings), ['ring', $flat, $fills, $width, $settings->string('space')], static fn (float $frame): array => [...$axes->sample($frame), $front($frame)]);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [...Axes::read($settings, $prop, 'turn')->inputs(), $prop->time->fps];
    }

    /**
     * @return Closure(float): float how far out it is at a frame, m
     *
     * @throws BadDocument
     */
    private static function front(Settings $settings, Prop $prop): Closure
    {
        if ($settings->string('grows') === 'keys') {
            return $settings->animated('radius')->at(...);
        }
        [$from, $speed] = [$settings->float('from'), $settings->animated('speed')];

        return static fn (float $frame): float => $speed->travelled($from, $frame) / $prop->time->fps;
    }

    public static function outlines(Settings $settings, Prop $prop, PropShape $shape, float $frame): array
    {
        $far = self::front($settings, $prop)($frame);

        return [$far <= 0.0 ? null : Axes::read($settings, $prop, 'turn')->outline($settings->string('form'), [$far, $far, $far], $frame)];
    }
}
