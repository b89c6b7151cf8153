<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\LightMover;
use YardBreak\Core\Stage\Surfaces;

/** Pieces drift with the air and come down. */
final class LightPieces implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new LightMover($shot, $props, $broken, $others);
    }
}
