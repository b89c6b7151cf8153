<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\FrameTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** All of it at a frame, or from there on one after the other. */
final class AtFrame implements TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        return new FrameTrigger($settings->float('frame'), (float) $settings->int('over'), Ranks::of($settings, $middles));
    }

    public static function inputs(Settings $settings): array
    {
        return ['at', $settings->int('frame'), $settings->int('over'), $settings->int('over') > 0 ? $settings->string('order') : ''];
    }

    public static function frame(Settings $settings): int
    {
        return $settings->int('frame');
    }
}
