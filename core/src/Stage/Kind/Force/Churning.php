<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Turbulence;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** Pushes every way, in eddies. */
final class Churning implements ForceKind
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Turbulence(
            $settings->animated('strength'),
            $settings->float('size'),
            $settings->int('detail'),
            $settings->vector('drift'),
            $settings->int('period'),
            $settings->int('seed'),
            $shot->fps,
        ));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [$shot->fps];
    }
}
