<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Web: what a blow makes of glass. Cracks run out from the point in rays, joined by rings that grow wider apart. The cells
 * are those of sites on a polar grid, so rays and rings are straight between the places where they meet.
 */
final readonly class WebPattern implements Pattern
{
    /** How far jitter moves a site along its ray, in parts of the ring's width. */
    private const RING_JITTER = 0.35;

    /** Rings that go on outside the radius are this much wider than the last one inside it. */
    private const COARSER = 2.0;

    /**
     * @param array{float, float, float} $point of the blow
     * @param array{float, float, float} $axis its direction
     * @param float $radius how far the web reaches, m
     * @param float $growth width of a ring in parts of the one before it
     * @param float $jitter 0: as if drawn with compasses, 1: very uneven
     * @param bool $restWhole whether what lies outside stays in one piece; else it breaks coarsely
     */
    public function __construct(
        public int $seed,
        public array $point,
        public array $axis,
        public int $rays,
        public int $rings,
        public float $radius,
        public float $growth,
        public float $jitter,
        public bool $restWhole,
    ) {
    }

    public function cut(Fracture $fracture, TriangleMesh $mesh, Progress $progress): void
    {
        [$x, $y, $z, $outside] = $this->sites($mesh);
        $region = Region::around($mesh);
        $complex = CellComplex::voronoi($x, $y, $z, $region->low, $region->high);
        $cells = (new PieceCutter($fracture, $progress))->cut(0, CellDiagramBuilder::voronoi($x, $y, $z, $complex));
        if ($this->restWhole) {
            PieceMerger::groups($fracture, array_fill_keys(array_keys(array_filter($cells, static fn (int $cell): bool => $cell >= $outside)), 0));
        }
    }

    /** @return array{list<float>, list<float>, list<float>, int} places, and the number of the first site outside the radius */
    private function sites(TriangleMesh $mesh): array
    {
        $frame = Frame3::about($this->axis);
        $angles = [];
        $stream = RandomStream::named($this->seed, 'web rays');
        for ($j = 0; $j < $this->rays; $j++) {
            $angles[] = 2.0 * M_PI * ($j + 0.85 * $this->jitter * ($stream->float() - 0.5)) / $this->rays;
        }
        $edges = $this->ringEdges($mesh);
        $stream = RandomStream::named($this->seed, 'web rings');
        $x = $y = $z = [];
        $outside = 0;
        foreach ($edges as $k => [$from, $to]) {
            if ($k === $this->rings) {
                $outside = count($x);
            }
            // Every other ring is turned by a hair, so that no four cells meet in a line.
            $turn = ($k & 1) * 1e-4;
            foreach ($angles as $angle) {
                $r = 0.5 * ($from + $to) + self::RING_JITTER * $this->jitter * ($to - $from) * ($stream->float() - 0.5);
                $a = $angle + $turn + 0.3 * $this->jitter / $this->rays * ($stream->float() - 0.5);
                $c = $r * cos($a);
                $s = $r * sin($a);
                $x[] = $this->point[0] + $c * $frame->u[0] + $s * $frame->v[0];
                $y[] = $this->point[1] + $c * $frame->u[1] + $s * $frame->v[1];
                $z[] = $this->point[2] + $c * $frame->u[2] + $s * $frame->v[2];
            }
        }

        return [$x, $y, $z, $outside];
    }

    /** @return list<array{float, float}> inner and outer radius of each ring; those from number $rings on lie outside */
    private function ringEdges(TriangleMesh $mesh): array
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
            $far += max(abs($low[$axis] - $this->point[$axis]), abs($high[$axis] - $this->point[$axis])) ** 2;
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
