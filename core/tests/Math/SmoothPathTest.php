<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\SmoothPath;
use YardBreak\Core\Math\Vector;

/** The curve that a prop goes along. */
final class SmoothPathTest extends TestCase
{
    /** The pyramid of Barry and Goldman (A recursive evaluation algorithm for a class of Catmull-Rom splines, 1988), knots by the root of the distance. */
    #[Group('slow')]
    public function testItIsTheCentripetalSpline(): void
    {
        $places = [[0.0, 0.0, 0.0], [1.0, 0.2, 0.0], [1.2, 1.5, 0.4], [-0.5, 2.0, 1.0]];
        $knots = [0.0];
        for ($k = 1; $k < 4; $k++) {
            $knots[] = $knots[$k - 1] + sqrt(Vector::distance($places[$k - 1], $places[$k]));
        }
        $path = new SmoothPath($places);
        for ($share = 0.05; $share < 1.0; $share += 0.1) {
            $t = $knots[1] + $share * ($knots[2] - $knots[1]);
            $level = $places;
            for ($wide = 1; $wide < 4; $wide++) {
                $next = [];
                for ($k = 0; $k + $wide < 4; $k++) {
                    // The last level goes between the two inner knots.
                    [$from, $to] = $wide === 3 ? [$knots[1], $knots[2]] : [$knots[$k], $knots[$k + $wide]];
                    $next[] = Vector::between($level[$k], $level[$k + 1], ($t - $from) / ($to - $from));
                }
                $level = $next;
            }
            self::assertLessThan(1e-4, self::off($path, $level[0]), "at {$share}");
        }
    }

    /**
     * How far a place is from the nearest of many places along the path.
     *
     * @param array{float, float, float} $place
     */
    private static function off(SmoothPath $path, array $place): float
    {
        $best = INF;
        for ($k = 0; $k <= 40000; $k++) {
            $best = min($best, Vector::distance($place, $path->at($path->length() * $k / 40000)));
        }

        return $best;
    }

    public function testAStraightOneGoesEvenlyAndOnBeyondItsEnds(): void
    {
        $path = new SmoothPath([[0.0, 1.0, 0.0], [1.0, 1.0, 0.0], [4.0, 1.0, 0.0]]);
        self::assertEqualsWithDelta(4.0, $path->length(), 1e-9);
        foreach ([-1.0, 0.0, 0.3, 1.0, 2.7, 4.0, 5.5] as $passed) {
            self::assertEqualsWithDelta([$passed, 1.0, 0.0], $path->at($passed), 2e-4);
            self::assertEqualsWithDelta([1.0, 0.0, 0.0], $path->wayAt($passed), 1e-9);
        }
    }

    /** A closed one through 16 places of a circle: its length, one speed, round and round. */
    public function testACircleIsGoneRoundAtOneSpeed(): void
    {
        $places = array_map(static fn (int $k): array => [2.0 * cos(M_PI * $k / 8), 0.0, 2.0 * sin(M_PI * $k / 8)], range(0, 15));
        $path = new SmoothPath($places, true);
        $length = $path->length();
        self::assertEqualsWithDelta(4.0 * M_PI, $length, 4.0 * M_PI * 1e-3);
        $steps = [];
        for ($k = 0; $k < 200; $k++) {
            $steps[] = Vector::distance($path->at($length * $k / 200), $path->at($length * ($k + 1) / 200));
            self::assertEqualsWithDelta(2.0, Vector::distance($path->at($length * $k / 200), [0.0, 0.0, 0.0]), 2e-3);
        }
        self::assertLessThan(1.001, max($steps) / min($steps));
        self::assertEqualsWithDelta($path->at(0.3), $path->at(0.3 + 3 * $length), 1e-9);
        self::assertEqualsWithDelta($path->at(-0.3), $path->at($length - 0.3), 1e-9);
    }

    /** Places at very uneven distances: no step is longer than it should be. */
    public function testUnevenPlacesDoNotChangeTheSpeed(): void
    {
        $path = new SmoothPath([[0.0, 0.0, 0.0], [0.1, 0.1, 0.0], [3.0, 0.0, 1.0], [3.1, 2.0, 1.0], [0.0, 2.0, -4.0]]);
        $step = $path->length() / 2000;
        for ($k = 0; $k < 2000; $k++) {
            self::assertEqualsWithDelta($step, Vector::distance($path->at($k * $step), $path->at(($k + 1) * $step)), 0.01 * $step);
        }
    }

    /** Against a helix's own frame, one of least rotation turns back by its torsion times the length (Bishop: There is more than one way to frame a curve, 1975). */
    public function testItTwistsAsLittleAsItCan(): void
    {
        [$radius, $rise, $turns] = [1.0, 0.5, 2];
        $places = array_map(static fn (int $k): array => [$radius * cos(M_PI * $k / 12), $rise * M_PI * $k / 12, $radius * sin(M_PI * $k / 12)], range(0, 24 * $turns));
        $path = new SmoothPath($places);
        $angle = static function (float $passed) use ($path): float {
            $inward = Vector::unit([-$path->at($passed)[0], 0.0, -$path->at($passed)[2]]) ?? [0.0, 0.0, 0.0];
            $up = Quaternion::rotate($path->turnAt($passed), [0.0, 1.0, 0.0]);

            return atan2(Vector::dot(Vector::cross($inward, $up), $path->wayAt($passed)), Vector::dot($inward, $up));
        };
        [$start, $end] = [0.1 * $path->length(), 0.9 * $path->length()];
        $torsion = $rise / ($radius ** 2 + $rise ** 2);
        // In this hand of the axes the helix winds to the left.
        $expected = $torsion * ($end - $start);
        $seen = $angle($end) - $angle($start);
        self::assertEqualsWithDelta(0.0, fmod($seen - $expected + 7 * M_PI, 2.0 * M_PI) - M_PI, 0.02);
    }

    /** @return array<string, array{list<array{float, float, float}>}> */
    public static function closed(): array
    {
        return [
            'flat' => [[[1.0, 0.0, 0.0], [0.0, 0.0, 1.0], [-1.0, 0.0, 0.0], [0.0, 0.0, -1.0]]],
            'up and down' => [[[1.0, 0.3, 0.0], [0.0, -0.4, 1.0], [-1.0, 0.6, 0.2], [0.0, -0.2, -1.0]]],
            'a loop overhead' => [[[0.0, 0.0, -1.0], [0.1, 1.0, 0.0], [0.0, 0.0, 1.0], [0.2, -1.0, 0.0]]],
        ];
    }

    /** @param list<array{float, float, float}> $places */
    #[DataProvider('closed')]
    public function testRoundAClosedOneTheTurnComesBack(array $places): void
    {
        $path = new SmoothPath($places, true);
        $up = static fn (float $passed): array => Quaternion::rotate($path->turnAt($passed), [0.0, 1.0, 0.0]);
        self::assertEqualsWithDelta($up(0.0), $up($path->length() - 1e-9), 1e-4);
        for ($k = 0; $k < 400; $k++) {
            $passed = $path->length() * $k / 400;
            self::assertEqualsWithDelta($path->wayAt($passed), Quaternion::rotate($path->turnAt($passed), [0.0, 0.0, 1.0]), 1e-9);
            self::assertLessThan(0.15, Vector::distance($up($passed), $up($passed + $path->length() / 400)), "a jump at {$k}");
        }
    }

    public function testOnePlaceIsAPlace(): void
    {
        $path = new SmoothPath([[1.0, 2.0, 3.0], [1.0, 2.0, 3.0]]);
        self::assertSame(0.0, $path->length());
        self::assertSame([1.0, 2.0, 3.0], $path->at(4.0));
        self::assertSame([0.0, 0.0, 0.0, 1.0], $path->turnAt(0.0));
        self::assertSame([[1.0, 2.0, 3.0]], $path->drawn());
    }
}
