<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** Cuts along the walls of convex cells. */
final readonly class CellCutting implements Cutting
{
    public function __construct(private CellDiagram $diagram, private Progress $progress = new Progress())
    {
    }

    public function cut(TriangleMesh $mesh): CutUp
    {
        $d = $this->diagram;
        $cut = SurfaceCutter::cut($mesh, $d, $this->progress);
        $caps = CapBuilder::build($cut, $d, $this->progress);
        $normals = [];
        foreach ($caps as $facet => $_) {
            [$nx, $ny, $nz] = $d->complex->form($d->low[$facet], $d->high[$facet]);
            $s = -1.0 / sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $normals[$facet] = [$s * $nx, $s * $ny, $s * $nz];
        }

        return new CutUp($cut, $caps, $d->complex->cells, $d->low, $d->high, $normals, count($d->x));
    }
}
