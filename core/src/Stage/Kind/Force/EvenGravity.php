<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Surfaces;

/** The same pull everywhere, as far as it reaches. */
final class EvenGravity implements ForceKind
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        return Reach::of($settings, new Gravity($settings->animated('strength'), $settings->animatedVector('direction')));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        return [];
    }
}
