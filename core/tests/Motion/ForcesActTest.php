<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What forces do to what rests, what waits, and to one prop and not another. */
final class ForcesActTest extends TestCase
{
    private const GRAVITY = ['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity'];

    private const BOX = ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['y' => 0.1], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls']]];

    /**
     * @param list<array<string, mixed>> $forces
     * @param list<array<string, mixed>> $props
     *
     * @return array<int, Frame>
     */
    private static function frames(array $forces, array $props, int $frames): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => $frames, 'forces' => $forces, 'props' => $props])));
    }

    /** @return array{float, float, float} */
    private static function place(Frame $frame, string $prop, int $piece = 0): array
    {
        $pose = $frame->of($prop, Track::POSE);

        return [(float) $pose[7 * $piece], (float) $pose[7 * $piece + 1], (float) $pose[7 * $piece + 2]];
    }

    public function testWhatSleepsIsWokenByABlast(): void
    {
        $frames = self::frames([self::GRAVITY, ['id' => 'b', 'name' => 'B', 'force' => 'blast', 'blast' => ['frame' => 60, 'at' => ['x' => -0.5, 'y' => -0.1], 'strength' => 150]]], [self::BOX], 80);
        self::assertNotSame(0, $frames[55]->of('box', Track::FLAGS)[0] & Frame::ASLEEP, 'it sleeps');
        self::assertEqualsWithDelta([0.0, 0.1, 0.0], self::place($frames[60], 'box'), 2e-3);
        [$x, $y] = self::place($frames[72], 'box');
        self::assertGreaterThan(0.5, $x);
        self::assertGreaterThan(0.12, $y);
    }

    public function testWhatSleepsIsWokenWhenGravityTurns(): void
    {
        $up = [...self::GRAVITY, 'gravity' => ['strength' => ['keys' => [['frame' => 50, 'value' => 9.8, 'ease' => 'hold'], ['frame' => 60, 'value' => -4.0]]]]];
        $frames = self::frames([$up], [self::BOX], 85);
        self::assertEqualsWithDelta(0.1, self::place($frames[60], 'box')[1], 2e-3);
        self::assertEqualsWithDelta(0.1 + 0.5 * 4.0 * (24.0 / 24.0) ** 2, self::place($frames[84], 'box')[1], 0.1, 'it falls upward');
        $frames = self::frames([[...self::GRAVITY, 'gravity' => ['direction' => ['x' => 1, 'y' => 0]]]], [self::BOX], 25);
        self::assertEqualsWithDelta([0.5 * 9.80665, 0.1], [self::place($frames[25], 'box')[0], self::place($frames[25], 'box')[1]], 0.05, 'or to one side');
    }

    /** What is held until it is touched does not fall because a force goes by. */
    #[Group('slow')]
    public function testWhatWaitsToBeTouchedIsNotWoken(): void
    {
        $held = [...self::BOX, 'position' => ['y' => 1.0], 'break' => ['cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'contact'], 'motion' => ['rigid' => ['before' => 'held']]];
        $frames = self::frames([self::GRAVITY, ['id' => 't', 'name' => 'T', 'force' => 'turbulence', 'turbulence' => ['strength' => 40]]], [$held], 30);
        self::assertSame(self::place($frames[1], 'box', 2), self::place($frames[30], 'box', 2));
    }

    public function testItActsOnlyOnThePropsThatAreTicked(): void
    {
        $other = [...self::BOX, 'id' => 'other', 'position' => ['x' => 1.0, 'y' => 0.1]];
        foreach ([[['props' => ['other']], 'box', 'other'], [['props' => ['box']], 'other', 'box']] as [$on, $rests, $goes]) {
            $frames = self::frames([self::GRAVITY, ['id' => 'p', 'name' => 'P', 'force' => 'gravity', 'gravity' => ['strength' => -20], ...$on]], [self::BOX, $other], 13);
            self::assertEqualsWithDelta(0.1, self::place($frames[13], $rests)[1], 2e-3);
            self::assertEqualsWithDelta(0.1 + 0.5 * (20.0 - 9.80665) * 0.25, self::place($frames[13], $goes)[1], 0.05);
        }
    }

    /** Of pieces that have let go, those are lifted where the weight is: half of it lifts half as much. */
    public function testItIsAsStrongAsTheWeight(): void
    {
        $prop = ['id' => 'bar', 'name' => 'Bar', 'source' => ['box' => ['width' => 4.0, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 4]], 'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.5, 'height' => 0.2]],
            'weight' => ['stack' => [['source' => 'zone', 'zone' => ['shape' => 'box', 'at' => ['x' => -2.0], 'size' => ['x' => 2.0, 'y' => 9.0, 'z' => 9.0], 'softness' => 2.0, 'edge' => 'linear']]]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => ['before' => 'held']]];
        $frames = self::frames([['id' => 'p', 'name' => 'P', 'force' => 'gravity', 'byWeight' => true, 'gravity' => ['strength' => -10]]], [[...$prop, 'position' => ['y' => 5.0]]], 13);
        $rose = [];
        for ($k = 0, $count = intdiv(count($frames[13]->of('bar', Track::POSE)), 7); $k < $count; $k++) {
            [$x, $y] = self::place($frames[1], 'bar', $k);
            $share = max(0.0, min(1.0, 1.0 - ($x + 1.0) / 2.0));
            self::assertEqualsWithDelta($share * 0.5 * 10.0 * 0.25, self::place($frames[13], 'bar', $k)[1] - $y, 0.05, "at {$x}");
            $rose[] = $share;
        }
        self::assertGreaterThan(0.9, max($rose));
        self::assertLessThan(0.1, min($rose));
    }

    public function testLightPiecesThatRestAreLiftedAgain(): void
    {
        $dust = ['id' => 'dust', 'name' => 'Dust', 'source' => ['box' => ['width' => 0.2, 'height' => 0.05, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['y' => 0.1], 'break' => ['cellular' => ['pieces' => 6]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'light', 'light' => ['life' => 0, 'fallSpeed' => 3.0]]];
        $blast = ['id' => 'b', 'name' => 'B', 'force' => 'blast', 'blast' => ['frame' => 60, 'at' => ['y' => -0.5], 'strength' => 200]];
        $frames = self::frames([self::GRAVITY, $blast], [$dust], 120);
        for ($k = 0; $k < 6; $k++) {
            self::assertNotSame(0, $frames[59]->of('dust', Track::FLAGS)[$k] & Frame::ASLEEP);
            self::assertGreaterThan(self::place($frames[59], 'dust', $k)[1] + 0.1, self::place($frames[68], 'dust', $k)[1]);
            self::assertNotSame(0, $frames[120]->of('dust', Track::FLAGS)[$k] & Frame::ASLEEP, 'and comes to rest again');
        }
        // A weak breath does not move what lies on a floor with friction.
        $frames = self::frames([self::GRAVITY, ['id' => 'p', 'name' => 'P', 'force' => 'gravity', 'gravity' => ['strength' => 0.5, 'direction' => ['x' => 1, 'y' => 0]]]], [$dust], 80);
        self::assertSame(self::place($frames[70], 'dust', 3), self::place($frames[80], 'dust', 3));
    }

    /** Cloth that nothing holds is slowed and turned like everything else. */
    public function testClothFeelsForcesToo(): void
    {
        $rag = ['id' => 'rag', 'name' => 'Rag', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.4, 'depth' => 0.4, 'divisions' => 6]], 'position' => ['y' => 12.0], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth', 'cloth' => ['drag' => 0.0, 'damping' => 0.0]]];
        $height = static fn (array $forces): float => (float) array_sum(array_map(static fn (array $place): float => (float) $place[1], array_chunk(self::frames($forces, [$rag], 25)[25]->of('rag', Track::VERTICES), 3))) / 49.0;
        $falls = 12.0 - $height([self::GRAVITY]);
        self::assertEqualsWithDelta(0.5 * 9.80665, $falls, 0.45);
        // v' = g - k v: y = g/k t - g/k2 (1 - exp(-k t)).
        $slowed = 12.0 - $height([self::GRAVITY, ['id' => 'd', 'name' => 'D', 'force' => 'drag', 'drag' => ['linear' => 5.0]]]);
        self::assertEqualsWithDelta(9.80665 / 5.0 * (1.0 - (1.0 - exp(-5.0)) / 5.0), $slowed, 0.1);
    }
}
