<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cuts a closed mesh into closed pieces along the walls of a cell complex: the surface is cut, the walls are capped, and
 * what belongs to one cell but hangs together nowhere becomes separate pieces.
 */
final class MeshCutter
{
    /** Volumes of the pieces must add up to the mesh's volume within this fraction. */
    public const VOLUME_TOLERANCE = 1e-9;

    /**
     * @return list<Piece> in order of cell, larger parts first
     *
     * @throws BreakFailed if the mesh is not closed, is inside out or crosses itself
     */
    public static function cut(TriangleMesh $mesh, CellDiagram $diagram): array
    {
        $whole = self::requireSolid($mesh);
        $fracture = Fracture::whole($mesh);
        $cells = (new PieceCutter($fracture))->cut(0, new CellCutting($diagram));

        return self::pieces($fracture, $mesh, $whole->volume, $cells);
    }

    /**
     * The pieces of a fracture as meshes, once it is certain that they fill the prop.
     *
     * @param array<int, int> $cells cell of each piece, where it matters
     *
     * @return list<Piece>
     *
     * @throws BreakFailed if they do not
     */
    public static function pieces(Fracture $fracture, TriangleMesh $mesh, float $volume, array $cells = []): array
    {
        $pieces = [];
        $sum = 0.0;
        foreach (PieceMeshes::of($fracture, $mesh) as $k => $part) {
            $mass = MassProperties::of($part);
            $sum += $mass->volume;
            $pieces[] = new Piece($part, $mass, $cells[$k] ?? $k);
        }
        if (abs($sum - $volume) > self::VOLUME_TOLERANCE * $volume) {
            throw new BreakFailed(sprintf(
                'The pieces would not fill the prop exactly (volumes differ by %.1e of the whole): the surface crosses itself. Repair the mesh first.',
                abs($sum - $volume) / $volume,
            ));
        }

        return $pieces;
    }

    /** @throws BreakFailed if the mesh has no inside that could be broken */
    public static function requireSolid(TriangleMesh $mesh): MassProperties
    {
        if ($mesh->isEmpty()) {
            throw new BreakFailed('There is nothing to break: the mesh has no triangles.');
        }
        $topology = Topology::of($mesh);
        if (! $topology->isWatertight()) {
            throw new BreakFailed(sprintf(
                'Only a watertight mesh can be broken into solid pieces: %d edges are open and %d are shared by more than two faces. Close the holes in Prop first.',
                $topology->openEdgeCount(),
                $topology->crowdedEdgeCount(),
            ));
        }
        $mass = MassProperties::of($mesh);
        if ($mass->volume <= 0.0) {
            throw new BreakFailed('The faces point inwards, so the prop has no inside. Flip them in Prop first.');
        }

        return $mass;
    }
}
