<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Surfaces that rise: where each vertex goes, beside what is worked out by hand. */
final class SwellTest extends TestCase
{
    /**
     * A ball of 1 m that rises from frame 5 to 15, evenly in time.
     *
     * @param array<string, mixed> $swell
     * @param array<string, mixed> $prop
     */
    private static function shot(array $swell, array $prop = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 24, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'ball', 'ball' => ['width' => 1, 'divisions' => 8]], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]], 'motion' => ['mover' => 'swell', 'swell' => ['takes' => 10, 'ease' => 'linear', ...$swell]], ...$prop,
        ]]]);
    }

    /** @return list<Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
    }

    /** @return list<array{float, float, float}> */
    private static function places(Frame $frame): array
    {
        return array_map(static fn (array $p): array => [(float) $p[0], (float) $p[1], (float) $p[2]], array_chunk($frame->of('a', Track::VERTICES), 3));
    }

    private static function length(float $x, float $y, float $z): float
    {
        return sqrt($x * $x + $y * $y + $z * $z);
    }

    /** Blown up evenly a ball stays a ball; half way it is half as much larger. */
    public function testEvenlyBlownUpABallStaysABall(): void
    {
        $frames = self::frames(self::shot(['even' => 1, 'height' => 0.2]));
        foreach ([1 => 0.5, 5 => 0.5, 10 => 0.6, 15 => 0.7, 24 => 0.7] as $frame => $radius) {
            foreach (self::places($frames[$frame - 1]) as [$x, $y, $z]) {
                self::assertEqualsWithDelta($radius, self::length($x, $y, $z), 1e-3, "frame {$frame}");
            }
        }
        self::assertSame(0, $frames[3]->released());
        self::assertSame(count(self::places($frames[0])), $frames[14]->released());
        self::assertSame([0, 0], [$frames[3]->moving(), $frames[23]->moving()]);
        self::assertGreaterThan(0, $frames[9]->moving());
    }

    /** @return iterable<string, array{string, callable(float): float}> */
    public static function forms(): iterable
    {
        yield 'lumps' => ['lumps', static fn (float $n): float => 0.5 + 0.5 * $n];
        yield 'ridges' => ['ridges', static fn (float $n): float => (1.0 - abs($n)) ** 2];
        yield 'spikes' => ['spikes', static fn (float $n): float => (0.5 + 0.5 * $n) ** 6];
    }

    /** @param callable(float): float $shape of the published noise (its check values: MathTest), in parts of its usual height */
    #[DataProvider('forms')]
    public function testBumpsAreThoseOfTheNoise(string $form, callable $shape): void
    {
        $frames = self::frames(self::shot(['form' => $form, 'size' => 0.3, 'detail' => 2, 'seed' => 9, 'height' => 0.1]));
        $noise = GradientNoise::seeded(9, 'relief');
        $rest = self::places($frames[0]);
        $different = [];
        foreach (self::places($frames[20]) as $v => [$x, $y, $z]) {
            [$rx, $ry, $rz] = $rest[$v];
            $expected = 0.1 * $shape(max(-1.0, min(1.0, $noise->layered($rx / 0.3, $ry / 0.3, $rz / 0.3, 2) / 0.6)));
            self::assertEqualsWithDelta($expected, self::length($x - $rx, $y - $ry, $z - $rz), 1e-9);
            // Outward: away from the middle of the ball.
            self::assertGreaterThanOrEqual(-1e-12, ($x - $rx) * $rx + ($y - $ry) * $ry + ($z - $rz) * $rz);
            $different[(string) round($expected, 6)] = true;
        }
        self::assertGreaterThan(50, count($different));
    }

    /** Only where the weight is; there and back as it comes and goes; past its height where it springs. */
    public function testItFollowsItsWeight(): void
    {
        $zone = ['source' => 'zone', 'zone' => ['at' => ['y' => 0.5], 'within' => 0.2, 'softness' => 0.0], 'amount' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 1, 'ease' => 'linear'], ['frame' => 21, 'value' => 0]]]];
        $shot = static fn (array $more): Shot => self::shot(['even' => 1, 'height' => 0.2], ['weight' => ['stack' => [$zone], ...$more], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.2]]]);
        $frames = self::frames($shot([]));
        $top = static fn (Frame $frame): float => max(array_column(self::places($frame), 1));
        $low = static fn (Frame $frame): float => min(array_column(self::places($frame), 1));
        // Weight 0.6 is half way from the threshold up.
        self::assertEqualsWithDelta([0.5, 0.6, 0.7, 0.6, 0.5], [$top($frames[0]), $top($frames[6]), $top($frames[10]), $top($frames[14]), $top($frames[22])], 2e-3);
        self::assertEqualsWithDelta(-0.5, $low($frames[10]), 1e-6);
        $springs = self::frames($shot(['follows' => 'spring', 'frequency' => 2.0, 'damping' => 0.1]));
        self::assertGreaterThan(0.705, max(array_map($top, $springs)));
    }

    public function testItGoesWithItsProp(): void
    {
        $keyed = ['position' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 21, 'value' => 4]]]], 'rotation' => ['z' => 90], 'scale' => ['x' => 2, 'y' => 1, 'z' => 1]];
        $frames = self::frames(self::shot(['even' => 1, 'height' => 0.2], $keyed));
        $places = self::places($frames[20]);
        // Turned, its own x is up: twice as long, its height with it.
        self::assertEqualsWithDelta([1.4, -1.4], [max(array_column($places, 1)), min(array_column($places, 1))], 2e-3);
        self::assertEqualsWithDelta([4.7, 3.3], [max(array_column($places, 0)), min(array_column($places, 0))], 2e-3);
    }

    /** Where pieces meet they rise alike: no gap opens. */
    public function testPiecesStayTogether(): void
    {
        $frames = self::frames(self::shot(['size' => 0.2, 'height' => 0.1], ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 6]]]));
        $at = [];
        foreach (self::places($frames[0]) as $v => $place) {
            $at[implode(' ', array_map(static fn (float $value): string => number_format($value, 7), $place))][] = $v;
        }
        $shared = array_filter($at, static fn (array $vertices): bool => count($vertices) > 1);
        self::assertGreaterThan(20, count($shared));
        $then = self::places($frames[20]);
        foreach ($shared as $vertices) {
            foreach ($vertices as $v) {
                self::assertEqualsWithDelta($then[$vertices[0]], $then[$v], 1e-6);
            }
        }
    }

    public function testNothingIsWrongWithIt(): void
    {
        self::assertSame([], array_map(static fn ($finding): string => $finding->text, Checks::of(self::shot([]), new Pipeline(new MemoryStore(), new NoAssets()))));
    }
}
