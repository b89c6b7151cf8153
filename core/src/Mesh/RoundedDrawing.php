<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Places of a finer surface from those of a coarse one that bends: the vertices stay where they are, and the middle of each edge
 * lies on the curve that leaves both ends square to their normals (the edges of curved PN triangles: Vlachos, Peters, Boyd and
 * Mitchell 2001), once or again and again. Finer meshes are made by {@see Subdivision::flat()}, piece by piece.
 */
final readonly class RoundedDrawing
{
    /**
     * @param list<array{list<int>, list<int>, list<int>, list<int>, list<int>, list<int>, list<int>, list<bool>}> $levels the coarsest first: where each vertex goes in the finer one; where each
     *        middle goes and its two ends; triangles; place of each corner, and of each vertex; whether each middle is rounded
     * @param int $count vertices of the finest
     */
    private function __construct(private array $levels, public int $count)
    {
    }

    /**
     * @param list<TriangleMesh> $pieces as finely as they are drawn
     * @param int $times how often they were made finer
     * @param int $flat the first so many pieces are not rounded
     */
    public static function of(array $pieces, int $times, int $flat = 0): self
    {
        $levels = [];
        $count = array_sum(array_map(static fn (TriangleMesh $piece): int => $piece->vertexCount(), $pieces));
        for ($level = 0; $level < $times; $level++) {
            $coarse = array_map(Subdivision::coarser(...), $pieces);
            array_unshift($levels, self::level($coarse, $pieces, $flat));
            $pieces = $coarse;
        }

        return new self($levels, $count);
    }

    /**
     * @param list<TriangleMesh> $coarse
     * @param list<TriangleMesh> $fine
     *
     * @return array{list<int>, list<int>, list<int>, list<int>, list<int>, list<int>, list<int>, list<bool>}
     */
    private static function level(array $coarse, array $fine, int $flat): array
    {
        $keep = $middle = $one = $other = $triangles = $rounded = [];
        $from = $to = 0;
        foreach ($coarse as $k => $mesh) {
            for ($v = 0; $v < $mesh->vertexCount(); $v++) {
                $keep[] = $to + $v;
            }
            $ends = [];
            foreach ($mesh->triangles as $v) {
                $triangles[] = $from + $v;
            }
            $t = $fine[$k]->triangles;
            for ($f = 0, $end = count($t); $f < $end; $f += 12) {
                // As they are parted: a, ab, ca; ab, b, bc; ca, bc, c; and the three middles.
                [$a, $b, $c] = [$t[$f], $t[$f + 4], $t[$f + 8]];
                $ends[$t[$f + 1]] = [$a, $b];
                $ends[$t[$f + 5]] = [$b, $c];
                $ends[$t[$f + 2]] = [$c, $a];
            }
            ksort($ends);
            foreach ($ends as $v => [$a, $b]) {
                $middle[] = $to + $v;
                $one[] = $from + $a;
                $other[] = $from + $b;
                $rounded[] = $k >= $flat;
            }
            $from += $mesh->vertexCount();
            $to += $fine[$k]->vertexCount();
        }

        $place = TriangleMesh::together($coarse)->places();

        return [$keep, $middle, $one, $other, $triangles, array_map(static fn (int $v): int => $place[$v], $triangles), $place, $rounded];
    }

    /**
     * @param list<float> $places three numbers a vertex of the coarsest, m
     *
     * @return list<float> three numbers a vertex of the finest
     */
    public function places(array $places): array
    {
        foreach ($this->levels as [$keep, $middle, $one, $other, $triangles, $corners, $place, $rounded]) {
            // Those at one place share their normal, so that what lies side by side stays together; where there is none nothing is rounded.
            $normals = BentNormals::of($places, $triangles, $corners, max([-1, ...$place]) + 1, 0.0);
            $finer = array_fill(0, 3 * (count($keep) + count($middle)), 0.0);
            foreach ($keep as $v => $to) {
                $finer[3 * $to] = $places[3 * $v];
                $finer[3 * $to + 1] = $places[3 * $v + 1];
                $finer[3 * $to + 2] = $places[3 * $v + 2];
            }
            foreach ($middle as $e => $to) {
                $a = 3 * $one[$e];
                $b = 3 * $other[$e];
                $x = $places[$b] - $places[$a];
                $y = $places[$b + 1] - $places[$a + 1];
                $z = $places[$b + 2] - $places[$a + 2];
                $m = 3 * $place[$one[$e]];
                $n = 3 * $place[$other[$e]];
                // How far the edge rises off the plane at either end; nothing where the surface has no normal.
                $p = $rounded[$e] ? -0.125 * ($x * $normals[$m] + $y * $normals[$m + 1] + $z * $normals[$m + 2]) : 0.0;
                $q = $rounded[$e] ? 0.125 * ($x * $normals[$n] + $y * $normals[$n + 1] + $z * $normals[$n + 2]) : 0.0;
                $finer[3 * $to] = $places[$a] + 0.5 * $x + $p * $normals[$m] + $q * $normals[$n];
                $finer[3 * $to + 1] = $places[$a + 1] + 0.5 * $y + $p * $normals[$m + 1] + $q * $normals[$n + 1];
                $finer[3 * $to + 2] = $places[$a + 2] + 0.5 * $z + $p * $normals[$m + 2] + $q * $normals[$n + 2];
            }
            $places = array_values($finer);
        }

        return $places;
    }

    /**
     * @param list<float> $values one a vertex of the coarsest
     *
     * @return list<float> one a vertex of the finest: halfway between those of its ends
     */
    public function values(array $values): array
    {
        foreach ($this->levels as [$keep, $middle, $one, $other]) {
            $finer = array_fill(0, count($keep) + count($middle), 0.0);
            foreach ($keep as $v => $to) {
                $finer[$to] = $values[$v];
            }
            foreach ($middle as $e => $to) {
                $finer[$to] = 0.5 * ($values[$one[$e]] + $values[$other[$e]]);
            }
            $values = array_values($finer);
        }

        return $values;
    }
}
