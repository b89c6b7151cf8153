<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\PartsPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Into what does not hang together already. */
final class ItsParts implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): PartsPattern
    {
        return new PartsPattern($settings->bool('stacked'));
    }
}
