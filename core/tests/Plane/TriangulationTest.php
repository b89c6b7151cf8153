<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Plane;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Orientation;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Plane\Pinches;
use YardBreak\Core\Plane\Triangulation;
use YardBreak\Core\Tests\Fixture\Node;

final class TriangulationTest extends TestCase
{
    /** @return iterable<string, array{bool, float}> */
    public static function drawings(): iterable
    {
        yield 'anywhere' => [false, 1e-7];
        yield 'on a lattice, so that lines run through points' => [true, 1e-7];
        yield 'anywhere, snapping from afar' => [false, 0.02];
        yield 'on a lattice, snapping from afar' => [true, 0.02];
    }

    #[DataProvider('drawings')]
    #[Group('slow')]
    public function testTrianglesStaySoundWhateverLinesCross(bool $lattice, float $tolerance): void
    {
        for ($seed = 1; $seed <= 25; $seed++) {
            $d = self::drawing($seed, $lattice, $tolerance);
            self::assertSound($d);
            $d->dropLooseEnds();
            self::assertSound($d);
            $degree = [];
            foreach ($d->lines() as [$a, $b]) {
                $degree[$a] = ($degree[$a] ?? 0) + 1;
                $degree[$b] = ($degree[$b] ?? 0) + 1;
            }
            self::assertNotContains(1, $degree, 'nothing ends in the open');
            self::assertSame(self::areasByEuler($d), max([-1, ...$d->areas()]) + 1);
        }
    }

    /** A point on a line that was there, and a line through a point that was there, meet it; so do ends that miss by a hair. */
    public function testEndsMeetLines(): void
    {
        $d = new Triangulation([-1.0, -1.0], [1.0, 1.0], 1e-4);
        $corners = array_map(static fn (array $p): int => $d->point(...$p), [[-0.5, -0.5], [0.5, -0.5], [0.5, 0.5], [-0.5, 0.5]]);
        foreach ($corners as $k => $c) {
            $d->line($c, $corners[($k + 1) % 4]);
        }
        $d->line($d->point(-0.5 + 3e-5, 0.1), $d->point(0.5 - 3e-5, 0.1));
        self::assertSame(0, $d->dropLooseEnds());
        self::assertSame(3, max($d->areas()) + 1, 'the square in two, and what lies around it');
        $d->line($d->point(0.0, 0.1), $d->point(0.0, 0.3));
        self::assertSame(1, $d->dropLooseEnds(), 'this one ends in the open');
        self::assertSame(3, max($d->areas()) + 1);
    }

    public function testLoopsThatTouchInAPointAreDrawnApart(): void
    {
        $d = new Triangulation([-1.0, -1.0], [1.0, 1.0]);
        $loops = [[[0.0, 0.0], [0.5, -0.2], [0.5, 0.2]], [[0.0, 0.0], [-0.5, 0.2], [-0.5, -0.2]]];
        foreach ($loops as $loop) {
            $p = array_map(static fn (array $c): int => $d->point(...$c), $loop);
            foreach ($p as $k => $c) {
                $d->line($c, $p[($k + 1) % 3]);
            }
        }
        self::assertNotNull(self::pinched($d));
        $apart = Pinches::apart($d);
        self::assertNull(self::pinched($apart));
        self::assertSound($apart);
        self::assertSame(3, max($apart->areas()) + 1);
    }

    /** npm d3-delaunay on the same points: the same triangles. */
    public function testDelaunayTrianglesAreThoseOfD3(): void
    {
        $stream = RandomStream::named(1, 'd3');
        $points = [];
        for ($i = 0; $i < 500; $i++) {
            $points[] = [$stream->float(), $stream->float()];
        }
        $theirs = Node::run('d3-delaunay', 'const {Delaunay}=await import("d3-delaunay");const d=Delaunay.from(input);return [...d.triangles]', $points);
        $d = new Triangulation([-50.0, -50.0], [51.0, 51.0], 0.0);
        foreach ($points as [$x, $y]) {
            $d->point($x, $y);
        }
        $ours = [];
        foreach (array_chunk($d->corner, 3) as $t) {
            // The box's own corners are no points of theirs.
            if (min($t) > 3) {
                $ours[] = self::named(array_map(static fn (int $p): int => $p - 4, $t));
            }
        }
        $named = array_map(self::named(...), array_chunk(array_map(intval(...), $theirs), 3));
        // Near the hull the far box may take the place of a very flat triangle.
        self::assertSame([], array_diff($ours, $named));
        self::assertGreaterThan(0.98 * count($named), count($ours));
    }

    public function testSidesAreExact(): void
    {
        // Three points in line to the last bit, and one moved by the smallest step a double can take.
        self::assertSame(0, Orientation::turn(0.1, 0.1, 0.3, 0.3, 0.7, 0.7));
        self::assertSame(1, Orientation::turn(0.5, 0.5, 12.0, 12.0, 24.0, 24.000000000000004));
        self::assertSame(-1, Orientation::turn(0.5, 0.5, 12.0, 12.0, 24.0, 23.999999999999996));
        self::assertSame(0, Orientation::inCircle(0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 0.0, 1.0));
        self::assertSame(1, Orientation::inCircle(0.0, 0.0, 1.0, 0.0, 1.0, 1.0, 1e-16, 1.0));
        self::assertSame(-1, Orientation::inCircle(0.0, 0.0, 1.0, 0.0, 1.0, 1.0, -1e-16, 1.0));
    }

    /** @param array<int, int> $t */
    private static function named(array $t): string
    {
        sort($t);

        return implode(',', $t);
    }

    private static function drawing(int $seed, bool $lattice, float $tolerance): Triangulation
    {
        $stream = RandomStream::named($seed, 'drawing');
        $d = new Triangulation([-2.0, -2.0], [2.0, 2.0], $tolerance);
        $place = static fn (): float => $lattice ? floor(17.0 * $stream->float()) / 8.0 - 1.0 : $stream->between(-1.0, 1.0);
        $lines = [];
        for ($k = 0, $end = 2 + (int) ($stream->float() * 50.0); $k < $end; $k++) {
            $lines[] = [$d->point($place(), $place()), $d->point($place(), $place())];
        }
        foreach ($lines as [$a, $b]) {
            $d->line($a, $b);
        }

        return $d;
    }

    /** All triangles turn to the left, and neighbours agree on what lies between them. */
    private static function assertSound(Triangulation $d): void
    {
        $wrong = 0;
        foreach (array_chunk($d->corner, 3) as $t => [$a, $b, $c]) {
            $wrong += Orientation::turn($d->x[$a], $d->y[$a], $d->x[$b], $d->y[$b], $d->x[$c], $d->y[$c]) > 0 ? 0 : 1;
            for ($k = 0; $k < 3; $k++) {
                $o = $d->across[3 * $t + $k];
                if ($o < 0) {
                    continue;
                }
                $j = array_search($t, array_slice($d->across, 3 * $o, 3), true);
                $wrong += $j !== false && $d->kind[3 * $o + $j] === $d->kind[3 * $t + $k]
                    && $d->corner[3 * $t + ($k + 1) % 3] === $d->corner[3 * $o + ($j + 2) % 3] ? 0 : 1;
            }
        }
        self::assertSame(0, $wrong);
    }

    /** Euler's formula for drawings: areas = lines - points + 1 + parts. */
    private static function areasByEuler(Triangulation $d): int
    {
        /** @var array<int, int> $parent */
        $parent = [];
        $root = static function (int $p) use (&$parent): int {
            while ($parent[$p] !== $p) {
                $p = $parent[$p];
            }

            return $p;
        };
        $lines = $d->lines();
        foreach ($lines as [$a, $b]) {
            $parent[$a] ??= $a;
            $parent[$b] ??= $b;
            $parent[$root($a)] = $root($b);
        }
        $parts = count(array_filter(array_keys($parent), static fn (int $p): bool => $parent[$p] === $p));

        return count($lines) - count($parent) + 1 + $parts;
    }

    /** A point where one area comes twice, if there is one. */
    private static function pinched(Triangulation $d): ?int
    {
        $areas = $d->areas();
        for ($p = 4, $end = count($d->x); $p < $end; $p++) {
            $fans = [];
            foreach ($d->around($p) as [$t, $k]) {
                if ($d->kind[3 * $t + ($k + 2) % 3] !== Triangulation::OPEN) {
                    $fans[] = $areas[$t];
                }
            }
            if (count($fans) > count(array_unique($fans))) {
                return $p;
            }
        }

        return null;
    }
}
