<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\Carries;
use YardBreak\Core\Stage\Kind\GoesByOthers;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\SurfaceChange;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\SwellMover;
use YardBreak\Core\Stage\SwellProp;
use YardBreak\Core\Weight\Samples;

/** Its surface becomes that of another prop. */
final class ChangingShape implements MoverKind, Carries, GoesByOthers
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new SwellMover($props, $broken, $others);
    }

    public static function carrier(Prop $prop, Samples $at, Surfaces $others): Closure
    {
        $change = SwellProp::carries($prop, $at, $others);

        return static fn (float $frame): array => $change->places($frame, $change->progress($frame));
    }

    public static function others(Prop $prop, Surfaces $surfaces): array
    {
        return SurfaceChange::others($prop, $surfaces);
    }
}
