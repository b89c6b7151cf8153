<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** Flakes as one sheet in which neighbours share the vertices of their rims; what a triangle looks like tells which flake it is of, too. */
final class FlakeSheet
{
    /** Vertices nearer than this part of the size of the whole are one. */
    private const SAME = 1e-6;

    /** More than there are looks. */
    private const LOOKS = 256;

    /** @param list<TriangleMesh> $flakes */
    public static function of(array $flakes, float $size): TriangleMesh
    {
        $limit = self::SAME * $size;
        $x = $y = $z = $grid = $triangles = $looks = $uvs = [];
        foreach ($flakes as $k => $flake) {
            $number = [];
            foreach ($flake->x as $v => $px) {
                $found = self::find($grid, $x, $y, $z, $px, $flake->y[$v], $flake->z[$v], $limit);
                if ($found < 0) {
                    $found = count($x);
                    [$x[], $y[], $z[]] = [$px, $flake->y[$v], $flake->z[$v]];
                    $grid[self::cell($px, $flake->y[$v], $flake->z[$v], $limit, 0)][] = $found;
                }
                $number[$v] = $found;
            }
            foreach ($flake->triangles as $v) {
                $triangles[] = $number[$v];
            }
            for ($t = 0, $count = $flake->triangleCount(); $t < $count; $t++) {
                $looks[] = self::LOOKS * $k + ($flake->looks[$t] ?? TriangleMesh::LOOK_OUTER);
            }
            if ($flake->uvs !== null) {
                array_push($uvs, ...$flake->uvs);
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, count($uvs) === 2 * count($triangles) ? $uvs : null, $looks);
    }

    /**
     * The flakes of a sheet, also when its triangles have become others.
     *
     * @return list<TriangleMesh> as many as it was made of; one of which nothing is left is empty
     */
    public static function apart(TriangleMesh $sheet, int $count): array
    {
        $faces = array_fill(0, $count, []);
        $looks = [];
        foreach ($sheet->looks ?? [] as $t => $look) {
            $faces[intdiv($look, self::LOOKS)][] = $t;
            $looks[] = $look % self::LOOKS;
        }
        $plain = new TriangleMesh($sheet->x, $sheet->y, $sheet->z, $sheet->triangles, null, $sheet->uvs, $looks);

        return array_map($plain->picked(...), $faces);
    }

    /**
     * @param array<string, list<int>> $grid vertices by their cube
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return int the vertex that is there, -1: none
     */
    private static function find(array $grid, array $x, array $y, array $z, float $px, float $py, float $pz, float $limit): int
    {
        for ($near = 0; $near < 8; $near++) {
            foreach ($grid[self::cell($px, $py, $pz, $limit, $near)] ?? [] as $v) {
                if (($x[$v] - $px) ** 2 + ($y[$v] - $py) ** 2 + ($z[$v] - $pz) ** 2 <= $limit * $limit) {
                    return $v;
                }
            }
        }

        return -1;
    }

    /** The cube a place is in (0), or one of the seven around the corner that is nearest to it: cubes are four times as wide as what is the same. */
    private static function cell(float $x, float $y, float $z, float $limit, int $near): string
    {
        $name = '';
        foreach ([$x, $y, $z] as $axis => $at) {
            $in = $at / (4.0 * $limit);
            $whole = floor($in);
            $name .= (int) ($whole + ($near >> $axis & 1) * ($in - $whole < 0.5 ? -1 : 1)) . ',';
        }

        return $name;
    }
}
