<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Swirl;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** Turns everything about an axis, as a push or as moving air. */
final class TurningAbout implements ForceKind
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        $air = $settings->string('by') === 'air';

        return Reach::of($settings, new Swirl(
            $settings->animatedVector('at'),
            $settings->animatedVector('direction'),
            $settings->animated($air ? 'speed' : 'strength'),
            $settings->float('core'),
            $settings->animated('inward'),
            $settings->animated('lift'),
            $air,
        ));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }
}
