<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Noise;
use YardBreak\Core\Weight\WeightSource;

/** Patches of more and less, by noise. */
final class Patches implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        return new Noise(
            GradientNoise::seeded($settings->int('seed'), 'weight'),
            $settings->float('size'),
            $settings->int('detail'),
            $settings->float('contrast'),
            $settings->float('level'),
            $settings->vector('drift'),
            $prop->time->fps,
            ['noise', $settings->int('seed')],
        );
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [$prop->time->fps];
    }
}
