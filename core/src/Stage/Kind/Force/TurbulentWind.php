<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
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
            $settings->animatedVector('velocity'),
            $settings->animated('turbulence'),
            $settings->float('size'),
            $settings->int('period'),
            $settings->int('seed'),
        ));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }
}
