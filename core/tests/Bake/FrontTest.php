<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PropShape;
use YardBreak\Core\Stage\Weighing;

/** A front that spreads from a blow, and breaks that follow a front. */
final class FrontTest extends TestCase
{
    /** @param array<string, mixed> $prop */
    private static function shot(array $prop): Shot
    {
        return Shot::read(['version' => 1, 'frames' => 60, 'props' => [$prop + [
            'id' => 'wall', 'name' => 'Wall',
            'source' => ['kind' => 'box', 'width' => 2.0, 'height' => 2.0, 'depth' => 0.1, 'divisions' => 4],
            'place' => ['y' => 1.0], 'motion' => ['before' => 'held'],
        ]]]);
    }

    private static function pipeline(): Pipeline
    {
        return new Pipeline(new MemoryStore(), new NoAssets());
    }

    /** @return list<string> */
    private static function findings(Shot $shot): array
    {
        return array_map(static fn (Finding $finding): string => $finding->text, Checks::of($shot, self::pipeline()));
    }

    /** Layers of a rim are rings: their middle lies in the hole, but they go one after the other, and the wall stays. */
    #[Group('thorough')]
    public function testTheLayersOfARimLetGoOneAfterTheOther(): void
    {
        $shot = self::shot([
            'break' => ['pattern' => 'breach', 'shape' => 'ball', 'radius' => 0.3, 'ragged' => 0.3, 'crumb' => 0.06, 'fragments' => 3, 'bands' => 3, 'band' => 0.15, 'seed' => 4],
            'timing' => ['release' => 'blow', 'from' => 10, 'to' => 40, 'spread' => 0.45, 'softness' => 0.05],
        ]);
        $pipeline = self::pipeline();
        $prop = $shot->prop('wall');
        self::assertInstanceOf(Prop::class, $prop);
        $broken = $pipeline->broken($prop);
        $count = count($broken->pieces);
        $first = array_fill(0, $count, null);
        foreach ($pipeline->frames($shot) as $number => $frame) {
            foreach (array_keys($first) as $k) {
                if ($first[$k] === null && ($frame->flags()[$k] & 1) !== 0) {
                    $first[$k] = $number;
                }
            }
            if ($number === 41) {
                break;
            }
        }
        // By size: the wall, then its layers from the outermost in; the fragments of the hole are smaller.
        $volumes = array_map(static fn ($mass): float => $mass->volume, $broken->mass);
        arsort($volumes);
        $order = array_keys($volumes);
        self::assertNull($first[$order[0]], 'The wall holds.');
        $rest = array_map(static fn (int $k): int => $first[$k] ?? 1000, array_slice($order, 1));
        self::assertLessThanOrEqual(40, max($rest));
        $times = array_values(array_unique($rest));
        sort($times);
        self::assertGreaterThanOrEqual(4, count($times), 'The hole, then three layers.');
        self::assertContains($times[0], [10, 11], 'What is cut out goes at once.');
        // The larger a ring, the later: the rings are the largest but the wall.
        self::assertGreaterThan($first[$order[3]], $first[$order[2]]);
        self::assertGreaterThan($first[$order[2]], $first[$order[1]]);
    }

    public function testShardsOfAWebLetGoFromTheBlowOutward(): void
    {
        $shot = self::shot([
            'break' => ['pattern' => 'web', 'at' => ['x' => 0.4, 'y' => -0.2, 'z' => 0.05], 'axis' => ['z' => -1, 'y' => 0], 'rays' => 10, 'rings' => 6, 'radius' => 0.7, 'rest' => 'whole', 'seed' => 2],
            'timing' => ['release' => 'blow', 'from' => 5, 'to' => 25, 'spread' => 0.8, 'softness' => 0.1],
        ]);
        $prop = $shot->prop('wall');
        self::assertInstanceOf(Prop::class, $prop);
        $broken = self::pipeline()->broken($prop);
        $weight = Weighing::of($prop, PropShape::ofPieces($broken, self::pipeline()->surfaces));
        $near = $far = [];
        $places = Weighing::places($prop, $broken);
        foreach ($weight->evaluate($places, 15.0) as $k => $value) {
            $distance = hypot($places->x[$k] - 0.4, $places->y[$k] + 0.2);
            if ($distance < 0.25) {
                $near[] = $value;
            } elseif ($distance > 0.5) {
                $far[] = $value;
            }
        }
        self::assertNotEmpty($near);
        self::assertNotEmpty($far);
        self::assertSame(1.0, min($near));
        self::assertSame(0.0, max($far));
    }

    public function testCellsAreFinerWhereTheFrontHasBeen(): void
    {
        $left = static function (int $frame, bool $backwards): float {
            $shot = self::shot([
                'break' => ['pattern' => 'cellular', 'pieces' => 60, 'density' => 'weight', 'densityAt' => $frame, 'seed' => 3],
                'timing' => ['release' => 'sweep', 'axis' => 'x', 'backwards' => $backwards, 'from' => 10, 'to' => 50, 'softness' => 0.05],
            ]);
            $broken = self::pipeline()->broken($shot->props[0]);
            $count = count(array_filter(array_keys($broken->mass), static fn (int $k): bool => $broken->centre($k)[0] < 0.0));

            return $count / count($broken->pieces);
        };
        self::assertGreaterThan(0.8, $left(30, false));
        self::assertLessThan(0.2, $left(30, true));
        self::assertEqualsWithDelta(0.5, $left(50, false), 0.15, 'Once it has passed, it is as fine everywhere.');
    }

    /** Only then is the break another when the front is: touching the timing otherwise leaves the pieces as they are. */
    public function testABreakDependsOnTheFrontOnlyIfItFollowsIt(): void
    {
        $pipeline = self::pipeline();
        $hash = static fn (string $density, int $at, int $to): string => $pipeline->brokenHash(self::shot([
            'break' => ['pattern' => 'cellular', 'pieces' => 10, 'density' => $density, 'densityAt' => $at],
            'timing' => ['release' => 'sweep', 'from' => 10, 'to' => $to],
        ])->props[0]);
        self::assertSame($hash('none', 20, 50), $hash('none', 30, 60));
        self::assertSame($hash('weight', 20, 50), $hash('weight', 20, 50));
        self::assertNotSame($hash('weight', 20, 50), $hash('weight', 30, 50));
        self::assertNotSame($hash('weight', 20, 50), $hash('weight', 20, 60));
    }

    /** Cut where the front stands, a wall of six bricks does not go in six blows: something of it goes all the time, and all of it in the end. */
    public function testPiecesCutByTheFrontGoBitByBit(): void
    {
        $releases = static function (array $cuts): array {
            $shot = Shot::read(['version' => 2, 'frames' => 60, 'props' => [[
                'id' => 'wall', 'name' => 'Wall', 'source' => ['box' => ['width' => 2.0, 'height' => 2.0, 'depth' => 0.1]], 'position' => ['y' => 1.0],
                'break' => ['pattern' => 'courses', 'courses' => ['length' => 1.0, 'height' => 0.66, 'offset' => 0]],
                'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 5, 'to' => 45, 'softness' => 0.05]]]],
                'release' => ['trigger' => 'weight', 'weight' => $cuts],
            ]]]);
            $pipeline = self::pipeline();

            return $pipeline->runner->result($pipeline->releases($shot->props[0], 60));
        };
        $without = array_filter($releases([]));
        $with = array_filter($releases(['cuts' => true, 'every' => 4]));
        self::assertLessThanOrEqual(4, count($without));
        self::assertGreaterThanOrEqual(9, count($with), 'forty frames, a cut every four');
        $frames = array_keys($with);
        $gaps = array_map(static fn (int $k): int => $frames[$k + 1] - $frames[$k], range(0, count($frames) - 2));
        self::assertLessThanOrEqual(6, max($gaps));
    }

    /** It follows all that the weight goes by, and nothing while it is off or what lets go does not go by the weight. */
    public function testTheFrontMattersToABreakItCuts(): void
    {
        $pipeline = self::pipeline();
        $hash = static fn (array $cuts, int $to, float $threshold, string $trigger = 'weight'): string => $pipeline->brokenHash(Shot::read(['version' => 2, 'frames' => 60, 'props' => [[
            'id' => 'wall', 'name' => 'Wall', 'break' => ['cellular' => ['pieces' => 8]],
            'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 5, 'to' => $to]]]],
            'release' => ['trigger' => $trigger, 'weight' => ['threshold' => $threshold, ...$cuts], 'frame' => ['frame' => 5]],
        ]]])->props[0]);
        $on = ['cuts' => true, 'every' => 4];
        self::assertSame($hash($on, 50, 0.5), $hash($on, 50, 0.5));
        self::assertNotSame($hash($on, 50, 0.5), $hash($on, 40, 0.5));
        self::assertNotSame($hash($on, 50, 0.5), $hash($on, 50, 0.4));
        self::assertNotSame($hash($on, 50, 0.5), $hash(['every' => 5] + $on, 50, 0.5));
        self::assertSame($hash([], 50, 0.5), $hash(['every' => 5], 40, 0.4));
        self::assertSame($hash([], 50, 0.5), $hash($on, 40, 0.4, 'frame'), 'at a frame there is no front');
    }

    public function testItIsSaidWhenThereIsNoBlowOrNoFront(): void
    {
        $noBlow = self::findings(self::shot(['break' => ['pattern' => 'courses'], 'timing' => ['release' => 'blow']]));
        self::assertStringContainsString('its break has none', implode("\n", $noBlow));
        $noFront = self::findings(self::shot(['break' => ['density' => 'weight'], 'timing' => ['release' => 'frame']]));
        self::assertStringContainsString('the same everywhere', implode("\n", $noFront));
        $fine = self::findings(self::shot(['break' => ['pattern' => 'web'], 'timing' => ['release' => 'blow']]));
        self::assertSame([], $fine);
    }
}
