<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Mover;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\Kind\MoverKind;
use YardBreak\Core\Stage\SetMover;
use YardBreak\Core\Stage\Surfaces;

/** Its pieces stand on another prop. */
final class SetOnASurface implements MoverKind
{
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover
    {
        return new SetMover($shot, $props, $broken, $others);
    }
}
