<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** A surface that becomes that of another prop, beside what is worked out by hand. */
final class MorphTest extends TestCase
{
    /**
     * A ball of 1 m becomes one of 2 m that stands elsewhere, from frame 5 to 15, evenly in time.
     *
     * @param array<string, mixed> $morph
     * @param array<string, mixed> $prop
     * @param array<string, mixed> $other
     */
    private static function shot(array $morph = [], array $prop = [], array $other = []): Shot
    {
        $ball = static fn (float $width): array => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => 8]];

        return Shot::read(['version' => 2, 'frames' => 24, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => $ball(1.0), 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]], 'motion' => ['mover' => 'morph', 'morph' => ['shape' => 'b', 'takes' => 10, 'ease' => 'linear', ...$morph]], ...$prop,
        ], ['id' => 'b', 'name' => 'B', 'on' => false, 'source' => $ball(2.0), 'position' => ['x' => 3.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], ...$other]]]);
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

    /** @param list<array{float, float, float}> $places */
    private static function assertBall(array $places, float $x, float $radius, string $when): void
    {
        foreach ($places as $place) {
            self::assertEqualsWithDelta($radius, sqrt(($place[0] - $x) ** 2 + $place[1] ** 2 + $place[2] ** 2), 1e-3, $when);
        }
    }

    public function testABallBecomesALargerOneElsewhere(): void
    {
        $frames = self::frames(self::shot());
        foreach ([1 => 0.0, 5 => 0.0, 10 => 0.5, 15 => 1.0, 24 => 1.0] as $n => $share) {
            self::assertBall(self::places($frames[$n - 1]), 3.0 * $share, 0.5 + 0.5 * $share, "frame {$n}");
        }
        // Half the way, beyond, and the other way.
        self::assertBall(self::places(self::frames(self::shot(['amount' => 50]))[23]), 1.5, 0.75, 'half');
        self::assertBall(self::places(self::frames(self::shot(['amount' => 150]))[23]), 4.5, 1.25, 'beyond');
        self::assertBall(self::places(self::frames(self::shot(['amount' => -50]))[23]), -1.5, 0.25, 'the other way');
    }

    /** Wherever it stands itself, turned and of another size, at the first frame it goes to where the other one stands; what is keyed carries it on from there. */
    public function testItGoesToWhereTheOtherStands(): void
    {
        $turned = ['position' => ['x' => -1.0, 'y' => ['keys' => [['frame' => 1, 'value' => 0.0], ['frame' => 24, 'value' => 2.0]]]], 'rotation' => ['x' => 30, 'y' => 40, 'z' => 50], 'scale' => ['x' => 2, 'y' => 0.5, 'z' => 1]];
        foreach (self::places(self::frames(self::shot([], $turned))[23]) as $place) {
            self::assertEqualsWithDelta(1.0, sqrt(($place[0] - 3.0) ** 2 + ($place[1] - 2.0) ** 2 + $place[2] ** 2), 1e-3);
        }
    }

    /** By its weight each place goes as far as the weight has come there, and back. */
    public function testItFollowsItsWeight(): void
    {
        $weight = ['release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.01]], 'weight' => ['stack' => [['source' => 'zone', 'zone' => ['at' => ['y' => 0.5], 'within' => 0.2, 'softness' => 0.01], 'amount' => ['keys' => [['frame' => 4, 'value' => 0], ['frame' => 12, 'value' => 1], ['frame' => 20, 'value' => 0]]]]]]];
        $frames = self::frames(self::shot([], $weight));
        $high = array_map(static fn (Frame $frame): float => max(array_column(self::places($frame), 1)), $frames);
        $low = array_map(static fn (Frame $frame): float => min(array_column(self::places($frame), 1)), $frames);
        self::assertEqualsWithDelta([0.5, 1.0, 0.5], [$high[0], $high[11], $high[23]], 2e-3);
        self::assertEqualsWithDelta([-0.5, -0.5], [min($low), max($low)], 2e-3);
    }

    /** In pieces it changes as it does whole. */
    public function testPiecesGoWithTheirSurface(): void
    {
        $pieces = self::frames(self::shot([], ['break' => ['pattern' => 'patches', 'patches' => ['count' => 9]]]));
        self::assertGreaterThan(count(self::places(self::frames(self::shot())[0])), count(self::places($pieces[0])));
        self::assertBall(self::places($pieces[23]), 3.0, 1.0, 'in patches');
    }

    /** The other one decides the frames though it is switched off. */
    public function testTheHashKnowsTheOther(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $hash = $pipeline->motionHash(...);
        $plain = $hash(self::shot());
        self::assertSame($plain, $hash(self::shot([], [], ['name' => 'Another name'])));
        foreach ([['position' => ['x' => 2.0]], ['rotation' => ['z' => 10]], ['scale' => ['y' => 2]], ['source' => ['kind' => 'ball', 'ball' => ['width' => 3.0, 'divisions' => 8]]]] as $change) {
            self::assertNotSame($plain, $hash(self::shot([], [], $change)), json_encode($change) ?: '');
            self::assertNotSame($pipeline->acting(self::shot())[1]->upTo(24), $pipeline->acting(self::shot([], [], $change))[1]->upTo(24));
        }
    }

    public function testOtherTrianglesAreRefusedBeforeTheBake(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        foreach ([[self::shot(['shape' => '']), 'none is chosen'], [self::shot([], [], ['source' => ['kind' => 'cone']]), 'very same triangles']] as [$shot, $words]) {
            $findings = array_values(array_filter(Checks::of($shot, $pipeline), static fn ($finding): bool => $finding->severity === 'stop'));
            self::assertCount(1, $findings);
            self::assertStringContainsString($words, $findings[0]->text);
            self::assertSame('/props/0/motion/morph/shape', $findings[0]->pointer);
            try {
                self::frames($shot);
                self::fail('It was baked.');
            } catch (BreakFailed $error) {
                self::assertStringContainsString($words, $error->getMessage());
            }
        }
    }
}
