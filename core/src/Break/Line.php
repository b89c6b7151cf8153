<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A cut line drawn across a prop: straight from point to point. */
final readonly class Line
{
    /**
     * @param list<array{float, float}> $points m, along the two axes across the drawing's
     * @param bool $closed whether the last point joins the first
     */
    public function __construct(public array $points, public bool $closed = false)
    {
    }
}
