<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\ClothMover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\Surfaces;

/** It hangs, folds and falls as cloth. */
final class ClothSheets implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new ClothMover($shot, $props, $broken, $others);
    }
}
