<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\PatchesPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Its surface in patches, along its own edges. */
final class Patches implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): PatchesPattern
    {
        $along = $settings->string('along');

        return new PatchesPattern($settings->int('count'), $settings->int('seed'), $along === 'none' ? null : PatternBench::axis($along), $along === 'none' ? 1.0 : $settings->float('times'));
    }
}
