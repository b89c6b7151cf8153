<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Plane\Pinches;
use YardBreak\Core\Plane\Triangulation;

/**
 * Drawn: straight through the prop along lines the artist drew on it. Lines split what they cross; ends that come near
 * another line or the rim reach it; what ends in the open cuts nothing.
 */
final readonly class DrawnPattern implements Pattern
{
    /** Of the prop's size: ends this near to the rim reach it. */
    private const RIM = 0.01;

    /** Of the prop's size: ends this near to a line reach it. */
    private const SNAP = 1e-4;

    /** Vertices within so many hairs (how far a drawing is moved to keep clear of ties) are one. */
    public const CLEAR = 8.0;

    /** Pieces that turn out to touch themselves are cut again, this often. */
    private const ROUNDS = 4;

    /** Of the prop's size: how far beyond it the drawing reaches. */
    private const MARGIN = 0.1;

    /**
     * @param list<Line> $lines
     * @param int $axis 0: x, 1: y, 2: z, the one that is looked along
     */
    public function __construct(public array $lines, public int $axis)
    {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $drawing = $this->drawing($mesh);
        $open = $drawing->dropLooseEnds();
        if ($open > 0) {
            $fracture->notes[] = $open === 1 ? 'One end of a line lies in the open and cuts nothing there.' : "{$open} ends of lines lie in the open and cut nothing there.";
        }
        $drawing = Pinches::apart($drawing);
        $before = clone $fracture;
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $cutter = new PieceCutter($fracture);
            $prisms = new PrismCutting($drawing, $this->axis);
            $places = $this->pinched($cutter->faces, array_keys($cutter->cut($piece, $prisms)));
            $fracture->blur = max($fracture->blur, self::CLEAR * $prisms->hair());
            if ($places === []) {
                return;
            }
            $fracture->restore(clone $before);
            $drawing = Pinches::apartAt($drawing, $places);
        }
        throw new BreakFailed('Some lines meet so that a piece would hang together by an edge only. Move one of them a little.');
    }

    /**
     * Where a piece touches itself along an edge, seen along the axis.
     *
     * @param list<int> $pieces
     *
     * @return list<array{float, float}>
     */
    private function pinched(PieceFaces $faces, array $pieces): array
    {
        $f = $faces->fracture;
        $axes = [$f->x, $f->y, $f->z];
        $u = $axes[($this->axis + 1) % 3];
        $v = $axes[($this->axis + 2) % 3];
        $places = [];
        foreach ($pieces as $piece) {
            $uses = [];
            foreach ($faces->of($piece) as $face) {
                for ($k = 3 * $face, $e = 0; $e < 3; $e++) {
                    $key = EdgeInserter::key($f->corner[$k + $e], $f->corner[$k + ($e === 2 ? 0 : $e + 1)]);
                    $uses[$key] = ($uses[$key] ?? 0) + 1;
                    if ($uses[$key] === 3) {
                        $places[] = [$u[$f->corner[$k + $e]], $v[$f->corner[$k + $e]]];
                    }
                }
            }
        }

        return $places;
    }

    /** The lines, made to meet. */
    public function drawing(TriangleMesh $mesh): Triangulation
    {
        $axes = [$mesh->x, $mesh->y, $mesh->z];
        $u = $axes[($this->axis + 1) % 3];
        $v = $axes[($this->axis + 2) % 3];
        $rim = self::RIM * $mesh->size();
        [$allU, $allV] = [[min($u ?: [0.0]), max($u ?: [0.0])], [min($v ?: [0.0]), max($v ?: [0.0])]];
        $lines = [];
        /** @var list<array{array{float, float}, array{float, float}}> $beyond ends outside the prop, and where they come from */
        $beyond = [];
        foreach ($this->lines as $line) {
            $points = $line->points;
            $last = count($points) - 1;
            if ($last < 1) {
                continue;
            }
            if ($line->closed) {
                $points[] = $points[0];
            } else {
                foreach ([[0, 1], [$last, $last - 1]] as [$end, $before]) {
                    $over = self::over($points[$end], $points[$before], $rim);
                    if (! self::covered($over, $mesh->triangles, $u, $v)) {
                        $points[$end] = $over;
                        $beyond[] = [$over, $points[$before]];
                    }
                }
            }
            $lines[] = $points;
            array_push($allU, ...array_column($points, 0));
            array_push($allV, ...array_column($points, 1));
        }
        $margin = self::MARGIN * $mesh->size();
        $low = [min($allU) - $margin, min($allV) - $margin];
        $high = [max($allU) + $margin, max($allV) + $margin];
        $drawing = new Triangulation($low, $high, self::SNAP);
        // All points first: then lines find the ends that touch them.
        $numbers = array_map(static fn (array $points): array => array_map(static fn (array $p): int => $drawing->point($p[0], $p[1]), $points), $lines);
        $seams = array_map(static fn (array $end): array => [$drawing->point($end[0][0], $end[0][1]), $drawing->point(...self::toTheBox($end[0], $end[1], $low, $high, 0.5 * $margin))], $beyond);
        foreach ($numbers as $points) {
            for ($k = 1, $end = count($points); $k < $end; $k++) {
                $drawing->line($points[$k - 1], $points[$k]);
            }
        }
        // What ends outside the prop goes on as a seam, so that both its sides are areas of their own; a frame ends the seams.
        foreach ($seams as [$from, $to]) {
            $drawing->line($from, $to, Triangulation::SEAM);
        }
        if ($seams !== []) {
            $m = 0.5 * $margin;
            $frame = array_map(static fn (array $p): int => $drawing->point($p[0], $p[1]), [[$low[0] + $m, $low[1] + $m], [$high[0] - $m, $low[1] + $m], [$high[0] - $m, $high[1] - $m], [$low[0] + $m, $high[1] - $m]]);
            foreach ($frame as $k => $corner) {
                $drawing->line($corner, $frame[($k + 1) % 4], Triangulation::SEAM);
            }
        }

        return $drawing;
    }

    /**
     * Where the continuation of a line meets the frame inside the box.
     *
     * @param array{float, float} $end
     * @param array{float, float} $before
     * @param array{float, float} $low
     * @param array{float, float} $high
     *
     * @return array{float, float}
     */
    private static function toTheBox(array $end, array $before, array $low, array $high, float $margin): array
    {
        $way = INF;
        $d = [$end[0] - $before[0], $end[1] - $before[1]];
        foreach ([0, 1] as $axis) {
            $wall = $d[$axis] > 0.0 ? $high[$axis] - $margin : $low[$axis] + $margin;
            $way = abs($d[$axis]) > 0.0 ? min($way, ($wall - $end[$axis]) / $d[$axis]) : $way;
        }

        return [$end[0] + $way * $d[0], $end[1] + $way * $d[1]];
    }

    /**
     * A place a little farther on than the end of a line.
     *
     * @param array{float, float} $end
     * @param array{float, float} $before
     *
     * @return array{float, float}
     */
    private static function over(array $end, array $before, float $far): array
    {
        $du = $end[0] - $before[0];
        $dv = $end[1] - $before[1];
        $length = max(1e-300, sqrt($du * $du + $dv * $dv));

        return [$end[0] + $far * $du / $length, $end[1] + $far * $dv / $length];
    }

    /**
     * Whether the prop lies under a place of the drawing.
     *
     * @param array{float, float} $place
     * @param array<int, int> $t
     * @param array<int, float> $u
     * @param array<int, float> $v
     */
    private static function covered(array $place, array $t, array $u, array $v): bool
    {
        [$x, $y] = $place;
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            [$a, $b, $c] = [$t[$k], $t[$k + 1], $t[$k + 2]];
            $ab = ($u[$b] - $u[$a]) * ($y - $v[$a]) - ($v[$b] - $v[$a]) * ($x - $u[$a]);
            $bc = ($u[$c] - $u[$b]) * ($y - $v[$b]) - ($v[$c] - $v[$b]) * ($x - $u[$b]);
            $ca = ($u[$a] - $u[$c]) * ($y - $v[$c]) - ($v[$a] - $v[$c]) * ($x - $u[$c]);
            if (($ab > 0.0 && $bc > 0.0 && $ca > 0.0) || ($ab < 0.0 && $bc < 0.0 && $ca < 0.0)) {
                return true;
            }
        }

        return false;
    }
}
