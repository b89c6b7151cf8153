<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Moment;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\FirstLevel;
use YardBreak\Core\Stage\Kind\ByMotion;
use YardBreak\Core\Stage\Kind\MomentKind;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\Weighing;

/** When the weight by which a prop lets go has first got so high, somewhere or everywhere. */
final class WhenAWeightIsSoHigh implements ByMotion, MomentKind
{
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): ?Stage
    {
        $prop = $shot->prop($settings->string('prop'));

        return $prop === null || self::lacks($settings, $shot) !== null || ($surfaces->seen === null && self::goesByMotion($settings, $shot)) ? null
            : new FirstLevel($prop, $shot->frames, $settings->float('level'), $settings->string('where') === 'last', $surfaces);
    }

    public static function lacks(Settings $settings, Shot $shot): ?string
    {
        $prop = $shot->prop($settings->string('prop'));

        return match (true) {
            $settings->string('prop') === '' => 'no prop is chosen whose weight it is',
            $prop === null => 'a prop that it names is no longer in the shot',
            $prop->weight->isEmpty() => "{$prop->name} has no weight to let go by",
            default => null,
        };
    }

    public static function goesByMotion(Settings $settings, Shot $shot): bool
    {
        $prop = $shot->prop($settings->string('prop'));

        return $prop !== null && Weighing::mixGoesByMotion($prop->weight, $prop);
    }
}
