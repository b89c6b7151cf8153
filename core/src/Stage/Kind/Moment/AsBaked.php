<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Moment;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\BakedMoment;
use YardBreak\Core\Stage\Kind\ByMotion;
use YardBreak\Core\Stage\Kind\MomentKind;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;

/** When a prop, or anything, lets go or comes to rest in what was baked. */
final class AsBaked implements ByMotion, MomentKind
{
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): ?Stage
    {
        if ($surfaces->seen === null || self::lacks($settings, $shot) !== null) {
            return null;
        }
        $prop = $settings->string('prop');
        $of = $prop === '' ? array_map(static fn (Prop $each): string => $each->id, $shot->props) : [$prop];

        return new BakedMoment($of, $settings->string('what'), $shot->settleSpeed / $shot->fps, $surfaces->seen->sightings);
    }

    public static function lacks(Settings $settings, Shot $shot): ?string
    {
        $prop = $settings->string('prop');

        return $prop !== '' && $shot->prop($prop) === null ? 'a prop that it names is no longer in the shot' : null;
    }

    public static function goesByMotion(Settings $settings, Shot $shot): bool
    {
        return true;
    }
}
