<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Paint;
use YardBreak\Core\Weight\Stroke;
use YardBreak\Core\Weight\WeightSource;

/** What is painted on the prop by hand. */
final class Painted implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $strokes = [];
        $middle = null;
        foreach ($settings->list('strokes') as $stroke) {
            $made = new Stroke($stroke->string('mode'), $stroke->float('radius'), $stroke->float('softness'), $stroke->float('strength'), $stroke->triples('points'));
            if ($stroke->string('mirror') === 'none') {
                $strokes[] = $made;
                continue;
            }
            if ($middle === null) {
                [$low, $high] = $shape->bounds();
                $middle = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
            }
            array_push($strokes, ...$made->mirrored($stroke->string('mirror'), $middle));
        }

        return new Paint($strokes, $settings->float('ground'));
    }

    public static function check(Settings $settings, Prop $prop): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
