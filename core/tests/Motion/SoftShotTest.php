<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Kind\Source\Ball;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Soft props in a shot: what strikes them, what holds them, what they are cut into. */
final class SoftShotTest extends TestCase
{
    private const G = ['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity'];

    /**
     * @param array<string, mixed> $soft
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed> a cube of 0.4 m
     */
    private static function cube(array $soft, array $more = []): array
    {
        return ['id' => 'cube', 'name' => 'Cube', 'source' => ['kind' => 'box', 'box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 2]], 'break' => ['pattern' => 'whole'],
            'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 8, 'stiffness' => 60, 'drag' => 0, ...$soft]], ...$more];
    }

    /**
     * @param array<string, mixed> $rigid
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed> a ball of 0.2 m
     */
    private static function ball(array $rigid, array $more = []): array
    {
        return ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 6]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'motion' => ['rigid' => ['before' => 'falls', ...$rigid]], ...$more];
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return array<int, Frame>
     */
    private static function frames(array $document): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, ...$document])));
    }

    /** @return array{array{float, float, float}, array{float, float, float}, array{float, float, float}} mean, lowest and highest place of its vertices */
    private static function extent(Frame $frame): array
    {
        $axes = [[], [], []];
        foreach ($frame->of('cube', Track::VERTICES) as $k => $value) {
            $axes[$k % 3][] = (float) $value;
        }
        $each = static fn (callable $of): array => [(float) $of($axes[0]), (float) $of($axes[1]), (float) $of($axes[2])];

        return [$each(static fn (array $all): float => array_sum($all) / max(1, count($all))), $each(static fn (array $all): float => min([INF, ...$all])), $each(static fn (array $all): float => max([-INF, ...$all]))];
    }

    /** What lies still is said to rest, though its floor pushes it back in each substep. */
    #[Group('slow')]
    public function testWhatLiesStillRests(): void
    {
        $frames = self::frames(['frames' => 90, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [self::cube(['before' => 'falls', 'damping' => 6, 'fineness' => 5], ['position' => ['y' => 0.3]])]]);
        self::assertGreaterThan(10.0, $frames[6]->readout['moving']);
        self::assertSame(0.0, $frames[90]->readout['moving']);
    }

    /** A stone of twice its density sinks in as far as it may, jumps, and lies in a dent: never through. */
    #[Group('slow')]
    public function testAStoneLiesInADent(): void
    {
        $frames = self::frames(['frames' => 60, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [
            self::cube(['before' => 'falls', 'damping' => 3], ['position' => ['y' => 0.21]]), self::ball(['density' => 2000], ['position' => ['y' => 1.0]]),
        ]]);
        $heights = array_map(static fn (Frame $frame): float => (float) $frame->of('ball', Track::POSE)[1], $frames);
        self::assertGreaterThan(0.25, min($heights));
        // Its middle gets about as low as the cube's top was: half of it goes in. A skin with edges of 20 cm keeps off something so round by a centimetre more than the gap.
        self::assertLessThan(0.41, min($heights));
        $dent = self::extent($frames[60])[2][1] + 0.1 - $heights[60];
        self::assertGreaterThan(0.005, $dent, 'it has sunk in');
        self::assertLessThan(0.08, $dent);
        self::assertEqualsWithDelta($heights[50], $heights[60], 0.02, 'and lies there');
    }

    /** @return iterable<string, array{float, float, float}> speed, density of the ball, how much momentum may differ */
    public static function blows(): iterable
    {
        if (getenv('YARD_BREAK_LONG')) {
            yield 'slow and light' => [1.0, 500.0, 0.02];
        }
        yield 'fast and heavy' => [6.0, 3000.0, 0.05];
    }

    /** Both free, without gravity: what the ball loses the cube gets, and the ball does not come out behind (as long as it is slower than waves in the cube are, 17 m/s). */
    #[DataProvider('blows')]
    #[Group('slow')]
    public function testMomentumIsGivenOn(float $speed, float $density, float $within): void
    {
        // A light blow makes it no faster than what is said to rest.
        $frames = self::frames(['frames' => 24, 'settleSpeed' => 0.001, 'planes' => [], 'forces' => [], 'props' => [
            self::cube(['before' => 'falls', 'damping' => 0, 'friction' => 0, 'stiffness' => 300]), self::ball(['density' => $density, 'velocity' => ['x' => $speed], 'friction' => 0], ['position' => ['x' => -0.5]]),
        ]]);
        $mass = $density * MassProperties::of(Ball::mesh(Shot::read(['version' => 2, 'props' => [self::ball([])]])->props[0]->source->settings, new NoAssets())->mesh)->volume;
        $at = static fn (int $n): float => (float) $frames[$n]->of('ball', Track::POSE)[0];
        $now = $mass * 24.0 * ($at(24) - $at(23)) + 64.0 * 24.0 * (self::extent($frames[24])[0][0] - self::extent($frames[23])[0][0]);
        $was = $mass * 24.0 * ($at(2) - $at(1));
        self::assertGreaterThan(0.5, 64.0 * 24.0 * (self::extent($frames[24])[0][0] - self::extent($frames[23])[0][0]), 'the cube is under way');
        self::assertEqualsWithDelta($was, $now, $within * $was);
        foreach ($frames as $n => $frame) {
            self::assertLessThan(self::extent($frame)[2][0] + 0.05, (float) $frame->of('ball', Track::POSE)[0], "through it at frame {$n}");
        }
    }

    /** Boxes longer than a stone is wide: one set on them was thrown 68 m high, a small one that falls on them hopped for ever. */
    #[Group('slow')]
    public function testWhatIsCoarseThrowsNothing(): void
    {
        self::assertLies(0.2, 0.302, 6, 0.2);
    }

    #[Group('long')]
    public function testASmallStoneOnWhatIsCoarseHopsNoMore(): void
    {
        self::assertLies(0.06, 0.35, 8, 0.01);
    }

    /** Shards of a jar, whose middle is in none of them, stay on what is coarser than they are, and come to rest there. They went in between its vertices. */
    #[Group('slow')]
    public function testShardsStayOnWhatIsCoarse(): void
    {
        $jar = ['source' => ['kind' => 'jar', 'jar' => ['height' => 0.2]], 'position' => ['y' => 0.62], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 6]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]];
        $frames = self::frames(['frames' => 60, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [self::cube(['fineness' => 4], ['position' => ['y' => 0.21]]), self::ball([], $jar)]]);
        foreach (array_chunk($frames[60]->of('ball', Track::POSE), 7) as $k => [$x, $y, $z]) {
            self::assertFalse(abs((float) $x) < 0.18 && abs((float) $z) < 0.18 && $y < 0.38, "shard {$k} is inside");
        }
        self::assertLessThan(2, count(array_filter(array_map(static fn (array $is, array $was): float => Vector::distance([(float) $is[0], (float) $is[1], (float) $is[2]], [(float) $was[0], (float) $was[1], (float) $was[2]]), array_chunk($frames[60]->of('ball', Track::POSE), 7), array_chunk($frames[59]->of('ball', Track::POSE), 7)), static fn (float $way): bool => $way > 0.002)), 'and they hop no more');
    }

    private static function assertLies(float $wide, float $from, int $fineness, float $rises): void
    {
        $beam = self::cube(['fineness' => $fineness, 'stiffness' => 80], ['source' => ['kind' => 'box', 'box' => ['width' => 0.4, 'height' => 0.3, 'depth' => 2.0, 'divisions' => 2]], 'position' => ['y' => 0.152, 'z' => 0.6], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]]);
        $stone = ['source' => ['kind' => 'box', 'box' => ['width' => $wide, 'height' => $wide, 'depth' => $wide, 'divisions' => 2]], 'position' => ['y' => $from + 0.5 * $wide]];
        $frames = self::frames(['frames' => 72, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [$beam, self::ball([], $stone)]]);
        $heights = array_map(static fn (Frame $frame): float => (float) $frame->of('ball', Track::POSE)[1], $frames);
        self::assertLessThan($from + 0.5 * $wide + $rises, max($heights));
        self::assertEqualsWithDelta($heights[72], $heights[60], 0.005, 'it hops no more');
    }

    /** Where the weight is it hangs loose, elsewhere it stays, and where the weight has gone it comes back to its place. */
    #[Group('slow')]
    public function testAWeightLetsGoAndTakesBack(): void
    {
        $frames = self::frames(['frames' => 60, 'planes' => [], 'forces' => [self::G], 'props' => [self::cube(['stiffness' => 10, 'damping' => 4, 'fineness' => 5], [
            'position' => ['y' => 1.0], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5]],
            'weight' => ['stack' => [['source' => 'zone', 'zone' => ['at' => ['x' => 0.2], 'within' => 0.15, 'softness' => 0.1], 'amount' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 5, 'value' => 1], ['frame' => 24, 'value' => 1, 'ease' => 'hold'], ['frame' => 25, 'value' => 0]]]]]],
        ])]]);
        $first = $frames[1]->of('cube', Track::VERTICES);
        $off = static function (int $n) use ($frames, $first): array {
            $off = ['near' => 0.0, 'far' => 0.0];
            foreach ($frames[$n]->of('cube', Track::VERTICES) as $k => $value) {
                $side = $first[$k - $k % 3] > 0.1 ? 'near' : ($first[$k - $k % 3] < -0.1 ? 'far' : '');
                if ($side !== '') {
                    $off[$side] = max($off[$side], abs($value - $first[$k]));
                }
            }

            return $off;
        };
        self::assertGreaterThan(0.02, $off(24)['near']);
        self::assertLessThan(1e-6, $off(24)['far']);
        self::assertLessThan(1e-3, $off(60)['near'], 'taken back');
        self::assertGreaterThan(0, $frames[20]->released());
    }

    /** Cut in pieces that fall on each other: they pile up, none sinks into the others. */
    #[Group('slow')]
    public function testItsPiecesLieOnEachOther(): void
    {
        $frames = self::frames(['frames' => 36, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [
            self::cube(['fineness' => 4, 'damping' => 3, 'friction' => 0.8], ['position' => ['y' => 0.5], 'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.4, 'height' => 0.2, 'depth' => 0.4]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]]]),
        ]]);
        self::assertGreaterThan(0.33, self::extent($frames[36])[2][1], 'one on top of the other');
        self::assertGreaterThan(-0.001, self::extent($frames[36])[1][1]);
        $apart = self::frames(['frames' => 36, 'forces' => [self::G], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [
            self::cube(['fineness' => 4, 'damping' => 3, 'friction' => 0.8, 'feelsItself' => false], ['position' => ['y' => 0.5], 'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.4, 'height' => 0.2, 'depth' => 0.4]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]]]),
        ]]);
        self::assertLessThan(0.28, self::extent($apart[36])[2][1], 'without feeling itself they would lie in one place');
    }

    public function testWhatHasNoInsideIsRefused(): void
    {
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('without an inside');
        self::frames(['props' => [self::cube([], ['source' => ['kind' => 'sheet']])]]);
    }

    #[Group('slow')]
    public function testTooManyBoxesAreRefused(): void
    {
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('less fine');
        self::frames(['props' => [self::cube(['fineness' => 40])]]);
    }
}
