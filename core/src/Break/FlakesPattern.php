<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** Flakes: the skin parted into cells of even size, along the cells and not along the mesh's own edges. */
final readonly class FlakesPattern implements SkinPattern
{
    /**
     * @param float $thickness m; 0: sheets
     * @param float $lift how far outside the core the flakes lie, m
     */
    public function __construct(
        public int $count,
        public int $seed,
        public float $evenness,
        public float $thickness,
        public float $lift,
    ) {
    }

    public function flakes(TriangleMesh $mesh, Progress $progress): array
    {
        $strewn = new SurfaceSites($mesh);
        $sites = $strewn->strew($this->count, $this->evenness, $this->seed);
        $cells = new SurfaceCells($mesh, $sites, $strewn->spacing($this->count));
        $builder = new SkinBuilder($mesh, $this->lift, $this->thickness);
        $flakes = [];
        foreach ($cells->patches($progress) as $patches) {
            foreach ($builder->flakes($patches) as $flake) {
                $flakes[] = $flake;
            }
        }

        return $flakes;
    }
}
