<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\FacesPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Every face of its skin comes off. */
final class EveryFace implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): FacesPattern
    {
        return new FacesPattern($settings->int('seed'), $settings->int('cuts'), $settings->int('split'), $settings->float('thickness'), $settings->float('lift'), $settings->bool('core'));
    }
}
