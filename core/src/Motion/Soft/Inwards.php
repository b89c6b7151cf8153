<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Math\Matrix;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Ways that are known on the surface of a solid, carried on to places in it: the ways of the nodes of a lattice, as even as they can
 * be while the surface between them goes where it is to go (a harmonic map: what is drawn out or turned as a whole is so inside too,
 * the rest is the mean of what is around it). Least squares by conjugate gradients (Hestenes and Stiefel 1952).
 */
final class Inwards
{
    /** What evenness counts beside the surface: little. */
    private const EVEN = 0.01;

    private const ROUNDS = 400;

    /** How much of the first miss may be left. */
    private const LEFT = 1e-6;

    /**
     * @param TriangleMesh $mesh closed
     * @param list<array{float, float, float}> $ways of its vertices, m
     * @param array{list<float>, list<float>, list<float>} $places by axis, m
     * @param float $side of a box at the most, m
     *
     * @return list<array{float, float, float}> of the places, m
     */
    public static function carried(TriangleMesh $mesh, array $ways, array $places, float $side): array
    {
        $known = count($ways);
        $points = new TriangleMesh([...$mesh->x, ...$places[0]], [...$mesh->y, ...$places[1]], [...$mesh->z, ...$places[2]], $mesh->triangles);
        $lattice = Lattice::of([$points], $side);
        [$nodes, $shares] = $lattice->around();
        [$middle, $mean, $matrix] = self::asOne($mesh, $ways);
        $wholly = static fn (float $x, float $y, float $z): array => Vector::plus($mean, Matrix::times($matrix, Vector::minus([$x, $y, $z], $middle)));
        $rest = [[], [], []];
        foreach ($ways as $v => $way) {
            foreach (Vector::minus($way, $wholly($mesh->x[$v], $mesh->y[$v], $mesh->z[$v])) as $axis => $of) {
                $rest[$axis][] = $of;
            }
        }
        $of = array_map(static fn (array $along): array => self::even($lattice, array_slice($nodes, 0, 8 * $known), array_slice($shares, 0, 8 * $known), $along), $rest);
        $carried = [];
        foreach ($places[0] as $n => $x) {
            $way = $wholly($x, $places[1][$n], $places[2][$n]);
            for ($k = 8 * ($known + $n), $end = $k + 8; $k < $end; $k++) {
                $way = Vector::plus($way, [$shares[$k] * $of[0][$nodes[$k]], $shares[$k] * $of[1][$nodes[$k]], $shares[$k] * $of[2][$nodes[$k]]]);
            }
            $carried[] = $way;
        }

        return $carried;
    }

    /**
     * @param list<array{float, float, float}> $ways
     *
     * @return array{array{float, float, float}, array{float, float, float}, list<float>} the middle, its way, and the matrix that comes nearest to what is beside it
     */
    private static function asOne(TriangleMesh $mesh, array $ways): array
    {
        $n = count($ways);
        $middle = [array_sum($mesh->x) / $n, array_sum($mesh->y) / $n, array_sum($mesh->z) / $n];
        $mean = [array_sum(array_column($ways, 0)) / $n, array_sum(array_column($ways, 1)) / $n, array_sum(array_column($ways, 2)) / $n];
        $spread = $together = array_fill(0, 9, 0.0);
        foreach ($ways as $v => $way) {
            $at = Vector::minus([$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]], $middle);
            $by = Vector::minus($way, $mean);
            for ($k = 0; $k < 9; $k++) {
                $spread[$k] += $at[intdiv($k, 3)] * $at[$k % 3];
                $together[$k] += $by[intdiv($k, 3)] * $at[$k % 3];
            }
        }
        // A hair of the whole, so that what is flat has one too.
        $hair = 1e-9 * ($spread[0] + $spread[4] + $spread[8]) + 1e-30;
        foreach ([0, 4, 8] as $k) {
            $spread[$k] += $hair;
        }
        $inverse = Matrix::inverse($spread);
        $matrix = [];
        for ($row = 0; $row < 9; $row += 3) {
            // The inverse is symmetric.
            array_push($matrix, ...Matrix::times($inverse, [$together[$row], $together[$row + 1], $together[$row + 2]]));
        }

        return [$middle, $mean, $matrix];
    }

    /**
     * @param list<int> $nodes eight around each place that is known
     * @param list<float> $shares how far it goes with each
     * @param list<float> $known along one axis
     *
     * @return list<float> of the nodes
     */
    private static function even(Lattice $lattice, array $nodes, array $shares, array $known): array
    {
        [$first, $other] = $lattice->neighbours();
        $of = array_fill(0, $lattice->nodes(), 0.0);
        $miss = $weight = $of;
        foreach ($nodes as $k => $node) {
            $miss[$node] += $shares[$k] * $known[$k >> 3];
            $weight[$node] += $shares[$k] * $shares[$k];
        }
        for ($a = 0, $n = count($of); $a < $n; $a++) {
            for ($c = $first[$a]; $c < $first[$a + 1]; $c++) {
                $weight[$a] += self::EVEN;
                $weight[$other[$c]] += self::EVEN;
            }
        }
        $seen = array_map(static fn (float $r, float $w): float => $r / $w, $miss, $weight);
        $way = $seen;
        $now = self::dot($miss, $seen);
        $enough = self::LEFT * self::LEFT * $now;
        for ($round = 0; $round < self::ROUNDS && $now > $enough; $round++) {
            $acts = self::acts($way, $nodes, $shares, $first, $other);
            $step = $now / self::dot($way, $acts);
            foreach ($acts as $k => $act) {
                $of[$k] += $step * $way[$k];
                $miss[$k] -= $step * $act;
                $seen[$k] = $miss[$k] / $weight[$k];
            }
            $was = $now;
            $now = self::dot($miss, $seen);
            foreach ($seen as $k => $next) {
                $way[$k] = $next + $now / $was * $way[$k];
            }
        }

        return array_values($of);
    }

    /**
     * @param array<int, float> $way of the nodes
     * @param list<int> $nodes
     * @param list<float> $shares
     * @param list<int> $first
     * @param list<int> $other
     *
     * @return array<int, float> half of how what is to be least changes with each node
     */
    private static function acts(array $way, array $nodes, array $shares, array $first, array $other): array
    {
        $acts = array_fill(0, count($way), 0.0);
        for ($k = 0, $end = count($nodes); $k < $end; $k += 8) {
            $sum = 0.0;
            for ($c = $k; $c < $k + 8; $c++) {
                $sum += $shares[$c] * $way[$nodes[$c]];
            }
            for ($c = $k; $c < $k + 8; $c++) {
                $acts[$nodes[$c]] += $shares[$c] * $sum;
            }
        }
        foreach ($way as $a => $of) {
            for ($c = $first[$a], $end = $first[$a + 1]; $c < $end; $c++) {
                $d = self::EVEN * ($of - $way[$other[$c]]);
                $acts[$a] += $d;
                $acts[$other[$c]] -= $d;
            }
        }

        return $acts;
    }

    /**
     * @param array<int, float> $a
     * @param array<int, float> $b
     */
    private static function dot(array $a, array $b): float
    {
        $sum = 0.0;
        foreach ($a as $k => $of) {
            $sum += $of * $b[$k];
        }

        return $sum;
    }
}
