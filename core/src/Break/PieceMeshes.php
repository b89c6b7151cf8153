<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Reads the pieces out of a fracture as meshes of their own. Faces of the skin carry on the source's normals, texture
 * coordinates and looks; inner faces get the wall's normal and texture coordinates in metres along the wall.
 */
final class PieceMeshes
{
    /**
     * @param TriangleMesh $source the mesh that was broken
     *
     * @return list<TriangleMesh> by piece
     */
    public static function of(Fracture $fracture, TriangleMesh $source): array
    {
        $meshes = [];
        foreach ($fracture->facesByPiece() as $piece => $faces) {
            $meshes[] = self::piece($fracture, $source, $piece, $faces);
        }

        return $meshes;
    }

    /** @param list<int> $faces */
    private static function piece(Fracture $fracture, TriangleMesh $source, int $piece, array $faces): TriangleMesh
    {
        $C = $fracture->corner;
        $X = $fracture->x;
        $Y = $fracture->y;
        $Z = $fracture->z;
        $B = $fracture->back;
        $O = $fracture->origin;
        $L = $source->looks;
        $skin = isset($fracture->layer[$piece]) ? TriangleMesh::LOOK_LAYER + $fracture->layer[$piece] % TriangleMesh::LAYERS : TriangleMesh::LOOK_OUTER;
        $number = $x = $y = $z = $triangles = $order = $looks = [];
        $count = 0;
        foreach ($faces as $f) {
            $k = 3 * $f;
            $isBack = $B[$f] === $piece;
            // Corners of the fracture in the order in which the piece sees them.
            $order[] = $k;
            $order[] = $isBack ? $k + 1 : $k + 2;
            $order[] = $isBack ? $k + 2 : $k + 1;
            $origin = $O[$f];
            $look = $origin < 0 ? TriangleMesh::LOOK_INNER : ($L === null ? TriangleMesh::LOOK_OUTER : $L[$origin]);
            $looks[] = $look === TriangleMesh::LOOK_OUTER ? $skin : $look;
        }
        foreach ($order as $k) {
            $v = $C[$k];
            if (! isset($number[$v])) {
                $number[$v] = $count++;
                $x[] = $X[$v];
                $y[] = $Y[$v];
                $z[] = $Z[$v];
            }
            $triangles[] = $number[$v];
        }

        // A piece may touch itself along an edge.
        return Parting::whereCrowded(new TriangleMesh(
            $x,
            $y,
            $z,
            $triangles,
            $source->normals === null ? null : self::normals($fracture, $source->normals, $piece, $order),
            $source->uvs === null ? null : self::uvs($fracture, $source->uvs, $order),
            $looks,
        ));
    }

    /**
     * @param array<int, float> $N the source's
     * @param list<int> $order
     *
     * @return list<float>
     */
    private static function normals(Fracture $fracture, array $N, int $piece, array $order): array
    {
        $B = $fracture->back;
        $O = $fracture->origin;
        $W = $fracture->weight;
        $wall = $fracture->wall;
        $inner = $fracture->innerNormal;
        $normals = [];
        foreach ($order as $k) {
            $f = (int) ($k / 3);
            $o = $O[$f];
            if ($o >= 0) {
                $o *= 9;
                $w0 = $W[2 * $k];
                $w1 = $W[2 * $k + 1];
                $w2 = 1.0 - $w0 - $w1;
                if ($w0 === 1.0 || $w1 === 1.0 || $w2 === 1.0) {
                    $o += $w0 === 1.0 ? 0 : ($w1 === 1.0 ? 3 : 6);
                    $normals[] = $N[$o];
                    $normals[] = $N[$o + 1];
                    $normals[] = $N[$o + 2];
                    continue;
                }
                $nx = $w0 * $N[$o] + $w1 * $N[$o + 3] + $w2 * $N[$o + 6];
                $ny = $w0 * $N[$o + 1] + $w1 * $N[$o + 4] + $w2 * $N[$o + 7];
                $nz = $w0 * $N[$o + 2] + $w1 * $N[$o + 5] + $w2 * $N[$o + 8];
                $s = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $s = $s > 1e-12 ? 1.0 / $s : 0.0;
            } else {
                $s = $B[$f] === $piece ? 1.0 : -1.0;
                if (isset($inner[3 * $k])) {
                    $nx = $inner[3 * $k];
                    $ny = $inner[3 * $k + 1];
                    $nz = $inner[3 * $k + 2];
                } else {
                    $o = -3 * ($o + 1);
                    $nx = $wall[$o];
                    $ny = $wall[$o + 1];
                    $nz = $wall[$o + 2];
                }
            }
            $normals[] = $nx * $s;
            $normals[] = $ny * $s;
            $normals[] = $nz * $s;
        }

        return $normals;
    }

    /**
     * @param array<int, float> $U the source's
     * @param list<int> $order
     *
     * @return list<float>
     */
    private static function uvs(Fracture $fracture, array $U, array $order): array
    {
        $O = $fracture->origin;
        $W = $fracture->weight;
        $uvs = [];
        /** @var array<int, Frame3> $axes */
        $axes = [];
        foreach ($order as $k) {
            $o = $O[(int) ($k / 3)];
            if ($o >= 0) {
                $o *= 6;
                $w0 = $W[2 * $k];
                $w1 = $W[2 * $k + 1];
                $w2 = 1.0 - $w0 - $w1;
                $uvs[] = $w0 * $U[$o] + $w1 * $U[$o + 2] + $w2 * $U[$o + 4];
                $uvs[] = $w0 * $U[$o + 1] + $w1 * $U[$o + 3] + $w2 * $U[$o + 5];
                continue;
            }
            // Metres along two axes of the wall.
            $wall = -3 * ($o + 1);
            $axes[$wall] ??= Frame3::about([$fracture->wall[$wall], $fracture->wall[$wall + 1], $fracture->wall[$wall + 2]]);
            [$ux, $uy, $uz] = $axes[$wall]->u;
            [$vx, $vy, $vz] = $axes[$wall]->v;
            $v = $fracture->corner[$k];
            [$x, $y, $z] = [$fracture->x[$v], $fracture->y[$v], $fracture->z[$v]];
            $uvs[] = $ux * $x + $uy * $y + $uz * $z;
            $uvs[] = $vx * $x + $vy * $y + $vz * $z;
        }

        return $uvs;
    }
}
