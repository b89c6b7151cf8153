<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\Kind\GoesByOthers;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\SoftProp;
use YardBreak\Core\Stage\SurfaceChange;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\VertexMover;

/** It squashes, wobbles and rests. */
final class SoftBodies implements MoverKind, GoesByOthers
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        $h = VertexMover::substepOf($shot);
        $settling = VertexMover::settling($shot);
        $fastenings = new Fastenings($shot, $others);
        $bodies = array_map(static fn (Prop $prop, BrokenProp $pieces): SoftProp => new SoftProp($prop, $pieces, $shot->planes, $h, $others, $settling, $fastenings), $props, $broken);

        return new VertexMover($shot, $props, $bodies, $others);
    }

    public static function others(Prop $prop, Surfaces $surfaces): array
    {
        return SurfaceChange::others($prop, $surfaces);
    }
}
