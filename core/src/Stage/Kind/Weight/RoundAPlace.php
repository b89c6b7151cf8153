<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Weight;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Stage\Kind\WeightKind;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Weight\Distance;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Full within a ball around a place of the prop. */
final class RoundAPlace implements WeightKind
{
    public static function make(Settings $settings, Prop $prop, PropShape $shape): WeightSource
    {
        [$cx, $cy, $cz] = $settings->vector('at');
        $distances = static function (Samples $at) use ($cx, $cy, $cz): array {
            $far = [];
            foreach ($at->x as $i => $x) {
                $far[] = sqrt(($x - $cx) ** 2 + ($at->y[$i] - $cy) ** 2 + ($at->z[$i] - $cz) ** 2);
            }

            return $far;
        };

        return new Distance($distances, $settings->float('within'), $settings->float('softness'), ['place', $cx, $cy, $cz]);
    }

    public static function check(Settings $settings): void
    {
    }

    public static function inputs(Settings $settings, Prop $prop, Surfaces $others): array
    {
        return [];
    }
}
