<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Long splinters along the grain. */
final class Grain implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): GrainPattern
    {
        $places = $settings->vectors('places');
        $along = count($places) > 1;

        return new GrainPattern(
            $settings->int('pieces'),
            $settings->int('seed'),
            $settings->float('evenness'),
            $along ? [0.0, 1.0, 0.0] : PatternBench::unit($settings->vector('axis')),
            $settings->float('slenderness'),
            $settings->float('raggedness'),
            ...($along ? [$places] : []),
        );
    }
}
