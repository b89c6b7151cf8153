<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Samples;

/** What each source of a weight gives, worked out by hand. Edges are even, so that a weight is a distance. */
final class SourcesTest extends TestCase
{
    /**
     * A block of 2 by 1 by 1 m whose only source is the one that is given.
     *
     * @param array<string, mixed> $settings
     * @param array<string, mixed> $prop
     */
    private static function shot(string $source, array $settings, array $prop = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 48, 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 2, 'height' => 1, 'depth' => 1, 'divisions' => 4]],
                'weight' => ['stack' => [['source' => $source, $source => $settings]]], ...$prop],
        ]]);
    }

    /**
     * @param list<array{float, float, float}> $places
     *
     * @return list<float>
     */
    private static function weights(Shot $shot, array $places, float $frame = 1.0): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $prop = $shot->props[0];
        Weighing::check($prop);

        return Weighing::of($prop, PropShape::of($pipeline->prepared($prop), $pipeline->surfaces))->evaluate(Samples::of($places), $frame);
    }

    public function testZones(): void
    {
        $even = ['softness' => 1.0, 'edge' => 'linear'];
        $ball = self::shot('zone', ['at' => ['x' => 1], 'within' => 0.5, ...$even]);
        self::assertEqualsWithDelta([1.0, 1.0, 0.5, 0.0], self::weights($ball, [[1.0, 0.0, 0.0], [0.6, 0.3, 0.0], [0.0, 0.0, 0.0], [-1.0, 0.0, 0.0]]), 1e-12);
        // A box of 1 by 2 by 3: 3-4-5 off an edge, and a third of the space diagonal off a corner.
        $box = self::shot('zone', ['shape' => 'box', 'size' => ['x' => 1, 'y' => 2, 'z' => 3], ...$even]);
        self::assertEqualsWithDelta([1.0, 0.75, 0.5, 1.0 - sqrt(0.03)], self::weights($box, [[0.4, -0.9, 1.4], [0.75, 0.0, 0.0], [0.8, 1.4, 0.0], [0.6, 1.1, 1.6]]), 1e-12);
        $turned = self::shot('zone', ['shape' => 'box', 'size' => ['x' => 1, 'y' => 2, 'z' => 3], 'turn' => ['y' => 90], ...$even]);
        self::assertEqualsWithDelta([1.0, 0.75], self::weights($turned, [[1.4, -0.9, 0.4], [0.0, 0.0, 0.75]]), 1e-12);
        $cylinder = self::shot('zone', ['shape' => 'cylinder', 'within' => 0.5, 'height' => 2, ...$even]);
        self::assertEqualsWithDelta([1.0, 0.75, 0.5], self::weights($cylinder, [[0.3, 1.0, 0.4], [0.6, 0.2, 0.45], [0.64, 1.4, 0.48]]), 1e-12);
    }

    /** Of the prop: the same places always. Of the shot: where it stands in the world, whatever becomes of the prop. */
    public function testAZoneStandsInThePropOrInTheShotAndMoves(): void
    {
        $moving = ['position' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 10]]]], 'rotation' => ['z' => 90], 'scale' => ['x' => 2, 'y' => 2, 'z' => 2]];
        $zone = ['at' => ['x' => 4], 'within' => 0.5, 'softness' => 1.0, 'edge' => 'linear'];
        $own = self::shot('zone', $zone, $moving);
        self::assertEqualsWithDelta([1.0, 0.5], self::weights($own, [[4.0, 0.0, 0.0], [3.0, 0.0, 0.0]], 5.0), 1e-12);
        $still = self::shot('zone', ['space' => 'shot', ...$zone], $moving);
        // At frame 5 the prop's origin is at 4; its own y is the world's -x, twice as long.
        self::assertEqualsWithDelta([1.0, 0.5, 1.0], self::weights($still, [[0.0, 0.0, 0.0], [0.0, 0.5, 0.0], [0.0, -0.25, 0.0]], 5.0), 1e-12);
        self::assertEqualsWithDelta([0.5], self::weights($still, [[0.0, 0.0, 0.0]], 4.0), 1e-12);
        // It may move and grow by itself.
        $keyed = self::shot('zone', [...$zone, 'at' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 5, 'value' => 4]]]], 'within' => ['keys' => [['frame' => 5, 'value' => 0.5, 'ease' => 'linear'], ['frame' => 9, 'value' => 0.9]]]]);
        self::assertEqualsWithDelta([0.5, 1.0], [self::weights($keyed, [[0.0, 0.0, 0.0]], 2.0)[0], self::weights($keyed, [[4.9, 0.0, 0.0]], 9.0)[0]], 1e-12);
    }

    public function testRings(): void
    {
        // 24 frames a second, 1.2 m/s from frame 13 on: at frame 23 half a metre.
        $ring = ['from' => 13, 'speed' => 1.2, 'softness' => 0.2, 'edge' => 'linear'];
        $ball = self::shot('ring', $ring);
        self::assertSame([0.0, 0.0], self::weights($ball, [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0]], 13.0));
        self::assertEqualsWithDelta([1.0, 1.0, 0.5, 0.0], self::weights($ball, [[0.0, 0.0, 0.0], [0.3, 0.0, 0.0], [0.0, 0.4, 0.0], [0.5, 0.0, 0.0]], 23.0), 1e-12);
        // Only the ring: full for 0.1 m behind the soft edge, none 0.2 m further in.
        $only = self::shot('ring', ['fills' => false, 'width' => 0.1, ...$ring]);
        self::assertEqualsWithDelta([0.0, 0.5, 1.0, 1.0, 0.5], self::weights($only, [[0.0, 0.0, 0.0], [0.1, 0.0, 0.0], [0.2, 0.0, 0.0], [0.3, 0.0, 0.0], [0.4, 0.0, 0.0]], 23.0), 1e-12);
        // A circle does not ask how high; turned, its axis is another.
        $circle = self::shot('ring', ['form' => 'circle', ...$ring]);
        self::assertEqualsWithDelta([1.0, 0.5], self::weights($circle, [[0.0, 9.0, 0.0], [0.0, -9.0, 0.4]], 23.0), 1e-12);
        $turned = self::shot('ring', ['form' => 'circle', 'turn' => ['z' => 90], ...$ring]);
        self::assertEqualsWithDelta([1.0, 0.5], self::weights($turned, [[9.0, 0.0, 0.0], [-9.0, 0.0, 0.4]], 23.0), 1e-12);
        $keyed = self::shot('ring', [...$ring, 'grows' => 'keys', 'radius' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 1]]]]);
        self::assertEqualsWithDelta([0.5], self::weights($keyed, [[0.4, 0.0, 0.0]], 6.0), 1e-12);
        // A speed that changes is summed up: from 0 to 2.4 m/s in 20 frames is 1 m.
        $faster = self::shot('ring', [...$ring, 'from' => 1, 'speed' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 21, 'value' => 2.4]]]]);
        self::assertEqualsWithDelta([0.5], self::weights($faster, [[0.9, 0.0, 0.0]], 21.0), 1e-9);
    }

    public function testBands(): void
    {
        // The block is 2 m long: four bands, 0.5 m apart, full for 0.1 m about 0.25, 0.75, ...
        $bands = ['direction' => ['x' => 1, 'y' => 0, 'z' => 0], 'count' => 4, 'width' => 0.2, 'softness' => 0.1, 'edge' => 'linear'];
        $places = [[-1.0, 0.0, 0.0], [-0.75, 0.3, 0.0], [-0.7, 0.0, 0.0], [-0.65, 0.0, 0.0], [-0.5, 0.0, 0.0], [0.25, 0.0, -0.4]];
        self::assertEqualsWithDelta([0.0, 1.0, 1.0, 0.5, 0.0, 1.0], self::weights(self::shot('bands', $bands), $places), 1e-12);
        // Moved by half a band they lie between; by a whole one as before.
        self::assertEqualsWithDelta([1.0, 0.0], self::weights(self::shot('bands', ['moved' => 0.5, ...$bands]), [[-1.0, 0.0, 0.0], [-0.75, 0.0, 0.0]]), 1e-12);
        $travels = self::shot('bands', ['moved' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 25, 'value' => 1]]], ...$bands]);
        self::assertEqualsWithDelta(self::weights($travels, $places, 1.0), self::weights($travels, $places, 25.0), 1e-9);
        self::assertEqualsWithDelta([1.0], self::weights($travels, [[-1.0, 0.0, 0.0]], 13.0), 1e-9);
        // Across a slanted direction, of any length, from corner to corner: 3 m for (2, 1, 0) / sqrt 5.
        $slanted = self::weights(self::shot('bands', ['direction' => ['x' => 0.8, 'y' => 0.4, 'z' => 0], 'count' => 1, 'width' => 0.0, 'softness' => 2.5 / sqrt(5.0), 'edge' => 'linear'], []), [[0.0, 0.0, 0.0], [1.0, 0.5, 0.0]]);
        self::assertEqualsWithDelta([1.0, 0.0], $slanted, 1e-12);
    }

    public function testFacing(): void
    {
        $up = ['direction' => ['x' => 0, 'y' => 1, 'z' => 0], 'within' => 30, 'soft' => 30, 'edge' => 'linear'];
        // On the top, on the side, on the edge between them, and just under the top.
        $places = [[0.1, 0.5, 0.1], [1.0, 0.1, 0.1], [1.0, 0.5, 0.1], [0.1, 0.4, 0.1]];
        self::assertEqualsWithDelta([1.0, 0.0, 0.5, 1.0], self::weights(self::shot('facing', $up), $places), 1e-6);
        // The same faces when it turns, or those that face up then.
        $turned = ['rotation' => ['z' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 10, 'value' => 90]]]]];
        self::assertEqualsWithDelta([1.0, 0.0, 0.5, 1.0], self::weights(self::shot('facing', $up, $turned), $places, 10.0), 1e-6);
        self::assertEqualsWithDelta([0.0, 1.0, 0.5, 0.0], self::weights(self::shot('facing', ['space' => 'shot', ...$up], $turned), $places, 10.0), 1e-6);
    }

    public function testPatches(): void
    {
        // The noise is the published one (its check values: MathTest), read at places in patches.
        $noise = GradientNoise::seeded(7, 'weight');
        $plain = ['seed' => 7, 'size' => 0.25, 'detail' => 1, 'contrast' => 1];
        $places = [[0.1, 0.2, 0.3], [-0.7, 0.33, 0.05]];
        $expected = array_map(static fn (array $p): float => 0.5 + 0.5 / 0.6 * $noise->at(4.0 * $p[0], 4.0 * $p[1], 4.0 * $p[2]), $places);
        self::assertEqualsWithDelta($expected, self::weights(self::shot('noise', $plain), $places), 1e-12);
        // It drifts: what was here is further on.
        $drifts = self::shot('noise', ['drift' => ['x' => 1.2, 'y' => 0, 'z' => 0], ...$plain]);
        self::assertEqualsWithDelta($expected, self::weights($drifts, [[0.6, 0.2, 0.3], [-0.2, 0.33, 0.05]], 11.0), 1e-9);
        $many = [];
        for ($k = 0; $k < 4000; $k++) {
            $many[] = [($k % 20) * 0.0971 - 1.0, (intdiv($k, 20) % 20) * 0.0493 - 0.5, intdiv($k, 400) * 0.0987 - 0.5];
        }
        self::assertSame([0.0], array_values(array_unique(self::weights(self::shot('noise', ['level' => 0, ...$plain]), $many))));
        self::assertSame([1.0], array_values(array_unique(self::weights(self::shot('noise', ['level' => 1, ...$plain]), $many))));
        self::assertSame([0.5], array_values(array_unique(self::weights(self::shot('noise', [...$plain, 'contrast' => 0]), $many))));
        $half = self::weights(self::shot('noise', $plain), $many);
        self::assertEqualsWithDelta(0.5, array_sum($half) / 4000, 0.03);
        // Hard patches: hardly anything in between.
        $hard = array_filter(self::weights(self::shot('noise', [...$plain, 'contrast' => 40]), $many), static fn (float $w): bool => $w > 0.0 && $w < 1.0);
        self::assertLessThan(400, count($hard));
    }

    public function testSweepsGoAnyWay(): void
    {
        // Bounds are 2 by 1 by 1; a front without an edge has come half way at half time.
        $sweep = ['from' => 1, 'to' => 21, 'softness' => 0];
        $slanted = self::shot('sweep', ['axis' => 'direction', 'direction' => ['x' => 0.5, 'y' => 0.5, 'z' => 0], ...$sweep]);
        self::assertSame([1.0, 0.0, 1.0], self::weights($slanted, [[-0.51, 0.5, 0.0], [0.51, -0.5, 0.0], [0.49, -0.5, 0.3]], 11.0));
        $back = self::shot('sweep', ['axis' => 'direction', 'direction' => ['x' => 0.5, 'y' => 0.5, 'z' => 0], 'backwards' => true, ...$sweep]);
        self::assertSame([0.0, 1.0], self::weights($back, [[-0.51, 0.5, 0.0], [0.51, -0.5, 0.0]], 11.0));
        // From a corner outward: as far as the opposite corner, sqrt 6.
        $outward = self::shot('sweep', ['axis' => 'outward', 'at' => ['x' => -1, 'y' => -0.5, 'z' => -0.5], ...$sweep]);
        self::assertSame([1.0, 0.0], self::weights($outward, [[-1.0 + 1.22, -0.5, -0.5], [-1.0 + 1.23, -0.5, -0.5]], 11.0));
        self::assertSame([1.0], self::weights($outward, [[1.0, 0.5, 0.5]], 21.0));
        // Along a bent line: 1 m along x, then 1 m up.
        $line = self::shot('sweep', ['axis' => 'line', 'places' => [['x' => -1, 'y' => 0, 'z' => 0], ['x' => 0, 'y' => 0, 'z' => 0], ['x' => 0, 'y' => 1, 'z' => 0]], ...$sweep]);
        self::assertSame([1.0, 1.0, 0.0, 0.0], self::weights($line, [[-0.6, -0.2, 0.0], [-0.1, -0.3, 0.0], [0.2, 0.25, 0.0], [0.0, 0.9, 0.4]], 10.0));
        self::assertSame([1.0, 0.0], self::weights($line, [[0.2, 0.2, 0.0], [0.0, 0.9, 0.4]], 14.0));
        // Slowly at first: at half time it has not come half way.
        $slow = self::shot('sweep', ['axis' => 'x', 'ease' => 'in', ...$sweep]);
        self::assertSame([0.0], self::weights($slow, [[-0.2, 0.0, 0.0]], 11.0));
    }

    public function testAWeightMayGoByAnotherButNotByItself(): void
    {
        $zone = ['source' => 'zone', 'zone' => ['within' => 0.5, 'softness' => 1.0, 'edge' => 'linear']];
        $named = static fn (string $of, string ...$by): array => ['id' => $of, 'name' => ucfirst($of), 'stack' => array_map(static fn (string $id): array => ['source' => 'other', 'other' => ['weight' => $id]], $by)];
        $shot = self::shot('other', ['weight' => 'soft'], ['weights' => [['id' => 'soft', 'name' => 'Soft', 'curve' => [[0, 1], [1, 0]], 'stack' => [$zone]]]]);
        self::assertEqualsWithDelta([0.0, 0.5], self::weights($shot, [[0.0, 0.0, 0.0], [0.0, 1.0, 0.0]]), 1e-12);
        // One that is gone is nothing.
        self::assertSame([0.0], self::weights(self::shot('other', ['weight' => 'gone']), [[0.0, 0.0, 0.0]]));
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage('B goes by A, which goes by B');
        self::weights(self::shot('other', ['weight' => 'a'], ['weights' => [$named('a', 'b'), $named('b', 'a')]]), [[0.0, 0.0, 0.0]]);
    }

    /** @return iterable<string, array{string, array<string, mixed>, string}> */
    public static function wrong(): iterable
    {
        yield 'bands without a direction' => ['bands', ['direction' => ['x' => 0, 'y' => 0, 'z' => 0]], 'A direction needs a length'];
        yield 'facing nowhere' => ['facing', ['direction' => ['x' => 0, 'y' => 0, 'z' => 0]], 'A direction needs a length'];
        yield 'a sweep that goes nowhere' => ['sweep', ['axis' => 'direction', 'direction' => ['x' => 0, 'y' => 0, 'z' => 0]], 'A direction needs a length'];
    }

    /** @param array<string, mixed> $settings */
    #[DataProvider('wrong')]
    public function testWhatContradictsItselfIsSaid(string $source, array $settings, string $message): void
    {
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage($message);
        self::weights(self::shot($source, $settings), [[0.0, 0.0, 0.0]]);
    }

    public function testACurveRunsFromLeftToRight(): void
    {
        $this->expectExceptionMessage('from left to right');
        self::weights(Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'weight' => ['curve' => [[0, 0], [0.5, 1], [0.5, 0]]]]]]), [[0.0, 0.0, 0.0]]);
    }
}
