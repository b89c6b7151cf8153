<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Halving: each piece is cut in two, again and again. n rounds give 2^n pieces (common practice, no source), unless a cut
 * leaves loose parts. With the larger pieces first, any number of pieces can be reached. Cuts may be straight or wander
 * like a crack, in smooth curves or torn ({@see Halver}).
 */
final readonly class HalvingPattern implements Pattern
{
    /**
     * @param int $rounds of halving all pieces; with $count above 0 the largest piece is halved until there are that many
     * @param float $wander height of the cut over its plane, in parts of the piece's size
     * @param float $jagged 0: it runs in smooth curves, 1: it is torn
     */
    public function __construct(
        public int $rounds,
        public int $count,
        public int $seed,
        public float $wander,
        public float $jagged = 0.5,
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $halver = new Halver($fracture, $this->seed, $this->wander, $this->jagged);
        if ($this->count > 0) {
            $this->toTheCount($halver, $piece, MassProperties::of($mesh)->volume, $progress);
        } else {
            $this->inRounds($halver, $piece, $progress);
        }
        $halver->finish();
    }

    private function toTheCount(Halver $halver, int $piece, float $whole, Progress $progress): void
    {
        $volume = [$piece => $whole];
        while (count($volume) < $this->count) {
            $largest = (int) array_search(max($volume), $volume, true);
            $parts = $halver->halve($largest);
            if (count($parts) < 2) {
                $volume[$largest] = 0.0;
                if (max($volume) <= 0.0) {
                    break;
                }
                continue;
            }
            foreach ($parts as $part) {
                $volume[$part] = $halver->volume($part);
            }
            $progress->at('pieces', count($volume), $this->count);
        }
    }

    private function inRounds(Halver $halver, int $piece, Progress $progress): void
    {
        $goal = 2 ** $this->rounds;
        $halves = [$piece];
        for ($round = 0; $round < $this->rounds; $round++) {
            foreach ($halves as $half) {
                array_push($halves, ...array_diff($halver->halve($half), [$half]));
                $progress->at('pieces', count($halves), $goal);
            }
            sort($halves);
        }
    }
}
