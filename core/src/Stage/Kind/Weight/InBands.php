<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Direction;
use YardBreak\Core\Stage\Kind\SoftEdge;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Edged;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Stripes across a direction. */
final class InBands implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $direction = Direction::of($settings, 'direction');
        [$low, $high] = Direction::extent($direction, $shape->bounds());
        $apart = ($high - $low) / $settings->int('count');
        $half = 0.5 * $settings->float('width') * $apart;
        $moved = $settings->animated('moved');
        $beyond = static function (Samples $at, float $frame) use ($direction, $low, $apart, $half, $moved): array {
            $shift = $low + $moved->at($frame) * $apart;
            $beyond = [];
            foreach (Direction::along($direction, $at) as $way) {
                // A band lies in the middle of each part.
                $part = $apart > 0.0 ? ($way - $shift) / $apart : 0.5;
                $beyond[] = abs($part - floor($part) - 0.5) * $apart - $half;
            }

            return $beyond;
        };

        return new Edged($beyond, $settings->float('softness'), SoftEdge::of($settings), ['bands', $direction, $low, $apart, $half], static fn (float $frame): array => [$moved->at($frame)]);
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        Direction::check($settings, 'direction');
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
