<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Falloff;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Consistency;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Nearness;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Reach;
use YardBreak\Core\Weight\Samples;

/** Weights from how near other props are. */
final class ReachTest extends TestCase
{
    /**
     * A plank, and a block (2 by 1 by 1 m) that passes over it.
     *
     * @param array<string, mixed> $reach
     * @param array<string, mixed> $block
     * @param array<string, mixed> $plank
     */
    private static function shot(array $reach, array $block = [], array $plank = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 24, 'props' => [
            ['id' => 'plank', 'name' => 'Plank', 'source' => ['box' => ['width' => 4, 'height' => 0.1, 'depth' => 0.4, 'divisions' => 1]], 'break' => ['cellular' => ['pieces' => 12]],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['block'], 'full' => 0.1, 'none' => 0.6, 'edge' => 'linear', ...$reach]]]], 'release' => ['trigger' => 'weight'], ...$plank],
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -4, 'ease' => 'linear'], ['frame' => 21, 'value' => 6]]], 'y' => 1.0], ...$block],
        ]]);
    }

    /**
     * @param list<array{float, float, float}> $places
     *
     * @return list<float>
     */
    private static function weights(Shot $shot, array $places, float $frame): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $prop = $shot->props[0];

        return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of($places), $frame);
    }

    /** The block's underside is at 0.5: what lies below it at height y is 0.5 - y away, what it has not reached farther. */
    public function testItFollowsAKeyedProp(): void
    {
        $places = [[0.0, 0.0, 0.0], [0.0, 0.15, 0.0], [2.0, 0.0, 0.0]];
        // At frame 9 it stands at x = 0, at 13 at x = 2; the corner at (1, 0.5) is sqrt(1 + 0.25) from (2, 0).
        self::assertEqualsWithDelta([0.2, 0.5, 0.0], self::weights(self::shot([]), $places, 9.0), 1e-12);
        self::assertEqualsWithDelta([0.0, 0.0, 0.2], self::weights(self::shot([]), $places, 13.0), 1e-12);
        // Between frames too: at 10 it stands at x = 0.5, still over the middle.
        self::assertEqualsWithDelta(0.2, self::weights(self::shot([]), $places, 10.0)[0], 1e-12);
        self::assertSame([0.0, 0.0, 0.0], self::weights(self::shot([]), $places, 1.0));
    }

    /** Inside counts as touching; of the shell it is as far as the surface; the middle is one place. */
    public function testWhatIsMeasuredTo(): void
    {
        $inside = [[0.2, 1.0, 0.0]];
        self::assertSame([1.0], self::weights(self::shot(['full' => 0.0, 'none' => 0.4]), $inside, 9.0));
        self::assertEqualsWithDelta([0.0], self::weights(self::shot(['measure' => 'shell', 'full' => 0.0, 'none' => 0.4]), $inside, 9.0), 1e-12);
        self::assertEqualsWithDelta([0.2], self::weights(self::shot(['measure' => 'shell', 'full' => 0.0, 'none' => 0.5]), [[0.2, 0.9, 0.0]], 9.0), 1e-12);
        self::assertEqualsWithDelta([0.75], self::weights(self::shot(['measure' => 'middle', 'full' => 0.0, 'none' => 0.8]), $inside, 9.0), 1e-12);
    }

    /** Wherever both stand, however large and turned they are: distances are those of the world, by brute force over the block's eight corners' box. */
    public function testBothMayBeMovedTurnedAndScaled(): void
    {
        $random = RandomStream::named(3, 'reach');
        for ($n = 0; $n < 30; $n++) {
            $put = static fn (): array => [
                'position' => ['x' => $random->between(-1.0, 1.0), 'y' => $random->between(-1.0, 1.0), 'z' => $random->between(-1.0, 1.0)],
                'rotation' => ['x' => $random->between(-180.0, 180.0), 'y' => $random->between(-180.0, 180.0), 'z' => $random->between(-180.0, 180.0)],
                'scale' => ['x' => $random->between(0.4, 2.0), 'y' => $random->between(0.4, 2.0), 'z' => $random->between(0.4, 2.0)],
            ];
            $shot = self::shot(['full' => 0.0, 'none' => 20.0], $put(), $put());
            $place = [$random->between(-2.0, 2.0), $random->between(-2.0, 2.0), $random->between(-2.0, 2.0)];
            $world = $shot->props[0]->transform->carried($place, 5.0);
            $block = $shot->props[1]->transform;
            $origin = $block->positionAt(5.0);
            $local = Quaternion::rotate(Quaternion::conjugate($block->rotationAt(5.0)), [$world[0] - $origin[0], $world[1] - $origin[1], $world[2] - $origin[2]]);
            $half = array_map(static fn (float $scale, float $side): float => 0.5 * $scale * $side, $block->scaleAt(5.0), [2.0, 1.0, 1.0]);
            // Distance to a box (any text): how far each coordinate is outside.
            $far = sqrt(array_sum(array_map(static fn (float $at, float $half): float => max(0.0, abs($at) - $half) ** 2, $local, $half)));
            self::assertEqualsWithDelta(1.0 - $far / 20.0, self::weights($shot, [$place], 5.0)[0], 1e-9, "case {$n}");
        }
    }

    /** Measured no farther than the nearest so far, it is the same nearest: outside, inside, and of the shell. */
    public function testHowNearItComes(): void
    {
        $random = RandomStream::named(4, 'least');
        $places = [];
        for ($k = 0; $k < 200; $k++) {
            $places[] = [$random->between(-3.0, 3.0), $random->between(-1.0, 1.5), $random->between(-2.0, 2.0)];
        }
        foreach ([[], ['measure' => 'shell'], ['measure' => 'middle']] as $measure) {
            $shot = self::shot($measure);
            $prop = $shot->props[0];
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            $shape = PropShape::of($pipeline->prepared($prop), $pipeline->surfaces);
            $settings = $prop->weight->stack[0]->choice('source')->settings;
            foreach ([[1.0, 0], [1.0, 150], [9.0, 0], [12.5, 180]] as [$frame, $from]) {
                $some = Samples::of(array_slice($places, $from));
                self::assertSame(min(Nearness::distances($settings, $prop, $shape, $some, $frame)), Nearness::least($settings, $prop, $shape, $some, $frame));
            }
        }
    }

    public function testEdgesGoFromNoneToFull(): void
    {
        $expected = ['linear' => [0.25, 0.5], 'smooth' => [0.15625, 0.5], 'sharp' => [0.0625, 0.25], 'round' => [0.4375, 0.75]];
        foreach ($expected as $edge => [$quarter, $half]) {
            self::assertSame([0.0, $quarter, $half, 1.0], array_map(static fn (float $share): float => Falloff::of($edge)->at($share), [0.0, 0.25, 0.5, 1.0]), $edge);
            self::assertEqualsWithDelta($half, self::weights(self::shot(['edge' => $edge, 'full' => 0.3, 'none' => 0.7]), [[0.0, 0.0, 0.0]], 9.0)[0], 1e-12);
        }
    }

    /** A curve is hit at its points; one that runs back is refused in words. */
    public function testAnEdgeIsAsDrawn(): void
    {
        // 0.2 m beyond: halfway between full and none.
        $drawn = static fn (array $points): array => ['edge' => 'curve', 'edgeCurve' => $points, 'full' => 0.3, 'none' => 0.7];
        self::assertEqualsWithDelta(0.5, self::weights(self::shot(['edge' => 'smooth'] + $drawn([[0, 0], [1, 1]])), [[0.0, 0.0, 0.0]], 9.0)[0], 1e-12, 'halfway');
        self::assertEqualsWithDelta(0.9, self::weights(self::shot($drawn([[0, 0], [0.5, 0.9], [1, 1]])), [[0.0, 0.0, 0.0]], 9.0)[0], 1e-12);
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage('from left to right');
        Weighing::check(self::shot($drawn([[0, 0], [0, 1]]))->props[0]);
    }

    public function testTheNearestOfSeveralCountsAndDistancesMayChangeOverTime(): void
    {
        $at = static fn (float $far): \Closure => static fn (Samples $at, float $frame, float $limit): array => array_fill(0, count($at->x), $far);
        $full = Animated::keyed([[1.0, 0.0, 'linear'], [11.0, 1.0, 'linear']]);
        $reach = new Reach([$at(3.0), $at(2.0), $at(INF)], $full, Animated::constant(4.0), Falloff::of('linear'));
        $one = Samples::of([[0.0, 0.0, 0.0]]);
        self::assertSame([0.5], $reach->evaluate($one, 1.0));
        self::assertEqualsWithDelta([2.0 / 3.0], $reach->evaluate($one, 11.0), 1e-12);
        // Where they cross there is a hard edge, not a division by nothing.
        self::assertSame([0.0], (new Reach([$at(2.0)], Animated::constant(1.5), Animated::constant(1.0), Falloff::of('linear')))->evaluate($one, 1.0));
        self::assertSame([1.0], (new Reach([$at(1.5)], Animated::constant(1.5), Animated::constant(1.0), Falloff::of('linear')))->evaluate($one, 1.0));
    }

    public function testSwappedDistancesAreRefusedInWords(): void
    {
        Consistency::check(self::shot([]));
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage('invert the source');
        Consistency::check(self::shot(['full' => 0.7]));
    }

    /** A source whose prop is gone counts as nothing; so does one that names none. */
    public function testWithoutAPropThereIsNoWeight(): void
    {
        self::assertSame([0.0], self::weights(self::shot(['props' => []]), [[0.0, 0.0, 0.0]], 9.0));
        self::assertSame([0.0], self::weights(self::shot(['props' => ['ghost', 'plank']]), [[0.0, 0.0, 0.0]], 9.0));
    }

    /** A pipeline that has seen one document does not take its props for those of another, whatever they are called. */
    public function testPropsOfAnotherDocumentAreOtherProps(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $weight = static function (Shot $shot) use ($pipeline): float {
            $prop = $shot->props[0];

            return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of([[0.0, 0.0, 0.0]]), 9.0)[0];
        };
        self::assertEqualsWithDelta(0.2, $weight(self::shot([])), 1e-12);
        $lower = ['source' => ['box' => ['width' => 2, 'height' => 1.4, 'depth' => 1, 'divisions' => 1]]];
        self::assertEqualsWithDelta(0.6, $weight(self::shot([], $lower)), 1e-12);
    }

    /** Pieces let go in the order in which the block comes over them, and the bake is out of date when it goes another way. */
    public function testPiecesLetGoAsItPasses(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = self::shot(['full' => 0.5, 'none' => 0.8]);
        $since = [];
        foreach ($pipeline->frames($shot) as $number => $frame) {
            foreach ($frame->of('plank', Track::FLAGS) as $piece => $flags) {
                if (((int) $flags & 1) !== 0) {
                    $since[$piece] ??= $number;
                }
            }
        }
        self::assertCount(12, $since);
        $centres = array_map(static fn ($mass): float => $mass->centre[0], $pipeline->broken($shot->props[0])->mass);
        asort($centres);
        $order = array_map(static fn (int $piece): int => $since[$piece], array_keys($centres));
        $sorted = $order;
        sort($sorted);
        self::assertSame($sorted, $order);
        self::assertGreaterThan(5, max($order) - min($order));
        $later = self::shot(['full' => 0.5, 'none' => 0.8], ['position' => ['x' => ['keys' => [['frame' => 1, 'value' => -4, 'ease' => 'linear'], ['frame' => 21, 'value' => 5]]], 'y' => 1.0]]);
        self::assertNotSame($pipeline->motionHash($shot), $pipeline->motionHash($later));
        $wider = self::shot(['full' => 0.5, 'none' => 0.8], ['source' => ['box' => ['width' => 2.2, 'height' => 1, 'depth' => 1, 'divisions' => 1]]]);
        self::assertNotSame($pipeline->motionHash($shot), $pipeline->motionHash($wider));
    }
}
