<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\HardProp;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\Kind\MovesHard;
use YardBreak\Core\Stage\StagedHardProp;
use YardBreak\Core\Stage\StagedMover;
use YardBreak\Core\Stage\Surfaces;

/** Pieces go a way that is set, and come back, or are let go into the world of hard pieces. */
final class StagedPieces implements MoverKind, MovesHard
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new StagedMover($props, $broken, $others);
    }

    public static function isHard(Settings $settings): bool
    {
        return $settings->string('after') !== 'stays';
    }

    public static function hard(Prop $prop, BrokenProp $broken, RigidWorld $world, int $group, Surfaces $others): HardProp
    {
        return new StagedHardProp($prop, $broken, $world, $group, $others);
    }
}
