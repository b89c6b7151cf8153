<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;

/** A change to single pieces, after the pattern: two joined, or one broken again. Pieces are found by their middle. */
final readonly class Edit
{
    /**
     * @param array{float, float, float} $at middle of the piece, m
     * @param array{float, float, float}|null $joinTo middle of the neighbour it is joined to; null: it is broken again
     * @param int $pieces how many pieces it is broken into
     */
    public function __construct(
        public array $at,
        public ?array $joinTo,
        public int $pieces = 2,
        public int $seed = 1,
    ) {
    }

    /**
     * @throws BreakFailed if the two pieces do not touch
     */
    public function apply(Fracture $fracture): void
    {
        $cutter = new PieceCutter($fracture, cutsFollow: true);
        $middles = [];
        for ($piece = 0; $piece < $fracture->pieces; $piece++) {
            $middles[] = MassProperties::of($cutter->faces->mesh($piece)[0])->centre;
        }
        $piece = self::nearest($middles, $this->at);
        if ($this->joinTo === null) {
            $mesh = $cutter->faces->mesh($piece)[0];
            $cutter->cut($piece, (new CellularPattern($this->pieces, $this->seed, 0.3))->diagram($mesh));
            $fracture->compact();

            return;
        }
        $other = self::nearest($middles, $this->joinTo);
        if ($piece === $other) {
            return;
        }
        if (! isset($fracture->sharedAreas()[$piece][$other])) {
            throw new BreakFailed(sprintf('Pieces %d and %d were joined by hand, but do not touch in this break. Undo the join, or remove it from the list of changes.', $piece + 1, $other + 1));
        }
        PieceMerger::groups($fracture, [$piece => 0, $other => 0]);
    }

    /**
     * @param list<array{float, float, float}> $middles
     * @param array{float, float, float} $place
     */
    private static function nearest(array $middles, array $place): int
    {
        $best = 0;
        $least = INF;
        foreach ($middles as $k => [$x, $y, $z]) {
            $d = ($x - $place[0]) ** 2 + ($y - $place[1]) ** 2 + ($z - $place[2]) ** 2;
            if ($d < $least) {
                $least = $d;
                $best = $k;
            }
        }

        return $best;
    }
}
