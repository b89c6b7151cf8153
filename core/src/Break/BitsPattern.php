<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;
use Generator;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** Bits: many small shapes on a prop's surface, in it or along its edges; the prop itself stays, or is only where they come from. */
final readonly class BitsPattern implements SkinPattern
{
    /** More could neither be drawn nor kept. */
    private const TRIANGLES = 2_000_000;

    /** Places tried for each that is found inside. */
    private const TRIES = 400;

    /**
     * @param string $from surface, inside or edges
     * @param string $shape a stock shape, or "own"
     * @param string $of hash of the mesh they look like; none: a stock shape
     * @param (Closure(): TriangleMesh)|null $own that mesh
     * @param float $size of the mean bit, along its longest side, m
     * @param float $variety how much larger or smaller at most, in parts of that
     * @param bool $core whether the prop itself stays
     */
    public function __construct(
        public int $count,
        public int $seed,
        public string $from,
        public string $shape,
        public string $of,
        private ?Closure $own,
        public float $size,
        public float $variety,
        public bool $core,
    ) {
    }

    public function keepsCore(): bool
    {
        return $this->core;
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): Generator
    {
        $shape = new BitShape($this->shape, $this->own === null ? null : ($this->own)());
        [$x, $y, $z, $normals] = $this->places($mesh);
        foreach ($x as $k => $px) {
            if (($k & 1023) === 0) {
                $progress->at('bits', $k, count($x));
            }
            $random = RandomStream::named($this->seed, 'bit', $k);
            $bit = $shape->next($random);
            if ($bit->triangleCount() * $this->count > self::TRIANGLES) {
                throw new BreakFailed(sprintf('%s bits of %s triangles are more than %s in all. Take fewer, or a simpler shape.', number_format($this->count), number_format($bit->triangleCount()), number_format(self::TRIANGLES)));
            }
            $size = $this->size * (1.0 + $this->variety * $random->between(-1.0, 1.0));
            $turn = Quaternion::normalized([$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0) + 1e-6]);
            $bit = $bit->transformed($size, $turn, [0.0, 0.0, 0.0]);
            // On a surface it lies, wherever it is turned.
            [$nx, $ny, $nz] = $normals[$k];
            $up = $nx === 0.0 && $ny === 0.0 && $nz === 0.0 ? 0.0 : -$bit->extent([$nx, $ny, $nz])[0];
            yield $bit->transformed(1.0, Quaternion::IDENTITY, [$px + $up * $nx, $y[$k] + $up * $ny, $z[$k] + $up * $nz]);
        }
    }

    /**
     * @return array{list<float>, list<float>, list<float>, list<array{float, float, float}>} where they are, and what the surface faces there (nothing inside)
     *
     * @throws BreakFailed
     */
    private function places(TriangleMesh $mesh): array
    {
        if ($this->from === 'surface') {
            [$x, $y, $z, $triangles] = (new SurfaceSites($mesh))->strew($this->count, 0.0, $this->seed);
            $normals = [];
            foreach ($triangles as $t) {
                [$nx, $ny, $nz] = $mesh->cross($t);
                $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
                $normals[] = [$nx / $l, $ny / $l, $nz / $l];
            }

            return [$x, $y, $z, $normals];
        }
        $closed = Topology::of($mesh)->isWatertight();
        if (! $closed) {
            throw new BreakFailed($this->from === 'inside' ? 'The mesh has no inside for bits to be in: it is not closed. Close it, or take them from its surface.' : 'Only a closed mesh has edges that bits can come from. Close it, or take them from its surface.');
        }
        $tree = SurfaceTree::of($mesh, true);

        return $this->from === 'inside' ? $this->inside($tree) : $this->alongEdges($tree);
    }

    /** @return array{list<float>, list<float>, list<float>, list<array{float, float, float}>} */
    private function inside(SurfaceTree $tree): array
    {
        [$low, $high] = $tree->bounds();
        $random = RandomStream::named($this->seed, 'bits inside');
        $x = $y = $z = [];
        for ($tries = 0; count($x) < $this->count; $tries++) {
            if ($tries > self::TRIES * $this->count) {
                throw new BreakFailed('There is hardly any room inside for bits. Take them from the surface.');
            }
            [$px, $py, $pz] = [$random->between($low[0], $high[0]), $random->between($low[1], $high[1]), $random->between($low[2], $high[2])];
            $tree->look($tree->nearest($px, $py, $pz, INF), $px, $py, $pz);
            if ($tree->distance < 0.0) {
                $x[] = $px;
                $y[] = $py;
                $z[] = $pz;
            }
        }

        return [$x, $y, $z, array_fill(0, $this->count, [0.0, 0.0, 0.0])];
    }

    /** @return array{list<float>, list<float>, list<float>, list<array{float, float, float}>} */
    private function alongEdges(SurfaceTree $tree): array
    {
        $ridges = $tree->ridges();
        $upTo = [];
        $sum = 0.0;
        foreach ($ridges as [[$ax, $ay, $az], [$bx, $by, $bz]]) {
            $sum += sqrt(($bx - $ax) ** 2 + ($by - $ay) ** 2 + ($bz - $az) ** 2);
            $upTo[] = $sum;
        }
        if ($sum <= 0.0) {
            throw new BreakFailed('The mesh has no sharp edges for bits to come from. Take them from its surface.');
        }
        $random = RandomStream::named($this->seed, 'bits along edges');
        $lengths = [];
        for ($k = 0; $k < $this->count; $k++) {
            $lengths[] = $sum * $random->float();
        }
        sort($lengths);
        $x = $y = $z = $normals = [];
        $edge = 0;
        foreach ($lengths as $length) {
            while ($edge < count($ridges) - 1 && $upTo[$edge] < $length) {
                $edge++;
            }
            [$a, $b, $out] = $ridges[$edge];
            $share = ($upTo[$edge] - $length) / max(1e-30, $upTo[$edge] - ($upTo[$edge - 1] ?? 0.0));
            $x[] = $b[0] + $share * ($a[0] - $b[0]);
            $y[] = $b[1] + $share * ($a[1] - $b[1]);
            $z[] = $b[2] + $share * ($a[2] - $b[2]);
            $normals[] = $out;
        }

        return [$x, $y, $z, $normals];
    }
}
