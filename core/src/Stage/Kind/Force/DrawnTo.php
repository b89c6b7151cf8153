<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Force;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Nowhere;
use YardBreak\Core\Force\Pull;
use YardBreak\Core\Force\ToPlace;
use YardBreak\Core\Stage\Kind\ForceKind;
use YardBreak\Core\Stage\Kind\MayIdle;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\ToSurface;

/** Draws to a place, a line, a plane or a prop's surface, or pushes away from it. */
final class DrawnTo implements ForceKind, MayIdle
{
    public static function make(Settings $settings, Shot $shot, Surfaces $others): ForceField
    {
        $prop = self::prop($settings, $shot);
        $target = match (true) {
            $settings->string('to') !== 'prop' => new ToPlace($settings->string('to'), $settings->animatedVector('at'), $settings->animatedVector('direction')),
            $prop === null => new Nowhere(),
            default => new ToSurface($prop, $others),
        };

        $law = $settings->string('law');

        return Reach::of($settings, new Pull($target, $settings->animated('strength'), $law, $settings->animated('calm'), $law === 'drawn' ? $settings->curve('drawn') : null, $settings->float('ends')));
    }

    public static function inputs(Settings $settings, Shot $shot, Surfaces $others): array
    {
        $prop = self::prop($settings, $shot);

        return $prop === null ? [] : [$others->hash($prop), $prop->transform->inputs()];
    }

    public static function idle(Settings $settings, Shot $shot): ?string
    {
        return $settings->string('to') === 'prop' && self::prop($settings, $shot) === null ? 'draws to a prop, but to none that is in the shot: choose one.' : null;
    }

    private static function prop(Settings $settings, Shot $shot): ?Prop
    {
        return $settings->string('to') === 'prop' ? $shot->prop($settings->string('prop')) : null;
    }
}
