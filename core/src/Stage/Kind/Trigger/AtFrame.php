<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\FrameTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** All of it at once, at a frame. */
final class AtFrame implements TriggerKind
{
    public static function make(Settings $settings): Trigger
    {
        return new FrameTrigger($settings->float('frame'));
    }

    public static function inputs(Settings $settings): array
    {
        return ['at', $settings->int('frame')];
    }

    public static function frame(Settings $settings): int
    {
        return $settings->int('frame');
    }
}
