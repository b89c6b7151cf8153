<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\PicturePattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Along the regions of a picture. */
final class ByPicture implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): PicturePattern
    {
        return new PicturePattern(
            $bench->tones($settings->at('picture')->string('asset')),
            $settings->int('tones'),
            0.01 * $settings->float('speck'),
            PatternBench::axis($settings->string('facing')),
        );
    }
}
