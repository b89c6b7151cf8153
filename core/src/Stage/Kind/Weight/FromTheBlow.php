<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Spread;
use YardBreak\Core\Weight\WeightSource;

/** A front that spreads from the blow or the opening of the prop's break. */
final class FromTheBlow implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): ?WeightSource
    {
        $distance = Weighing::blow($prop);

        return $distance === null ? null : new Spread(
            $distance,
            $settings->float('from'),
            $settings->float('to'),
            $settings->float('reach'),
            $settings->float('softness'),
        );
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        if ($settings->int('to') < $settings->int('from')) {
            throw $settings->wrong('to', 'The front must not end before it starts.');
        }
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [$prop->pattern->kind, $prop->pattern->settings->inForce()];
    }
}
