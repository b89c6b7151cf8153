<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** One piece is broken again, by a pattern of its own. */
final readonly class BreakAgain implements Edit
{
    /** @param array{float, float, float} $at middle of the piece, m */
    public function __construct(public array $at, public Pattern $pattern)
    {
    }

    public function apply(Fracture $fracture, Progress $progress): void
    {
        $piece = Middles::of($fracture)->nearest($this->at);
        $this->pattern->cut($fracture, $piece, (new PieceFaces($fracture))->mesh($piece)[0], $progress);
        $fracture->compact();
    }
}
