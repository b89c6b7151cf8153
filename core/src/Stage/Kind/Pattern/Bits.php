<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use YardBreak\Core\Break\BitsPattern;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Small shapes on it, in it or along its edges. */
final class Bits implements PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): BitsPattern
    {
        $own = $settings->string('shape') === 'own' ? $bench->other($settings->string('of')) : null;

        return new BitsPattern(
            $settings->int('count'),
            $settings->int('seed'),
            $settings->string('from'),
            $settings->string('shape'),
            $own === null ? '' : $own[0],
            $own === null ? null : $own[1],
            $settings->float('size'),
            $settings->float('variety'),
            $settings->bool('core'),
        );
    }
}
