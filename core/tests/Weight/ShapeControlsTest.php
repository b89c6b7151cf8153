<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\RememberedSightings;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\StageRunner;
use YardBreak\Core\Stage\WeightTrack;
use YardBreak\Core\Tests\Fixture\Pictures;
use YardBreak\Core\Tests\Fixture\Settings;

/** What the form shows of a weight, its sources and how it follows them changes the weight, and its hash; what it hides does neither. */
#[Group('thorough')]
final class ShapeControlsTest extends TestCase
{
    use Settings;

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function sources(): iterable
    {
        foreach (['ball', 'box', 'cylinder'] as $shape) {
            foreach (['prop', 'shot'] as $space) {
                yield "a {$shape} in the {$space}" => [['source' => 'zone', 'zone' => ['shape' => $shape, 'space' => $space, 'at' => ['x' => 0.3, 'y' => 0.2, 'z' => 0.1], 'within' => 0.2, 'height' => 0.3, 'size' => ['x' => 0.3, 'y' => 0.3, 'z' => 0.3], 'softness' => 0.3, 'turn' => ['x' => 10, 'z' => 20]]]];
            }
        }
        yield 'a ball grows' => [['source' => 'ring', 'ring' => ['from' => 2, 'at' => ['x' => 0.2]]]];
        yield 'a circle, only the ring' => [['source' => 'ring', 'ring' => ['from' => 2, 'form' => 'circle', 'at' => ['x' => 0.2], 'fills' => false]]];
        yield 'a ring by keys' => [['source' => 'ring', 'ring' => ['grows' => 'keys', 'radius' => 0.6, 'at' => ['x' => 0.2]]]];
        yield 'bands' => [['source' => 'bands', 'bands' => []]];
        yield 'bands, their edge drawn' => [['source' => 'bands', 'bands' => ['edge' => 'curve', 'softness' => 0.1]]];
        yield 'facing, of the prop' => [['source' => 'facing', 'facing' => ['direction' => ['x' => 0.2, 'y' => 0.8, 'z' => 0.1]]]];
        yield 'facing, of the shot' => [['source' => 'facing', 'facing' => ['space' => 'shot', 'direction' => ['x' => 0.2, 'y' => 0.8, 'z' => 0.1]]]];
        yield 'pieces you pick' => [['source' => 'picked', 'picked' => ['places' => [['x' => 0.5, 'y' => 0.1, 'z' => 0.1]], 'softness' => 0.3]]];
        yield 'patches' => [['source' => 'noise', 'noise' => []]];
        foreach (['amount', 'order'] as $tells) {
            yield "a picture tells {$tells}" => [['source' => 'picture', 'picture' => ['tells' => $tells, 'picture' => ['asset' => Pictures::ACROSS], 'from' => 2, 'to' => 20]]];
        }
        yield 'numbered pictures' => [['source' => 'picture', 'picture' => ['moves' => 'numbered', 'lies' => 'texture', 'starts' => 3, 'every' => 4, 'after' => 'repeats', 'pictures' => [['asset' => Pictures::ACROSS, 'fileName' => ''], ['asset' => Pictures::UPWARD, 'fileName' => '']]]]];
        yield 'painted' => [['source' => 'brush', 'brush' => ['strokes' => [['mode' => 'add', 'radius' => 0.4, 'points' => base64_encode(pack('g3', 0.5, 0.5, 0.5))]]]]];
        foreach (['y', 'direction', 'outward', 'line'] as $axis) {
            yield "a sweep along {$axis}" => [['source' => 'sweep', 'sweep' => ['axis' => $axis, 'from' => 2, 'to' => 20, 'places' => [['x' => -0.5, 'y' => 0, 'z' => 0], ['x' => 0.5, 'y' => 0.3, 'z' => 0]]]]];
        }
        // Where it begins is all that differs; the next has the rest.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'over the surface from places' => [['source' => 'spread', 'spread' => ['from' => 2, 'places' => [['x' => 0.5, 'y' => 0.5, 'z' => 0]]]]];
        }
        yield 'over the surface from a touch' => [['source' => 'spread', 'spread' => ['begins' => 'touch', 'props' => ['b'], 'near' => 0.1]]];
        yield 'over the surface from a weight' => [['source' => 'spread', 'spread' => ['begins' => 'weight', 'weight' => 'one']]];
        yield 'another weight' => [['source' => 'other', 'other' => ['weight' => 'one']]];
    }

    /**
     * @param array<string, mixed> $weight
     *
     * @return array<string, mixed>
     */
    private static function document(array $weight): array
    {
        $named = static fn (string $id, float $x): array => ['id' => $id, 'name' => $id, 'stack' => [['source' => 'zone', 'zone' => ['at' => ['x' => $x], 'within' => 0.3, 'softness' => 0.4]]]];

        return ['version' => 2, 'frames' => 24, 'props' => [
            ['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1, 'height' => 1, 'depth' => 1, 'divisions' => 2]], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 5]], 'weight' => $weight, 'weights' => [$named('one', 0.5), $named('two', -0.5)],
                'rotation' => ['y' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 20, 'value' => 40]]]]],
            ['id' => 'b', 'name' => 'B', 'source' => ['ball' => ['width' => 0.4, 'divisions' => 4]], 'break' => ['pattern' => 'whole'], 'position' => ['x' => 0.2, 'y' => ['keys' => [['frame' => 1, 'value' => 2], ['frame' => 9, 'value' => 0.5], ['frame' => 22, 'value' => 1.6]]]]],
        ]];
    }

    /** @param array<string, mixed> $source */
    #[DataProvider('sources')]
    public function testWhatIsShownOfASourceWorks(array $source): void
    {
        self::assertWeightsControlsWork(self::document(['stack' => [$source]]), ['props', '0', 'weight', 'stack', '0'], ['source', 'mix']);
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function shapes(): iterable
    {
        // A ball comes and goes: the weight rises and falls.
        $stack = ['stack' => [['source' => 'reach', 'reach' => ['props' => ['b'], 'full' => 0.05, 'none' => 0.6]]]];
        yield 'at once' => [$stack];
        yield 'late' => [['follows' => 'late', ...$stack]];
        yield 'like a spring' => [['follows' => 'spring', ...$stack]];
        yield 'without a source' => [['stack' => []]];
    }

    /** @param array<string, mixed> $weight */
    #[DataProvider('shapes')]
    public function testWhatIsShownOfItsShapeWorks(array $weight): void
    {
        // Where a piece reads it is no matter of the weight at each vertex.
        self::assertWeightsControlsWork(self::document($weight), ['props', '0', 'weight'], ['source', 'mix', 'stack', 'pieces', 'props', 'where', 'measure', 'full', 'none', 'edge', 'amount', 'invert']);
    }

    /**
     * @param array<string, mixed> $document
     * @param list<string> $part
     * @param list<string> $skip
     */
    private static function assertWeightsControlsWork(array $document, array $part, array $skip): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new Pictures());
        // Somebody has seen the ball elsewhere than its keys put it.
        $sightings = new RememberedSightings();
        for ($n = 1; $n <= 24; $n++) {
            $sightings->note(new Frame($n, [new Track('b', Track::POSE, 1)], [[0.1 * $n - 1.0, 0.6, 0.1, 0.0, 0.0, 0.0, 1.0]], []));
        }
        $track = static fn (Shot $shot): WeightTrack => $pipeline->weightTrack($shot->props[0], 'release', null, 1, 24, $pipeline->seeing($shot, $sightings));
        $result = static fn (Shot $shot): array => [$pipeline->runner->result($track($shot))->bytes];
        $hash = static fn (Shot $shot): string => StageRunner::hash($track($shot));
        $own = ['pictures' => [[['asset' => Pictures::UPWARD, 'fileName' => '']]], 'strokes' => [[]], 'picture' => [['asset' => Pictures::UPWARD, 'fileName' => '']], 'props' => [[]], 'weight' => ['two', ''], 'slowedBy' => ['two', 'one'], 'curve' => [[[0.0, 0.0], [0.4, 0.9], [1.0, 1.0]]], 'direction' => [['x' => 1.0, 'y' => 0.3, 'z' => 0.0]], 'count' => [7], 'detail' => [4], 'turn' => [['x' => 30.0, 'y' => 20.0, 'z' => 50.0]]];
        self::assertGreaterThan(2, self::assertControlsWork($document, $part, $result, $hash, $skip, $own));
    }
}
