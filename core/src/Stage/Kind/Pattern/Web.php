<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use Closure;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\HasBlow;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Rays and rings about the place of a blow. */
final class Web implements HasBlow, PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): WebPattern
    {
        return new WebPattern(
            $settings->int('seed'),
            Blows::places($settings),
            $settings->vector('axis'),
            $settings->int('rays'),
            $settings->int('rings'),
            $settings->float('radius'),
            $settings->float('growth'),
            $settings->float('jitter'),
            $settings->string('rest') === 'whole',
        );
    }

    public static function distance(Settings $settings): Closure
    {
        return Blows::distance(Blows::places($settings));
    }
}
