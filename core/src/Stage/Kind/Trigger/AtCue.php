<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\FrameTrigger;
use YardBreak\Core\Motion\Trigger\NeverTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** All of it at a named moment, or from there on one after the other; as long as none is chosen, never. */
final class AtCue implements TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        $frame = self::frame($settings);

        return $frame === null ? new NeverTrigger() : new FrameTrigger($frame, (float) $settings->int('over'), Ranks::of($settings, $middles));
    }

    public static function inputs(Settings $settings): array
    {
        $frame = self::frame($settings);

        return $frame === null ? ['never'] : ['at', $frame, $settings->int('over'), $settings->int('over') > 0 ? $settings->string('order') : ''];
    }

    public static function frame(Settings $settings): ?int
    {
        return $settings->cue('cue');
    }
}
