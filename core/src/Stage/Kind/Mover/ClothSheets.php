<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\ClothProp;
use YardBreak\Core\Stage\ClothSettings;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\Kind\GoesByOthers;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\SurfaceChange;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\VertexMover;

/** It hangs, folds and falls as cloth. */
final class ClothSheets implements MoverKind, GoesByOthers
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        $h = VertexMover::substepOf($shot);
        $settling = VertexMover::settling($shot);
        $fastenings = new Fastenings($shot, $others);
        $cloths = array_map(static fn (Prop $prop, BrokenProp $pieces): ClothProp => new ClothProp($prop, ClothSettings::read($prop->mover->settings), $pieces, $shot->planes, $h, $others, $settling, $fastenings), $props, $broken);

        return new VertexMover($shot, $props, $cloths, $others);
    }

    public static function others(Prop $prop, Surfaces $surfaces): array
    {
        return SurfaceChange::others($prop, $surfaces);
    }
}
