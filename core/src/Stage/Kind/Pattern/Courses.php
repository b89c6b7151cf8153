<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Bricks, tiles or hexagons. */
final class Courses implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): CoursesPattern
    {
        $bond = $settings->string('bond');
        $axis = $settings->vector('axis');

        return new CoursesPattern(
            $bond,
            $settings->int('seed'),
            $settings->string('aligned') === 'world' ? Quaternion::rotate(Quaternion::conjugate($bench->rotation), PatternBench::unit($axis)) : $axis,
            $settings->float('length'),
            $settings->float('height'),
            $bond === CoursesPattern::BRICK ? $settings->float('depth') : 0.0,
            $settings->float('offset'),
            $bond === CoursesPattern::HEXAGON ? 0.0 : $settings->float('joint'),
            $settings->float('variety'),
        );
    }
}
