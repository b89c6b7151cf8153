<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PatternBench;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\WeightSource;

/** A plane that travels along an axis through the prop. */
final class FrontSweep implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $axis = PatternBench::axis($settings->string('axis'));

        return new Sweep(
            $axis,
            $settings->bool('backwards'),
            $shape->bounds[0][$axis],
            $shape->bounds[1][$axis],
            $settings->float('from'),
            $settings->float('to'),
            $settings->float('softness'),
        );
    }

    public static function check(Settings $settings): void
    {
        if ($settings->int('to') < $settings->int('from')) {
            throw $settings->wrong('to', 'The front must not end before it starts. To turn it around, let it run backwards.');
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
