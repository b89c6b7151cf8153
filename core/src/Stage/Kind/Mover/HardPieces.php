<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\RigidMover;
use YardBreak\Core\Stage\Surfaces;

/** Pieces fall, collide and come to rest. */
final class HardPieces implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new RigidMover($shot, $props, $broken, $others);
    }
}
