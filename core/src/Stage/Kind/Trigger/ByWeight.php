<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Motion\Trigger\WeightTrigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** Each piece when its weight passes a threshold. */
final class ByWeight implements TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        return new WeightTrigger($settings->float('threshold'), $settings->float('variety'), $settings->int('seed'));
    }

    public static function inputs(Settings $settings): array
    {
        return ['weight', $settings->inForce()];
    }

    public static function frame(Settings $settings): ?int
    {
        return null;
    }
}
