<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Motion\Trigger\FrameTrigger;
use YardBreak\Core\Stage\Kind\Trigger\AtFrame;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What pieces are given as they let go, and when: away from the middle, off the surface, any way, one after the other, out of nothing. */
final class StartTest extends TestCase
{
    private const FPS = 24.0;

    /**
     * A ball that sheds what is asked for, where nothing pulls.
     *
     * @param array<string, mixed> $settings
     * @param array<string, mixed> $prop
     *
     * @return list<Frame>
     */
    private static function frames(string $mover, array $settings, array $prop = [], int $frames = 3): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'forces' => [], 'planes' => [], 'props' => [$prop + [
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.4, 'divisions' => 4]],
            'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 60, 'thickness' => 0.01, 'lift' => 0.004]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => $mover, $mover => $settings],
        ]]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
    }

    /**
     * @param list<Frame> $frames
     *
     * @return list<array{list<float>, list<float>}> of each piece that let go: place at the first frame, velocity to the second
     */
    private static function velocities(array $frames): array
    {
        $all = [];
        [$first, $second] = [$frames[0]->of('a', Track::POSE), $frames[1]->of('a', Track::POSE)];
        for ($k = 1; 7 * $k < count($first); $k++) {
            $from = array_map(floatval(...), array_slice($first, 7 * $k, 3));
            $all[] = [$from, array_map(static fn (float|int $a, float $b): float => self::FPS * ((float) $a - $b), array_slice($second, 7 * $k, 3), $from)];
        }

        return $all;
    }

    /** @return list<array{string, array<string, mixed>}> */
    public static function movers(): array
    {
        return [['rigid', []], ['light', ['fallSpeed' => 100, 'variety' => 0, 'tumble' => 0]]];
    }

    /** @param array<string, mixed> $calm */
    #[DataProvider('movers')]
    #[Group('slow')]
    public function testOutwardAndOffTheSurface(string $mover, array $calm): void
    {
        foreach (['outward', 'normal'] as $name) {
            foreach (self::velocities(self::frames($mover, [$name => 0.5] + $calm)) as [[$x, $y, $z], [$u, $v, $w]]) {
                $far = sqrt($x * $x + $y * $y + $z * $z);
                // On a ball both are the same way; a flake's middle is not quite above the face it is nearest to.
                self::assertEqualsWithDelta(0.5, ($x * $u + $y * $v + $z * $w) / $far, 0.03, $name);
                self::assertEqualsWithDelta(0.5, sqrt($u * $u + $v * $v + $w * $w), 0.02, $name);
            }
        }
    }

    /** @param array<string, mixed> $calm */
    #[DataProvider('movers')]
    public function testAnyWayIsEvenInABall(string $mover, array $calm): void
    {
        $mean = [0.0, 0.0, 0.0];
        $fast = 0;
        // Flakes that flew inward would hit their core.
        $alone = ['break' => ['pattern' => 'bits', 'bits' => ['count' => 120, 'core' => false, 'size' => 0.004]]];
        $velocities = self::velocities(self::frames($mover, ['random' => 2.0] + $calm, $alone));
        foreach ($velocities as [, $velocity]) {
            $speed = sqrt($velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2);
            self::assertLessThan(2.001, $speed);
            $fast += $speed > 2.0 * 0.5 ** (1.0 / 3.0) ? 1 : 0;
            foreach ($velocity as $axis => $value) {
                $mean[$axis] += $value / count($velocities);
            }
        }
        self::assertEqualsWithDelta(0.5, $fast / count($velocities), 0.15, 'half of a ball is farther out than that');
        self::assertLessThan(0.35, sqrt($mean[0] ** 2 + $mean[1] ** 2 + $mean[2] ** 2), 'no way is preferred');
        $other = self::velocities(self::frames($mover, ['random' => 2.0, $mover === 'light' ? 'seed' : 'startSeed' => 2] + $calm, $alone));
        self::assertNotEquals($velocities, $other);
    }

    public function testHardPiecesSpinAnyWay(): void
    {
        $frames = self::frames('rigid', ['anySpin' => 360.0, 'outward' => 0.4]);
        $turned = 0;
        for ($k = 1; $k <= 60; $k++) {
            $w = (float) $frames[1]->of('a', Track::POSE)[7 * $k + 6];
            // At most a full turn a second: 15 degrees a frame.
            self::assertGreaterThan(cos(deg2rad(7.6)), abs($w));
            $turned += abs($w) < cos(deg2rad(0.5)) ? 1 : 0;
        }
        self::assertGreaterThan(40, $turned);
    }

    public function testOneAfterTheOther(): void
    {
        $frames = self::frames('light', ['outward' => 1], ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 4, 'over' => 10]]], 16);
        $released = array_map(static fn (Frame $frame): int => $frame->released(), $frames);
        self::assertSame(0, $released[2]);
        self::assertSame(60, $released[13]);
        foreach ([5, 8, 11] as $n) {
            self::assertEqualsWithDelta(60 * ($n - 2) / 11, $released[$n], 14, 'evenly over the frames');
        }
        for ($n = 1; $n < 16; $n++) {
            self::assertGreaterThanOrEqual($released[$n - 1], $released[$n]);
        }
    }

    /** Four pieces in a row from left to right and one above the middle: who goes when, in each order, over eight frames. */
    public function testInOrder(): void
    {
        $row = [[-2.0, 0.0, 0.0], [1.0, 0.0, 0.0], [-1.0, 0.1, 0.0], [2.0, 0.2, 0.0], [0.0, 1.0, 0.0]];
        $delays = static function (string $order) use ($row): array {
            $settings = Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3, 'over' => 8, 'order' => $order]]]]])->props[0]->trigger->settings;

            return array_map(AtFrame::make($settings, $row)->delay(...), array_keys($row));
        };
        self::assertSame([0.0, 2.0, 4.0, 6.0, 8.0], $delays('listed'));
        self::assertSame([0.0, 6.0, 2.0, 8.0, 4.0], $delays('left'));
        self::assertSame([8.0, 2.0, 6.0, 0.0, 4.0], $delays('right'));
        self::assertSame([0.0, 2.0, 4.0, 6.0, 8.0], $delays('below'), 'what is level as listed');
        self::assertSame(0.0, $delays('above')[4]);
        self::assertSame([4, 2], [array_search(0.0, $delays('middle'), true), array_search(2.0, $delays('middle'), true)], 'the middle of all is a quarter of a metre up');
        self::assertSame([0.0, 2.0], [min($delays('outside')[0], $delays('outside')[3]), max($delays('outside')[0], $delays('outside')[3])], 'the two ends first');
        self::assertSame(['middle' => 8.0, 'outside' => 8.0], ['middle' => max($delays('middle')), 'outside' => max($delays('outside'))]);
    }

    /** A later frame is a later moment for all, also where the first of the list is the last to go. */
    public function testTheMomentIsToldWhateverTheOrder(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $upTo = static fn (int $frame, int $n): string => $pipeline->acting(Shot::read(['version' => 2, 'frames' => 40, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['box' => ['divisions' => 1]], 'break' => ['cellular' => ['pieces' => 5]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => $frame, 'over' => 20, 'order' => 'right']]]]]))[1]->upTo($n);
        self::assertSame($upTo(9, 8), $upTo(12, 8));
        self::assertNotSame($upTo(9, 9), $upTo(12, 9));
    }

    public function testTheFirstPartBeginsAtTheMoment(): void
    {
        $trigger = new FrameTrigger(5.0, 20.0);
        self::assertSame(0.0, $trigger->delay(0), 'who asks when it begins may ask the first');
        $delays = array_map($trigger->delay(...), range(1, 500));
        self::assertGreaterThanOrEqual(0.0, min($delays));
        self::assertSame(20.0, max($delays), 'the last within so many frames');
        self::assertEqualsWithDelta(10.0, array_sum($delays) / 500, 1.0);
        self::assertSame([0.0, 0.0], array_map((new FrameTrigger(5.0))->delay(...), [3, 7]));
    }

    public function testWhatIsGivenOffIsNotThereBefore(): void
    {
        $release = ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]];
        foreach ([true, false] as $hidden) {
            $frames = self::frames('light', ['hidden' => $hidden, 'outward' => 1], $release, 4);
            foreach ([1 => ! $hidden, 3 => true] as $number => $there) {
                $lives = $frames[$number - 1]->of('a', Track::LIFE);
                self::assertSame(1.0, $lives[0], 'the core always is');
                self::assertSame($there ? 1.0 : 0.0, min($lives));
            }
        }
    }

    /** Staged pieces set out one after the other too. */
    public function testStagedPiecesSetOutOneAfterTheOther(): void
    {
        $frames = self::frames('staged', ['outward' => 0.3, 'takes' => 4], ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 2, 'over' => 8]]], 16);
        $moving = array_map(static fn (Frame $frame): int => $frame->moving(), $frames);
        self::assertGreaterThan(5, $moving[4]);
        self::assertLessThan(50, max($moving), 'never all at once');
        self::assertSame(60, $frames[15]->released());
        self::assertSame(0, $moving[15]);
    }
}
