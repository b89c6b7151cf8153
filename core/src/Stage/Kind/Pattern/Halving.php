<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Cut in two, and each half again. */
final class Halving implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): HalvingPattern
    {
        $count = $settings->int('count');
        $wander = $settings->float('wander');

        return new HalvingPattern($count > 0 ? 0 : $settings->int('rounds'), $count, $settings->int('seed'), $wander, $wander > 0.0 ? $settings->float('jagged') : 0.0);
    }
}
