<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Generator;
use YardBreak\Core\Mesh\TriangleMesh;

/** Flakes: the skin parted into cells of even size, along the cells and not along the mesh's own edges. */
final readonly class FlakesPattern implements SkinPattern
{
    /** Parts smaller than this part of the mean are scraps. */
    private const SCRAP = 0.15;

    /** Scraps beside scraps are gathered this often. */
    private const ROUNDS = 6;

    /**
     * @param float $thickness m; 0: sheets
     * @param float $lift how far outside the core the flakes lie, m
     * @param bool $core whether what they come off stays
     */
    public function __construct(
        public int $count,
        public int $seed,
        public float $evenness,
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
        $strewn = new SurfaceSites($mesh);
        $sites = $strewn->strew($this->count, $this->evenness, $this->seed);
        $cells = new SurfaceCells($mesh, $sites, $strewn->spacing($this->count));
        $builder = new SkinBuilder($mesh, $this->lift, $this->thickness);
        $groups = $areas = [];
        $bySite = $cells->patches($progress);
        foreach (array_keys($bySite) as $site) {
            foreach (SkinBuilder::connected($bySite[$site]) as $group) {
                $areas[] = self::area($mesh, $group);
                $groups[] = $group;
            }
            unset($bySite[$site]);
        }
        unset($cells);
        $groups = self::withoutScraps($groups, $areas);
        for ($k = 0, $end = count($groups); $k < $end; $k++) {
            if (($k & 1023) === 0) {
                $progress->at('flakes', $k, $end);
            }
            yield $builder->flake($groups[$k]);
            // Patches and flakes together would not fit in memory when there are many.
            $groups[$k] = [];
        }
    }

    /** @param list<Patch> $patches */
    private static function area(TriangleMesh $mesh, array $patches): float
    {
        $sum = 0.0;
        foreach ($patches as $patch) {
            [$nx, $ny, $nz] = $mesh->cross($patch->triangle);
            $sum += 0.5 * abs($patch->share()) * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        }

        return $sum;
    }

    /**
     * Scraps of a cell that lie apart from its main part go to a flake beside them.
     *
     * @param array<int, list<Patch>> $groups
     * @param array<int, float> $areas
     *
     * @return list<list<Patch>>
     */
    private static function withoutScraps(array $groups, array $areas): array
    {
        $least = $areas === [] ? 0.0 : self::SCRAP * array_sum($areas) / count($areas);
        for ($round = 0; $round < self::ROUNDS; $round++) {
            /** @var array<int, array<int, int>> $rim scrap by the names of an edge's ends, the lower first */
            $rim = [];
            foreach ($areas as $k => $area) {
                if ($area < $least) {
                    foreach (self::edges($groups[$k]) as [$a, $b]) {
                        $rim[$a][$b] ??= $k;
                    }
                }
            }
            if ($rim === []) {
                break;
            }
            /** @var array<int, array<int, int>> $beside how many edges a scrap shares with each group */
            $beside = [];
            foreach ($groups as $k => $group) {
                foreach (self::edges($group) as [$a, $b]) {
                    $scrap = $rim[$a][$b] ?? $k;
                    if ($scrap !== $k) {
                        $beside[$scrap][$k] = ($beside[$scrap][$k] ?? 0) + 1;
                    }
                }
            }
            $taken = [];
            foreach ($beside as $scrap => $flakes) {
                arsort($flakes);
                $into = (int) array_key_first($flakes);
                if (isset($taken[$scrap]) || ! isset($groups[$into]) || isset($taken[$into])) {
                    continue;
                }
                $taken[$into] = true;
                array_push($groups[$into], ...$groups[$scrap]);
                $areas[$into] += $areas[$scrap];
                unset($groups[$scrap], $areas[$scrap]);
            }
            if ($taken === []) {
                break;
            }
        }

        return array_values($groups);
    }

    /**
     * @param list<Patch> $patches
     *
     * @return list<array{int, int}>
     */
    private static function edges(array $patches): array
    {
        $edges = [];
        foreach ($patches as $patch) {
            $a = $patch->names[count($patch->names) - 1];
            foreach ($patch->names as $b) {
                $edges[] = $a < $b ? [$a, $b] : [$b, $a];
                $a = $b;
            }
        }

        return $edges;
    }
}
