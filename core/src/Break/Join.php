<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Two pieces become one. */
final readonly class Join implements Edit
{
    /**
     * @param array{float, float, float} $at middle of the piece, m
     * @param array{float, float, float} $to middle of the neighbour it is joined to, m
     */
    public function __construct(public array $at, public array $to)
    {
    }

    public function apply(Fracture $fracture, Progress $progress): void
    {
        $middles = Middles::of($fracture);
        $piece = $middles->nearest($this->at);
        $other = $middles->nearest($this->to);
        if ($piece === $other) {
            return;
        }
        if (! isset($fracture->sharedAreas()[$piece][$other])) {
            throw new BreakFailed(sprintf('Pieces %d and %d were joined by hand, but do not touch in this break. Undo the join, or remove it from the list of changes.', $piece + 1, $other + 1));
        }
        PieceMerger::groups($fracture, [$piece => 0, $other => 0]);
    }
}
