<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** It does not come apart. */
final class Whole implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): null
    {
        return null;
    }
}
