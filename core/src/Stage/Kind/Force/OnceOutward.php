<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Blast;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Kind\MayIdle;
use YardBreak\Core\Stage\Surfaces;

/** A blast: a front that travels outward from a place, once. */
final class OnceOutward implements ForceKind, MayIdle
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Blast(
            $settings->animatedVector('at'),
            (float) self::frame($settings),
            $settings->float('strength'),
            $settings->float('speed'),
            $settings->float('lasts'),
            ['even' => 0.0, 'distance' => 1.0, 'square' => 2.0][$settings->string('fades')],
            $settings->bool('back'),
            $shot->fps,
        ));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [$shot->fps];
    }

    /** @throws BadDocument if its cue is not there */
    private static function frame(Settings $settings): int
    {
        return $settings->cue('cue') ?? $settings->int('frame');
    }

    public static function idle(Settings $settings, Shot $shot): ?string
    {
        $frame = self::frame($settings);

        return $frame >= $shot->frames ? "goes off at frame {$frame}, but the shot ends at {$shot->frames}." : null;
    }
}
