<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Cloth\Growth;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cloth that grows every way, along a direction or across it. */
final class GrowthTest extends TestCase
{
    /** A way of 3 by 4 that grows to twice: every way 10; along the first 6 and 4; across it 3 and 8. */
    public function testWhatLeadsAslantGrowsAsItsParts(): void
    {
        $times = [2.0, 2.0, 1.0];
        $way = [1.0, 0.0, 0.0];
        self::assertSame(2.0, (new Growth($times))->between(0, 1, 3.0, 0.0, 4.0));
        self::assertEqualsWithDelta(sqrt(36.0 + 16.0) / 5.0, (new Growth($times, $way))->between(0, 1, 3.0, 0.0, 4.0), 1e-12);
        self::assertEqualsWithDelta(sqrt(9.0 + 64.0) / 5.0, (new Growth($times, $way, true))->between(0, 1, -3.0, 4.0, 0.0), 1e-12);
        self::assertEqualsWithDelta(1.5, (new Growth($times, $way))->between(1, 2, 0.1, 0.0, 0.0), 1e-12, 'between the two as both are on average');
        self::assertSame([1.0, 1.0, 1.0], (new Growth($times, $way))->least());
        self::assertSame(1.0, (new Growth([0.5], $way))->most());
        self::assertEquals(new Growth([1.0, 2.0], $way), (new Growth($times, $way))->picked([2, 0]));
    }

    /**
     * A loose sheet of 0.4 by 0.4 m where nothing acts, at the end of two seconds in which it grew by half.
     *
     * @param array<string, mixed> $cloth
     *
     * @return array{float, float} how long it is along x and along z, m
     */
    private static function sides(array $cloth, string $pattern = 'whole'): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 72, 'forces' => [], 'planes' => [], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.4, 'depth' => 0.4, 'divisions' => 8]], 'break' => ['pattern' => $pattern, 'patches' => ['count' => 6]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
            'motion' => ['mover' => 'cloth', 'cloth' => $cloth + ['overhang' => 1.0, 'growth' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 48, 'value' => 50]]]]],
        ]]]);
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
        self::assertInstanceOf(Frame::class, $frames[71]);
        $x = $z = [];
        foreach (array_chunk($frames[71]->of('a', Track::VERTICES), 3) as [$px, , $pz]) {
            [$x[], $z[]] = [(float) $px, (float) $pz];
        }

        return [max([...$x, -INF]) - min([...$x, INF]), max([...$z, -INF]) - min([...$z, INF])];
    }

    #[Group('slow')]
    public function testASheetGrowsTheWayItIsTold(): void
    {
        self::assertEqualsWithDelta([0.6, 0.6], self::sides([]), 0.01, 'every way');
        self::assertEqualsWithDelta([0.6, 0.4], self::sides(['grows' => 'along']), 0.01);
        self::assertEqualsWithDelta([0.4, 0.6], self::sides(['grows' => 'across']), 0.01);
    }

    /** What has grown is not stretched: seams hold. */
    public function testSeamsHoldWhatGrows(): void
    {
        self::assertEqualsWithDelta([0.6, 0.4], self::sides(['grows' => 'along', 'tears' => 5], 'patches'), 0.01);
    }
}
