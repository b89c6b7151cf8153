<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cellular break: the Voronoi cells of sites strewn through the prop's inside. Evenness moves the sites towards the middle
 * of their cells (Lloyd 1982, on sample points inside the prop), so 0 gives pieces of all sizes and 1 nearly equal ones.
 */
final readonly class CellularPattern
{
    /** Sample points per site for Lloyd's method; more moves the sites less noisily and takes longer. */
    private const SAMPLES_A_SITE = 24;

    private const ROUNDS = 10;

    /** Of the prop's size: how far the region reaches beyond its bounds. */
    private const MARGIN = 0.015625;

    public function __construct(
        public int $pieces,
        public int $seed,
        public float $evenness,
    ) {
    }

    /** @return list<Piece> */
    public function break(TriangleMesh $mesh): array
    {
        return MeshCutter::cut($mesh, $this->diagram($mesh));
    }

    public function diagram(TriangleMesh $mesh): CellDiagram
    {
        [$low, $high] = $mesh->bounds();
        $margin = self::MARGIN * $mesh->size();
        foreach ([0, 1, 2] as $axis) {
            $low[$axis] -= $margin;
            $high[$axis] += $margin;
        }
        [$x, $y, $z] = $this->sites($mesh);

        return CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, $low, $high));
    }

    /** @return array{list<float>, list<float>, list<float>} */
    private function sites(TriangleMesh $mesh): array
    {
        $inside = new InsideTest($mesh);
        [$x, $y, $z] = self::strew($mesh, $inside, $this->pieces, RandomStream::named($this->seed, 'cellular sites'));
        if ($this->evenness <= 0.0 || $this->pieces < 2) {
            return [$x, $y, $z];
        }
        $stream = RandomStream::named($this->seed, 'cellular evenness');
        [$px, $py, $pz] = self::strew($mesh, $inside, $this->pieces * self::SAMPLES_A_SITE, $stream);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $nearest = SiteGrid::of($x, $y, $z)->nearest($x, $y, $z, $px, $py, $pz);
            $sumX = $sumY = $sumZ = array_fill(0, $this->pieces, 0.0);
            $count = array_fill(0, $this->pieces, 0);
            foreach ($nearest as $q => $s) {
                $sumX[$s] += $px[$q];
                $sumY[$s] += $py[$q];
                $sumZ[$s] += $pz[$q];
                $count[$s]++;
            }
            foreach ($count as $s => $members) {
                if ($members > 0) {
                    $x[$s] += $this->evenness * ($sumX[$s] / $members - $x[$s]);
                    $y[$s] += $this->evenness * ($sumY[$s] / $members - $y[$s]);
                    $z[$s] += $this->evenness * ($sumZ[$s] / $members - $z[$s]);
                }
            }
        }

        return [array_values($x), array_values($y), array_values($z)];
    }

    /**
     * Points uniform in the mesh, by rejection from its bounds; in a mesh too thin for that, points of its bounds.
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    private static function strew(TriangleMesh $mesh, InsideTest $inside, int $count, RandomStream $stream): array
    {
        [$low, $high] = $mesh->bounds();
        $x = $y = $z = [];
        $tries = 0;
        while (count($x) < $count) {
            $px = $stream->between($low[0], $high[0]);
            $py = $stream->between($low[1], $high[1]);
            $pz = $stream->between($low[2], $high[2]);
            if ($inside->contains($px, $py, $pz) || $tries++ > 400 * $count) {
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
        }

        return [$x, $y, $z];
    }
}
