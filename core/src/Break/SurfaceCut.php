<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * The surface of a mesh cut along a cell complex: which parts of which triangle lie in which cell, and the lines along the
 * cell walls. What {@see SurfaceCutter} finds and {@see CapBuilder} closes.
 */
final class SurfaceCut
{
    /**
     * Coordinates of all vertices: those of the mesh first, then cut vertices, then corners of the diagram as they are
     * used by caps.
     *
     * @var array<int, float>
     */
    public array $x;

    /** @var array<int, float> */
    public array $y;

    /** @var array<int, float> */
    public array $z;

    /**
     * Parts of triangles: cell, source triangle, and the range of their corners below.
     *
     * @var array<int, int>
     */
    public array $cell = [];

    /** @var array<int, int> */
    public array $source = [];

    /** @var array<int, int> */
    public array $start = [0];

    /** @var array<int, int> vertex numbers */
    public array $corner = [];

    /** @var array<int, float> the corner's weights of the source triangle's first and second vertex */
    public array $weight0 = [];

    /** @var array<int, float> */
    public array $weight1 = [];

    /**
     * Surface lines in a facet, from low cell's side: [from, to, from, to ...], keyed by low * cells + high.
     *
     * @var array<int, list<int>>
     */
    public array $lines = [];

    /**
     * Where the surface crosses the edge between three cells (a < b < c), keyed "a,b,c": [vertex, 1 if the inside begins
     * there along the edge in the direction of facet (a, b)'s outline, else -1, ...].
     *
     * @var array<string, list<int>>
     */
    public array $crossings = [];

    /**
     * Cut vertices on each edge of the mesh, keyed by lower vertex * vertices + higher one.
     *
     * @var array<int, list<int>>
     */
    public array $onEdge = [];

    public function __construct(TriangleMesh $mesh)
    {
        $this->x = $mesh->x;
        $this->y = $mesh->y;
        $this->z = $mesh->z;
    }

    /** Whether a part is a triangle of the mesh that was not cut. */
    public function isWhole(int $part, int $known): bool
    {
        $k = $this->start[$part];

        return $this->start[$part + 1] - $k === 3 && $this->corner[$k] < $known && $this->corner[$k + 1] < $known && $this->corner[$k + 2] < $known;
    }

    /**
     * Takes the cut from a warped space back to the prop's own: cut vertices go to the same place in their triangle, corners
     * of the diagram (the last ones) the way back.
     *
     * @param TriangleMesh $mesh the same mesh in the prop's own space
     * @param (callable(float, float, float): array{float, float, float})|null $unwarp
     */
    public function place(TriangleMesh $mesh, ?callable $unwarp, int $diagramCorners): void
    {
        $known = $mesh->vertexCount();
        $all = count($this->x);
        if ($unwarp !== null) {
            for ($v = $all - $diagramCorners; $v < $all; $v++) {
                [$this->x[$v], $this->y[$v], $this->z[$v]] = $unwarp($this->x[$v], $this->y[$v], $this->z[$v]);
            }
        }
        for ($v = 0; $v < $known; $v++) {
            [$this->x[$v], $this->y[$v], $this->z[$v]] = [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
        }
        foreach ($this->source as $p => $triangle) {
            for ($k = $this->start[$p]; $k < $this->start[$p + 1]; $k++) {
                $v = $this->corner[$k];
                if ($v >= $known) {
                    $a = $mesh->triangles[3 * $triangle];
                    $b = $mesh->triangles[3 * $triangle + 1];
                    $c = $mesh->triangles[3 * $triangle + 2];
                    $wa = $this->weight0[$k];
                    $wb = $this->weight1[$k];
                    $wc = 1.0 - $wa - $wb;
                    $this->x[$v] = $wa * $mesh->x[$a] + $wb * $mesh->x[$b] + $wc * $mesh->x[$c];
                    $this->y[$v] = $wa * $mesh->y[$a] + $wb * $mesh->y[$b] + $wc * $mesh->y[$c];
                    $this->z[$v] = $wa * $mesh->z[$a] + $wb * $mesh->z[$b] + $wc * $mesh->z[$c];
                }
            }
        }
    }
}
