<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\EvenFlakes;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Its skin comes off in flakes of even size. */
final class Flakes implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): SkinPattern
    {
        $flakes = new FlakesPattern($settings->int('count'), $settings->int('seed'), $settings->float('evenness'), $settings->float('thickness'), $settings->float('lift'), $settings->bool('core'));

        return $settings->float('thickness') === 0.0 && $settings->float('edge') > 0.0 ? new EvenFlakes($flakes, $settings->float('edge')) : $flakes;
    }
}
