<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Halving: each piece is cut in two, again and again. n rounds give 2^n pieces (common practice, no source), unless a cut
 * leaves loose parts. With the larger pieces first, any number of pieces can be reached. Cuts may be straight or wander
 * like a crack, in smooth curves or torn (a sheet whose height over the plane is layered noise).
 */
final readonly class HalvingPattern implements Pattern
{
    /** Layers of noise in a wandering cut. */
    private const OCTAVES = 3;

    /** How far from the middle a cut may lie, in parts of the piece's half width. */
    private const OFF_CENTRE = 0.25;

    /** Edges along a wandering cut are made about this long, in parts of the piece's size: where it is smooth, and where it is torn. */
    private const SMOOTH = 0.09;
    private const TORN = 0.045;

    /** How strong each layer of noise is where a cut is torn, in parts of the one before. */
    private const FADE = 0.75;

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
        $cutter = new PieceCutter($fracture, cutsFollow: true);
        $number = 0;
        if ($this->count > 0) {
            $volume = [$piece => MassProperties::of($mesh)->volume];
            while (count($volume) < $this->count) {
                $largest = (int) array_search(max($volume), $volume, true);
                $parts = $this->halve($cutter, $fracture, $largest, $number++);
                if (count($parts) < 2) {
                    $volume[$largest] = 0.0;
                    if (max($volume) <= 0.0) {
                        break;
                    }
                    continue;
                }
                foreach (array_keys($parts) as $part) {
                    $volume[$part] = MassProperties::of($cutter->faces->mesh($part)[0])->volume;
                }
                $progress->at('pieces', count($volume), $this->count);
            }

            return;
        }
        $goal = 2 ** $this->rounds;
        $halves = [$piece];
        for ($round = 0; $round < $this->rounds; $round++) {
            foreach ($halves as $half) {
                array_push($halves, ...array_diff(array_keys($this->halve($cutter, $fracture, $half, $number++)), [$half]));
                $progress->at('pieces', count($halves), $goal);
            }
            sort($halves);
        }
    }

    /** @return array<int, int> */
    private function halve(PieceCutter $cutter, Fracture $fracture, int $piece, int $number): array
    {
        [$mesh] = $cutter->faces->mesh($piece);
        $mass = MassProperties::of($mesh);
        $stream = RandomStream::named($this->seed, 'halving', $number);
        // The longest of a few random directions, so that long pieces are cut across.
        $best = [0.0, 1.0, 0.0];
        $span = [0.0, 0.0];
        foreach ([0, 1, 2] as $try) {
            $direction = $stream->direction();
            $reach = $mesh->extent($direction);
            if ($reach[1] - $reach[0] > $span[1] - $span[0]) {
                $best = $direction;
                $span = $reach;
            }
        }
        $at = $best[0] * $mass->centre[0] + $best[1] * $mass->centre[1] + $best[2] * $mass->centre[2]
            + self::OFF_CENTRE * ($stream->float() - 0.5) * ($span[1] - $span[0]);
        if ($this->wander <= 0.0) {
            $region = Region::around($mesh);

            return $cutter->cut($piece, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs($best, [$at], $region->low, $region->high))));
        }
        $size = $mesh->size();
        $height = $this->wander * $size;
        $refiner = new PieceRefiner($cutter->faces);
        $fineness = (self::SMOOTH + $this->jagged * (self::TORN - self::SMOOTH)) * $size;
        // The skin near the cut, so that its edge wanders there too.
        $refiner->refine([$piece], $fineness, static function (int $face) use ($fracture, $best, $at, $height): bool {
            $from = INF;
            $to = -INF;
            for ($k = 3 * $face; $k < 3 * $face + 3; $k++) {
                $v = $fracture->corner[$k];
                $t = $best[0] * $fracture->x[$v] + $best[1] * $fracture->y[$v] + $best[2] * $fracture->z[$v] - $at;
                $from = $t < $from ? $t : $from;
                $to = $t > $to ? $t : $to;
            }

            return $from < 2.0 * $height && $to > -2.0 * $height;
        });
        $noise = GradientNoise::seeded($this->seed, "wandering cut {$number}");
        $scale = 2.5 / $size;
        [$octaves, $fade] = [$this->jagged > 0.0 ? self::OCTAVES : 1, self::FADE * $this->jagged];
        $rise = static function (float $x, float $y, float $z) use ($noise, $scale, $height, $best, $octaves, $fade): float {
            $t = $best[0] * $x + $best[1] * $y + $best[2] * $z;

            return $height * $noise->layered(($x - $t * $best[0]) * $scale, ($y - $t * $best[1]) * $scale, ($z - $t * $best[2]) * $scale, $octaves, $fade);
        };
        $warp = static function (TriangleMesh $part) use ($rise, $best): TriangleMesh {
            [$x, $y, $z] = [$part->x, $part->y, $part->z];
            foreach ($x as $i => $px) {
                $h = $rise($px, $y[$i], $z[$i]);
                $x[$i] = $px - $h * $best[0];
                $y[$i] -= $h * $best[1];
                $z[$i] -= $h * $best[2];
            }

            return new TriangleMesh($x, $y, $z, $part->triangles);
        };
        $unwarp = static function (float $x, float $y, float $z) use ($rise, $best): array {
            $h = $rise($x, $y, $z);

            return [$x + $h * $best[0], $y + $h * $best[1], $z + $h * $best[2]];
        };
        $region = Region::around($warp($cutter->faces->mesh($piece)[0]));
        $diagram = CellDiagramBuilder::general(CellComplex::slabs($best, [$at], $region->low, $region->high));

        $firstWall = intdiv(count($fracture->wall), 3);
        $parts = $cutter->cut($piece, new CellCutting($diagram), $warp, $unwarp);
        // The sheet itself gets inner vertices, lifted onto it; those along its rim are where the skin is cut.
        $inSheet = static fn (int $face): bool => $fracture->origin[$face] < -$firstWall;
        $new = (new WallFiller($cutter->faces))->fill(array_keys($parts), $fineness, $inSheet, $best);
        foreach ($new as $v) {
            [$x, $y, $z] = [$fracture->x[$v], $fracture->y[$v], $fracture->z[$v]];
            $lift = $at + $rise($x, $y, $z) - ($best[0] * $x + $best[1] * $y + $best[2] * $z);
            $fracture->x[$v] += $lift * $best[0];
            $fracture->y[$v] += $lift * $best[1];
            $fracture->z[$v] += $lift * $best[2];
        }

        return $parts;
    }
}
