<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\ContactTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** When it strikes something, or is struck. */
final class OnContact implements TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        return new ContactTrigger($settings->float('speed'), $settings->float('impulse'), $settings->float('within'));
    }

    public static function inputs(Settings $settings): array
    {
        return ['contact', $settings->float('speed'), $settings->float('within'), ...$settings->float('impulse') > 0.0 ? [$settings->float('impulse')] : []];
    }

    public static function frame(Settings $settings): ?int
    {
        return null;
    }
}
