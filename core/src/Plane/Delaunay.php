<?php

declare(strict_types=1);

namespace YardBreak\Core\Plane;

use YardBreak\Core\Math\Orientation;

/**
 * Triangles in the plane that can take in points and stay Delaunay (Lawson 1977: points are put in one by one, and edges
 * flipped). Sides are exact, so triangles are never turned over.
 *
 * Triangle t has corners corner[3t] to [3t + 2], counter-clockwise; across the edge opposite corner k lies across[3t + k]
 * (-1: the end of the triangulation), and kind[3t + k] says what that edge is part of. Only OPEN edges are flipped.
 */
abstract class Delaunay
{
    /** Kinds of edges: no line, a line, or one that only helps to tell areas apart. */
    public const OPEN = 0;
    public const LINE = 1;
    public const SEAM = 2;

    /** @var array<int, float> */
    public array $x = [];

    /** @var array<int, float> */
    public array $y = [];

    /** @var array<int, int> */
    public array $corner = [];

    /** @var array<int, int> */
    public array $across = [];

    /** @var array<int, int> */
    public array $kind = [];

    /** @var array<int, int> a triangle at each point */
    protected array $at = [];

    /** Triangles looked at so far, and how many may be: about a million a second. */
    protected int $effort = 0;

    protected int $most = PHP_INT_MAX;

    public function triangleCount(): int
    {
        return intdiv(count($this->corner), 3);
    }

    /**
     * The triangles about a point, and which of their corners it is; counter-clockwise unless it lies on the box.
     *
     * @return list<array{int, int}>
     *
     * @throws TooIntricate
     */
    public function around(int $point): array
    {
        $start = $t = $this->at[$point];
        $found = [];
        // Counter-clockwise until round or at the box's end, then the other way.
        do {
            $k = $this->cornerOf($t, $point);
            $found[] = [$t, $k];
            $t = $this->across[3 * $t + ($k + 1) % 3];
        } while ($t >= 0 && $t !== $start);
        if ($t < 0) {
            $before = [];
            $k = $this->cornerOf($start, $point);
            for ($t = $this->across[3 * $start + ($k + 2) % 3]; $t >= 0; $t = $this->across[3 * $t + ($k + 2) % 3]) {
                $k = $this->cornerOf($t, $point);
                $before[] = [$t, $k];
            }
            $found = [...array_reverse($before), ...$found];
        }
        // They cost a quarter of what others do.
        $this->spend(intdiv(count($found) + 3, 4));

        return $found;
    }

    /** @throws TooIntricate */
    protected function spend(int $triangles): void
    {
        $this->effort += $triangles;
        if ($this->effort > $this->most) {
            throw new TooIntricate();
        }
    }

    protected function cornerOf(int $t, int $point): int
    {
        return $this->corner[3 * $t] === $point ? 0 : ($this->corner[3 * $t + 1] === $point ? 1 : 2);
    }

    /** @return array{int, int} a triangle with the edge, and the corner opposite it */
    protected function edge(int $u, int $v): array
    {
        foreach ($this->around($u) as [$t, $k]) {
            if ($this->corner[3 * $t + ($k + 1) % 3] === $v) {
                return [$t, ($k + 2) % 3];
            }
            if ($this->corner[3 * $t + ($k + 2) % 3] === $v) {
                return [$t, ($k + 1) % 3];
            }
        }

        return [$this->at[$u], 0];
    }

    /** Which edge of a triangle leads to a neighbour. */
    protected function edgeTo(int $t, int $neighbour): int
    {
        return $this->across[3 * $t] === $neighbour ? 0 : ($this->across[3 * $t + 1] === $neighbour ? 1 : 2);
    }

    /**
     * @param array{int, int, int} $corners
     * @param array{int, int, int} $across
     * @param array{int, int, int} $kinds
     */
    protected function put(int $t, array $corners, array $across, array $kinds): void
    {
        for ($k = 0; $k < 3; $k++) {
            $this->corner[3 * $t + $k] = $corners[$k];
            $this->across[3 * $t + $k] = $across[$k];
            $this->kind[3 * $t + $k] = $kinds[$k];
            $this->at[$corners[$k]] = $t;
        }
    }

    protected function relink(int $t, int $from, int $to): void
    {
        if ($t >= 0) {
            $this->across[3 * $t + $this->edgeTo($t, $from)] = $to;
        }
    }

    protected function splitTriangle(int $t, int $p): void
    {
        [$a, $b, $c] = array_slice($this->corner, 3 * $t, 3);
        [$na, $nb, $nc] = array_slice($this->across, 3 * $t, 3);
        [$fa, $fb, $fc] = array_slice($this->kind, 3 * $t, 3);
        $u = $this->triangleCount();
        $v = $u + 1;
        $this->put($t, [$p, $b, $c], [$na, $u, $v], [$fa, 0, 0]);
        $this->put($u, [$p, $c, $a], [$nb, $v, $t], [$fb, 0, 0]);
        $this->put($v, [$p, $a, $b], [$nc, $t, $u], [$fc, 0, 0]);
        $this->relink($nb, $t, $u);
        $this->relink($nc, $t, $v);
        $this->mend([[$t, $p], [$u, $p], [$v, $p]]);
    }

    protected function splitEdge(int $t, int $k, int $p): void
    {
        $o = $this->across[3 * $t + $k];
        $j = $this->edgeTo($o, $t);
        $kind = $this->kind[3 * $t + $k];
        $s = $this->corner[3 * $t + $k];
        $a = $this->corner[3 * $t + ($k + 1) % 3];
        $b = $this->corner[3 * $t + ($k + 2) % 3];
        $r = $this->corner[3 * $o + $j];
        // t is (s, a, b), o is (r, b, a).
        $toB = [$this->across[3 * $t + ($k + 1) % 3], $this->kind[3 * $t + ($k + 1) % 3]]; // edge b s
        $toA = [$this->across[3 * $t + ($k + 2) % 3], $this->kind[3 * $t + ($k + 2) % 3]]; // edge s a
        $downA = [$this->across[3 * $o + ($j + 1) % 3], $this->kind[3 * $o + ($j + 1) % 3]]; // edge a r
        $downB = [$this->across[3 * $o + ($j + 2) % 3], $this->kind[3 * $o + ($j + 2) % 3]]; // edge r b
        $t2 = $this->triangleCount();
        $o2 = $t2 + 1;
        $this->put($t, [$s, $a, $p], [$o, $t2, $toA[0]], [$kind, 0, $toA[1]]);
        $this->put($t2, [$s, $p, $b], [$o2, $toB[0], $t], [$kind, $toB[1], 0]);
        $this->put($o, [$r, $p, $a], [$t, $downA[0], $o2], [$kind, $downA[1], 0]);
        $this->put($o2, [$r, $b, $p], [$t2, $o, $downB[0]], [$kind, 0, $downB[1]]);
        $this->relink($toB[0], $t, $t2);
        $this->relink($downB[0], $o, $o2);
        $this->mend([[$t, $p], [$t2, $p], [$o, $p], [$o2, $p]]);
    }

    /**
     * Flips edges until the triangles about a new point are Delaunay again.
     *
     * @param list<array{int, int}> $stack triangles whose edge opposite the point may have to be flipped
     */
    protected function mend(array $stack): void
    {
        while ($stack !== []) {
            [$t, $p] = array_pop($stack);
            $k = $this->cornerOf($t, $p);
            if ($this->corner[3 * $t + $k] !== $p) {
                continue;
            }
            if ($this->mayBeFairer($t, $k)) {
                $o = $this->across[3 * $t + $k];
                $this->flip($t, $k);
                $stack[] = [$t, $p];
                $stack[] = [$o, $p];
            }
        }
    }

    /** Whether flipping the edge opposite corner k is allowed and makes the two triangles Delaunay. */
    protected function mayBeFairer(int $t, int $k): bool
    {
        $o = $this->across[3 * $t + $k];
        if ($o < 0 || $this->kind[3 * $t + $k] !== self::OPEN) {
            return false;
        }
        $p = $this->corner[3 * $t + $k];
        $q = $this->corner[3 * $o + $this->edgeTo($o, $t)];
        $b = $this->corner[3 * $t + ($k + 1) % 3];
        $c = $this->corner[3 * $t + ($k + 2) % 3];

        return Orientation::inCircle($this->x[$p], $this->y[$p], $this->x[$b], $this->y[$b], $this->x[$c], $this->y[$c], $this->x[$q], $this->y[$q]) > 0
            && $this->mayJoin($p, $q);
    }

    /** Whether flipping may make an edge between these points. */
    protected function mayJoin(int $p, int $q): bool
    {
        return true;
    }

    /** The other diagonal of the two triangles beside an edge. Afterwards it lies opposite corner 1 of t and corner 2 of the other. */
    protected function flip(int $t, int $k): void
    {
        $o = $this->across[3 * $t + $k];
        $j = $this->edgeTo($o, $t);
        $p = $this->corner[3 * $t + $k];
        $b = $this->corner[3 * $t + ($k + 1) % 3];
        $c = $this->corner[3 * $t + ($k + 2) % 3];
        $q = $this->corner[3 * $o + $j];
        $e1 = 3 * $t + ($k + 1) % 3; // edge c p
        $e2 = 3 * $t + ($k + 2) % 3; // edge p b
        $g1 = 3 * $o + ($j + 1) % 3; // edge b q
        $g2 = 3 * $o + ($j + 2) % 3; // edge q c
        [$cp, $fcp] = [$this->across[$e1], $this->kind[$e1]];
        [$pb, $fpb] = [$this->across[$e2], $this->kind[$e2]];
        [$bq, $fbq] = [$this->across[$g1], $this->kind[$g1]];
        [$qc, $fqc] = [$this->across[$g2], $this->kind[$g2]];
        $this->put($t, [$p, $b, $q], [$bq, $o, $pb], [$fbq, 0, $fpb]);
        $this->put($o, [$p, $q, $c], [$qc, $cp, $t], [$fqc, $fcp, 0]);
        $this->relink($bq, $o, $t);
        $this->relink($cp, $t, $o);
        $this->spend(2);
    }
}
