<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Moment;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\FirstContact;
use YardBreak\Core\Stage\Kind\MomentKind;
use YardBreak\Core\Stage\Stage;
use YardBreak\Core\Stage\Surfaces;

/** When two props first touch, or one a floor, where their keys put them. */
final class WhenTheyTouch implements MomentKind
{
    public static function find(Settings $settings, Shot $shot, Surfaces $surfaces): ?Stage
    {
        $prop = $shot->prop($settings->string('prop'));
        $other = $shot->prop($settings->string('other'));
        if ($prop === null || self::lacks($settings, $shot) !== null) {
            return null;
        }

        return new FirstContact($prop, $other, $shot->planes, $shot->frames, $settings->float('near'), $surfaces);
    }

    public static function lacks(Settings $settings, Shot $shot): ?string
    {
        [$prop, $other] = [$settings->string('prop'), $settings->string('other')];

        return match (true) {
            $prop === '' => 'no prop is chosen that touches',
            $shot->prop($prop) === null, $other !== '' && $shot->prop($other) === null => 'a prop that it names is no longer in the shot',
            $prop === $other => 'a prop cannot touch itself',
            $other === '' && $shot->planes === [] => 'there is no floor to touch',
            default => null,
        };
    }
}
