<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\CueFrames;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\PieceTiming;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Weight\Samples;

/** Pieces that are picked, by a place on each. */
final class PickedTest extends TestCase
{
    /**
     * @param list<array{float, float, float}> $places
     * @param array<string, mixed> $more
     * @param list<array<string, mixed>> $below sources before it
     *
     * @return array<mixed> four bricks of 25 cm along x
     */
    private static function document(array $places, array $more = [], array $below = []): array
    {
        $picked = ['source' => 'picked', 'picked' => ['places' => array_map(static fn (array $p): array => ['x' => $p[0], 'y' => $p[1], 'z' => $p[2]], $places), ...$more['picked'] ?? []], ...array_diff_key($more, ['picked' => 0])];

        return ['version' => 2, 'frames' => 30, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['y' => 2.0],
            'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.25, 'height' => 0.2, 'offset' => 0, 'variety' => 0]],
            'weight' => ['stack' => [...$below, $picked]], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5, 'variety' => 0]],
        ]]];
    }

    /**
     * @param array<mixed> $document
     *
     * @return list<float> of the pieces, from low x to high x
     */
    private static function weights(array $document, float $frame = 1.0): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read($document);
        $broken = $pipeline->broken($shot->props[0]);
        $weights = (new PieceTiming($shot->props[0], $broken, $pipeline->surfaces))->weights($frame);
        $order = array_map(static fn (int $k): float => $broken->centre($k)[0], array_keys($weights));
        asort($order);

        return array_map(static fn (int $k): float => $weights[$k], array_keys($order));
    }

    public function testOnlyWhatIsPickedTakesPart(): void
    {
        // On the front of the second brick, on top of the last, and twice on the same.
        self::assertSame([0.0, 1.0, 0.0, 1.0], self::weights(self::document([[-0.2, 0.0, 0.1], [0.4, 0.1, 0.0], [-0.1, 0.1, 0.03]])));
        self::assertSame([1.0, 0.0, 1.0, 1.0], self::weights(self::document([[-0.2, 0.0, 0.1]], ['invert' => true])));
        self::assertSame([0.0, 0.0, 0.0, 0.0], self::weights(self::document([])));
        // A place that is off the prop picks the piece that is nearest.
        self::assertSame([1.0, 0.0, 0.0, 0.0], self::weights(self::document([[-3.0, 1.0, 0.0]])));
    }

    /** By hand: the middles of neighbours lie 12.5 cm beyond the brick’s side, as masons lay them (3 mm). */
    public function testASoftEdgeReachesNeighbours(): void
    {
        self::assertEqualsWithDelta([0.5, 1.0, 0.5, 0.0], self::weights(self::document([[-0.2, 0.0, 0.1]], ['picked' => ['softness' => 0.25, 'edge' => 'linear']])), 0.02);
        self::assertSame([1.0, 1.0, 1.0, 0.0], self::weights(self::document([[-0.2, 0.0, 0.1]], ['picked' => ['within' => 0.13]])));
    }

    public function testAMaskOverAFront(): void
    {
        $front = ['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 5, 'to' => 25, 'softness' => 0]];
        $document = self::document([[0.4, 0.1, 0.0], [-0.4, 0.1, 0.0]], ['mix' => 'multiply'], [$front]);
        self::assertSame([0.0, 0.0, 0.0, 0.0], self::weights($document, 4.0));
        self::assertSame([1.0, 0.0, 0.0, 0.0], self::weights($document, 15.0));
        self::assertSame([1.0, 0.0, 0.0, 1.0], self::weights($document, 30.0));
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read($document);
        $releases = $pipeline->runner->result($pipeline->releases($shot->props[0], 30));
        self::assertSame(2, array_sum($releases));
        $last = 0;
        foreach ($pipeline->frames($shot) as $n => $frame) {
            self::assertSame($releases[$n - 1], $frame->released() - $last, "frame {$n}");
            $last = $frame->released();
        }
    }

    /** At vertices: all of a picked piece, corners that it shares included. */
    public function testAllOfAPieceIsFull(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'torus', 'torus' => ['divisions' => 12]], 'break' => ['cellular' => ['pieces' => 12, 'seed' => 4]],
            'weight' => ['stack' => [['source' => 'picked', 'picked' => ['places' => []]]]]]]]);
        $broken = $pipeline->broken($shot->props[0]);
        foreach ([0, 5, 11] as $k) {
            $mesh = $broken->pieces->mesh($k);
            // A place on its outside.
            $t = (int) array_search(0, $mesh->looks ?? [0], true);
            [$a, $b, $c] = array_slice($mesh->triangles, 3 * $t, 3);
            $document = ['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'torus', 'torus' => ['divisions' => 12]], 'break' => ['cellular' => ['pieces' => 12, 'seed' => 4]],
                'weight' => ['stack' => [['source' => 'picked', 'picked' => ['places' => [['x' => ($mesh->x[$a] + $mesh->x[$b] + $mesh->x[$c]) / 3, 'y' => ($mesh->y[$a] + $mesh->y[$b] + $mesh->y[$c]) / 3, 'z' => ($mesh->z[$a] + $mesh->z[$b] + $mesh->z[$c]) / 3]]]]]]]]];
            $prop = Shot::read($document)->props[0];
            $timing = new PieceTiming($prop, $broken, $pipeline->surfaces);
            self::assertSame([1.0], array_values(array_unique($timing->at(new Samples(array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), 1.0))));
            self::assertSame([$k], array_keys(array_filter($timing->weights(1.0))));
        }
    }

    /** A cue and the checks read the weight on the whole surface; there are pieces there as well. */
    public function testWhatReadsTheWholeSurfaceKnowsThePieces(): void
    {
        $front = ['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 5, 'to' => 25, 'softness' => 0]];
        $document = self::document([[0.4, 0.1, 0.0]], ['mix' => 'multiply'], [$front]);
        // Its far side is where the front is at last, its near side at three quarters of the way.
        $document['props'][0]['source'] = ['box' => ['width' => 1.0, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 8]];
        $document['cues'] = [['id' => 'c', 'name' => 'C', 'frame' => 3, 'at' => ['moment' => 'level', 'level' => ['prop' => 'a', 'level' => 0.5]]]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        self::assertSame([], array_map(static fn (Finding $finding): string => $finding->text, Checks::of(Shot::read($document), $pipeline)));
        self::assertEqualsWithDelta(20, CueFrames::frame(Shot::read($document), 'c', $pipeline->surfaces), 1);
        $document['props'][0]['weight']['stack'][1]['picked']['places'] = [['x' => -0.4, 'y' => 0.1, 'z' => 0.0]];
        self::assertEqualsWithDelta(5, CueFrames::frame(Shot::read($document), 'c', $pipeline->surfaces), 1);
        // All but one: that is not all of it at the first frame.
        $texts = array_map(static fn (Finding $finding): string => $finding->text, Checks::of(Shot::read(self::document([[0.4, 0.1, 0.0]], ['invert' => true])), new Pipeline(new MemoryStore(), new NoAssets())));
        self::assertSame([], array_values(preg_grep('/at the first frame/', $texts) ?: []));
    }

    public function testThatNoneIsPickedIsSaid(): void
    {
        $texts = array_map(static fn (Finding $finding): string => $finding->text, Checks::of(Shot::read(self::document([])), new Pipeline(new MemoryStore(), new NoAssets())));
        self::assertStringContainsString('none is', implode(' ', $texts));
    }
}
