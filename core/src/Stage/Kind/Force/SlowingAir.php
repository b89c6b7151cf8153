<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Drag;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** Slows what goes through it. */
final class SlowingAir implements ForceKind
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Drag($settings->animated('linear'), $settings->animated('square')));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }
}
