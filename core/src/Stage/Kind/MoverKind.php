<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\Surfaces;

/** A way to move: one mover for all props of a shot that chose it. */
interface MoverKind
{
    /**
     * @param list<Prop> $props that chose it
     * @param list<BrokenProp> $broken their pieces
     * @param Surfaces $others what their weights see of other props
     *
     * @throws BadDocument if settings contradict each other
     * @throws BreakFailed if their pieces cannot be moved so
     */
    public static function make(Shot $shot, array $props, array $broken, Surfaces $others): Mover;
}
