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
        $cut = SurfaceCutter::cut($mesh, $diagram);
        $caps = CapBuilder::build($cut, $diagram);
        $pieces = [];
        $sum = 0.0;
        foreach (self::collect($mesh, $cut, $caps, $diagram) as $cell => $soup) {
            foreach (LoosePart::split($soup) as $part) {
                $mass = MassProperties::of($part);
                $sum += $mass->volume;
                // Touching an edge or a corner only can leave a part without any volume that doubles can tell.
                if ($mass->volume > 1e-15 * $whole->volume) {
                    $pieces[] = new Piece($part, $mass, $cell);
                }
            }
        }
        if (abs($sum - $whole->volume) > self::VOLUME_TOLERANCE * $whole->volume) {
            throw new BreakFailed(sprintf(
                'The pieces would not fill the prop exactly (volumes differ by %.1e of the whole): the surface crosses itself. Repair the mesh first.',
                abs($sum - $whole->volume) / $whole->volume,
            ));
        }

        return $pieces;
    }

    private static function requireSolid(TriangleMesh $mesh): MassProperties
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

    /**
     * The triangles of each cell, with corner normals, texture coordinates and looks.
     *
     * @param array<int, list<int>> $caps
     *
     * @return array<int, TriangleMesh> over the cut's vertex numbers
     */
    private static function collect(TriangleMesh $mesh, SurfaceCut $cut, array $caps, CellDiagram $diagram): array
    {
        /** @var array<int, array{list<int>, list<float>, list<float>, list<int>}> $cells */
        $cells = [];
        $source = $mesh->triangles;
        foreach ($cut->cell as $p => $cell) {
            $cells[$cell] ??= [[], [], [], []];
            [$triangles, $normals, $uvs, $looks] = $cells[$cell];
            $cells[$cell] = null;
            $f = $cut->source[$p];
            $look = $mesh->looks[$f] ?? TriangleMesh::LOOK_OUTER;
            $from = $cut->start[$p];
            for ($t = $from + 2; $t < $cut->start[$p + 1]; $t++) {
                foreach ([$from, $t - 1, $t] as $k) {
                    $triangles[] = $cut->corner[$k];
                    $w0 = $cut->weight0[$k];
                    $w1 = $cut->weight1[$k];
                    $w2 = 1.0 - $w0 - $w1;
                    if ($mesh->normals !== null) {
                        $o = 9 * $f;
                        $nx = $w0 * $mesh->normals[$o] + $w1 * $mesh->normals[$o + 3] + $w2 * $mesh->normals[$o + 6];
                        $ny = $w0 * $mesh->normals[$o + 1] + $w1 * $mesh->normals[$o + 4] + $w2 * $mesh->normals[$o + 7];
                        $nz = $w0 * $mesh->normals[$o + 2] + $w1 * $mesh->normals[$o + 5] + $w2 * $mesh->normals[$o + 8];
                        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                        $s = $length > 1e-12 ? 1.0 / $length : 0.0;
                        array_push($normals, $nx * $s, $ny * $s, $nz * $s);
                    }
                    if ($mesh->uvs !== null) {
                        $o = 6 * $f;
                        $uvs[] = $w0 * $mesh->uvs[$o] + $w1 * $mesh->uvs[$o + 2] + $w2 * $mesh->uvs[$o + 4];
                        $uvs[] = $w0 * $mesh->uvs[$o + 1] + $w1 * $mesh->uvs[$o + 3] + $w2 * $mesh->uvs[$o + 5];
                    }
                }
                $looks[] = $look;
            }
            $cells[$cell] = [$triangles, $normals, $uvs, $looks];
            $triangles = $normals = $uvs = $looks = null;
        }
        foreach ($caps as $facet => $cap) {
            $low = $diagram->low[$facet];
            $high = $diagram->high[$facet];
            [$nx, $ny, $nz] = $diagram->complex->form($low, $high);
            $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            foreach ([[$low, -1.0 / $length], [$high, 1.0 / $length]] as [$cell, $s]) {
                $cells[$cell] ??= [[], [], [], []];
                for ($k = 0, $end = count($cap); $k < $end; $k += 3) {
                    if ($cell === $low) {
                        array_push($cells[$cell][0], $cap[$k], $cap[$k + 1], $cap[$k + 2]);
                    } else {
                        array_push($cells[$cell][0], $cap[$k], $cap[$k + 2], $cap[$k + 1]);
                    }
                    if ($mesh->normals !== null) {
                        array_push($cells[$cell][1], $nx * $s, $ny * $s, $nz * $s, $nx * $s, $ny * $s, $nz * $s, $nx * $s, $ny * $s, $nz * $s);
                    }
                    if ($mesh->uvs !== null) {
                        array_push($cells[$cell][2], 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
                    }
                    $cells[$cell][3][] = TriangleMesh::LOOK_INNER;
                }
            }
        }
        ksort($cells);
        $meshes = [];
        foreach ($cells as $cell => $parts) {
            if ($parts === null || $parts[0] === []) {
                continue;
            }
            [$triangles, $normals, $uvs, $looks] = $parts;
            $meshes[$cell] = self::compact($cut, $triangles, $mesh->normals === null ? null : $normals, $mesh->uvs === null ? null : $uvs, $looks);
        }

        return $meshes;
    }

    /**
     * Renumbers the vertices so that only those in use are left, in order of first use.
     *
     * @param list<int> $triangles
     * @param list<float>|null $normals
     * @param list<float>|null $uvs
     * @param list<int> $looks
     */
    private static function compact(SurfaceCut $cut, array $triangles, ?array $normals, ?array $uvs, array $looks): TriangleMesh
    {
        $number = $x = $y = $z = [];
        foreach ($triangles as $k => $v) {
            if (! isset($number[$v])) {
                $number[$v] = count($x);
                $x[] = $cut->x[$v];
                $y[] = $cut->y[$v];
                $z[] = $cut->z[$v];
            }
            $triangles[$k] = $number[$v];
        }

        return new TriangleMesh($x, $y, $z, $triangles, $normals, $uvs, $looks);
    }
}
