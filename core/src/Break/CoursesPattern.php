<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Courses: layers of bricks or tiles along an axis, straight or round about it, or hexagonal columns. Rows are cut first,
 * then each row by itself, so that joints of one row need not meet those of the next. A joint wider than nothing is taken
 * away.
 */
final readonly class CoursesPattern implements Pattern
{
    public const BRICK = 'brick';

    public const ROUND = 'round';

    public const HEXAGON = 'hexagon';

    /** Most bricks; more would take minutes. */
    private const MOST = 5_000;

    /** Radius of the core of round courses at most, in parts of the prop's. */
    private const CORE = 0.3;

    /** What is left at the end of a row is no brick of its own if it is smaller than this part of one. */
    private const REST = 0.2;

    /** How far the rows of hexagons lie apart, in parts of their width: sqrt(3) / 2. */
    private const RISE = 0.8660254037844386;

    /** Bricks lie up to this far out of line, in parts of a brick, as masons lay them: four of them never meet in one place. */
    private const HAIR = 0.015;

    /** Walls of the core in the middle of a course round about: to each brick, or to its halves and their joint. */
    private const MOST_ROUND = 240;

    /**
     * @param string $kind one of BRICK, ROUND, HEXAGON
     * @param array{float, float, float} $axis rows are stacked along it
     * @param float $length of a brick along the row, m; of a hexagon across
     * @param float $height of a row, m
     * @param float $depth of a brick across the wall, m; 0: as deep as the wall
     * @param float $offset of every other row, in parts of a brick
     * @param float $joint width, m
     * @param float $variety 0: all alike, 1: very uneven
     */
    public function __construct(
        public string $kind,
        public int $seed,
        public array $axis,
        public float $length,
        public float $height,
        public float $depth,
        public float $offset,
        public float $joint,
        public float $variety,
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        $region = Region::around($mesh);
        $frame = self::alongTheWall(Frame3::about($this->axis), $region);
        $cutter = new PieceCutter($fracture, cutsFollow: true);
        $this->limit($mesh, $frame);
        $joints = [];
        $rows = $this->slabs($cutter, [$piece => 0], $frame->axis, $this->height, 'rows', $mesh, $joints);
        $bricks = match ($this->kind) {
            self::HEXAGON => $this->hexagons($cutter, $rows, $frame, $region),
            self::ROUND => $this->wedges($cutter, $rows, $frame, $region, $joints, $progress),
            default => $this->slabs($cutter, $rows, $frame->u, $this->length, 'bricks', $mesh, $joints),
        };
        if ($this->depth > 0.0 && $this->kind === self::BRICK) {
            $this->slabs($cutter, $bricks, $frame->v, $this->depth, 'depth', $mesh, $joints);
        }
        $left = $fracture->discard(array_keys($joints));
        if ($this->kind === self::ROUND && $this->joint > 0.0) {
            $halves = [];
            foreach ($left as $before => $now) {
                $halves[$now] = $bricks[$before];
            }
            PieceMerger::groups($fracture, $halves);
        }
    }

    /** @throws BreakFailed if there would be more bricks than anyone can wait for */
    private function limit(TriangleMesh $mesh, Frame3 $frame): void
    {
        [$wide, $deep, $high] = array_map(static function (array $way) use ($mesh): float {
            [$from, $to] = $mesh->extent($way);

            return $to - $from;
        }, [$frame->u, $frame->v, $frame->axis]);
        $bricks = max(1.0, $high / $this->height) * match ($this->kind) {
            self::ROUND => M_PI * max($wide, $deep) / $this->length,
            self::HEXAGON => $wide * $deep / (self::RISE * $this->length * $this->length),
            default => max(1.0, $wide / $this->length) * ($this->depth > 0.0 ? max(1.0, $deep / $this->depth) : 1.0),
        };
        if ($bricks > self::MOST) {
            throw new BreakFailed(sprintf('That would be about %s bricks; at most %s are laid. Make them larger.', number_format($bricks), number_format(self::MOST)));
        }
    }

    /** Rows run along the prop's longer side across the axis. */
    private static function alongTheWall(Frame3 $frame, Region $region): Frame3
    {
        [$u0, $u1] = $region->along($frame->u);
        [$v0, $v1] = $region->along($frame->v);

        return $v1 - $v0 > $u1 - $u0 ? $frame->turned() : $frame;
    }

    /**
     * Cuts pieces across a direction at even distances. Each piece carries a row number; odd rows are shifted.
     *
     * @param array<int, int> $pieces row by piece
     * @param array{float, float, float} $direction
     * @param TriangleMesh $whole what the rows and bricks are laid out in
     * @param array<int, true> $joints pieces that are joints; more are added
     *
     * @return array<int, int> row (and more) by piece
     */
    private function slabs(PieceCutter $cutter, array $pieces, array $direction, float $width, string $purpose, TriangleMesh $whole, array &$joints): array
    {
        [$from, $to] = $whole->extent($direction);
        $result = [];
        $planes = [];
        foreach ($pieces as $piece => $row) {
            $planes[$row] ??= $this->planes($from, $to, $width, $row, $purpose);
            if ($planes[$row] === []) {
                $result[$piece] = $row;
                continue;
            }
            $mesh = $cutter->faces->mesh($piece)[0];
            $own = Region::around($mesh);
            [$low, $high] = $own->along($direction);
            // Only the planes that may meet the piece.
            $first = 0;
            while ($first < count($planes[$row]) && $planes[$row][$first] < $low) {
                $first++;
            }
            $near = array_values(array_filter($planes[$row], static fn (float $at): bool => $at > $low && $at < $high));
            $parts = $near === [] ? [$piece => 0] : $cutter->cut($piece, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs($direction, $near, $own->low, $own->high))));
            foreach ($parts as $part => $cell) {
                $number = $first + $cell;
                if ($this->joint > 0.0) {
                    if (($number & 1) === 1) {
                        $joints[$part] = true;
                        continue;
                    }
                    $number >>= 1;
                }
                $result[$part] = $purpose === 'rows' ? $number : 7919 * $row + $number;
            }
        }

        return $result;
    }

    /**
     * Rows are laid from the bottom. Bricks are laid so that a row begins and ends alike, with whole bricks where they fit;
     * a rest too small to be one is part of the brick beside it.
     *
     * @return list<float>
     */
    private function planes(float $from, float $to, float $width, int $row, string $purpose): array
    {
        $stream = RandomStream::named($this->seed, "courses {$purpose}", $row);
        // A hair off, so that planes do not run along the edges of an evenly divided mesh either.
        $hair = self::HAIR * (0.2 + 0.6 * $stream->float());
        $shift = $purpose === 'bricks' ? $this->offset * ($row & 1) : 0.0;
        $half = 0.5 * min($this->joint, 0.9 * $width);
        $whole = max(1.0, round(($to - $from) / $width));
        $start = $purpose === 'rows' ? $from : 0.5 * ($from + $to - $whole * $width);
        $rest = self::REST * $width + $half;
        $planes = [];
        for ($i = -1, $end = (int) $whole + 1; $i <= $end; $i++) {
            $at = $start + $width * ($i + $shift + $hair + 0.45 * $this->variety * ($stream->float() - 0.5));
            if ($at - $from < $rest || $to - $at < $rest) {
                continue;
            }
            if ($half > 0.0) {
                $planes[] = $at - $half;
                $planes[] = $at + $half;
            } else {
                $planes[] = $at;
            }
        }

        return $planes;
    }

    /**
     * Bricks round about the axis: each row is cut by half planes through the middle of the prop.
     *
     * @param array<int, int> $rows
     * @param array<int, true> $joints
     *
     * @return array<int, int>
     */
    private function wedges(PieceCutter $cutter, array $rows, Frame3 $frame, Region $region, array &$joints, Progress $progress): array
    {
        $middle = [0.5 * ($region->low[0] + $region->high[0]), 0.5 * ($region->low[1] + $region->high[1]), 0.5 * ($region->low[2] + $region->high[2])];
        $bricks = [];
        $done = 0;
        foreach ($rows as $piece => $row) {
            $mesh = $cutter->faces->mesh($piece)[0];
            $radius = 0.0;
            foreach ($mesh->x as $i => $x) {
                $d = [$x - $middle[0], $mesh->y[$i] - $middle[1], $mesh->z[$i] - $middle[2]];
                $u = $d[0] * $frame->u[0] + $d[1] * $frame->u[1] + $d[2] * $frame->u[2];
                $v = $d[0] * $frame->v[0] + $d[1] * $frame->v[1] + $d[2] * $frame->v[2];
                $radius = max($radius, $u * $u + $v * $v);
            }
            $radius = sqrt($radius);
            $count = max(3, (int) round(2.0 * M_PI * $radius / $this->length));
            $stream = RandomStream::named($this->seed, 'courses wedges', $row);
            // Sites on a circle: the walls between neighbours all pass through the middle, where a core takes their ends. With
            // joints a brick has two sites (its halves are joined again), as far from the joint's own as the joint is wide.
            $gap = min(0.3, $this->joint / $this->length);
            $most = intdiv(self::MOST_ROUND, $gap > 0.0 ? 3 : 1);
            if ($count > $most) {
                throw new BreakFailed(sprintf('A course round about would have %s bricks; at most %d are laid. Make them longer.', number_format($count), $most));
            }
            $shift = $this->offset * ($row & 1) + self::HAIR * $stream->float();
            $turns = [];
            for ($j = 0; $j < $count; $j++) {
                $turns[] = $j + $shift + 0.3 * $this->variety * ($stream->float() - 0.5);
            }
            $turns[] = $turns[0] + $count;
            // The core comes first: once it is cut off, no wall meets another at the middle.
            [$x, $y, $z] = [[$middle[0]], [$middle[1]], [$middle[2]]];
            for ($j = 0; $j < $count; $j++) {
                foreach ($gap > 0.0 ? [$turns[$j], $turns[$j] + $gap, $turns[$j + 1] - $gap] : [$turns[$j]] as $turn) {
                    $angle = 2.0 * M_PI * $turn / $count;
                    $c = $radius * cos($angle);
                    $s = $radius * sin($angle);
                    $x[] = $middle[0] + $c * $frame->u[0] + $s * $frame->v[0];
                    $y[] = $middle[1] + $c * $frame->u[1] + $s * $frame->v[1];
                    $z[] = $middle[2] + $c * $frame->u[2] + $s * $frame->v[2];
                }
            }
            $own = Region::around($mesh);
            $complex = CellComplex::voronoi($x, $y, $z, $own->low, $own->high);
            $core = min(0.5 * $this->length, self::CORE * $radius);
            $parts = $cutter->cut($piece, new CellCutting(CellDiagramBuilder::general($complex->lifted(0, $radius * $radius - 2.0 * $radius * $core))));
            foreach ($parts as $part => $cell) {
                if ($gap > 0.0 && $cell % 3 === 1) {
                    $joints[$part] = true;
                } else {
                    $bricks[$part] = 7919 * $row + ($gap > 0.0 ? intdiv($cell + 2, 3) : $cell);
                }
            }
            $progress->at('rows', ++$done, count($rows));
        }

        return $bricks;
    }

    /**
     * @param array<int, int> $rows
     *
     * @return array<int, int>
     */
    private function hexagons(PieceCutter $cutter, array $rows, Frame3 $frame, Region $region): array
    {
        [$u0, $u1] = $region->along($frame->u);
        [$v0, $v1] = $region->along($frame->v);
        $w = $this->length;
        $rise = self::RISE * $w;
        $stream = RandomStream::named($this->seed, 'courses hexagons');
        $x = $y = $z = [];
        for ($j = 0, $v = $v0; $v < $v1 + $rise; $j++, $v += $rise) {
            for ($u = $u0 + 0.5 * $w * ($j & 1); $u < $u1 + $w; $u += $w) {
                $pu = $u + 0.5 * $this->variety * $w * ($stream->float() - 0.5);
                $pv = $v + 0.5 * $this->variety * $w * ($stream->float() - 0.5);
                $x[] = $pu * $frame->u[0] + $pv * $frame->v[0];
                $y[] = $pu * $frame->u[1] + $pv * $frame->v[1];
                $z[] = $pu * $frame->u[2] + $pv * $frame->v[2];
            }
        }
        $result = [];
        foreach ($rows as $piece => $row) {
            $own = Region::around($cutter->faces->mesh($piece)[0]);
            $shift = self::HAIR * $w * RandomStream::named($this->seed, 'courses hexagon rows', $row)->float() + $this->offset * ($row & 1) * $w;
            $sx = array_map(static fn (float $a): float => $a + $shift * $frame->u[0], $x);
            $sy = array_map(static fn (float $a): float => $a + $shift * $frame->u[1], $y);
            $sz = array_map(static fn (float $a): float => $a + $shift * $frame->u[2], $z);
            $parts = $cutter->cut($piece, new CellCutting(CellDiagramBuilder::voronoi($sx, $sy, $sz, CellComplex::voronoi($sx, $sy, $sz, $own->low, $own->high))));
            foreach ($parts as $part => $cell) {
                $result[$part] = 7919 * $row + $cell;
            }
        }

        return $result;
    }
}
