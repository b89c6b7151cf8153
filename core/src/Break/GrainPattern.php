<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Grain: long splinters along an axis, as wood gives them. The cells are those of a space squeezed along the axis.
 * Raggedness says how much the splinters' ends are staggered: 0 breaks the wood straight across.
 */
final readonly class GrainPattern implements Pattern
{
    /**
     * @param array{float, float, float} $axis of length 1
     * @param float $slenderness length of a splinter in parts of its width
     */
    public function __construct(
        public int $pieces,
        public int $seed,
        public float $evenness,
        public array $axis,
        public float $slenderness,
        public float $raggedness,
    ) {
    }

    public function cut(Fracture $fracture, TriangleMesh $mesh, Progress $progress): void
    {
        $warp = function (TriangleMesh $part): TriangleMesh {
            [$x, $y, $z] = Sites::squeezed($part->x, $part->y, $part->z, $this->slenderness, $this->axis);

            return new TriangleMesh($x, $y, $z, $part->triangles);
        };
        $unwarp = function (float $x, float $y, float $z): array {
            [$px, $py, $pz] = Sites::squeezed([$x], [$y], [$z], 1.0 / $this->slenderness, $this->axis);

            return [$px[0], $py[0], $pz[0]];
        };
        $squeezed = $warp($mesh);
        [$x, $y, $z] = $this->sites($mesh, $squeezed);
        $region = Region::around($squeezed);
        $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $region->low, $region->high));
        (new PieceCutter($fracture, $progress))->cut(0, $diagram, $warp, $unwarp);
    }

    /** @return array{array<int, float>, array<int, float>, array<int, float>} in the squeezed space */
    private function sites(TriangleMesh $mesh, TriangleMesh $squeezed): array
    {
        $strewn = new Sites($mesh);
        $sites = $strewn->strew($this->pieces, RandomStream::named($this->seed, 'grain sites'));
        $sites = $strewn->even($sites, $this->evenness, RandomStream::named($this->seed, 'grain evenness'), $this->slenderness, $this->axis);
        [$x, $y, $z] = Sites::squeezed($sites[0], $sites[1], $sites[2], $this->slenderness, $this->axis);
        [$low, $high] = $squeezed->bounds();
        $room = max(1e-300, ($high[0] - $low[0]) * ($high[1] - $low[1]) * ($high[2] - $low[2]));
        // Sites drawn to layers one splinter's length apart end in line; a hair of difference keeps them apart for certain.
        $layer = ($room / max(1, $this->pieces)) ** (1.0 / 3.0);
        $hair = RandomStream::named($this->seed, 'grain ends');
        [$ax, $ay, $az] = $this->axis;
        foreach ($x as $i => $px) {
            $t = $ax * $px + $ay * $y[$i] + $az * $z[$i];
            $level = (floor($t / $layer) + 0.5 + 1e-3 * $hair->float()) * $layer;
            $shift = (1.0 - $this->raggedness) * ($level - $t);
            $x[$i] = $px + $shift * $ax;
            $y[$i] += $shift * $ay;
            $z[$i] += $shift * $az;
        }

        return [$x, $y, $z];
    }
}
