<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Grain: long splinters along an axis, as wood gives them. The cells are those of a space squeezed along the axis.
 * Raggedness says how much the splinters' ends are staggered: 0 breaks the wood straight across.
 */
final readonly class GrainPattern implements Pattern
{
    /** Along a curve faces are made at most this long, in parts of the prop's size, so that they can bend. */
    private const FINENESS = 0.06;

    /** Edges this many times as long along the straightened curve are torn apart. */
    private const TORN = 5.0;

    /**
     * @param array{float, float, float} $axis of length 1
     * @param float $slenderness length of a splinter in parts of its width
     * @param list<array{float, float, float}> $curve places the grain follows, instead of the axis; none, or at least two
     */
    public function __construct(
        public int $pieces,
        public int $seed,
        public float $evenness,
        public array $axis,
        public float $slenderness,
        public float $raggedness,
        public array $curve = [],
    ) {
    }

    public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
    {
        if ($this->curve !== []) {
            $this->cutAlong(new Bend($this->curve), $fracture, $piece, $progress);

            return;
        }
        $grain = new Squeeze($this->slenderness, $this->axis);
        $diagram = $this->diagram($mesh, $grain, $this->axis);
        PieceMerger::fragments($fracture, (new PieceCutter($fracture))->cut($piece, new CellCutting($diagram, $progress), $grain->squeezed(...), $grain->back(...)));
    }

    /** The same in the space in which the curve is straight. */
    private function cutAlong(Bend $bend, Fracture $fracture, int $piece, Progress $progress): void
    {
        $axis = [0.0, 1.0, 0.0];
        $cutter = new PieceCutter($fracture);
        (new PieceRefiner($cutter->faces))->refine([$piece], self::FINENESS * $cutter->faces->mesh($piece)[0]->size(), static fn (int $face): bool => true);
        $grain = new Squeeze($this->slenderness, $axis);
        $straight = static function (TriangleMesh $part) use ($bend): TriangleMesh {
            [$x, $y, $z] = [$part->x, $part->y, $part->z];
            foreach ($x as $i => $px) {
                [$x[$i], $y[$i], $z[$i]] = $bend->straight($px, $y[$i], $z[$i]);
            }

            return new TriangleMesh($x, $y, $z, $part->triangles);
        };
        $mesh = $straight($cutter->faces->mesh($piece)[0]);
        if (self::isTorn($cutter->faces->mesh($piece)[0], $mesh)) {
            throw new BreakFailed('The curve of the grain bends more tightly than the prop is thick there. Draw it straighter.');
        }
        $diagram = $this->diagram($mesh, $grain, $axis);
        PieceMerger::fragments($fracture, $cutter->cut(
            $piece,
            new CellCutting($diagram, $progress),
            static fn (TriangleMesh $part): TriangleMesh => $grain->squeezed($straight($part)),
            static fn (float $x, float $y, float $z): array => $bend->bent(...$grain->back($x, $y, $z)),
        ));
    }

    /** Whether neighbours on the surface lie far apart along the curve: it bends more tightly than the surface is far from it. */
    private static function isTorn(TriangleMesh $bent, TriangleMesh $straight): bool
    {
        $length = static fn (TriangleMesh $m, int $a, int $b): float => sqrt(($m->x[$a] - $m->x[$b]) ** 2 + ($m->y[$a] - $m->y[$b]) ** 2 + ($m->z[$a] - $m->z[$b]) ** 2);
        foreach ($bent->triangles as $k => $a) {
            $b = $bent->triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
            if ($length($straight, $a, $b) > self::TORN * $length($bent, $a, $b)) {
                return true;
            }
        }

        return MassProperties::of($straight)->volume <= 0.0;
    }

    /** @param array{float, float, float} $axis */
    private function diagram(TriangleMesh $mesh, Squeeze $grain, array $axis): CellDiagram
    {
        $squeezed = $grain->squeezed($mesh);
        [$x, $y, $z] = $this->sites($mesh, $squeezed, $axis);
        $region = Region::around($squeezed);

        return CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $region->low, $region->high));
    }

    /**
     * @param array{float, float, float} $axis
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} in the squeezed space
     */
    private function sites(TriangleMesh $mesh, TriangleMesh $squeezed, array $axis): array
    {
        $strewn = new Sites($mesh);
        $sites = $strewn->strew($this->pieces, RandomStream::named($this->seed, 'grain sites'));
        $sites = $strewn->even($sites, $this->evenness, RandomStream::named($this->seed, 'grain evenness'), $this->slenderness, $axis);
        [$x, $y, $z] = Sites::squeezed($sites[0], $sites[1], $sites[2], $this->slenderness, $axis);
        [$low, $high] = $squeezed->bounds();
        $room = max(1e-300, ($high[0] - $low[0]) * ($high[1] - $low[1]) * ($high[2] - $low[2]));
        // Sites drawn to layers one splinter's length apart end in line; a hair of difference keeps them apart for certain.
        $layer = ($room / max(1, $this->pieces)) ** (1.0 / 3.0);
        $hair = RandomStream::named($this->seed, 'grain ends');
        [$ax, $ay, $az] = $axis;
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
