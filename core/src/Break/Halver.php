<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/** Cuts pieces of a fracture in two, one after the other: straight, or along a sheet that wanders. */
final class Halver
{
    /** Faces that wandering cuts add at most, those counted that were cut up on the way; more do not fit in memory. */
    private const MOST = 1_000_000;

    /** How far from the middle a cut may lie, in parts of the piece's half width. */
    private const OFF_CENTRE = 0.25;

    /** Edges along a wandering cut are made about this long, in parts of the piece's size: where it is smooth, and where it is torn. */
    private const SMOOTH = 0.09;
    private const TORN = 0.045;

    private readonly PieceCutter $cutter;

    private readonly int $facesBefore;

    private int $number = 0;

    /** @var int cuts that could not wander */
    private int $straight = 0;

    /**
     * @param float $wander height of a cut over its plane, in parts of the piece's size
     * @param float $jagged 0: it runs in smooth curves, 1: it is torn
     */
    public function __construct(
        private readonly Fracture $fracture,
        private readonly int $seed,
        private readonly float $wander,
        private readonly float $jagged,
    ) {
        $this->cutter = new PieceCutter($fracture, cutsFollow: true);
        $this->facesBefore = $fracture->faceCount();
    }

    public function volume(int $piece): float
    {
        return MassProperties::of($this->cutter->faces->mesh($piece)[0])->volume;
    }

    /**
     * @return list<int> the pieces that come of it; the piece alone if the cut left it whole
     *
     * @throws BreakFailed
     */
    public function halve(int $piece): array
    {
        [$mesh] = $this->cutter->faces->mesh($piece);
        $number = $this->number++;
        [$normal, $at] = $this->plane($mesh, RandomStream::named($this->seed, 'halving', $number));
        if ($this->wander <= 0.0) {
            return array_keys($this->straight($piece, $mesh, $normal, $at));
        }
        if ($this->fracture->faceCount() - $this->facesBefore > self::MOST) {
            throw new BreakFailed('Cuts that wander this far make too many triangles for so many pieces. Lower Wandering cuts or Jagged, or make fewer pieces.');
        }
        try {
            return array_keys($this->wandering($piece, $normal, $at, $number));
        } catch (BreakFailed) {
            $this->straight++;
        }
        try {
            return array_keys($this->straight($piece, $mesh, $normal, $at));
        } catch (BreakFailed) {
            // Cuts that wandered far have left it crossing itself: it stays as it is.
            return [$piece];
        }
    }

    /** To be called after the last cut. */
    public function finish(): void
    {
        if ($this->wander > 0.0) {
            // Neighbours have got vertices along the cuts too, even those that only touch along an edge.
            Flaps::clear($this->cutter->faces, range(0, $this->fracture->pieces - 1));
        }
        if ($this->straight > 0) {
            $this->fracture->notes[] = "{$this->straight} of the cuts could not wander without crossing others, and were made straight or left out. Lower Wandering cuts or Jagged to have them all wander.";
        }
    }

    /** @return array{array{float, float, float}, float} normal and place along it */
    private function plane(TriangleMesh $mesh, RandomStream $stream): array
    {
        // The longest of a few random directions, so that long pieces are cut across.
        $normal = [0.0, 1.0, 0.0];
        $longest = 0.0;
        foreach ([0, 1, 2] as $try) {
            $direction = $stream->direction();
            [$from, $to] = $mesh->extent($direction);
            if ($to - $from > $longest) {
                $normal = $direction;
                $longest = $to - $from;
            }
        }
        $centre = MassProperties::of($mesh)->centre;
        $at = $normal[0] * $centre[0] + $normal[1] * $centre[1] + $normal[2] * $centre[2]
            + self::OFF_CENTRE * ($stream->float() - 0.5) * $longest;

        return [$normal, $at];
    }

    /**
     * @param array{float, float, float} $normal
     *
     * @return array<int, int> cells by piece
     */
    private function straight(int $piece, TriangleMesh $mesh, array $normal, float $at): array
    {
        $region = Region::around($mesh);

        return $this->cutter->cut($piece, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs($normal, [$at], $region->low, $region->high))));
    }

    /**
     * @param array{float, float, float} $normal
     *
     * @return array<int, int> cells by piece
     *
     * @throws BreakFailed if the cut would meet what earlier ones have left too closely; then nothing is cut
     */
    private function wandering(int $piece, array $normal, float $at, int $number): array
    {
        $fracture = $this->fracture;
        $faces = $this->cutter->faces;
        $size = $faces->mesh($piece)[0]->size();
        $fineness = (self::SMOOTH + $this->jagged * (self::TORN - self::SMOOTH)) * $size;
        $sheet = new WanderingSheet(GradientNoise::seeded($this->seed, "wandering cut {$number}"), $normal, $at, $size, $this->wander, $this->jagged);
        $this->refineSkin($piece, $fineness, $sheet);
        $region = Region::around($sheet->flattened($faces->mesh($piece)[0]));
        $diagram = CellDiagramBuilder::general(CellComplex::slabs($normal, [$at], $region->low, $region->high));
        $firstWall = intdiv(count($fracture->wall), 3);
        $parts = $this->cutter->cut($piece, new CellCutting($diagram), $sheet->flattened(...), $sheet->back(...));
        // The sheet itself gets inner vertices, lifted onto it; those along its rim are where the skin is cut.
        $inSheet = static fn (int $face): bool => $fracture->origin[$face] < -$firstWall;
        foreach ((new WallFiller($faces))->fill(array_keys($parts), $fineness, $inSheet, $normal) as $v) {
            [$fracture->x[$v], $fracture->y[$v], $fracture->z[$v]] = $sheet->onto($fracture->x[$v], $fracture->y[$v], $fracture->z[$v]);
        }
        Flaps::clear($faces, array_keys($parts));

        return $parts;
    }

    /** Makes the skin finer that the sheet may cross, so that the edge of the cut wanders there too. */
    private function refineSkin(int $piece, float $fineness, WanderingSheet $sheet): void
    {
        $f = $this->fracture;
        // No place of a triangle lies farther from a corner than 0.58 of its longest side.
        $near = (0.6 * (1.0 + $sheet->steepness)) ** 2;
        $distance = [];
        (new PieceRefiner($this->cutter->faces))->refine([$piece], $fineness, static function (int $face) use ($f, $sheet, $near, &$distance): bool {
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
