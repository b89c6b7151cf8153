<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * What a mesh is fit for: whether it is closed, of how many parts, how much it holds.
 *
 * @phpstan-type Facts array{vertices: int, triangles: int, watertight: bool, openEdges: int, crowdedEdges: int, parts: int, volume: float, bounds: array{array{float, float, float}, array{float, float, float}}}
 */
final class Health
{
    /** @return Facts volume in m3, bounds in m: low corner, high corner */
    public static function of(TriangleMesh $mesh): array
    {
        $topology = Topology::of($mesh);

        return [
            'vertices' => $mesh->vertexCount(),
            'triangles' => $mesh->triangleCount(),
            'watertight' => $topology->isWatertight(),
            'openEdges' => $topology->openEdgeCount(),
            'crowdedEdges' => $topology->crowdedEdgeCount(),
            'parts' => $topology->parts,
            'volume' => MassProperties::of($mesh)->volume,
            'bounds' => $mesh->bounds(),
        ];
    }
}
