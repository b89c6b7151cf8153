<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * How the triangles of a surface are sorted into a tree, for whatever places its vertices take: what is near each other along a surface
 * stays so when it bends. Sorted when it is asked for first.
 */
final class TriangleOrder
{
    /** @var array{list<int>, list<int>, list<int>}|null */
    private ?array $sorted = null;

    /** @param TriangleMesh $mesh where its vertices are at rest */
    public function __construct(private readonly TriangleMesh $mesh)
    {
    }

    /**
     * @param TriangleMesh $mesh the same triangles elsewhere
     *
     * @return array{list<int>, list<int>, list<int>}|null as {@see TriangleSort::of()} gives them; null: it would leave out others than at rest, as they have no area
     */
    public function of(TriangleMesh $mesh): ?array
    {
        $this->sorted ??= TriangleSort::of($this->mesh);
        $faces = $this->sorted[2];
        if (count($faces) < $mesh->triangleCount()) {
            return null;
        }
        foreach ($faces as $face) {
            if (! $mesh->hasArea($face)) {
                return null;
            }
        }

        return $this->sorted;
    }
}
