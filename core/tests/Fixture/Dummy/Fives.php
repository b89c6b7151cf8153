<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** A pattern: five pieces, times a number. */
final class Fives implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): Pattern
    {
        return new CellularPattern(5 * $settings->int('times'), 1, 0.0);
    }
}
