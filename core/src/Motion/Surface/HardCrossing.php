<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;

/**
 * Cloth that something hard has come through, though none of its vertices is inside: at a frame's end it is moved out, and goes
 * in no farther, the way the faces look that cross it. That happens at sharp edges, and where all of a thing is as thin as cloth is coarse: only
 * there is looked.
 */
final class HardCrossing
{
    /** What is thinner than so many edges of the cloth, two ways, is looked at all over. Only what has an inside tells which way is out. */
    private const THIN = 4.0;

    /** Of the thing, what is looked at; made when a frame ends, as most steps do not end one. */
    private ?TriangleMesh $hard = null;

    /** @var array<string, list<int>>|null triangles beside each of its edges, by their first corner; made when something is crossed */
    private ?array $beside = null;

    /**
     * @param list<int> $corners of the cloth's triangles that may be crossed
     * @param float $edge how long those of the cloth are on average, m
     */
    public function __construct(private readonly Collider $collider, private readonly array $corners, private readonly float $edge)
    {
    }

    private function hard(): TriangleMesh
    {
        $surface = $this->collider->surface();

        return $this->hard ??= self::isThin($this->collider, $this->edge) ? $surface->mesh() : $surface->brink();
    }

    /** @return list<int> triangles beside an edge of the thing */
    private function beside(int $a, int $b): array
    {
        if ($this->beside === null) {
            $this->beside = [];
            $triangles = $this->hard()->triangles;
            foreach ($triangles as $c => $v) {
                $this->beside[self::key($v, $triangles[$c % 3 === 2 ? $c - 2 : $c + 1])][] = $c - $c % 3;
            }
        }

        return $this->beside[self::key($a, $b)] ?? [];
    }

    private static function key(int $a, int $b): string
    {
        return $a < $b ? "{$a} {$b}" : "{$b} {$a}";
    }

    public static function isThin(Collider $collider, float $edge): bool
    {
        [$low, $high] = $collider->surface()->bounds();
        $sides = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        sort($sides);

        return $sides[1] < self::THIN * $edge;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     *
     * @return bool whether anything was moved
     */
    public function part(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): bool
    {
        [$a, $b, $c] = $this->posed();
        $cloth = new Bending($x, $y, $z, $px, $py, $pz, $w, $this->corners, false, 0.0, 0.0, 1.0);
        $hard = new Bending($a, $b, $c, $a, $b, $c, [], $this->hard()->triangles, true, 0.0, 0.0, 1.0);
        $facing = CrossedSurfaces::facing($cloth, $hard, $this->edge);
        $n = count($x);
        $triangles = $this->corners;
        foreach ($this->hard()->triangles as $v) {
            $triangles[] = $n + $v;
        }
        $moved = false;
        for ($round = 0; $facing !== [] && $round < CrossedSurfaces::ROUNDS; $round++) {
            $pierced = Tangles::pierced($facing, [...$x, ...$a], [...$y, ...$b], [...$z, ...$c], $triangles);
            foreach ($this->waysOut($pierced, $n, $triangles, [$a, $b, $c]) as $v => [$p, $q, $r]) {
                if ($w[$v] <= 0.0) {
                    continue;
                }
                $moved = true;
                $by = CrossedSurfaces::STEP * $this->edge / max(1.0, sqrt($p * $p + $q * $q + $r * $r));
                // Not into it any more: with the speed it had it would be in again, and tremble.
                $into = min(0.0, ($x[$v] - $px[$v]) * $p + ($y[$v] - $py[$v]) * $q + ($z[$v] - $pz[$v]) * $r) / max(1e-300, $p * $p + $q * $q + $r * $r);
                [$px[$v], $py[$v], $pz[$v]] = [$px[$v] + ($by + $into) * $p, $py[$v] + ($by + $into) * $q, $pz[$v] + ($by + $into) * $r];
                [$x[$v], $y[$v], $z[$v]] = [$x[$v] + $by * $p, $y[$v] + $by * $q, $z[$v] + $by * $r];
            }
            if ($pierced === []) {
                break;
            }
        }

        return $moved;
    }

    /**
     * @param array<array{int, int, int}> $pierced as {@see Tangles::pierced()} tells them, the cloth's vertices first
     * @param int $n vertices of the cloth
     * @param list<int> $triangles
     * @param array{list<float>, list<float>, list<float>} $places of the hard thing's vertices
     *
     * @return array<int, array{float, float, float}> by vertex of the cloth: sum of the ways that faces look which cross it
     */
    private function waysOut(array $pierced, int $n, array $triangles, array $places): array
    {
        $ways = [];
        foreach ($pierced as [$u, $v, $t]) {
            $through = $u < $n;
            $faces = $through ? [$t - count($this->corners)] : $this->beside($u - $n, $v - $n);
            foreach ($through ? [$u, $v] : [$triangles[$t], $triangles[$t + 1], $triangles[$t + 2]] as $vertex) {
                $way = $ways[$vertex] ?? [0.0, 0.0, 0.0];
                foreach ($faces as $face) {
                    $way = Vector::plus($way, $this->outward($face, ...$places));
                }
                $ways[$vertex] = $way;
            }
        }

        return $ways;
    }

    /**
     * @param int $face by its first corner
     * @param list<float> $a
     * @param list<float> $b
     * @param list<float> $c
     *
     * @return array{float, float, float} unit
     */
    private function outward(int $face, array $a, array $b, array $c): array
    {
        [$p, $q, $r] = array_slice($this->hard()->triangles, $face, 3);
        $from = [$a[$p], $b[$p], $c[$p]];

        return Vector::unit(Vector::cross(Vector::minus([$a[$q], $b[$q], $c[$q]], $from), Vector::minus([$a[$r], $b[$r], $c[$r]], $from))) ?? [0.0, 0.0, 0.0];
    }

    /** @return array{list<float>, list<float>, list<float>} places of the hard thing's vertices now, m */
    private function posed(): array
    {
        [[$tx, $ty, $tz], $rotation] = $this->collider->pose();
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($rotation);
        $a = $b = $c = [];
        $hard = $this->hard();
        foreach ($hard->x as $v => $p) {
            $q = $hard->y[$v];
            $r = $hard->z[$v];
            $a[] = $m0 * $p + $m1 * $q + $m2 * $r + $tx;
            $b[] = $m3 * $p + $m4 * $q + $m5 * $r + $ty;
            $c[] = $m6 * $p + $m7 * $q + $m8 * $r + $tz;
        }

        return [$a, $b, $c];
    }
}
