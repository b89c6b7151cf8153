<?php

declare(strict_types=1);

namespace YardBreak\Core\Plane;

use YardBreak\Core\Math\Orientation;

/**
 * Constrained Delaunay triangulation of points and lines in a box. Lines are made edges by flipping what they cross (Sloan
 * 1993). Lines that cross get a common point. Points nearer to one another, or to a line, than the tolerance are made one, so
 * ends that were snapped on screen meet for certain. The first four points are the box's.
 */
final class Triangulation extends Delaunay
{
    private int $last = 0;

    private readonly float $near;

    /**
     * @param array{float, float} $low
     * @param array{float, float} $high
     * @param float $tolerance in parts of the box's larger side
     * @param int $most triangles it may look at before it gives up
     */
    public function __construct(array $low, array $high, float $tolerance = 1e-7, int $most = PHP_INT_MAX)
    {
        $this->most = $most;
        $this->x = [$low[0], $high[0], $high[0], $low[0]];
        $this->y = [$low[1], $low[1], $high[1], $high[1]];
        $this->corner = [0, 1, 2, 0, 2, 3];
        $this->across = [-1, 1, -1, -1, -1, 0];
        $this->kind = [0, 0, 0, 0, 0, 0];
        $this->at = [0, 0, 0, 1];
        $this->near = $tolerance * max($high[0] - $low[0], $high[1] - $low[1]);
    }

    /** Puts a point in, or finds the one that is there. Must lie in the box. */
    public function point(float $x, float $y): int
    {
        $t = $this->find($x, $y);
        $near = $this->near * $this->near;
        for ($k = 0; $k < 3; $k++) {
            $v = $this->corner[3 * $t + $k];
            if (($this->x[$v] - $x) ** 2 + ($this->y[$v] - $y) ** 2 <= $near) {
                return $v;
            }
        }
        $p = count($this->x);
        $this->x[] = $x;
        $this->y[] = $y;
        $this->at[] = $t;
        // On an edge (or as good as on a line): both triangles beside it are split in two.
        for ($k = 0; $k < 3; $k++) {
            $a = $this->corner[3 * $t + ($k + 1) % 3];
            $b = $this->corner[3 * $t + ($k + 2) % 3];
            if ($this->across[3 * $t + $k] < 0) {
                continue;
            }
            $on = Orientation::turn($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $x, $y) === 0;
            if ($on || ($this->kind[3 * $t + $k] !== self::OPEN && $this->distance($a, $b, $x, $y) <= $this->near && $this->seesBetween($t, $k, $p))) {
                $this->splitEdge($t, $k, $p);

                return $p;
            }
        }
        $this->splitTriangle($t, $p);

        return $p;
    }

    /** Makes the straight line between two points edges of the triangulation. Where a seam lies on a line it is a line. */
    public function line(int $from, int $to, int $kind = self::LINE): void
    {
        $left = [[$from, $to, $kind]];
        // Far more than any drawing needs: each round fixes an edge or adds a crossing.
        for ($rounds = 0; $left !== [] && $rounds < 200_000; $rounds++) {
            [$a, $b, $of] = array_pop($left);
            if ($a !== $b) {
                foreach ($this->stretch($a, $b, $of) as $more) {
                    $left[] = $more;
                }
            }
        }
    }

    /** The triangle in which a place lies (or on whose edge). */
    public function find(float $x, float $y): int
    {
        $t = $this->last;
        // Lines make the walk go round in circles unless it tries the edges in changing order.
        for ($turn = 1;; $turn = ($turn * 1103515245 + 12345) & 0x7fffffff) {
            $base = 3 * $t;
            for ($j = 0; $j < 3; $j++) {
                $k = ($j + ($turn >> 16)) % 3;
                $next = $this->across[$base + $k];
                if ($next < 0) {
                    continue;
                }
                $a = $this->corner[$base + ($k + 1) % 3];
                $b = $this->corner[$base + ($k + 2) % 3];
                if (Orientation::turn($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $x, $y) < 0) {
                    $t = $next;
                    $this->spend(1);
                    continue 2;
                }
            }

            return $this->last = $t;
        }
    }

    /**
     * Lines that end in the open, or stand alone, cut nothing: they are taken out, from their ends on.
     *
     * @return int how many such ends there were
     */
    public function dropLooseEnds(): int
    {
        $ends = 0;
        $degree = array_fill(0, count($this->x), 0);
        foreach ($this->lines() as [$a, $b]) {
            $degree[$a]++;
            $degree[$b]++;
        }
        foreach ($degree as $n) {
            $ends += $n === 1 ? 1 : 0;
        }
        for ($p = 0, $count = count($this->x); $p < $count; $p++) {
            for ($v = $p; $degree[$v] === 1;) {
                foreach ($this->around($v) as [$t, $k]) {
                    // The edge from $v to the next corner, seen from this triangle.
                    $edge = 3 * $t + ($k + 2) % 3;
                    if ($this->kind[$edge] === self::OPEN) {
                        continue;
                    }
                    $w = $this->corner[3 * $t + ($k + 1) % 3];
                    $this->fix($t, ($k + 2) % 3, self::OPEN);
                    $degree[$v]--;
                    $degree[$w]--;
                    $v = $w;
                    continue 2;
                }
                break;
            }
        }

        return $ends;
    }

    /** @return list<array{int, int, int}> ends and kind of every edge that is part of a line or seam */
    public function lines(): array
    {
        $lines = [];
        foreach ($this->kind as $e => $kind) {
            if ($kind !== self::OPEN) {
                $t = intdiv($e, 3);
                $a = $this->corner[3 * $t + ($e + 1) % 3];
                $b = $this->corner[3 * $t + ($e + 2) % 3];
                if ($a < $b || $this->across[$e] < 0) {
                    $lines[] = [$a, $b, $kind];
                }
            }
        }

        return $lines;
    }

    /**
     * The areas that lines part from one another, numbered in the order of their first triangle.
     *
     * @param bool $acrossSeams whether seams part nothing
     *
     * @return array<int, int> by triangle
     */
    public function areas(bool $acrossSeams = false): array
    {
        $closed = $acrossSeams ? [self::LINE => true] : [self::LINE => true, self::SEAM => true];
        $area = [];
        $count = 0;
        for ($first = 0, $end = $this->triangleCount(); $first < $end; $first++) {
            if (isset($area[$first])) {
                continue;
            }
            $area[$first] = $count;
            $queue = [$first];
            while ($queue !== []) {
                $t = array_pop($queue);
                for ($k = 0; $k < 3; $k++) {
                    $next = $this->across[3 * $t + $k];
                    if ($next >= 0 && ! isset($closed[$this->kind[3 * $t + $k]]) && ! isset($area[$next])) {
                        $area[$next] = $count;
                        $queue[] = $next;
                    }
                }
            }
            $count++;
        }

        return $area;
    }

    private function distance(int $a, int $b, float $x, float $y): float
    {
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $length = sqrt($ux * $ux + $uy * $uy);

        return abs($ux * ($y - $this->y[$a]) - $uy * ($x - $this->x[$a])) / max(1e-300, $length);
    }

    /** Whether the far corner of the triangle beyond an edge sees a point between the edge's ends. */
    private function seesBetween(int $t, int $k, int $p): bool
    {
        $o = $this->across[3 * $t + $k];
        $r = $this->corner[3 * $o + $this->edgeTo($o, $t)];

        return $this->side($r, $p, $this->corner[3 * $t + ($k + 1) % 3]) > 0 && $this->side($r, $this->corner[3 * $t + ($k + 2) % 3], $p) > 0;
    }

    private function fix(int $t, int $k, int $kind): void
    {
        $this->kind[3 * $t + $k] = $kind;
        $other = $this->across[3 * $t + $k];
        if ($other >= 0) {
            $this->kind[3 * $other + $this->edgeTo($other, $t)] = $kind;
        }
    }

    /**
     * Makes an edge of the stretch from a to b, or of part of it.
     *
     * @return list<array{int, int, int}> stretches still to be done, with their kind
     */
    private function stretch(int $a, int $b, int $kind): array
    {
        [$ax, $ay, $bx, $by] = [$this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b]];
        $start = -1;
        foreach ($this->around($a) as [$t, $k]) {
            $u = $this->corner[3 * $t + ($k + 1) % 3];
            $v = $this->corner[3 * $t + ($k + 2) % 3];
            foreach ([[$u, 2], [$v, 1]] as [$w, $edge]) {
                if ($w === $b || $this->liesOn($a, $b, $w)) {
                    if ($this->kind[3 * $t + ($k + $edge) % 3] !== self::LINE) {
                        $this->fix($t, ($k + $edge) % 3, $kind);
                    }

                    return $w === $b ? [] : [[$w, $b, $kind]];
                }
            }
            if (Orientation::turn($ax, $ay, $bx, $by, $this->x[$u], $this->y[$u]) < 0 && Orientation::turn($ax, $ay, $bx, $by, $this->x[$v], $this->y[$v]) > 0) {
                $start = 3 * $t + $k;
            }
        }
        if ($start < 0) {
            return [];
        }
        // The edges it crosses, until b or a point on the way.
        $crossed = [];
        $edge = $start;
        $end = $b;
        for (;;) {
            $t = intdiv($edge, 3);
            $u = $this->corner[3 * $t + ($edge + 1) % 3];
            $v = $this->corner[3 * $t + ($edge + 2) % 3];
            if ($this->kind[$edge] !== self::OPEN) {
                return $this->cross($a, $b, $kind, $u, $v, $this->kind[$edge]);
            }
            $crossed[] = [$u, $v];
            $this->spend(1);
            $o = $this->across[$edge];
            $j = $this->edgeTo($o, $t);
            $w = $this->corner[3 * $o + $j];
            if ($w === $b || $this->liesOn($a, $b, $w)) {
                $end = $w;
                break;
            }
            // Onwards through the edge on the other side of w.
            $edge = Orientation::turn($ax, $ay, $bx, $by, $this->x[$w], $this->y[$w]) > 0 ? 3 * $o + ($j + 1) % 3 : 3 * $o + ($j + 2) % 3;
            $ends = [$this->corner[3 * $o + (($edge % 3) + 1) % 3], $this->corner[3 * $o + (($edge % 3) + 2) % 3]];
            if (! in_array($w, $ends, true)) {
                return [];
            }
        }
        $this->clear($a, $end, $kind, $crossed);

        return $end === $b ? [] : [[$end, $b, $kind]];
    }

    /** Whether a point lies on the stretch from a to b, between its ends. */
    private function liesOn(int $a, int $b, int $w): bool
    {
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $along = $ux * ($this->x[$w] - $this->x[$a]) + $uy * ($this->y[$w] - $this->y[$a]);
        if ($along <= 0.0 || $along >= $ux * $ux + $uy * $uy) {
            return false;
        }

        return $this->distance($a, $b, $this->x[$w], $this->y[$w]) <= $this->near
            || Orientation::turn($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $this->x[$w], $this->y[$w]) === 0;
    }

    /**
     * A line crosses the line from u to v: both get a point there.
     *
     * @return list<array{int, int, int}>
     */
    private function cross(int $a, int $b, int $kind, int $u, int $v, int $crossed): array
    {
        $du = ($this->x[$b] - $this->x[$a]) * ($this->y[$u] - $this->y[$a]) - ($this->y[$b] - $this->y[$a]) * ($this->x[$u] - $this->x[$a]);
        $dv = ($this->x[$b] - $this->x[$a]) * ($this->y[$v] - $this->y[$a]) - ($this->y[$b] - $this->y[$a]) * ($this->x[$v] - $this->x[$a]);
        $s = $du / ($du - $dv);
        $before = count($this->x);
        $p = $this->point($this->x[$u] + $s * ($this->x[$v] - $this->x[$u]), $this->y[$u] + $s * ($this->y[$v] - $this->y[$u]));
        $more = [[$a, $p, $kind], [$p, $b, $kind]];
        if ($p >= $before) {
            return $more;
        }
        if ($p === $a || $p === $b) {
            // Touches the line with its end: the line is bent a hair, through it.
            $this->release($u, $v);

            return [[$a, $b, $kind], [$u, $p, $crossed], [$p, $v, $crossed]];
        }
        if ($p !== $u && $p !== $v) {
            $this->release($u, $v);
            array_push($more, [$u, $p, $crossed], [$p, $v, $crossed]);
        }

        return $more;
    }

    private function release(int $u, int $v): void
    {
        foreach ($this->around($u) as [$t, $k]) {
            if ($this->corner[3 * $t + ($k + 1) % 3] === $v) {
                $this->fix($t, ($k + 2) % 3, self::OPEN);
            } elseif ($this->corner[3 * $t + ($k + 2) % 3] === $v) {
                $this->fix($t, ($k + 1) % 3, self::OPEN);
            }
        }
    }

    /**
     * Flips the crossed edges away, fixes the stretch, and makes the edges beside it Delaunay again.
     *
     * @param list<array{int, int}> $crossed
     */
    private function clear(int $a, int $b, int $kind, array $crossed): void
    {
        $made = [];
        for ($k = 0; $k < count($crossed); $k++) {
            [$u, $v] = $crossed[$k];
            [$t, $i] = $this->edge($u, $v);
            $o = $this->across[3 * $t + $i];
            $p = $this->corner[3 * $t + $i];
            $q = $this->corner[3 * $o + $this->edgeTo($o, $t)];
            if (! $this->convex($p, $u, $q, $v)) {
                $crossed[] = [$u, $v];
                continue;
            }
            $this->flip($t, $i);
            if (($p === $a && $q === $b) || ($p === $b && $q === $a)) {
                continue;
            }
            if ($p !== $a && $p !== $b && $q !== $a && $q !== $b && $this->side($a, $b, $p) * $this->side($a, $b, $q) < 0) {
                $crossed[] = [$p, $q];
            } else {
                $made[] = [$p, $q];
            }
        }
        [$t, $k] = $this->edge($a, $b);
        $this->fix($t, $k, $kind);
        for ($again = true; $again;) {
            $again = false;
            foreach ($made as $m => [$u, $v]) {
                [$t, $i] = $this->edge($u, $v);
                $o = $this->across[3 * $t + $i];
                if ($o < 0 || $this->kind[3 * $t + $i] !== self::OPEN) {
                    continue;
                }
                $p = $this->corner[3 * $t + $i];
                $q = $this->corner[3 * $o + $this->edgeTo($o, $t)];
                [$c, $d] = [$this->corner[3 * $t + ($i + 1) % 3], $this->corner[3 * $t + ($i + 2) % 3]];
                if (Orientation::inCircle($this->x[$p], $this->y[$p], $this->x[$c], $this->y[$c], $this->x[$d], $this->y[$d], $this->x[$q], $this->y[$q]) > 0) {
                    $this->flip($t, $i);
                    $made[$m] = [$p, $q];
                    $again = true;
                }
            }
        }
    }

    private function side(int $a, int $b, int $p): int
    {
        return Orientation::turn($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $this->x[$p], $this->y[$p]);
    }

    /** Whether the quadrilateral's diagonal from p to q may replace that from u to v. */
    private function convex(int $p, int $u, int $q, int $v): bool
    {
        return $this->side($p, $q, $u) * $this->side($p, $q, $v) < 0;
    }

}
