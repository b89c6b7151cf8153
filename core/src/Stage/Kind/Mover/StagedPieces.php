<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\StagedMover;
use YardBreak\Core\Stage\Surfaces;

/** Pieces go a way that is set, and come back. */
final class StagedPieces implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new StagedMover($props, $broken, $others);
    }
}
