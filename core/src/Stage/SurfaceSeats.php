<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use WeakMap;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Weight\Samples;

/** For places in or on a prop, the places of its surface (as it was prepared) that are nearest to them. */
final class SurfaceSeats
{
    /** @var WeakMap<Samples, list<array{int, float, float}>> */
    private WeakMap $known;

    /** @var WeakMap<Samples, list<array{float, float, float}>> */
    private WeakMap $normals;

    private ?SurfaceTree $tree;

    /** @param TriangleMesh|null $mesh a surface instead of the prop's own */
    public function __construct(private readonly Prop $prop, private readonly Surfaces $surfaces, ?TriangleMesh $mesh = null)
    {
        $this->known = new WeakMap();
        $this->normals = new WeakMap();
        $this->tree = $mesh === null ? null : SurfaceTree::of($mesh, false);
    }

    /** @return list<array{int, float, float}> triangle of the surface, shares of its second and third corner */
    public function of(Samples $at): array
    {
        $seats = $this->known[$at] ?? null;
        if ($seats === null) {
            $tree = $this->tree ??= $this->surfaces->own($this->prop);
            $seats = [];
            foreach ($at->x as $k => $x) {
                $triangle = $tree->nearest($x, $at->y[$k], $at->z[$k], INF);
                $seats[] = $tree->seat($triangle, $x, $at->y[$k], $at->z[$k]);
            }
            $this->known[$at] = $seats;
        }

        return $seats;
    }

    /** @return list<array{float, float, float}> unit, outward */
    public function normals(Samples $at): array
    {
        if (! isset($this->normals[$at])) {
            $tree = $this->tree ??= $this->surfaces->own($this->prop);
            $normals = [];
            foreach ($at->x as $k => $x) {
                $normals[] = $tree->facing($tree->nearest($x, $at->y[$k], $at->z[$k], INF), $x, $at->y[$k], $at->z[$k]);
            }
            $this->normals[$at] = $normals;
        }

        return $this->normals[$at];
    }
}
