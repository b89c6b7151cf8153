<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Brushwork;
use YardBreak\Core\Weight\Stroke;
use YardBreak\Core\Weight\WeightSource;

/** What is painted on the prop by hand. */
final class ByBrush implements WeightKind
{
    /** Of a point. */
    private const BYTES = 12;

    /** m; nothing of a document is farther. */
    private const FAR = 10000.0;

    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        $strokes = [];
        $middle = null;
        foreach ($settings->list('strokes') as $stroke) {
            $made = new Stroke($stroke->string('mode'), $stroke->float('radius'), $stroke->float('softness'), $stroke->float('strength'), self::points($stroke));
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

        return new Brushwork($strokes, $settings->float('ground'));
    }

    public static function check(Settings $settings, Prop $prop): void
    {
        foreach ($settings->list('strokes') as $stroke) {
            self::points($stroke);
        }
    }

    /**
     * Thousands of numbers: as text they would be checked and walked through one by one at every edit.
     *
     * @return non-empty-list<array{float, float, float}>
     *
     * @throws BadDocument
     */
    private static function points(Settings $stroke): array
    {
        $bytes = base64_decode($stroke->string('points'), true);
        if ($bytes === false || $bytes === '' || strlen($bytes) % self::BYTES !== 0) {
            throw $stroke->wrong('points', 'The points of a stroke are three 32-bit floats each, in Base64. This is something else; take the stroke away.');
        }
        $points = [];
        foreach (str_split($bytes, self::BYTES) as $point) {
            /** @var array{1: float, 2: float, 3: float} $at */
            $at = unpack('g3', $point);
            // What is no number is not within either.
            if (! (abs($at[1]) <= self::FAR && abs($at[2]) <= self::FAR && abs($at[3]) <= self::FAR)) {
                throw $stroke->wrong('points', 'A point of a stroke lies farther away than ' . number_format(self::FAR) . ' m, or nowhere. Take the stroke away.');
            }
            $points[] = [$at[1], $at[2], $at[3]];
        }

        return $points;
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
