<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\AirflowFromPlace;
use YardBreak\Core\Force\EvenAirflow;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** Air that moves, with gusts in it. */
final class TurbulentWind implements ForceKind
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Wind(
            $settings->string('blows') === 'even' ? new EvenAirflow($settings->animatedVector('velocity')) : self::fromPlace($settings),
            $settings->animated('turbulence'),
            $settings->float('size'),
            $settings->int('period'),
            $settings->int('seed'),
        ));
    }

    private static function fromPlace(Settings $settings): AirflowFromPlace
    {
        return new AirflowFromPlace($settings->animatedVector('at'), $settings->animated('speed'), match ($settings->string('fades')) {
            'square' => 2.0,
            'distance' => 1.0,
            default => 0.0,
        });
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }
}
