<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\ClosestPoint;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Web: what a blow makes of glass. Cracks run out from the point in rays, joined by rings that grow wider apart. The cells
 * are those of sites on a polar grid, so rays and rings are straight between the places where they meet.
 */
final readonly class WebPattern implements Pattern
{
    /** How far jitter moves a site along its ray, in parts of the ring's width. */
    private const RING_JITTER = 0.35;

    /** No web is quite even: where all rays met in one line, no wall there would have a width. */
    private const UNEVEN = 1e-2;

    /** Rings that go on outside the radius are this much wider than the last one inside it. */
    private const COARSER = 2.0;

    /**
     * @param list<array{float, float, float}> $points of the blows, in their order
     * @param array{float, float, float} $axis their direction
     * @param float $radius how far the web reaches, m
     * @param float $growth width of a ring in parts of the one before it
     * @param float $jitter 0: as if drawn with compasses, 1: very uneven
     * @param bool $restWhole whether what lies outside stays in one piece; else it breaks coarsely
     */
    public function __construct(
        public int $seed,
        public array $points,
        public array $axis,
        public int $rays,
        public int $rings,
        public float $radius,
        public float $growth,
        public float $jitter,
        public bool $restWhole,
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $struck = [$piece];
        foreach ($this->points as $blow => $point) {
            $cutter = new PieceCutter($fracture, cutsFollow: count($this->points) > 1);
            // A crack ends at the cracks that were there before: a later blow breaks only the piece it strikes.
            $target = $blow === 0 ? $piece : self::nearest($cutter->faces, $struck, $point);
            $part = $blow === 0 ? $mesh : $cutter->faces->mesh($target)[0];
            [$x, $y, $z, $outside] = $this->sites($part, $point, $blow);
            $region = Region::around($part);
            $complex = CellComplex::voronoi($x, $y, $z, $region->low, $region->high);
            $cells = $cutter->cut($target, new CellCutting(CellDiagramBuilder::voronoi($x, $y, $z, $complex, $progress), $progress));
            $struck = array_values(array_unique([...$struck, ...array_keys($cells)]));
            if ($this->restWhole) {
                $now = PieceMerger::groups($fracture, array_fill_keys(array_keys(array_filter($cells, static fn (int $cell): bool => $cell >= $outside)), 0));
                $struck = array_values(array_unique(array_map(static fn (int $k): int => $now[$k], $struck)));
            }
            $progress->at('blows', $blow + 1, count($this->points));
        }
    }

    /**
     * @param list<int> $pieces
     * @param array{float, float, float} $point
     */
    private static function nearest(PieceFaces $faces, array $pieces, array $point): int
    {
        $best = INF;
        $found = $pieces[0];
        foreach ($pieces as $piece) {
            $d = ClosestPoint::distanceSquared($faces->mesh($piece)[0], ...$point);
            if ($d < $best) {
                $best = $d;
                $found = $piece;
            }
        }

        return $found;
    }

    /**
     * @param array{float, float, float} $point
     *
     * @return array{list<float>, list<float>, list<float>, int} places, and the number of the first site outside the radius
     */
    private function sites(TriangleMesh $mesh, array $point, int $blow): array
    {
        $frame = Frame3::about($this->axis);
        $jitter = max(self::UNEVEN, $this->jitter);
        $angles = [];
        $stream = RandomStream::named($this->seed, 'web rays', $blow);
        for ($j = 0; $j < $this->rays; $j++) {
            $angles[] = 2.0 * M_PI * ($j + 0.85 * $jitter * ($stream->float() - 0.5)) / $this->rays;
        }
        $edges = $this->ringEdges($mesh, $point);
        $stream = RandomStream::named($this->seed, 'web rings', $blow);
        $x = $y = $z = [];
        $outside = 0;
        foreach ($edges as $k => [$from, $to]) {
            if ($k === $this->rings) {
                $outside = count($x);
            }
            // Every other ring is turned by a hair, so that no four cells meet in a line.
            $turn = ($k & 1) * 1e-4;
            foreach ($angles as $angle) {
                $r = 0.5 * ($from + $to) + self::RING_JITTER * $jitter * ($to - $from) * ($stream->float() - 0.5);
                $a = $angle + $turn + 0.3 * $jitter / $this->rays * ($stream->float() - 0.5);
                $c = $r * cos($a);
                $s = $r * sin($a);
                $x[] = $point[0] + $c * $frame->u[0] + $s * $frame->v[0];
                $y[] = $point[1] + $c * $frame->u[1] + $s * $frame->v[1];
                $z[] = $point[2] + $c * $frame->u[2] + $s * $frame->v[2];
            }
        }

        return [$x, $y, $z, $outside];
    }

    /**
     * @param array{float, float, float} $point
     *
     * @return list<array{float, float}> inner and outer radius of each ring; those from number $rings on lie outside
     */
    private function ringEdges(TriangleMesh $mesh, array $point): array
    {
        $width = 1.0;
        $total = 0.0;
        $widths = [];
        for ($k = 0; $k < $this->rings; $k++) {
            $widths[] = $width;
            $total += $width;
            $width *= $this->growth;
        }
        $edges = [];
        $at = 0.0;
        foreach ($widths as $w) {
            $edges[] = [$at, $at + $w * $this->radius / $total];
            $at += $w * $this->radius / $total;
        }
        $width = $widths[$this->rings - 1] * $this->radius / $total;
        [$low, $high] = $mesh->bounds();
        $far = 0.0;
        foreach ([0, 1, 2] as $axis) {
            $far += max(abs($low[$axis] - $point[$axis]), abs($high[$axis] - $point[$axis])) ** 2;
        }
        $far = sqrt($far);
        if ($this->restWhole || $at > $far) {
            // As wide as the last ring, so that the web ends at its radius.
            $edges[] = [$at, $at + $width];

            return $edges;
        }
        do {
            $width *= self::COARSER;
            $edges[] = [$at, $at + $width];
            $at += $width;
        } while ($at < $far);

        return $edges;
    }
}
