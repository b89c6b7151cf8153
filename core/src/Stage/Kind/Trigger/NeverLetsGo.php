<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\NeverTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** It is held for the whole shot. */
final class NeverLetsGo implements TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        return new NeverTrigger();
    }

    public static function inputs(Settings $settings): array
    {
        return ['never'];
    }

    public static function frame(Settings $settings): ?int
    {
        return null;
    }
}
