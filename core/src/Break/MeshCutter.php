<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Cuts a closed mesh into closed pieces along the walls of a cell complex: the surface is cut, the walls are capped, and
 * what belongs to one cell but hangs together nowhere becomes separate pieces.
 */
final class MeshCutter
{
    /** Triangles looked at for overlaps, about. */
    private const SAMPLES = 1500;

    /** How far below the surface one looks, in parts of the mesh's size. */
    private const BELOW = 1e-6;

    private const DEPTHS = 3;

    /** Share of the samples that may go wrong by rounding. */
    private const DOUBT = 0.01;

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
     * The pieces of a fracture as meshes, measured as they are written: each must have a volume, and together they must have
     * the prop's. Neighbours share their inner faces, whose volumes cancel however they lie; so the sum shows that the skin is
     * all there, and the single volumes that no piece is inside out or empty. That pieces do not pierce each other is not shown.
     *
     * @param array<int, int> $cells cell of each piece, where it matters
     *
     * @return list<Piece>
     *
     * @throws BreakFailed if one has no volume, or they do not add up
     */
    public static function pieces(Fracture $fracture, TriangleMesh $mesh, float $volume, array $cells = []): array
    {
        $pieces = [];
        $sum = 0.0;
        foreach (PieceMeshes::of($fracture, $mesh) as $k => $part) {
            $mass = MassProperties::of($part);
            if ($mass->volume <= 0.0) {
                throw new BreakFailed(sprintf('Piece %d of the break would be inside out or empty. Another seed, fewer pieces or less roughness avoids it.', $k + 1));
            }
            if (Parting::isCrowded($part)) {
                throw new BreakFailed(sprintf('The surface lies folded onto itself, so piece %d of the break would have edges with more than two faces. Mend it where it is folded; another seed may avoid it too.', $k + 1));
            }
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
                'Only a watertight mesh can be broken into solid pieces: %d edges are open and %d are shared by more than two faces. Close its holes first.',
                $topology->openEdgeCount(),
                $topology->crowdedEdgeCount(),
            ));
        }
        $mass = MassProperties::of($mesh);
        if ($mass->volume <= 0.0) {
            throw new BreakFailed('The faces point inwards, so the prop has no inside. A repair turns them outwards.');
        }
        if (self::overlapsItself($mesh)) {
            throw new BreakFailed('The surface crosses itself: parts of it lie inside others. Parts that poke through one another must be joined in the program they come from.');
        }

        return $mass;
    }

    /**
     * Whether some of the surface lies inside the rest: just below the middle of a triangle one is inside a sound mesh, and in
     * and out again where another part covers it. A sample of the triangles is looked at; what it misses, cutting finds.
     */
    private static function overlapsItself(TriangleMesh $mesh): bool
    {
        $inside = new InsideTest($mesh);
        $faces = $mesh->triangleCount();
        $step = max(1, intdiv($faces, self::SAMPLES));
        $below = self::BELOW * $mesh->size();
        $looked = $wrong = 0;
        $t = $mesh->triangles;
        for ($f = 0; $f < $faces; $f += $step) {
            [$a, $b, $c] = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            [$nx, $ny, $nz] = $mesh->cross($f);
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            if ($l < $below * $below) {
                continue;
            }
            // Off the middle, so that rays do not run along the edges of evenly divided meshes.
            $looked++;
            $at = [0.31 * $mesh->x[$a] + 0.36 * $mesh->x[$b] + 0.33 * $mesh->x[$c], 0.31 * $mesh->y[$a] + 0.36 * $mesh->y[$b] + 0.33 * $mesh->y[$c], 0.31 * $mesh->z[$a] + 0.36 * $mesh->z[$b] + 0.33 * $mesh->z[$c]];
            $isInside = false;
            // Less far down where a wall is so thin that one came out on its other side.
            for ($depth = $below / $l, $try = 0; ! $isInside && $try < self::DEPTHS; $try++, $depth *= 0.01) {
                $isInside = $inside->contains($at[0] - $depth * $nx, $at[1] - $depth * $ny, $at[2] - $depth * $nz);
            }
            $wrong += $isInside ? 0 : 1;
        }

        return $wrong > max(2.0, self::DOUBT * $looked);
    }
}
