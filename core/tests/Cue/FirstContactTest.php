<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cue;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\FirstContact;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** When things first touch, beside closed forms. */
final class FirstContactTest extends TestCase
{
    /**
     * @param array<string, mixed> $one
     * @param array<string, mixed>|null $other
     */
    private static function found(array $one, ?array $other = null, float $near = 0.0, int $frames = 60): ?float
    {
        $named = static fn (string $id, array $prop): array => ['id' => $id, 'name' => $id, ...$prop];
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'props' => $other === null ? [$named('a', $one)] : [$named('a', $one), $named('b', $other)]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());

        return $pipeline->runner->result(new FirstContact($shot->props[0], $shot->props[1] ?? null, $shot->planes, $shot->frames, $near, $pipeline->surfaces));
    }

    /** @return array<string, mixed> */
    private static function ball(float $width): array
    {
        return ['source' => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => 32]]];
    }

    /** @return array{keys: list<array<string, mixed>>} an even motion */
    private static function even(float $from, float $to, int $last): array
    {
        return ['keys' => [['frame' => 1, 'value' => $from, 'ease' => 'linear'], ['frame' => $last, 'value' => $to]]];
    }

    public function testABallComesDownOnAFloor(): void
    {
        // It is half a metre from its middle to its foot: from 2 m down by 0.05 m a frame.
        $ball = self::ball(1.0) + ['position' => ['y' => self::even(2.0, 0.0, 41)]];
        self::assertEqualsWithDelta(31.0, self::found($ball), 2e-3);
        self::assertEqualsWithDelta(27.0, self::found($ball, null, 0.2), 2e-3);
        self::assertNull(self::found(self::ball(1.0) + ['position' => ['y' => self::even(2.0, 0.51, 41)]]));
        self::assertSame(1.0, self::found(self::ball(1.0) + ['position' => ['y' => 0.3]]));
    }

    #[Group('slow')]
    public function testTwoBallsMeet(): void
    {
        // Radii 0.5 and 0.3 m, by 0.1 m a frame: along the line between them, and past each other 0.4 m off it.
        $still = self::ball(0.6) + ['position' => ['y' => 2.0]];
        $toward = self::ball(1.0) + ['position' => ['x' => self::even(-4.0, 2.0, 61), 'y' => 2.0]];
        // Along x both have a vertex foremost.
        self::assertEqualsWithDelta(1.0 + (4.0 - 0.8) / 0.1, self::found($toward, $still), 5e-3);
        $past = self::ball(1.0) + ['position' => ['x' => self::even(-4.0, 2.0, 61), 'y' => 2.4]];
        $closed = 1.0 + (4.0 - sqrt(0.8 ** 2 - 0.4 ** 2)) / 0.1;
        // A ball of flat faces reaches less far than a round one, by no more than what a chord leaves of it; by 0.1 cos 30 m a frame that is so much later.
        $later = 0.8 * (1.0 - cos(M_PI / 32)) / (0.1 * cos(M_PI / 6));
        $found = self::found($past, $still);
        self::assertGreaterThan($closed - 2e-3, $found);
        self::assertLessThan($closed + $later, $found);
        self::assertEqualsWithDelta($found, self::found($still, $past), 2e-3);
    }

    public function testASpinningBoxMeetsAFloor(): void
    {
        // A box of 1 m whose middle is 0.6 m up: its edge gets there when 0.5 (cos + sin) of its turn is 0.6.
        $box = ['source' => ['kind' => 'box', 'box' => ['width' => 1, 'height' => 1, 'depth' => 1]], 'position' => ['y' => 0.6], 'rotation' => ['z' => self::even(0.0, 60.0, 61)]];
        $closed = 1.0 + 45.0 - rad2deg(acos(0.6 / (0.5 * M_SQRT2)));
        self::assertEqualsWithDelta($closed, self::found($box), 2e-3);
        // A box beside a turning one, at the same distance as that floor: face to edge is the same.
        $wall = ['source' => ['kind' => 'box', 'box' => ['width' => 1, 'height' => 3, 'depth' => 3]], 'position' => ['x' => 1.1, 'y' => 0.6]];
        self::assertEqualsWithDelta($closed, self::found($box, $wall), 5e-3);
    }

    public function testEdgesMeetFarFromTheirCorners(): void
    {
        // Two beams across each other, both on edge: they meet edge to edge, when their middles are as far apart as they are high.
        $below = ['source' => ['kind' => 'box', 'box' => ['width' => 2, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['y' => 1.0], 'rotation' => ['x' => 45]];
        $above = ['source' => ['kind' => 'box', 'box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 2, 'divisions' => 1]], 'position' => ['x' => 0.137, 'z' => 0.071, 'y' => self::even(2.0 + 0.1 * M_SQRT2, 0.8 + 0.1 * M_SQRT2, 61)], 'rotation' => ['z' => 45]];
        self::assertEqualsWithDelta(1.0 + 1.0 / 0.02, self::found($above, $below), 5e-3);
    }

    public function testWhatIsFastIsFoundBetweenFrames(): void
    {
        // 100 m/s at 24 frames a second: over four metres a frame, through a sheet as thick as a finger.
        $shot = self::ball(0.1) + ['position' => ['x' => self::even(-10.0, 115.0, 31), 'y' => 2.0]];
        $sheet = ['source' => ['kind' => 'box', 'box' => ['width' => 0.02, 'height' => 2, 'depth' => 2, 'divisions' => 2]], 'position' => ['y' => 2.0]];
        $per = 125.0 / 30.0;
        self::assertEqualsWithDelta(1.0 + (10.0 - 0.06) / $per, self::found($shot, $sheet), 2e-3);
    }

    public function testSizeAndTurnCountToo(): void
    {
        // What grows touches: half of 1 m times its size is 1.5 m at 3 times; from 1 to 5 in 40 frames that is frame 21.
        $grows = self::ball(1.0) + ['position' => ['y' => 1.5], 'scale' => ['x' => self::even(1.0, 5.0, 41), 'y' => self::even(1.0, 5.0, 41), 'z' => self::even(1.0, 5.0, 41)]];
        self::assertEqualsWithDelta(21.0, self::found($grows), 2e-3);
    }
}
