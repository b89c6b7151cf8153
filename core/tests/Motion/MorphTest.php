<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
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

    /** One that stands turned against it by more than a right angle is said, less is not. */
    public function testATurnedShapeIsSaid(): void
    {
        $words = static fn (array $rotation): array => array_values(array_map(static fn ($finding): string => $finding->text, array_filter(Checks::of(self::shot([], ['rotation' => ['y' => 20]], ['rotation' => $rotation]), new Pipeline(new MemoryStore(), new NoAssets())), static fn ($finding): bool => str_contains($finding->pointer, '/morph/shape'))));
        self::assertSame([], $words(['y' => 110]));
        self::assertStringContainsString('stands turned by 140 degrees against it', implode($words(['y' => 160])));
    }

    /**
     * Cloth that takes the shape of another from frame 5 to 15, without weight or air.
     *
     * @param array<string, mixed> $source of the cloth
     * @param array<string, mixed> $shape of the other
     * @param array<string, mixed> $cloth
     * @param array<string, mixed> $prop
     *
     * @return list<Frame>
     */
    private static function cloth(array $source, array $shape, array $cloth = [], array $prop = [], int $frames = 60): array
    {
        $amount = ['keys' => [['frame' => 5, 'value' => 0, 'ease' => 'linear'], ['frame' => 15, 'value' => 100]]];

        return self::frames(Shot::read(['version' => 2, 'frames' => $frames, 'forces' => [], 'planes' => [], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => $source, 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
            'motion' => ['mover' => 'cloth', 'cloth' => ['shape' => 'b', 'amount' => $amount, 'damping' => 3, 'drag' => 0, ...$cloth]], ...$prop,
        ], ['id' => 'b', 'name' => 'B', 'on' => false, 'source' => $shape, 'position' => ['x' => 0.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]]]));
    }

    /** What is held wholly is at each frame where changing shape alone has it. */
    public function testHeldClothGoesIntoTheOtherShape(): void
    {
        $ball = static fn (float $width): array => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => 8]];
        $frames = self::cloth($ball(1.0), $ball(2.0), ['feelsItself' => false], ['release' => ['trigger' => 'never']], 20);
        foreach ([1 => 0.0, 5 => 0.0, 10 => 0.5, 15 => 1.0, 20 => 1.0] as $n => $share) {
            self::assertBall(self::places($frames[$n - 1]), 0.0, 0.5 + 0.5 * $share, "frame {$n}");
        }
    }

    /** @return iterable<string, array{string, array<string, mixed>, array<string, mixed>}> */
    public static function bending(): iterable
    {
        yield 'cloth' => ['cloth', ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 6]], []];
        yield 'soft' => ['soft', ['kind' => 'box', 'box' => ['divisions' => 4]], ['fineness' => 5]];
    }

    /**
     * Held it goes up by a metre a second into the other shape; let go on the way, without weight and air, it goes on at that speed.
     *
     * @param array<string, mixed> $source
     * @param array<string, mixed> $settings
     */
    #[DataProvider('bending')]
    #[Group('slow')]
    public function testWhatLetsGoOnItsWayKeepsItsSpeed(string $mover, array $source, array $settings): void
    {
        $amount = ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 25, 'value' => 100, 'ease' => 'linear']]];
        $frames = self::frames(Shot::read(['version' => 2, 'frames' => 20, 'forces' => [], 'planes' => [], 'props' => [
            ['id' => 'a', 'name' => 'A', 'source' => $source, 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]], 'motion' => ['mover' => $mover, $mover => ['shape' => 'b', 'amount' => $amount, 'damping' => 0, 'drag' => 0, ...$settings]]],
            ['id' => 'b', 'name' => 'B', 'on' => false, 'source' => $source, 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]));
        $height = static fn (Frame $frame): float => array_sum(array_column(self::places($frame), 1)) / count(self::places($frame));
        foreach ([6, 13, 19] as $n) {
            self::assertEqualsWithDelta(1.0, 24.0 * ($height($frames[$n]) - $height($frames[$n - 1])), 0.01, "frame {$n}");
        }
    }

    /** What hangs free becomes as wide as the other sheet, with no more stretch than cloth has. */
    public function testFreeClothIsDrawnIntoTheOtherSize(): void
    {
        $sheet = static fn (float $width, float $depth): array => ['kind' => 'sheet', 'sheet' => ['width' => $width, 'depth' => $depth, 'divisions' => 10]];
        $frames = self::cloth($sheet(1.0, 1.0), $sheet(1.5, 0.8));
        // However it lies: along its rows and its columns.
        $start = self::places($frames[0]);
        $places = self::places($frames[59]);
        $sums = [0.0, 0.0];
        foreach ($start as $i => $a) {
            foreach ($start as $j => $b) {
                if (abs(abs($a[0] - $b[0]) + abs($a[2] - $b[2]) - 0.1) < 1e-6) {
                    $sums[abs($a[0] - $b[0]) > 0.05 ? 0 : 1] += 0.5 * sqrt(($places[$i][0] - $places[$j][0]) ** 2 + ($places[$i][1] - $places[$j][1]) ** 2 + ($places[$i][2] - $places[$j][2]) ** 2) / 11.0;
                }
            }
        }
        self::assertEqualsWithDelta([1.5, 0.8], $sums, 0.01);
    }

    /** A straight tube becomes one with a waist: hinges are as bent as there, and the free tube has its waist. */
    #[Group('slow')]
    public function testFreeClothIsBentIntoTheOtherShape(): void
    {
        $tube = static fn (float $waist): array => ['kind' => 'lathe', 'lathe' => ['divisions' => 16, 'profile' => [[0.0, 0.0], [0.2, 0.0], [0.2, 0.15], [$waist, 0.3], [0.2, 0.45], [0.2, 0.6], [0.0, 0.6]]]];
        $radius = static function (Frame $frame): float {
            $middle = array_filter(self::places($frame), static fn (array $p): bool => abs($p[1] - 0.3) < 0.04);

            return array_sum(array_map(static fn (array $p): float => hypot($p[0], $p[2]), $middle)) / count($middle);
        };
        $frames = self::cloth($tube(0.2), $tube(0.1), ['feelsItself' => false, 'overhang' => 1.0]);
        self::assertEqualsWithDelta(0.2, $radius($frames[0]), 0.002);
        self::assertEqualsWithDelta(0.1, $radius($frames[59]), 0.015);
    }

    /** By its weight only where that has come; nothing jumps at the first frame where it is there already. */
    public function testClothTakesTheShapeAsFarAsItsWeightHasCome(): void
    {
        $sheet = static fn (float $width): array => ['kind' => 'sheet', 'sheet' => ['width' => $width, 'depth' => 0.5, 'divisions' => 12]];
        $half = ['weight' => ['stack' => [['source' => 'zone', 'zone' => ['shape' => 'box', 'at' => ['x' => 0.5, 'y' => 0.0, 'z' => 0.0], 'size' => ['x' => 1.0, 'y' => 1.0, 'z' => 2.0], 'softness' => 0.0]]]]];
        $frames = self::cloth($sheet(1.0), $sheet(1.5), ['amount' => 100], $half, 30);
        [$first, $last] = [array_column(self::places($frames[0]), 0), array_column(self::places($frames[29]), 0)];
        self::assertEqualsWithDelta(-0.5, min($first), 1e-6);
        self::assertEqualsWithDelta(0.75, max($first), 1e-6, 'at once');
        self::assertEqualsWithDelta(1.25, max($last) - min($last), 0.02, 'and it stays so');
    }

    /**
     * A soft thing that takes the shape of another from frame 5 to 15, without weight or air.
     *
     * @param array<string, mixed> $source of the thing
     * @param array<string, mixed> $shape of the other
     * @param array<string, mixed> $soft
     * @param array<string, mixed> $prop
     *
     * @return list<Frame>
     */
    private static function soft(array $source, array $shape, array $soft = [], array $prop = [], int $frames = 40): array
    {
        $amount = ['keys' => [['frame' => 5, 'value' => 0, 'ease' => 'linear'], ['frame' => 15, 'value' => 100]]];

        return self::frames(Shot::read(['version' => 2, 'frames' => $frames, 'forces' => [], 'planes' => [], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => $source, 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
            'motion' => ['mover' => 'soft', 'soft' => ['shape' => 'b', 'amount' => $amount, 'damping' => 3, 'drag' => 0, 'fineness' => 6, ...$soft]], ...$prop,
        ], ['id' => 'b', 'name' => 'B', 'on' => false, 'source' => $shape, 'position' => ['x' => 0.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']]]]));
    }

    /** Where it is held it is at each frame where changing shape alone has it, however coarse its boxes are: in pieces too. */
    #[Group('slow')]
    public function testAHeldSoftThingGoesIntoTheOtherShape(): void
    {
        $ball = static fn (float $width): array => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => 8]];
        foreach (['whole' => [], 'in pieces' => ['break' => ['cellular' => ['pieces' => 3]]]] as $name => $prop) {
            $frames = self::soft($ball(1.0), $ball(2.0), ['fineness' => 3], ['release' => ['trigger' => 'never'], ...$prop], 16);
            $least = min(array_map(static fn (array $p): float => sqrt($p[0] ** 2 + $p[1] ** 2 + $p[2] ** 2), self::places($frames[0])));
            foreach ([1 => 0.0, 5 => 0.0, 10 => 0.5, 15 => 1.0, 16 => 1.0] as $n => $share) {
                $far = array_map(static fn (array $p): float => sqrt($p[0] ** 2 + $p[1] ** 2 + $p[2] ** 2), self::places($frames[$n - 1]));
                self::assertEqualsWithDelta(0.5 + 0.5 * $share, max($far), 1e-3, "{$name}, frame {$n}");
                // Whole all of it is skin; in pieces cut faces reach inward, and grow as the whole does.
                self::assertEqualsWithDelta($name === 'whole' ? 0.5 + 0.5 * $share : $least * (1.0 + $share), min($far), 1e-3, "{$name}, frame {$n}");
            }
        }
    }

    /** What is free is drawn out into the other size, stays where its middle was, and comes to rest there. */
    #[Group('slow')]
    public function testAFreeSoftThingIsDrawnIntoTheOtherSize(): void
    {
        $box = static fn (float $width, float $height, float $depth): array => ['box' => ['width' => $width, 'height' => $height, 'depth' => $depth, 'divisions' => 2]];
        $frames = self::soft($box(1.0, 1.0, 1.0), $box(0.5, 1.6, 0.8), [], [], 44);
        $sizes = static fn (Frame $frame): array => array_map(static fn (int $axis): float => max(array_column(self::places($frame), $axis)) - min(array_column(self::places($frame), $axis)), [0, 1, 2]);
        self::assertEqualsWithDelta([1.0, 1.0, 1.0], $sizes($frames[4]), 1e-6);
        self::assertEqualsWithDelta([0.5, 1.6, 0.8], $sizes($frames[43]), 0.02);
        self::assertEqualsWithDelta(0.0, array_sum(array_column(self::places($frames[43]), 1)), 1e-6, 'it does not fly off');
    }

    /** A straight post gets a waist, whose boxes are narrower on one side than on the other. */
    #[Group('long')]
    public function testAFreeSoftThingGetsAWaist(): void
    {
        $bar = static fn (float $waist): array => ['kind' => 'lathe', 'lathe' => ['divisions' => 12, 'profile' => [[0.0, 0.0], [0.2, 0.0], [0.2, 0.15], [$waist, 0.3], [0.2, 0.45], [0.2, 0.6], [0.0, 0.6]]]];
        $radius = static function (Frame $frame): float {
            $middle = array_filter(self::places($frame), static fn (array $p): bool => abs($p[1] - 0.3) < 0.04 && hypot($p[0], $p[2]) > 0.03);

            return array_sum(array_map(static fn (array $p): float => hypot($p[0], $p[2]), $middle)) / count($middle);
        };
        $frames = self::soft($bar(0.2), $bar(0.1));
        self::assertEqualsWithDelta(0.2, $radius($frames[4]), 1e-6);
        self::assertEqualsWithDelta(0.1, $radius($frames[39]), 1e-3);
    }

    public function testClothSaysWhenTheOtherIsOfOtherTriangles(): void
    {
        $sheet = static fn (int $divisions): array => ['kind' => 'sheet', 'sheet' => ['divisions' => $divisions]];
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('it takes a prop of the very same triangles');
        self::cloth($sheet(4), $sheet(5));
    }
}
