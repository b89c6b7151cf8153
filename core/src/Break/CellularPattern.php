<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cellular break: the Voronoi cells of sites strewn through the prop's inside. Evenness moves the sites towards the middle
 * of their cells, so 0 gives pieces of all sizes and 1 nearly equal ones; variety makes some regions finer than others; a
 * focus makes it finer about a place.
 */
final readonly class CellularPattern implements Pattern
{
    /** From this evenness on the volumes are made the same, at 1 wholly. */
    private const SAME = 0.8;

    /** Of the prop's size: how far apart fine and coarse regions are. */
    private const VARIETY_SCALE = 0.4;

    /** Far from the focus a piece is at most this many times as rare as at it. */
    private const FAR_DENSITY = 0.004;

    /** Where the map says coarse, a piece is at most this many times as rare as where it says fine. */
    private const BARE_DENSITY = 0.01;

    /**
     * @param list<array{float, float, float}> $focus places about which it is finer, m
     * @param float $reach how far about them, m
     * @param float $clustering how much finer, 0 to 1
     * @param Density|null $map where else it is to be finer
     */
    public function __construct(
        public int $pieces,
        public int $seed,
        public float $evenness,
        public float $variety = 0.0,
        public array $focus = [],
        public float $reach = 0.0,
        public float $clustering = 0.0,
        public ?Density $map = null,
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        PieceMerger::fragments($fracture, (new PieceCutter($fracture))->cut($piece, new CellCutting($this->diagram($mesh, $progress), $progress)));
    }

    public function diagram(TriangleMesh $mesh, Progress $progress = new Progress()): CellDiagram
    {
        $strewn = new Sites($mesh, $this->density($mesh));
        $sites = $strewn->strew($this->pieces, RandomStream::named($this->seed, 'cellular sites'));
        $sites = $strewn->even($sites, $this->evenness, RandomStream::named($this->seed, 'cellular evenness'));
        [$x, $y, $z] = $sites;
        $region = Region::around($mesh);
        if ($this->evenness > self::SAME && $this->pieces > 1) {
            $even = EvenVolumes::of($sites, $strewn->spread($this->pieces, RandomStream::named($this->seed, 'cellular volumes')), $progress);
            // From sites in the middle of their cells to cells of one volume.
            $s = ($this->evenness - self::SAME) / (1.0 - self::SAME);
            $weights = [];
            foreach ($even->weights as $i => $weight) {
                $x[$i] += $s * ($even->x[$i] - $x[$i]);
                $y[$i] += $s * ($even->y[$i] - $y[$i]);
                $z[$i] += $s * ($even->z[$i] - $z[$i]);
                $weights[] = $s * $weight;
            }

            return CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::power($x, $y, $z, $weights, $region->low, $region->high), $progress, $weights);
        }

        return CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $region->low, $region->high), $progress);
    }

    /** @return (Closure(float, float, float): float)|null */
    private function density(TriangleMesh $mesh): ?Closure
    {
        if ($this->variety <= 0.0 && $this->focus === [] && $this->map === null) {
            return null;
        }
        $noise = GradientNoise::seeded($this->seed, 'cellular variety');
        $scale = 1.0 / max(1e-30, self::VARIETY_SCALE * $mesh->size());
        $variety = $this->variety;
        $focus = $this->focus;
        $strength = $this->clustering;
        $reach = max(1e-12, $this->reach);
        $fine = $this->map?->over(...$mesh->bounds());

        return static function (float $x, float $y, float $z) use ($noise, $scale, $variety, $focus, $strength, $reach, $fine): float {
            $share = 1.0;
            if ($variety > 0.0) {
                $high = 0.5 + 0.7 * $noise->at($x * $scale, $y * $scale, $z * $scale);
                $high = $high < 0.0 ? 0.0 : ($high > 1.0 ? 1.0 : $high);
                $share = 1.0 - $variety + $variety * $high * $high * $high;
            }
            if ($focus !== []) {
                $near = 0.0;
                foreach ($focus as [$fx, $fy, $fz]) {
                    $d = (($x - $fx) ** 2 + ($y - $fy) ** 2 + ($z - $fz) ** 2) / ($reach * $reach);
                    $near = max($near, exp(-2.0 * $d));
                }
                // Falls off like a bell, with a foot so that far regions get some pieces too.
                $share *= 1.0 - $strength + $strength * (self::FAR_DENSITY + (1.0 - self::FAR_DENSITY) * $near);
            }
            if ($fine !== null) {
                $t = $fine($x, $y, $z);
                $share *= self::BARE_DENSITY + (1.0 - self::BARE_DENSITY) * $t * $t;
            }

            return $share;
        };
    }
}
