<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Light pieces land on cloth and soft things, lie on them while they move, and never pass. */
#[Group('slow')]
final class LandingOnBentTest extends TestCase
{
    private const PIECES = 40;

    /** Half of a piece's thickness, and what it may be lower while its surface is curved beneath it, m. */
    private const SUNK = 0.004;

    /**
     * A thin plate in pieces that falls flat, on what is given.
     *
     * @param array<string, mixed> $below
     * @param array<string, mixed> $light
     *
     * @return array<int, Frame>
     */
    private static function frames(int $count, array $below, array $light = []): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => $count, 'planes' => [['id' => 'f', 'name' => 'Floor']], 'forces' => [['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity']], 'props' => [
            ['id' => 'bits', 'name' => 'Bits', 'source' => ['box' => ['width' => 0.5, 'height' => 0.006, 'depth' => 0.5, 'divisions' => 1]], 'position' => ['y' => 0.9], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => self::PIECES, 'seed' => 2]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'light', 'light' => ['friction' => 0.9, ...$light]]],
            ['break' => ['pattern' => 'whole']] + $below,
        ]])));
    }

    /** @return array<string, mixed> a sheet of 1 m, held at its rim until frame 40 */
    private static function sheet(): array
    {
        return ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 14]], 'position' => ['y' => 0.6], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 40]],
            'motion' => ['mover' => 'cloth', 'cloth' => ['damping' => 2, 'hold' => [['source' => 'rim', 'rim' => ['within' => 0.01, 'softness' => 0]]]]]];
    }

    /** @return list<array{float, float, float}> */
    private static function pieces(Frame $frame): array
    {
        return array_map(static fn (array $pose): array => [(float) $pose[0], (float) $pose[1], (float) $pose[2]], array_chunk($frame->of('bits', Track::POSE), 7));
    }

    /** @return list<float> how high pieces lie above a surface, by the way up, m */
    private static function heights(Frame $frame, string $id, TriangleMesh $rest, bool $closed): array
    {
        $places = array_map(floatval(...), $frame->of($id, Track::VERTICES));
        $of = static fn (int $axis): array => array_values(array_filter($places, static fn (int $k): bool => $k % 3 === $axis, ARRAY_FILTER_USE_KEY));
        $tree = SurfaceTree::of(new TriangleMesh($of(0), $of(1), $of(2), array_values($rest->triangles)), $closed);
        $heights = [];
        foreach (self::pieces($frame) as [$x, $y, $z]) {
            $tree->look($tree->nearest($x, $y, $z, INF), $x, $y, $z);
            $heights[] = $closed || $tree->ny >= 0.0 ? $tree->distance : -$tree->distance;
        }

        return $heights;
    }

    public function testTheyLieOnAHeldSheetAndGoDownWithIt(): void
    {
        $frames = self::frames(90, self::sheet());
        $mesh = Solids::sheet(1.0, 1.0, 14);
        $above = self::heights($frames[38], 'sheet', $mesh, false);
        self::assertCount(self::PIECES, $above);
        self::assertGreaterThan(-self::SUNK, min($above), 'none has gone through');
        self::assertLessThan(0.02, max($above), 'all have come down');
        self::assertGreaterThan(0.4, min(array_column(self::pieces($frames[38]), 1)), 'and none lies on the floor');
        // Let go, they fall together, and lie on it in the end.
        self::assertLessThan(0.1, max(array_column(self::pieces($frames[90]), 1)));
        self::assertGreaterThan(-self::SUNK, min(self::heights($frames[90], 'sheet', $mesh, false)));
        self::assertGreaterThan(0.0, min(array_column(self::pieces($frames[90]), 1)));
    }

    /** What sticks keeps its place on the cloth to the millimetre while that falls. */
    public function testWhatSticksKeepsItsPlaceOnTheCloth(): void
    {
        $frames = self::frames(60, self::sheet(), ['sticks' => true]);
        $mesh = Solids::sheet(1.0, 1.0, 14);
        [$then, $now] = [self::heights($frames[38], 'sheet', $mesh, false), self::heights($frames[60], 'sheet', $mesh, false)];
        foreach ($then as $k => $height) {
            self::assertEqualsWithDelta($height, $now[$k], 1e-3, "piece {$k}");
        }
    }

    public function testTheyLieOnASoftThing(): void
    {
        $frames = self::frames(40, ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.7, 'height' => 0.3, 'depth' => 0.7, 'divisions' => 3]], 'position' => ['y' => 0.2], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'soft', 'soft' => ['before' => 'falls', 'fineness' => 4, 'stiffness' => 40, 'damping' => 3]]]);
        $heights = self::heights($frames[40], 'block', Solids::box(0.7, 0.3, 0.7, 3), true);
        self::assertGreaterThan(-self::SUNK, min($heights));
        self::assertLessThan(0.02, max($heights));
        self::assertGreaterThan(0.2, min(array_column(self::pieces($frames[40]), 1)));
    }

    /** However fast: 60 m/s, hardly slowed by the air, onto a sheet that has nothing behind it; who is not to meet it is below in the same frame. */
    public function testNoneGoesThroughFast(): void
    {
        $fast = ['velocity' => ['x' => 0, 'y' => -60, 'z' => 0], 'fallSpeed' => 20, 'sticks' => true];
        $above = self::heights(self::frames(6, self::sheet(), $fast)[4], 'sheet', Solids::sheet(1.0, 1.0, 14), false);
        self::assertGreaterThan(-self::SUNK, min($above));
        self::assertLessThan(0.02, max($above));
        self::assertLessThan(0.1, max(array_column(self::pieces(self::frames(6, self::sheet(), ['meets' => false] + $fast)[4]), 1)));
    }

    /** Who is to meet nothing but floors falls through it. */
    public function testWhoMeetsNothingFallsThrough(): void
    {
        $frames = self::frames(38, self::sheet(), ['meets' => false]);
        self::assertLessThan(0.05, max(array_column(self::pieces($frames[38]), 1)));
    }
}
