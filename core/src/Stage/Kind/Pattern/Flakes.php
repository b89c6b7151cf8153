<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Its skin comes off in flakes of even size. */
final class Flakes implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): FlakesPattern
    {
        return new FlakesPattern($settings->int('count'), $settings->int('seed'), $settings->float('evenness'), $settings->float('thickness'), $settings->float('lift'), $settings->bool('core'));
    }
}
