<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Plane;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Orientation;
use YardBreak\Core\Plane\EvenFill;
use YardBreak\Core\Tests\Fixture\Node;

final class EvenFillTest extends TestCase
{
    private const SIDES = 40;

    /** Chew 1989: no circle is larger than asked for, no new point nearer than that to another, or than half of it to the rim. */
    public function testTrianglesAreEven(): void
    {
        $radius = 0.12;
        $fill = self::disc();
        $area = self::area($fill);
        $fill->fill($radius);
        self::assertGreaterThan(50, count($fill->from));
        self::assertEqualsWithDelta($area, self::area($fill), 1e-13);
        $largest = 0.0;
        foreach (array_chunk($fill->corner, 3) as [$a, $b, $c]) {
            self::assertSame(1, Orientation::turn($fill->x[$a], $fill->y[$a], $fill->x[$b], $fill->y[$b], $fill->x[$c], $fill->y[$c]));
            [$p, $q, $r] = [self::apart($fill, $a, $b), self::apart($fill, $b, $c), self::apart($fill, $c, $a)];
            $s = 0.5 * ($p + $q + $r);
            $largest = max($largest, $p * $q * $r / (4.0 * sqrt($s * ($s - $p) * ($s - $q) * ($s - $r))));
        }
        self::assertLessThanOrEqual($radius * (1.0 + 1e-9), $largest);
        for ($p = self::SIDES; $p < count($fill->x); $p++) {
            for ($q = 0; $q < $p; $q++) {
                self::assertGreaterThan($radius * (1.0 - 1e-9), self::apart($fill, $p, $q));
            }
            self::assertLessThan(cos(M_PI / self::SIDES) - 0.5 * $radius, sqrt($fill->x[$p] ** 2 + $fill->y[$p] ** 2), 'far from the rim');
        }
    }

    /** The disc is convex, so the triangles are the Delaunay triangles of all points: those of npm d3-delaunay. */
    public function testTrianglesAreThoseOfD3(): void
    {
        $fill = self::disc();
        $fill->fill(0.12);
        $theirs = Node::run('d3-delaunay', 'const {Delaunay}=await import("d3-delaunay");return [...Delaunay.from(input).triangles]', array_map(null, $fill->x, $fill->y));
        $named = static function (array $corners): array {
            $triangles = array_chunk($corners, 3);
            foreach ($triangles as &$t) {
                sort($t);
            }
            sort($triangles);

            return $triangles;
        };
        self::assertSame($named($theirs), $named($fill->corner));
    }

    public function testWeightsGiveThePlacesOfNewPoints(): void
    {
        $fill = self::disc();
        $fill->fill(0.2);
        foreach ($fill->from as $n => [$a, $b, $c, $s, $t]) {
            self::assertLessThan(self::SIDES + $n, max($a, $b, $c), 'only points that were there before');
            self::assertGreaterThan(0.0, min($s, $t, 1.0 - $s - $t));
            self::assertEqualsWithDelta($fill->x[self::SIDES + $n], $s * $fill->x[$a] + $t * $fill->x[$b] + (1.0 - $s - $t) * $fill->x[$c], 1e-13);
            self::assertEqualsWithDelta($fill->y[self::SIDES + $n], $s * $fill->y[$a] + $t * $fill->y[$b] + (1.0 - $s - $t) * $fill->y[$c], 1e-13);
        }
    }

    public function testEdgesThatMayNotBeAreNotMade(): void
    {
        // A kite cut the wrong way: Delaunay would have its other diagonal.
        $kite = [[0.0, 1.0, 0.0, -1.0], [-0.2, 0.0, 0.2, 0.0], [0, 1, 3, 1, 2, 3]];
        $free = new EvenFill(...$kite);
        $free->fill(10.0);
        self::assertContains([0, 2], self::edges($free));
        $bound = new EvenFill($kite[0], $kite[1], $kite[2], static fn (int $p, int $q): bool => min($p, $q) !== 0 || max($p, $q) !== 2);
        $bound->fill(10.0);
        self::assertNotContains([0, 2], self::edges($bound));
    }

    /** A triangle that is turned over, as rounding makes them along rims, is left as it is and does no harm. */
    public function testTurnedTrianglesAreLeftAlone(): void
    {
        $square = new EvenFill([0.0, 1.0, 1.0, 0.0, 0.5], [0.0, 0.0, 1.0, 1.0, -1e-12], [0, 1, 4, 0, 4, 3, 4, 2, 3, 4, 1, 2]);
        $square->fill(0.15);
        self::assertGreaterThan(15, count($square->from));
        self::assertEqualsWithDelta(1.0, self::area($square), 1e-11);
        self::assertSame([0, 1, 4], array_slice($square->corner, 0, 3));
    }

    /** A disc as a fan of needles out of one point of its rim. */
    private static function disc(): EvenFill
    {
        $x = $y = $corners = [];
        for ($k = 0; $k < self::SIDES; $k++) {
            // Not quite regular, so that no four points lie on a circle.
            $turn = 2.0 * M_PI * ($k + 0.05 * sin(7.0 * $k)) / self::SIDES;
            $x[] = cos($turn) * (1.0 + 1e-4 * sin(3.0 * $turn));
            $y[] = sin($turn) * (1.0 + 1e-4 * sin(3.0 * $turn));
            if ($k > 1) {
                array_push($corners, 0, $k - 1, $k);
            }
        }

        return new EvenFill($x, $y, $corners);
    }

    private static function apart(EvenFill $f, int $p, int $q): float
    {
        return sqrt(($f->x[$p] - $f->x[$q]) ** 2 + ($f->y[$p] - $f->y[$q]) ** 2);
    }

    private static function area(EvenFill $f): float
    {
        $twice = 0.0;
        foreach (array_chunk($f->corner, 3) as [$a, $b, $c]) {
            $twice += ($f->x[$b] - $f->x[$a]) * ($f->y[$c] - $f->y[$a]) - ($f->y[$b] - $f->y[$a]) * ($f->x[$c] - $f->x[$a]);
        }

        return 0.5 * $twice;
    }

    /** @return list<array{int, int}> */
    private static function edges(EvenFill $f): array
    {
        $edges = [];
        foreach (array_chunk($f->corner, 3) as [$a, $b, $c]) {
            array_push($edges, [min($a, $b), max($a, $b)], [min($b, $c), max($b, $c)], [min($c, $a), max($c, $a)]);
        }

        return $edges;
    }
}
