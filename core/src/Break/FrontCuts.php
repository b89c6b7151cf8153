<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cuts pieces where a front stands every so many frames, so that they can let go bit by bit as it passes. The frames are the
 * same ones for all pieces: cuts of neighbours meet. Each cut is flat, as the front is about where it stands in the piece
 * ({@see FrontPlane}); where it bends too much for that, the piece is halved across first.
 */
final readonly class FrontCuts implements Edit
{
    /** Places of all pieces together at which the front is looked for, and of one piece at least and at most. */
    private const SAMPLES = 15_000;
    private const FEWEST = 48;
    private const MOST = 700;

    /** What the front takes less than this part of a step to pass is not cut off. */
    private const SHORT = 0.3;

    /** A flat cut may leave so many of the places on the wrong side before the piece is halved across, and afterwards. */
    private const BENT = 0.08;
    private const TANGLED = 0.35;

    /** So many times a part of a piece is halved across at most. */
    private const ACROSS = 3;

    /** Smaller than this part of their mean, what a cut takes off is a crumb. */
    private const CRUMB = 0.03;

    /** More pieces than this are of no use to anyone. */
    private const PIECES = 20_000;

    /** @param float $every frames between two cuts, above 0 */
    public function __construct(public Front $front, public float $every)
    {
    }

    public function apply(Fracture $fracture, Progress $progress): void
    {
        $fracture->compact();
        $before = $fracture->pieces;
        $cutter = new PieceCutter($fracture, cutsFollow: true);
        $places = $this->places($cutter->faces, $progress);
        if ($places->soonest === INF) {
            return;
        }
        /** @var list<array{int, list<int>, int}> $left piece, places that stand for it, how many times it was halved across */
        $left = [];
        foreach ($places->of as $piece => $own) {
            $left[] = [$piece, $own, 0];
        }
        $made = [];
        while ($left !== []) {
            [$piece, $own, $across] = array_pop($left);
            $cut = $this->cutting($places, $own, $across);
            if ($cut === null) {
                continue;
            }
            [$plane, $isAcross] = $cut;
            $mesh = $cutter->faces->mesh($piece)[0];
            $region = Region::around($mesh);
            $cells = $cutter->cut($piece, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs($plane->normal, [$plane->at], $region->low, $region->high))));
            if (count($cells) > 1) {
                $made += array_fill_keys(array_keys($cells), true);
            }
            if ($fracture->pieces > self::PIECES) {
                throw new BreakFailed('The front cuts the pieces into more than ' . number_format(self::PIECES) . ' parts. Let it cut less often, or make fewer pieces.');
            }
            $sides = $plane->sides($places, $own);
            foreach ($cells as $part => $cell) {
                // The plane may miss the piece: then those places that lie beside it are left out, and it is looked at again.
                if (count($sides[$cell]) < count($own)) {
                    $left[] = [$part, $sides[$cell], $across + ($isAcross ? 1 : 0)];
                }
            }
            $progress->at('cuts by the front', count($made), count($made) + count($left));
        }
        $this->joinCrumbs($fracture, $made);
        $more = $fracture->pieces - $before;
        if ($more > 0) {
            $fracture->notes[] = number_format($more) . ' more pieces, where the front of the weight cuts them as it passes. Changes made by hand come before that: they are made to whole pieces.';
        }
    }

    /**
     * The next cut through a piece, the one in the middle of those still to come.
     *
     * @param list<int> $own
     *
     * @return array{FrontPlane, bool}|null and whether it only halves the piece across, because the front bends too much
     */
    private function cutting(FrontPlaces $places, array $own, int $across): ?array
    {
        $from = INF;
        $to = -INF;
        foreach ($own as $i) {
            $from = min($from, $places->arrival[$i]);
            $to = max($to, $places->arrival[$i]);
        }
        if ($own === []) {
            return null;
        }
        $first = (int) ceil(($from - $places->soonest) / $this->every + self::SHORT);
        $last = (int) floor(($to - $places->soonest) / $this->every - self::SHORT);
        if ($first > $last) {
            return null;
        }
        $plane = FrontPlane::through($places, $own, $places->soonest + $this->every * intdiv($first + $last, 2), $this->every);
        if ($plane !== null && $plane->wrong <= self::BENT) {
            return [$plane, false];
        }
        if ($across < self::ACROSS) {
            $half = FrontPlane::across($places, $own);

            return $half === null ? null : [$half, true];
        }

        return $plane !== null && $plane->wrong <= self::TANGLED ? [$plane, false] : null;
    }

    /** A lattice over the bounds of each piece, and when the front gets to each place of it. */
    private function places(PieceFaces $faces, Progress $progress): FrontPlaces
    {
        $each = max(self::FEWEST, min(self::MOST, intdiv(self::SAMPLES, max(1, $faces->fracture->pieces))));
        $x = $y = $z = $of = [];
        for ($piece = 0; $piece < $faces->fracture->pieces; $piece++) {
            $first = count($x);
            foreach (self::lattice($faces->mesh($piece)[0], $each) as [$x[], $y[], $z[]]) {
            }
            $of[$piece] = count($x) > $first ? range($first, count($x) - 1) : [];
        }
        $arrival = $this->front->arrivals($x, $y, $z, $progress);
        $there = array_filter($arrival, is_finite(...));
        $soonest = $there === [] ? INF : min($there);
        // Where it never comes counts as long after all others, so that a piece it stops in is cut there.
        $never = $there === [] ? INF : max($there) + 2.0 * $this->every;

        return new FrontPlaces($x, $y, $z, array_map(static fn (float $frame): float => min($frame, $never), $arrival), $of, $soonest);
    }

    /** @return list<array{float, float, float}> at most about so many places, two along each axis at least */
    private static function lattice(TriangleMesh $mesh, int $most): array
    {
        if ($mesh->isEmpty()) {
            return [];
        }
        [$low, $high] = $mesh->bounds();
        $size = array_map(static fn (float $a, float $b): float => $b - $a, $low, $high);
        $step = 0.02 * max($size);
        do {
            $step *= 1.15;
            $counts = array_map(static fn (float $length): int => max(2, 1 + (int) round($length / max($step, 1e-12))), $size);
        } while ($counts[0] * $counts[1] * $counts[2] > $most && max($counts) > 2);
        $places = [];
        for ($i = 0; $i < $counts[0]; $i++) {
            for ($j = 0; $j < $counts[1]; $j++) {
                for ($k = 0; $k < $counts[2]; $k++) {
                    $places[] = [
                        $low[0] + $size[0] * $i / ($counts[0] - 1),
                        $low[1] + $size[1] * $j / ($counts[1] - 1),
                        $low[2] + $size[2] * $k / ($counts[2] - 1),
                    ];
                }
            }
        }

        return $places;
    }

    /** @param array<int, true> $made pieces that cuts have made */
    private function joinCrumbs(Fracture $fracture, array $made): void
    {
        if ($made !== []) {
            $volume = array_intersect_key($fracture->volumes(), $made);
            PieceMerger::crumbs($fracture, $made, self::CRUMB * array_sum($volume) / count($volume));
        }
    }
}
