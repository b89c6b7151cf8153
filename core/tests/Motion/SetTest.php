<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Props that are set on others: where each piece stands, how large it is and where it goes, beside what is worked out by hand. */
final class SetTest extends TestCase
{
    private const COUNT = 60;

    /**
     * Pegs of 0.1 m on a ball of 1 m whose middle is 1 m up.
     *
     * @param array<string, mixed> $set
     * @param array<string, mixed> $below
     * @param array<string, mixed> $pegs
     * @param list<array<string, mixed>> $more props
     */
    private static function shot(array $set = [], array $below = [], array $pegs = [], array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 20, 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 1, 'divisions' => 24]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'staged'], ...$below],
            ['id' => 'pegs', 'name' => 'Pegs', 'source' => ['box' => ['width' => 0.02, 'height' => 0.1, 'depth' => 0.02, 'divisions' => 1]], 'position' => ['y' => 0.05], 'break' => ['pattern' => 'copies', 'copies' => ['count' => self::COUNT]],
                'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.01]], 'motion' => ['mover' => 'set', 'set' => ['on' => 'ball', 'variety' => 0, 'lean' => 0, 'turned' => false, 'ease' => 'linear', ...$set]], ...$pegs],
            ...$more,
        ]]);
    }

    /** @return list<Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
    }

    /** @return list<array{list<float>, list<float>}> place of the middle and turn, and size, of each peg */
    private static function pegs(Frame $frame): array
    {
        $poses = array_chunk(array_map(floatval(...), $frame->of('pegs', Track::POSE)), 7);
        $scales = array_chunk(array_map(floatval(...), $frame->of('pegs', Track::SCALE)), 3);

        return array_map(null, $poses, $scales);
    }

    public function testTheyStandOffTheSurfaceWithTheirFeetOnIt(): void
    {
        foreach (self::pegs(self::frames(self::shot())[0]) as [$pose, $scale]) {
            // Half their height off the ball, along the way from its middle.
            [$x, $y, $z] = [$pose[0], $pose[1] - 1.0, $pose[2]];
            self::assertEqualsWithDelta(0.55, sqrt($x * $x + $y * $y + $z * $z), 4e-3);
            // Their own up is that way: y of the turned axis.
            [$qx, $qy, $qz, $qw] = array_slice($pose, 3);
            $up = [2.0 * ($qx * $qy - $qz * $qw), 1.0 - 2.0 * ($qx * $qx + $qz * $qz), 2.0 * ($qy * $qz + $qx * $qw)];
            self::assertGreaterThan(0.995, ($up[0] * $x + $up[1] * $y + $up[2] * $z) / 0.55);
            self::assertEqualsWithDelta([1.0, 1.0, 1.0], $scale, 1e-6);
        }
    }

    public function testUprightTheyStandStraightUpAndSinkIn(): void
    {
        foreach (self::pegs(self::frames(self::shot(['upright' => 1], [], ['position' => ['y' => 0.02]]))[0]) as [$pose]) {
            self::assertEqualsWithDelta(1.0, abs($pose[6]), 1e-6);
            [$x, $y, $z] = [$pose[0], $pose[1] - 1.0 - 0.05 + 0.03, $pose[2]];
            self::assertEqualsWithDelta(0.5, sqrt($x * $x + $y * $y + $z * $z), 4e-3);
        }
    }

    #[Group('slow')]
    public function testTheyGrowByTheWeightOfWhatTheyStandOn(): void
    {
        // Half way up the ball the weight is a half, at the bottom nothing, at the top one.
        $below = ['weight' => ['stack' => [['source' => 'zone', 'zone' => ['shape' => 'ball', 'at' => ['y' => 0.5], 'within' => 0.0, 'softness' => 1.0, 'edge' => 'linear']]]]];
        $seen = 0;
        foreach ([0.01, 0.25] as $threshold) {
            foreach (self::pegs(self::frames(self::shot([], $below, ['release' => ['trigger' => 'weight', 'weight' => ['threshold' => $threshold]]]))[3]) as [$pose, $scale]) {
                if ($scale[0] < 1e-6) {
                    continue;
                }
                // The foot is half its height nearer the middle.
                $far = sqrt($pose[0] ** 2 + ($pose[1] - 1.0) ** 2 + $pose[2] ** 2);
                $foot = [0.5 * $pose[0] / $far, 0.5 * ($pose[1] - 1.0) / $far, 0.5 * $pose[2] / $far];
                $weight = 1.0 - sqrt($foot[0] ** 2 + ($foot[1] - 0.5) ** 2 + $foot[2] ** 2);
                self::assertEqualsWithDelta(($weight - $threshold) / (1.0 - $threshold), $scale[0], 0.02);
                $seen++;
            }
        }
        self::assertGreaterThan(self::COUNT / 2, $seen);
        self::assertLessThan(2 * self::COUNT, $seen, 'below nothing has grown');
        // At a frame they all grow at once, over ten frames.
        $frames = self::frames(self::shot(['takes' => 10], [], ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]]]));
        foreach ([5 => 0.0, 10 => 0.5, 15 => 1.0, 20 => 1.0] as $frame => $size) {
            self::assertEqualsWithDelta($size, self::pegs($frames[$frame - 1])[7][1][0], 1e-6, "frame {$frame}");
        }
    }

    public function testTheyGrowWhereAnotherPropPassesTheOneTheyStandOn(): void
    {
        $bar = ['id' => 'bar', 'name' => 'Bar', 'source' => ['box' => ['width' => 0.1, 'height' => 3, 'depth' => 3]], 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 5.0, 'ease' => 'linear'], ['frame' => 20, 'value' => 0.6]]], 'y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']];
        $frames = self::frames(self::shot([], ['weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['bar'], 'full' => 0.2, 'none' => 0.2]]]]], [], [$bar]));
        self::assertSame([], array_filter(self::pegs($frames[0]), static fn (array $peg): bool => $peg[1][0] > 0.0), 'it is far away');
        $grown = array_filter(self::pegs($frames[19]), static fn (array $peg): bool => $peg[1][0] > 0.5);
        self::assertGreaterThan(0, count($grown));
        // Its face stands at 0.55: what is nearer than 20 cm stands at 0.35 or more.
        self::assertGreaterThan(0.34, min(array_map(static fn (array $peg): float => $peg[0][0] / 1.1, $grown)));
    }

    #[Group('slow')]
    public function testTheyGoWhereItGoes(): void
    {
        $keys = static fn (float $to): array => ['keys' => [['frame' => 1, 'value' => 0.0, 'ease' => 'linear'], ['frame' => 20, 'value' => $to]]];
        $frames = self::frames(self::shot([], ['position' => ['x' => $keys(1.9), 'y' => 1.0], 'rotation' => ['y' => $keys(90.0)]]));
        [$first, $last] = [self::pegs($frames[0]), self::pegs($frames[19])];
        foreach ($first as $k => [$pose]) {
            // A quarter turn about y takes x to -z and z to x.
            self::assertEqualsWithDelta([$pose[2] + 1.9, $pose[1], -$pose[0]], array_slice($last[$k][0], 0, 3), 1e-5);
        }
        // On a surface that swells evenly by 0.2 m they are as much farther out.
        $swells = ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'swell', 'swell' => ['takes' => 10, 'height' => 0.2, 'even' => 1]]];
        foreach (self::pegs(self::frames(self::shot([], $swells))[19]) as [$pose]) {
            self::assertEqualsWithDelta(0.75, sqrt($pose[0] ** 2 + ($pose[1] - 1.0) ** 2 + $pose[2] ** 2), 4e-3);
        }
    }

    /** Each stands as the prop does at the origin: lying on its side, half its thickness above the floor, it lies on the surface. */
    public function testEachStandsAsThePropStandsOnTheFloor(): void
    {
        foreach (self::pegs(self::frames(self::shot([], [], ['position' => ['y' => 0.01], 'rotation' => ['z' => 90]]))[0]) as [$pose]) {
            [$x, $y, $z] = [$pose[0], $pose[1] - 1.0, $pose[2]];
            $far = sqrt($x * $x + $y * $y + $z * $z);
            self::assertEqualsWithDelta(0.51, $far, 4e-3);
            [$qx, $qy, $qz, $qw] = array_slice($pose, 3);
            $along = [2.0 * ($qx * $qy - $qz * $qw), 1.0 - 2.0 * ($qx * $qx + $qz * $qz), 2.0 * ($qy * $qz + $qx * $qw)];
            self::assertLessThan(0.1, abs($along[0] * $x + $along[1] * $y + $along[2] * $z) / $far);
        }
    }

    #[Group('slow')]
    public function testEachIsALittleDifferent(): void
    {
        $pegs = self::pegs(self::frames(self::shot(['variety' => 0.4, 'turned' => true, 'lean' => 20]))[0]);
        $sizes = array_map(static fn (array $peg): float => $peg[1][0], $pegs);
        self::assertGreaterThan(0.6 - 1e-6, min($sizes));
        self::assertLessThan(1.4 + 1e-6, max($sizes));
        self::assertGreaterThan(0.5, max($sizes) - min($sizes));
        self::assertNotEquals($pegs, self::pegs(self::frames(self::shot(['variety' => 0.4, 'turned' => true, 'lean' => 20, 'seed' => 2]))[0]));
        self::assertEquals($pegs, self::pegs(self::frames(self::shot(['variety' => 0.4, 'turned' => true, 'lean' => 20]))[0]), 'the same again');
    }

    public function testWhatCannotBeSetIsSaid(): void
    {
        $say = static fn (Shot $shot): string => implode(' ', array_map(static fn ($finding): string => $finding->text, Checks::of($shot, new Pipeline(new MemoryStore(), new NoAssets()))));
        self::assertSame('', $say(self::shot()));
        self::assertStringContainsString('Nothing is chosen that Pegs is set on', $say(self::shot(['on' => ''])));
        self::assertStringContainsString('set on another prop itself', $say(self::shot([], ['motion' => ['mover' => 'set', 'set' => ['on' => 'pegs']]])));
        self::assertStringContainsString('only where its keys put it', $say(self::shot([], ['motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'falls']]])));
        foreach (['contact', 'never'] as $trigger) {
            self::assertStringContainsString('never shows', $say(self::shot([], [], ['release' => ['trigger' => $trigger]])));
        }
        self::assertStringContainsString('3 m beside the origin', $say(self::shot([], [], ['position' => ['x' => 3.0]])));
        $this->expectException(BadDocument::class);
        self::frames(self::shot(['on' => 'gone']));
    }

    public function testMoreCopiesThanCanBeDrawnAreRefused(): void
    {
        $shot = self::shot([], [], ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.1, 'divisions' => 48]], 'break' => ['pattern' => 'copies', 'copies' => ['count' => 20000]]]);
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('Take fewer, or a simpler mesh');
        (new Pipeline(new MemoryStore(), new NoAssets()))->broken($shot->props[1]);
    }
}
