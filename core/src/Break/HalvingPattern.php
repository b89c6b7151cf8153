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
    /** Smaller than this part of the volume that a piece is to have, it is a crumb. */
    private const CRUMB = 0.02;

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
        $whole = MassProperties::of($mesh)->volume;
        $crumb = self::CRUMB * $whole / ($this->count > 0 ? $this->count : 2 ** $this->rounds);
        $parts = $this->count > 0 ? $this->toTheCount($halver, $piece, $whole, $crumb, $progress) : $this->inRounds($halver, $piece, $crumb, $progress);
        $halver->finish();
        // The tip of a tooth that a cut takes off stays on what it stood out of.
        PieceMerger::crumbs($fracture, array_fill_keys($parts, true), $crumb);
    }

    /** @return list<int> the pieces that came of it */
    private function toTheCount(Halver $halver, int $piece, float $whole, float $crumb, Progress $progress): array
    {
        $volume = [$piece => $whole];
        $count = 1;
        while ($count < $this->count) {
            $largest = (int) array_search(max($volume), $volume, true);
            $parts = $halver->halve($largest);
            if (count($parts) < 2) {
                $volume[$largest] = 0.0;
                if (max($volume) <= 0.0) {
                    break;
                }
                continue;
            }
            $count--;
            foreach ($parts as $part) {
                $volume[$part] = $halver->volume($part);
                $count += $volume[$part] < $crumb ? 0 : 1;
            }
            $progress->at('pieces', $count, $this->count);
        }

        return array_keys($volume);
    }

    /** @return list<int> the pieces that came of it */
    private function inRounds(Halver $halver, int $piece, float $crumb, Progress $progress): array
    {
        $goal = 2 ** $this->rounds;
        $halves = [$piece];
        $crumbs = [];
        for ($round = 0; $round < $this->rounds; $round++) {
            foreach ($halves as $half) {
                foreach (array_diff($halver->halve($half), [$half]) as $part) {
                    if ($halver->volume($part) < $crumb) {
                        $crumbs[] = $part;
                    } else {
                        $halves[] = $part;
                    }
                }
                $progress->at('pieces', count($halves), $goal);
            }
            sort($halves);
        }

        return [...$halves, ...$crumbs];
    }
}
