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

    /** Faces at most, those counted that were cut up on the way; more do not fit in memory. */
    private const MOST = 1_000_000;

    /** Noise seldom comes nearer to its bounds than two thirds of the way. */
    private const REACH = 1.5;

    /** A sheet rises by this part of the noise's slope at most: steeper ones would cross those of other cuts. */
    private const STEEPEST = 1.2;

    /** Width of the largest waves of a wandering cut, in parts of the piece's size. */
    private const WAVE = 0.4;

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
        $straight = 0;
        if ($this->count > 0) {
            $this->toTheCount($cutter, $fracture, $piece, MassProperties::of($mesh)->volume, $straight, $progress);
        } else {
            $this->inRounds($cutter, $fracture, $piece, $straight, $progress);
        }
        if ($this->wander > 0.0) {
            // Neighbours have got vertices along the cuts too, even those that only touch along an edge.
            $all = range(0, $fracture->pieces - 1);
            Flaps::fold($cutter->faces, $all);
            Flaps::part($cutter->faces, $all);
        }
        if ($straight > 0) {
            $fracture->notes[] = "{$straight} of the cuts could not wander without crossing others, and were made straight or left out. Lower Wandering cuts or Jagged to have them all wander.";
        }
    }

    private function toTheCount(PieceCutter $cutter, Fracture $fracture, int $piece, float $whole, int &$straight, Progress $progress): void
    {
        $number = 0;
        $volume = [$piece => $whole];
        while (count($volume) < $this->count) {
            $largest = (int) array_search(max($volume), $volume, true);
            $parts = $this->halve($cutter, $fracture, $largest, $number++, $straight);
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
    }

    private function inRounds(PieceCutter $cutter, Fracture $fracture, int $piece, int &$straight, Progress $progress): void
    {
        $number = 0;
        $goal = 2 ** $this->rounds;
        $halves = [$piece];
        for ($round = 0; $round < $this->rounds; $round++) {
            foreach ($halves as $half) {
                array_push($halves, ...array_diff(array_keys($this->halve($cutter, $fracture, $half, $number++, $straight)), [$half]));
                $progress->at('pieces', count($halves), $goal);
            }
            sort($halves);
        }
    }

    /**
     * @param int $straight counts the cuts that could not wander
     *
     * @return array<int, int>
     */
    private function halve(PieceCutter $cutter, Fracture $fracture, int $piece, int $number, int &$straight): array
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
        if ($fracture->faceCount() > self::MOST) {
            throw new BreakFailed('Cuts that wander this far make too many triangles for so many pieces. Lower Wandering cuts or Jagged, or make fewer pieces.');
        }
        if ($this->wander > 0.0) {
            try {
                return $this->wandering($cutter, $fracture, $piece, $best, $at, $number);
            } catch (BreakFailed) {
                $straight++;
            }
        }
        try {
            $region = Region::around($mesh);

            return $cutter->cut($piece, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs($best, [$at], $region->low, $region->high))));
        } catch (BreakFailed $refused) {
            if ($this->wander <= 0.0) {
                throw $refused;
            }

            // Cuts that wandered far have left it crossing itself: it stays as it is.
            return [$piece => 0];
        }
    }

    /**
     * @param array{float, float, float} $normal
     *
     * @return array<int, int>
     *
     * @throws BreakFailed if the cut would meet what earlier ones have left too closely; then nothing is cut
     */
    private function wandering(PieceCutter $cutter, Fracture $fracture, int $piece, array $normal, float $at, int $number): array
    {
        $size = $cutter->faces->mesh($piece)[0]->size();
        $fineness = (self::SMOOTH + $this->jagged * (self::TORN - self::SMOOTH)) * $size;
        $sheet = $this->sheet($normal, $at, $size, $number);
        $this->refineSkin($cutter->faces, $piece, $fineness, $sheet);
        $region = Region::around($sheet->flattened($cutter->faces->mesh($piece)[0]));
        $diagram = CellDiagramBuilder::general(CellComplex::slabs($normal, [$at], $region->low, $region->high));
        $firstWall = intdiv(count($fracture->wall), 3);
        $parts = $cutter->cut($piece, new CellCutting($diagram), $sheet->flattened(...), $sheet->back(...));
        // The sheet itself gets inner vertices, lifted onto it; those along its rim are where the skin is cut.
        $inSheet = static fn (int $face): bool => $fracture->origin[$face] < -$firstWall;
        foreach ((new WallFiller($cutter->faces))->fill(array_keys($parts), $fineness, $inSheet, $normal) as $v) {
            [$fracture->x[$v], $fracture->y[$v], $fracture->z[$v]] = $sheet->onto($fracture->x[$v], $fracture->y[$v], $fracture->z[$v]);
        }
        $changed = array_keys($parts);
        Flaps::fold($cutter->faces, $changed);
        Flaps::part($cutter->faces, $changed);

        return $parts;
    }

    /** @param array{float, float, float} $normal */
    private function sheet(array $normal, float $at, float $size, int $number): WanderingSheet
    {
        $octaves = $this->jagged > 0.0 ? self::OCTAVES : 1;
        $fade = self::FADE * $this->jagged;
        $sum = static fn (float $ratio): float => array_sum(array_map(static fn (int $o): float => $ratio ** $o, range(0, $octaves - 1)));
        $width = self::WAVE * $size;
        // As high whether it is smooth or torn, but nowhere too steep.
        $height = min(self::REACH * $this->wander * $size / $sum($fade), self::STEEPEST * $width / $sum(2.0 * $fade));

        return new WanderingSheet(GradientNoise::seeded($this->seed, "wandering cut {$number}"), $normal, $at, $height, $width, $octaves, $fade);
    }

    /** Makes the skin finer that the sheet may cross, so that the edge of the cut wanders there too. */
    private function refineSkin(PieceFaces $faces, int $piece, float $fineness, WanderingSheet $sheet): void
    {
        $f = $faces->fracture;
        // No place of a triangle lies farther from a corner than 0.58 of its longest side.
        $near = (0.6 * (1.0 + $sheet->steepness())) ** 2;
        $distance = [];
        (new PieceRefiner($faces))->refine([$piece], $fineness, static function (int $face) use ($f, $sheet, $near, &$distance): bool {
            $longest = 0.0;
            $nearest = INF;
            $before = 0;
            for ($e = 0; $e < 3; $e++) {
                $v = $f->corner[3 * $face + $e];
                $w = $f->corner[3 * $face + ($e + 1) % 3];
                $d = $distance[$v] ??= $sheet->distance($f->x[$v], $f->y[$v], $f->z[$v]);
                $before += $d > 0.0 ? 1 : 0;
                $nearest = min($nearest, $d * $d);
                $longest = max($longest, ($f->x[$w] - $f->x[$v]) ** 2 + ($f->y[$w] - $f->y[$v]) ** 2 + ($f->z[$w] - $f->z[$v]) ** 2);
            }

            return $before === 1 || $before === 2 || $nearest < $near * $longest;
        });
    }
}
