<?php

declare(strict_types=1);

namespace YardBreak\Core\Document;

/** The frames of a shot, and how long they last. */
final readonly class Timeline
{
    /**
     * @param float $fps frames a second
     * @param int $frames the first is frame 1
     */
    public function __construct(public float $fps = 24.0, public int $frames = 96)
    {
    }
}
