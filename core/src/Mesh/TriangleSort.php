<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Triangles sorted into a tree: parted again and again where the two boxes around the parts, each by the triangles in it, have
 * the least surface, until few are left together. Where to part is looked for at some places along each axis only (the surface
 * area heuristic with bins: Wald 2007).
 */
final class TriangleSort
{
    private const LEAF = 8;

    /** Strips along an axis; fewer for few triangles. */
    private const STRIPS = 12;

    /** @var array<int, array{list<float>, list<float>, list<float>}> along each axis: lowest and highest place of each triangle, and three times its middle */
    private array $along = [];

    private function __construct(private readonly TriangleMesh $mesh)
    {
        $t = $mesh->triangles;
        foreach ([$mesh->x, $mesh->y, $mesh->z] as $axis => $places) {
            $low = $high = $middle = [];
            for ($k = 0, $end = count($t); $k < $end; $k += 3) {
                [$a, $b, $c] = [$places[$t[$k]], $places[$t[$k + 1]], $places[$t[$k + 2]]];
                $low[] = $a < $b ? ($a < $c ? $a : $c) : ($b < $c ? $b : $c);
                $high[] = $a > $b ? ($a > $c ? $a : $c) : ($b > $c ? $b : $c);
                $middle[] = $a + $b + $c;
            }
            $this->along[$axis] = [$low, $high, $middle];
        }
    }

    /** @return array{list<int>, list<int>, list<int>} first child of each node (the second follows it), or first triangle of a leaf; triangles of a leaf (0: it has children); triangles in the order of the leaves */
    public static function of(TriangleMesh $mesh): array
    {
        $sort = new self($mesh);
        $order = [];
        $left = $count = [0];
        $todo = [[0, $sort->withArea()]];
        while ($todo !== []) {
            [$node, $own] = array_pop($todo);
            if (count($own) <= self::LEAF) {
                $left[$node] = count($order);
                $count[$node] = count($own);
                array_push($order, ...$own);
                continue;
            }
            $child = count($left);
            $left[$node] = $child;
            array_push($left, 0, 0);
            array_push($count, 0, 0);
            [$some, $others] = $sort->parted($own);
            $todo[] = [$child, $some];
            $todo[] = [$child + 1, $others];
        }

        return [array_values($left), array_values($count), $order];
    }

    /**
     * @param list<int> $own
     *
     * @return array{list<int>, list<int>} neither is empty
     */
    private function parted(array $own): array
    {
        $longest = 0.0;
        $best = null;
        foreach ($this->along as [, , $middle]) {
            [$from, $to] = [INF, -INF];
            foreach ($own as $triangle) {
                $m = $middle[$triangle];
                $from = $m < $from ? $m : $from;
                $to = $m > $to ? $m : $to;
            }
            if ($to - $from > $longest) {
                $longest = $to - $from;
                $best = [$middle, $from];
            }
        }
        if ($best === null) {
            // All in one place: any order is as good.
            return [array_slice($own, 0, intdiv(count($own), 2)), array_slice($own, intdiv(count($own), 2))];
        }
        [$middle, $from] = $best;
        $strips = min(self::STRIPS, count($own));
        // A hair less, so that the last is in the last strip.
        $per = 0.999999 * $strips / $longest;
        $strip = $this->cheapest($own, $middle, $from, $per, $strips);
        $some = $others = [];
        foreach ($own as $triangle) {
            if ((int) (($middle[$triangle] - $from) * $per) < $strip) {
                $some[] = $triangle;
            } else {
                $others[] = $triangle;
            }
        }

        return [$some, $others];
    }

    /**
     * @param list<int> $own
     * @param list<float> $middle of all triangles, along an axis
     * @param float $per strips a unit from the first
     *
     * @return int the strip that is the first of the second part
     */
    private function cheapest(array $own, array $middle, float $from, float $per, int $strips): int
    {
        [[$lowX, $highX], [$lowY, $highY], [$lowZ, $highZ]] = $this->along;
        $n = array_fill(0, $strips, 0);
        $x0 = $y0 = $z0 = array_fill(0, $strips, INF);
        $x1 = $y1 = $z1 = array_fill(0, $strips, -INF);
        foreach ($own as $t) {
            $s = (int) (($middle[$t] - $from) * $per);
            ++$n[$s];
            $x0[$s] = $lowX[$t] < $x0[$s] ? $lowX[$t] : $x0[$s];
            $y0[$s] = $lowY[$t] < $y0[$s] ? $lowY[$t] : $y0[$s];
            $z0[$s] = $lowZ[$t] < $z0[$s] ? $lowZ[$t] : $z0[$s];
            $x1[$s] = $highX[$t] > $x1[$s] ? $highX[$t] : $x1[$s];
            $y1[$s] = $highY[$t] > $y1[$s] ? $highY[$t] : $y1[$s];
            $z1[$s] = $highZ[$t] > $z1[$s] ? $highZ[$t] : $z1[$s];
        }
        // What the strips from each on cost together; then what those before it do.
        $after = array_fill(0, $strips, 0.0);
        [$a, $b, $c, $d, $e, $f, $count] = [INF, -INF, INF, -INF, INF, -INF, 0];
        for ($s = $strips - 1; $s > 0; --$s) {
            $count += $n[$s];
            $a = $x0[$s] < $a ? $x0[$s] : $a;
            $b = $x1[$s] > $b ? $x1[$s] : $b;
            $c = $y0[$s] < $c ? $y0[$s] : $c;
            $d = $y1[$s] > $d ? $y1[$s] : $d;
            $e = $z0[$s] < $e ? $z0[$s] : $e;
            $f = $z1[$s] > $f ? $z1[$s] : $f;
            $after[$s] = $count * (($b - $a) * ($d - $c) + ($d - $c) * ($f - $e) + ($f - $e) * ($b - $a));
        }
        $least = INF;
        $best = 1;
        [$a, $b, $c, $d, $e, $f, $count] = [INF, -INF, INF, -INF, INF, -INF, 0];
        for ($s = 1; $s < $strips; ++$s) {
            $k = $s - 1;
            $count += $n[$k];
            $a = $x0[$k] < $a ? $x0[$k] : $a;
            $b = $x1[$k] > $b ? $x1[$k] : $b;
            $c = $y0[$k] < $c ? $y0[$k] : $c;
            $d = $y1[$k] > $d ? $y1[$k] : $d;
            $e = $z0[$k] < $e ? $z0[$k] : $e;
            $f = $z1[$k] > $f ? $z1[$k] : $f;
            $cost = $after[$s] + $count * (($b - $a) * ($d - $c) + ($d - $c) * ($f - $e) + ($f - $e) * ($b - $a));
            if ($cost < $least) {
                $least = $cost;
                $best = $s;
            }
        }

        return $best;
    }

    /** @return list<int> the triangles that have an area: the others lie within their neighbours' edges */
    private function withArea(): array
    {
        $faces = [];
        for ($f = 0, $end = $this->mesh->triangleCount(); $f < $end; $f++) {
            if ($this->mesh->hasArea($f)) {
                $faces[] = $f;
            }
        }

        return $faces;
    }
}
