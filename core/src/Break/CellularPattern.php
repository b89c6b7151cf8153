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
    /** Of the prop's size: how far apart fine and coarse regions are. */
    private const VARIETY_SCALE = 0.4;

    /** Far from the focus a piece is at most this many times as rare as at it. */
    private const FAR_DENSITY = 0.004;

    /** @param array{float, float, float, float, float}|null $focus place, reach in metres, strength from 0 to 1 */
    public function __construct(
        public int $pieces,
        public int $seed,
        public float $evenness,
        public float $variety = 0.0,
        public ?array $focus = null,
    ) {
    }

    public function cut(Fracture $fracture, TriangleMesh $mesh, Progress $progress): void
    {
        (new PieceCutter($fracture, $progress))->cut(0, $this->diagram($mesh));
    }

    public function diagram(TriangleMesh $mesh): CellDiagram
    {
        $strewn = new Sites($mesh, $this->density($mesh));
        $sites = $strewn->strew($this->pieces, RandomStream::named($this->seed, 'cellular sites'));
        [$x, $y, $z] = $strewn->even($sites, $this->evenness, RandomStream::named($this->seed, 'cellular evenness'));
        $region = Region::around($mesh);

        return CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $region->low, $region->high));
    }

    /** @return (Closure(float, float, float): float)|null */
    private function density(TriangleMesh $mesh): ?Closure
    {
        if ($this->variety <= 0.0 && $this->focus === null) {
            return null;
        }
        $noise = GradientNoise::seeded($this->seed, 'cellular variety');
        $scale = 1.0 / max(1e-30, self::VARIETY_SCALE * $mesh->size());
        $variety = $this->variety;
        $focus = $this->focus;

        return static function (float $x, float $y, float $z) use ($noise, $scale, $variety, $focus): float {
            $share = 1.0;
            if ($variety > 0.0) {
                $high = 0.5 + 0.7 * $noise->at($x * $scale, $y * $scale, $z * $scale);
                $high = $high < 0.0 ? 0.0 : ($high > 1.0 ? 1.0 : $high);
                $share = 1.0 - $variety + $variety * $high * $high * $high;
            }
            if ($focus !== null) {
                [$fx, $fy, $fz, $reach, $strength] = $focus;
                $d = (($x - $fx) ** 2 + ($y - $fy) ** 2 + ($z - $fz) ** 2) / ($reach * $reach);
                // Falls off like a bell, with a foot so that far regions get some pieces too.
                $share *= 1.0 - $strength + $strength * (self::FAR_DENSITY + (1.0 - self::FAR_DENSITY) * exp(-2.0 * $d));
            }

            return $share;
        };
    }
}
