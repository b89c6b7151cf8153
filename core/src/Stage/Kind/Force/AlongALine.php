<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Stream;
use YardBreak\Core\Math\Polyline;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Kind\MayIdle;
use YardBreak\Core\Stage\Surfaces;

/** Along a line through places. */
final class AlongALine implements ForceKind, MayIdle
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Stream(new Polyline($settings->vectors('places')), $settings->animated('along'), $settings->animated('toward')));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }

    public static function idle(Settings $settings, Shot $shot): ?string
    {
        return count($settings->list('places')) < 2 ? 'pushes along a line, but the line has fewer than two places: pick them one after the other.' : null;
    }
}
