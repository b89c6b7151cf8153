<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Along lines drawn over its face. */
final class Drawn implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): DrawnPattern
    {
        return new DrawnPattern(
            array_map(static fn (Settings $line): Line => new Line($line->points('points'), $line->bool('closed')), $settings->list('lines')),
            PatternBench::axis($settings->string('facing')),
        );
    }
}
