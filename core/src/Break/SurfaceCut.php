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

    public function __construct(TriangleMesh $mesh)
    {
        $this->x = $mesh->x;
        $this->y = $mesh->y;
        $this->z = $mesh->z;
    }
}
