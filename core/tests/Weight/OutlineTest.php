<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Outlines;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;
use YardBreak\Core\Weight\Samples;

/** What is drawn of a source is where the source is. */
final class OutlineTest extends TestCase
{
    /**
     * @param list<array<string, mixed>> $stack
     *
     * @return array{Shot, PropShape, list<array{layer: int, shape: string, inShot: bool, frames: list<list<float>|null>}>}
     */
    private static function outlines(array $stack): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 24, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 2, 'height' => 1, 'depth' => 1]], 'weight' => ['stack' => $stack]]]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shape = PropShape::of($pipeline->prepared($shot->props[0]), $pipeline->surfaces);

        return [$shot, $shape, Outlines::of($shot->props[0]->weight, $shot->props[0], $shape)];
    }

    /** Just inside the outline the weight is full, just outside it is not: there the edge begins. */
    public function testZonesEndAtTheirOutlines(): void
    {
        foreach (['ball' => [0.0, 0.0, 1.0], 'box' => [1.0, 0.3, -0.2], 'cylinder' => [0.6, 0.2, 0.8]] as $form => $on) {
            [$shot, $shape, $found] = self::outlines([['source' => 'zone', 'zone' => [
                'shape' => $form, 'at' => ['x' => ['keys' => [['frame' => 1, 'value' => -0.5, 'ease' => 'linear'], ['frame' => 24, 'value' => 0.5]]], 'y' => 0.1, 'z' => 0], 'turn' => ['x' => 20, 'z' => 30], 'within' => 0.3, 'height' => 0.5, 'size' => ['x' => 0.4, 'y' => 0.6, 'z' => 0.2], 'softness' => 0.2,
            ]]]);
            self::assertSame([$form, false, 24], [$found[0]['shape'], $found[0]['inShot'], count($found[0]['frames'])]);
            $weight = Weighing::of($shot->props[0], $shape);
            foreach ([1, 12, 24] as $frame) {
                $numbers = $found[0]['frames'][$frame - 1];
                self::assertNotNull($numbers);
                [$x, $y, $z, $qx, $qy, $qz, $qw, $sx, $sy, $sz] = $numbers;
                $at = static fn (float $by): array => Quaternion::carried([$x, $y, $z], [$qx, $qy, $qz, $qw], [$by * $sx * $on[0], $by * $sy * $on[1], $by * $sz * $on[2]]);
                [$inside, $outside] = $weight->evaluate(Samples::of([$at(0.999), $at(1.05)]), (float) $frame);
                self::assertSame(1.0, $inside, $form);
                self::assertLessThan(1.0, $outside, $form);
            }
        }
    }

    /** The front of a ring, and of a sweep, is where the weight begins. */
    public function testFrontsAreWhereTheWeightBegins(): void
    {
        [$shot, $shape, $found] = self::outlines([['source' => 'ring', 'ring' => ['from' => 5, 'speed' => 1.0, 'softness' => 0.1]]]);
        self::assertNull($found[0]['frames'][3], 'not yet');
        $numbers = $found[0]['frames'][16] ?? [];
        self::assertEqualsWithDelta(0.5, $numbers[7], 1e-12);
        [$inside, $outside] = Weighing::of($shot->props[0], $shape)->evaluate(Samples::of([[$numbers[7] - 0.01, 0.0, 0.0], [$numbers[7] + 1e-6, 0.0, 0.0]]), 17.0);
        self::assertSame([true, 0.0], [$inside > 0.0, $outside]);

        foreach ([['axis' => 'x'], ['axis' => 'x', 'backwards' => true], ['axis' => 'direction', 'direction' => ['x' => 0.4, 'y' => 0.8, 'z' => 0.2]]] as $sweep) {
            [$shot, $shape, $found] = self::outlines([['source' => 'sweep', 'sweep' => ['from' => 1, 'to' => 21, 'softness' => 0.1, ...$sweep]]]);
            [$x, $y, $z, $qx, $qy, $qz, $qw, $half] = $found[0]['frames'][10] ?? [];
            [$nx, $ny, $nz] = Quaternion::rotate([$qx, $qy, $qz, $qw], [0.0, 0.01, 0.0]);
            $way = isset($sweep['backwards']) ? -1.0 : 1.0;
            [$behind, $ahead] = Weighing::of($shot->props[0], $shape)->evaluate(Samples::of([[$x - $way * $nx, $y - $way * $ny, $z - $way * $nz], [$x + $way * $nx, $y + $way * $ny, $z + $way * $nz]]), 11.0);
            self::assertGreaterThan(0.0, $behind);
            self::assertSame(0.0, $ahead);
            self::assertGreaterThan(0.4, $half);
        }
    }

    public function testPlacesAndLines(): void
    {
        $places = [['x' => -1, 'y' => 0.5, 'z' => 0], ['x' => 1, 'y' => 0.5, 'z' => 0], ['x' => 1, 'y' => -0.5, 'z' => 0]];
        [, , $found] = self::outlines([['source' => 'spread', 'spread' => ['places' => $places]], ['source' => 'sweep', 'sweep' => ['axis' => 'line', 'places' => $places]], ['source' => 'noise']]);
        self::assertSame(['ball', 'ball', 'ball', 'line', 'line'], array_column($found, 'shape'));
        self::assertSame([0, 0, 0, 1, 1], array_column($found, 'layer'));
        [$x, $y, , $qx, $qy, $qz, $qw, , $half] = $found[4]['frames'][0] ?? [];
        self::assertEqualsWithDelta([1.0, 0.0, 0.5], [$x, $y, $half], 1e-12);
        self::assertEqualsWithDelta([0.0, -1.0, 0.0], Quaternion::rotate([$qx, $qy, $qz, $qw], [0.0, 1.0, 0.0]), 1e-12);
    }

    /** Every keyed number of the document, at every frame, as it is when it is read. */
    public function testKeyedNumbers(): void
    {
        [$shot] = self::outlines([['source' => 'reach', 'amount' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 1]]], 'reach' => ['none' => ['keys' => [['frame' => 5, 'value' => 0.2], ['frame' => 9, 'value' => 0.6]], 'after' => 'repeat']], 'ring' => ['speed' => ['keys' => [['frame' => 1, 'value' => 1]]]]]]);
        $numbers = $shot->numbers();
        self::assertSame(['/props/0/weight/stack/0/reach/none', '/props/0/weight/stack/0/amount'], array_keys($numbers), 'not those of kinds that were not chosen');
        self::assertCount(24, $numbers['/props/0/weight/stack/0/amount']);
        self::assertEqualsWithDelta(0.3, $numbers['/props/0/weight/stack/0/amount'][3], 1e-12);
        self::assertSame($numbers['/props/0/weight/stack/0/reach/none'][5], $numbers['/props/0/weight/stack/0/reach/none'][9]);
    }
}
