<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Generator;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Every face: each face of the mesh is a piece. Before that, straight cuts strewn over the mesh part the faces they cross, so
 * that regular faces do not show.
 */
final readonly class FacesPattern implements SkinPattern
{
    /** More could neither be drawn nor moved. */
    private const MOST = 100_000;

    /**
     * @param int $cuts how many cuts go across the mesh
     * @param int $split how often every face becomes four before
     * @param float $thickness m; 0: sheets
     * @param float $lift how far outside the core the faces lie, m
     * @param bool $core whether what they come off stays
     */
    public function __construct(
        public int $seed,
        public int $cuts,
        public int $split,
        public float $thickness,
        public float $lift,
        public bool $core = true,
    ) {
    }

    public function keepsCore(): bool
    {
        return $this->core;
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): Generator
    {
        $this->limit($mesh->triangleCount() * 4 ** $this->split);
        for ($k = 0; $k < $this->split; $k++) {
            $mesh = Subdivision::flat($mesh);
        }
        $builder = new SkinBuilder($mesh, $this->lift, $this->thickness);
        $planes = $this->planes($mesh);
        $made = 0;
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            if (($f & 1023) === 0) {
                $progress->at('faces', $f, $end);
                $this->limit($made);
            }
            foreach ($this->parts($mesh, $f, $planes) as $weights) {
                $made++;
                yield $builder->flake([new Patch($f, range(0, intdiv(count($weights), 2) - 1), $weights)]);
            }
        }
    }

    private function limit(int $count): void
    {
        if ($count > self::MOST) {
            throw new BreakFailed(sprintf('That would be more than %s pieces. Divide less, cut less, or take a mesh with fewer faces.', number_format(self::MOST)));
        }
    }

    /** @return list<array{float, float, float, float}> normal and constant of each cut */
    private function planes(TriangleMesh $mesh): array
    {
        if ($this->cuts === 0) {
            return [];
        }
        [$x, $y, $z] = (new SurfaceSites($mesh))->strew($this->cuts, 0.0, $this->seed);
        $stream = RandomStream::named($this->seed, 'random cuts');
        $planes = [];
        foreach ($x as $i => $px) {
            [$nx, $ny, $nz] = $stream->direction();
            $planes[] = [$nx, $ny, $nz, -($nx * $px + $ny * $y[$i] + $nz * $z[$i])];
        }

        return $planes;
    }

    /**
     * @param list<array{float, float, float, float}> $planes
     *
     * @return list<list<float>> corners of each part, as weights of the triangle's first and second corner
     */
    private function parts(TriangleMesh $mesh, int $f, array $planes): array
    {
        [$a, $b, $c] = [$mesh->triangles[3 * $f], $mesh->triangles[3 * $f + 1], $mesh->triangles[3 * $f + 2]];
        $parts = [[1.0, 0.0, 0.0, 1.0, 0.0, 0.0]];
        foreach ($planes as [$nx, $ny, $nz, $d]) {
            $ga = $nx * $mesh->x[$a] + $ny * $mesh->y[$a] + $nz * $mesh->z[$a] + $d;
            $gb = $nx * $mesh->x[$b] + $ny * $mesh->y[$b] + $nz * $mesh->z[$b] + $d;
            $gc = $nx * $mesh->x[$c] + $ny * $mesh->y[$c] + $nz * $mesh->z[$c] + $d;
            if (($ga >= 0.0 && $gb >= 0.0 && $gc >= 0.0) || ($ga <= 0.0 && $gb <= 0.0 && $gc <= 0.0)) {
                continue;
            }
            $next = [];
            foreach ($parts as $part) {
                foreach ([1.0, -1.0] as $side) {
                    $kept = self::half($part, $side * $ga, $side * $gb, $side * $gc);
                    if (count($kept) > 5) {
                        $next[] = $kept;
                    }
                }
            }
            $parts = $next;
        }

        return $parts;
    }

    /**
     * @param list<float> $part
     *
     * @return list<float> where the function with these values at the corners is positive
     */
    private static function half(array $part, float $ga, float $gb, float $gc): array
    {
        $kept = [];
        $count = count($part);
        $value = static fn (int $k): float => $part[$k] * $ga + $part[$k + 1] * $gb + (1.0 - $part[$k] - $part[$k + 1]) * $gc;
        for ($k = 0; $k < $count; $k += 2) {
            $n = $k + 2 === $count ? 0 : $k + 2;
            $here = $value($k);
            $there = $value($n);
            if ($here > 0.0) {
                $kept[] = $part[$k];
                $kept[] = $part[$k + 1];
            }
            if (($here > 0.0) !== ($there > 0.0)) {
                $s = $here / ($here - $there);
                $kept[] = $part[$k] + $s * ($part[$n] - $part[$k]);
                $kept[] = $part[$k + 1] + $s * ($part[$n + 1] - $part[$k + 1]);
            }
        }

        return $kept;
    }
}
