<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\Copies;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Many of the same. */
final class SameAgain implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): Copies
    {
        return new Copies($settings->int('count'));
    }
}
