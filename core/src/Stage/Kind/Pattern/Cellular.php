<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use Closure;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\PictureDensity;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\HasBlow;
use YardBreak\Core\Stage\Kind\PatternKind;
use YardBreak\Core\Stage\PatternBench;

/** Cells about points strewn inside it. */
final class Cellular implements HasBlow, PatternKind
{
    public static function make(Settings $settings, PatternBench $bench): CellularPattern
    {
        $clustering = $settings->float('clustering');
        $density = $settings->string('density');

        return new CellularPattern(
            $settings->int('pieces'),
            $settings->int('seed'),
            $settings->float('evenness'),
            $settings->float('variety'),
            $clustering > 0.0 ? Blows::places($settings) : [],
            $clustering > 0.0 ? $settings->float('reach') : 0.0,
            $clustering,
            match ($density) {
                'dark', 'bright' => new PictureDensity($bench->tones($settings->at('picture')->string('asset')), PatternBench::axis($settings->string('facing')), $density === 'dark'),
                'weight' => $bench->finer($settings->int('densityAt')),
                default => null,
            },
        );
    }

    public static function distance(Settings $settings): Closure
    {
        return Blows::distance(Blows::places($settings));
    }
}
