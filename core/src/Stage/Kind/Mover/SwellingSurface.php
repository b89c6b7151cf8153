<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\Surfaces;
use YardBreak\Core\Stage\SwellMover;

/** Its surface rises in bumps. */
final class SwellingSurface implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new SwellMover($props, $broken, $others);
    }
}
