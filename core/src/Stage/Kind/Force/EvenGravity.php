<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Stage\Kind\ForceKind;

/** Pulls everything the same way. */
final class EvenGravity implements ForceKind
{
    public static function make(Settings $settings): ForceField
    {
        return new Gravity($settings->animated('strength'));
    }

    public static function inputs(Settings $settings): array
    {
        return $settings->animated('strength')->inputs();
    }
}
