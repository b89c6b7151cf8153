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

    /** @var list<int> vertices of the cloth that may matter */
    private readonly array $own;

    /** @var list<int> of the cloth's triangles that may be crossed, as numbers in those */
    private readonly array $corners;

    /** @var array{array<int, float>, array<int, float>, array<int, float>, array{array{float, float, float}, array{float, float, float, float}}}|null where those were, and the thing, when nothing was crossed */
    private ?array $clear = null;

    /** @var list<int> how much was crossed as each turn began */
    private array $counts = [];

    /** @var array<mixed> where those were, and the thing, when the first of the turns began */
    private array $from = [];

    /** @var array{array<mixed>, list<int>} such a beginning from which turns led nowhere, and which vertices are pinned there */
    private array $stuck = [[], []];

    /**
     * @param list<int> $corners of the cloth's triangles that may be crossed
     * @param float $edge how long those of the cloth are on average, m
     */
    public function __construct(private readonly Collider $collider, array $corners, private readonly float $edge)
    {
        $own = array_values(array_unique($corners));
        sort($own);
        $this->own = $own;
        $number = array_flip($own);
        $this->corners = array_map(static fn (int $v): int => $number[$v], $corners);
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
        $flip = array_flip($this->own);
        $local = [array_values(array_intersect_key($x, $flip)), array_values(array_intersect_key($y, $flip)), array_values(array_intersect_key($z, $flip)), $this->collider->pose()];
        $this->from = $this->counts === [] ? $local : $this->from;
        if ($local === $this->clear || $this->from === $this->stuck[0]) {
            return false;
        }
        $this->clear = $local;
        [$a, $b, $c] = $places = $this->posed();
        $n = count($this->own);
        $hard = new Bending($a, $b, $c, $a, $b, $c, [], $this->hard()->triangles, true, 0.0, 0.0, 1.0);
        $cloth = new Bending($local[0], $local[1], $local[2], [], [], [], [], $this->corners, false, 0.0, 0.0, 1.0);
        $triangles = CrossedSurfaces::triangles($cloth, $hard);
        if (! CrossedSurfaces::cross($cloth, $hard, $triangles)) {
            $this->counts[] = 0;

            return false;
        }
        $all = [[...$local[0], ...$a], [...$local[1], ...$b], [...$local[2], ...$c]];
        $found = $this->facing($all, $hard, $triangles);
        $this->clear = null;
        $this->counts[] = count($found->all());
        if (self::leadNowhere($this->counts)) {
            $this->stuck = [$this->from, $this->pinned($found->all(), $n)];

            return false;
        }
        $moved = false;
        for ($round = 1; ($pierced = $found->all()) !== []; $round++) {
            $went = [];
            foreach ($this->waysOut($pierced, $n, $triangles, $places) as $v => [$p, $q, $r]) {
                $i = $this->own[$v];
                if ($w[$i] <= 0.0) {
                    continue;
                }
                $went[] = $v;
                $by = CrossedSurfaces::STEP * $this->edge / max(1.0, sqrt($p * $p + $q * $q + $r * $r));
                // Not into it any more: with the speed it had it would be in again, and tremble.
                $into = min(0.0, ($x[$i] - $px[$i]) * $p + ($y[$i] - $py[$i]) * $q + ($z[$i] - $pz[$i]) * $r) / max(1e-300, $p * $p + $q * $q + $r * $r);
                [$px[$i], $py[$i], $pz[$i]] = [$px[$i] + ($by + $into) * $p, $py[$i] + ($by + $into) * $q, $pz[$i] + ($by + $into) * $r];
                [$all[0][$v], $all[1][$v], $all[2][$v]] = [$x[$i], $y[$i], $z[$i]] = [$x[$i] + $by * $p, $y[$i] + $by * $q, $z[$i] + $by * $r];
            }
            $moved = $moved || $went !== [];
            if ($went === [] || $round === CrossedSurfaces::ROUNDS) {
                break;
            }
            if ($round % CrossedSurfaces::AHEAD === 0) {
                $found = $this->facing($all, $hard, $triangles);
            } else {
                $found->look($all, $went);
            }
        }

        return $moved;
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $all places of the cloth's vertices and of the hard thing's, m
     * @param list<int> $triangles of both
     */
    private function facing(array $all, Bending $hard, array $triangles): Piercings
    {
        $n = count($this->own);
        $cloth = new Bending(array_slice($all[0], 0, $n), array_slice($all[1], 0, $n), array_slice($all[2], 0, $n), [], [], [], [], $this->corners, false, 0.0, 0.0, 1.0);
        $found = new Piercings(CrossedSurfaces::facing($cloth, $hard, CrossedSurfaces::AHEAD * CrossedSurfaces::STEP * $this->edge), $triangles);
        $found->look($all);

        return $found;
    }

    /** Turns begin in which what is crossed is moved out, a little in each. */
    public function begin(): void
    {
        $this->counts = [];
    }

    /** @return list<int> vertices of the cloth where these turns have led nowhere: something else holds it there, too */
    public function pins(): array
    {
        return $this->from === $this->stuck[0] ? $this->stuck[1] : [];
    }

    /**
     * @param list<int> $counts how much was crossed as each turn began
     *
     * @return bool whether the last two turns have changed nothing for the better
     */
    private static function leadNowhere(array $counts): bool
    {
        $last = array_pop($counts);

        return count($counts) > 1 && min($counts) > 0 && $last >= min($counts);
    }

    /**
     * @param array<array{int, int, int}> $pierced as {@see Tangles::pierced()} tells them, the cloth's vertices first
     * @param int $n vertices of the cloth
     *
     * @return list<int> the cloth's among them, by its own numbers
     */
    private function pinned(array $pierced, int $n): array
    {
        $pinned = [];
        foreach ($pierced as [$u, $v, $t]) {
            foreach ($u < $n ? [$u, $v] : array_slice($this->corners, $t, 3) as $vertex) {
                $pinned[] = $this->own[$vertex];
            }
        }

        return $pinned;
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
