<?php

declare(strict_types=1);

namespace YardBreak\Core\Plane;

use Closure;
use YardBreak\Core\Math\Orientation;

/**
 * Fills a triangulated area with points, so that its triangles become even: the middle of each triangle's circumscribed
 * circle is put in as long as that circle is too large (Chew 1989, "Guaranteed-quality triangular meshes"). Points come no
 * nearer to one another than that radius; the rim stays as it is, and so do the points given.
 */
final class EvenFill extends Delaunay
{
    /** Steps of a walk to a circle's middle; it lies a few triangles away, or behind the rim. */
    private const STEPS = 60;

    /** @var list<array{int, int, int, float, float}> of each new point, three points that were there before and the first two's weights */
    public array $from = [];

    private readonly int $given;

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<int> $corners counter-clockwise triangles that meet edge to edge; those turned over are left alone
     * @param Closure(int, int): bool|null $mayJoin whether an edge may be made between two of the points given
     */
    public function __construct(array $x, array $y, array $corners, private readonly ?Closure $mayJoin = null)
    {
        $this->x = $x;
        $this->y = $y;
        $this->corner = $corners;
        $this->given = count($x);
        $this->across = array_fill(0, count($corners), -1);
        $this->kind = array_fill(0, count($corners), self::LINE);
        /** @var array<int, list<int>> $users */
        $users = [];
        foreach ($corners as $k => $v) {
            $this->at[$v] = intdiv($k, 3);
            $base = $k - $k % 3;
            [$a, $b] = [$corners[$base + ($k + 1) % 3], $corners[$base + ($k + 2) % 3]];
            $users[$a < $b ? ($a << 32) | $b : ($b << 32) | $a][] = $k;
        }
        foreach ($users as $pair) {
            if (count($pair) === 2) {
                [$k, $j] = $pair;
                $this->across[$k] = intdiv($j, 3);
                $this->across[$j] = intdiv($k, 3);
                $this->kind[$k] = $this->kind[$j] = $this->stands(intdiv($k, 3)) && $this->stands(intdiv($j, 3)) ? self::OPEN : self::LINE;
            }
        }
    }

    /**
     * Makes the triangles Delaunay, then puts points in until no circumscribed circle is larger than this. Edges of the rim
     * should not be longer than 1.7 times as much; then no point comes nearer to them than half of it.
     */
    public function fill(float $radius): void
    {
        $this->fair();
        // Discs of half the radius about the new points do not overlap and lie inside: there cannot be more.
        $room = (int) (1.28 * $this->area() / ($radius * $radius));
        do {
            $before = count($this->from);
            for ($t = 0; $t < $this->triangleCount(); $t++) {
                while ($this->radius($t) > $radius && count($this->from) < $room && $this->putIn($t)) {
                    // Until this triangle is small enough; those it has changed come later, or in the next round.
                }
            }
        } while (count($this->from) > $before);
    }

    private function area(): float
    {
        $twice = 0.0;
        for ($t = 0, $count = $this->triangleCount(); $t < $count; $t++) {
            [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];
            $twice += ($this->x[$b] - $this->x[$a]) * ($this->y[$c] - $this->y[$a]) - ($this->y[$b] - $this->y[$a]) * ($this->x[$c] - $this->x[$a]);
        }

        return 0.5 * $twice;
    }

    protected function mayJoin(int $p, int $q): bool
    {
        return $this->mayJoin === null || $p >= $this->given || $q >= $this->given || ($this->mayJoin)($p, $q);
    }

    /** Whether a triangle is counter-clockwise. */
    private function stands(int $t): bool
    {
        [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];

        return Orientation::turn($this->x[$a], $this->y[$a], $this->x[$b], $this->y[$b], $this->x[$c], $this->y[$c]) > 0;
    }

    /** Flips edges until all triangles are Delaunay (Lawson). */
    private function fair(): void
    {
        $stack = array_keys($this->corner);
        while ($stack !== []) {
            $edge = array_pop($stack);
            [$t, $k] = [intdiv($edge, 3), $edge % 3];
            if ($this->mayBeFairer($t, $k)) {
                $o = $this->across[$edge];
                $this->flip($t, $k);
                array_push($stack, 3 * $t, 3 * $t + 1, 3 * $t + 2, 3 * $o, 3 * $o + 1, 3 * $o + 2);
            }
        }
    }

    /** Radius of a triangle's circumscribed circle. */
    private function radius(int $t): float
    {
        [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $area = $ux * $vy - $uy * $vx;
        if ($area <= 0.0) {
            return 0.0;
        }
        $wx = $vx - $ux;
        $wy = $vy - $uy;

        return 0.5 * sqrt(($ux * $ux + $uy * $uy) * ($vx * $vx + $vy * $vy) * ($wx * $wx + $wy * $wy)) / $area;
    }

    /** Puts in the middle of a triangle's circumscribed circle, unless it lies behind the rim. */
    private function putIn(int $t): bool
    {
        [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $s = 0.5 / ($ux * $vy - $uy * $vx);
        $uu = $ux * $ux + $uy * $uy;
        $vv = $vx * $vx + $vy * $vy;
        $x = $this->x[$a] + $s * ($vy * $uu - $uy * $vv);
        $y = $this->y[$a] + $s * ($ux * $vv - $vx * $uu);
        for ($step = 0; $step < self::STEPS; $step++) {
            $inside = true;
            for ($j = 0; $j < 3; $j++) {
                $k = ($step + $j) % 3;
                $from = $this->corner[3 * $t + ($k + 1) % 3];
                $to = $this->corner[3 * $t + ($k + 2) % 3];
                if (Orientation::turn($this->x[$from], $this->y[$from], $this->x[$to], $this->y[$to], $x, $y) > 0) {
                    continue;
                }
                $inside = false;
                if ($this->kind[3 * $t + $k] === self::OPEN) {
                    $t = $this->across[3 * $t + $k];
                    continue 2;
                }
            }
            if (! $inside) {
                return false;
            }
            $this->insert($t, $x, $y);

            return true;
        }

        return false;
    }

    private function insert(int $t, float $x, float $y): void
    {
        [$a, $b, $c] = [$this->corner[3 * $t], $this->corner[3 * $t + 1], $this->corner[3 * $t + 2]];
        $area = ($this->x[$b] - $this->x[$a]) * ($this->y[$c] - $this->y[$a]) - ($this->y[$b] - $this->y[$a]) * ($this->x[$c] - $this->x[$a]);
        $this->from[] = [
            $a, $b, $c,
            (($this->x[$b] - $x) * ($this->y[$c] - $y) - ($this->y[$b] - $y) * ($this->x[$c] - $x)) / $area,
            (($this->x[$c] - $x) * ($this->y[$a] - $y) - ($this->y[$c] - $y) * ($this->x[$a] - $x)) / $area,
        ];
        $p = count($this->x);
        $this->x[] = $x;
        $this->y[] = $y;
        $this->splitTriangle($t, $p);
    }
}
