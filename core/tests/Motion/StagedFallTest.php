<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Simulation;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Staged pieces that are let go into the world of hard pieces. */
final class StagedFallTest extends TestCase
{
    private const G = 9.81;

    /**
     * @param array<string, mixed> $staged
     * @param array<string, mixed> $prop
     * @param array<string, mixed> $shot
     */
    private static function simulation(array $staged, array $prop = [], array $shot = []): Simulation
    {
        return (new Pipeline(new MemoryStore(), new NoAssets()))->motion(Shot::read(['version' => 2, 'frames' => 40, 'fps' => 24, 'planes' => [], 'cues' => [['id' => 'now', 'name' => 'Now', 'frame' => 16]], ...$shot, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]],
            ...$prop, 'motion' => ['mover' => 'staged', 'staged' => ['variety' => 0.0, 'ease' => 'linear', 'takes' => 12, 'density' => 1000.0, ...$staged]],
        ], ...$shot['props'] ?? []]]));
    }

    /**
     * @param array<string, mixed> $staged
     * @param array<string, mixed> $prop
     * @param array<string, mixed> $shot
     *
     * @return array<int, Frame> by number
     */
    private static function frames(array $staged, array $prop = [], array $shot = []): array
    {
        return iterator_to_array(self::simulation($staged, $prop, $shot)->frames());
    }

    /** From the end of its way it flies on as whatever is thrown with that speed (any text on mechanics). */
    public function testItFliesOnWithTheSpeedThatItHas(): void
    {
        $frames = self::frames(['after' => 'end', 'offset' => ['x' => 2.0, 'y' => 1.0], 'rotation' => ['y' => 90.0]]);
        // Half a second for the way: 4 and 2 m/s, a quarter turn in it.
        foreach ($frames as $n => $frame) {
            [$x, $y] = array_map(floatval(...), $frame->of('a', Track::POSE));
            $share = min(1.0, max(0.0, ($n - 5) / 12.0));
            $t = max(0.0, ($n - 17) / 24.0);
            self::assertEqualsWithDelta(2.0 * $share + 4.0 * $t, $x, 1e-6, "frame {$n}");
            // Steps of a 240th or so take gravity as a staircase.
            self::assertEqualsWithDelta(1.0 * $share + 2.0 * $t - 0.5 * self::G * $t * $t, $y, 0.01 * max(0.1, $t));
        }
        $turn = $frames[29]->of('a', Track::POSE);
        self::assertEqualsWithDelta(deg2rad(180.0), 2.0 * acos(min(1.0, abs((float) $turn[6]))), 1e-3, 'and goes on turning: a half turn in a second');
        self::assertSame(1, $frames[17]->released());
        self::assertSame(0, $frames[5]->released());
    }

    public function testAllFallAtAFrameOrACueWhereverTheyAre(): void
    {
        foreach ([['after' => 'frame', 'fallsAt' => 11, 'at' => 11], ['after' => 'cue', 'fallsAtCue' => 'now', 'at' => 16]] as $staged) {
            $at = $staged['at'];
            unset($staged['at']);
            $stays = self::frames(['outward' => 1.0], ['break' => ['cellular' => ['pieces' => 9, 'seed' => 2]]]);
            $frames = self::frames([...$staged, 'outward' => 1.0], ['break' => ['cellular' => ['pieces' => 9, 'seed' => 2]]]);
            foreach ([1, 8, $at] as $n) {
                foreach ($stays[$n]->of('a', Track::POSE) as $k => $value) {
                    self::assertEqualsWithDelta($value, $frames[$n]->of('a', Track::POSE)[$k], 1e-9, "frame {$n}");
                }
            }
            $poses = array_chunk($frames[$at + 12]->of('a', Track::POSE), 7);
            foreach (array_chunk($frames[$at]->of('a', Track::POSE), 7) as $k => $pose) {
                self::assertLessThan($pose[1] - 0.3, $poses[$k][1]);
            }
        }
        // A cue that is not chosen never comes.
        $frames = self::frames(['after' => 'cue', 'offset' => ['y' => 1.0]]);
        self::assertEqualsWithDelta(1.0, $frames[40]->of('a', Track::POSE)[1], 1e-9);
    }

    /** Each has the size that it has then; what has shrunk to nothing is not there to fall. */
    public function testItKeepsItsSize(): void
    {
        $frames = self::frames(['after' => 'frame', 'fallsAt' => 11, 'scale' => 0.5, 'offset' => ['y' => 1.0]], [], ['planes' => [['id' => 'f', 'name' => 'F', 'restitution' => 0.0]]]);
        self::assertEqualsWithDelta(0.75, $frames[11]->of('a', Track::SCALE)[0], 1e-9);
        self::assertEqualsWithDelta(0.75, $frames[40]->of('a', Track::SCALE)[0], 1e-9);
        self::assertEqualsWithDelta(0.375, $frames[40]->of('a', Track::POSE)[1], 2e-3, 'it lies on the floor by that size');
        $frames = self::frames(['after' => 'end', 'scale' => 0.0, 'offset' => ['y' => 1.0]]);
        self::assertEqualsWithDelta(1.0, $frames[40]->of('a', Track::POSE)[1], 1e-9);
    }

    /** On its way it pushes what is in it; once it falls it is pushed as anything of its mass. */
    public function testOthersFeelIt(): void
    {
        $other = ['id' => 'b', 'name' => 'B', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['x' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 1000.0, 'friction' => 0.0, 'restitution' => 0.0]]];
        $none = ['forces' => [], 'props' => [$other]];
        $frames = self::frames(['after' => 'end', 'offset' => ['x' => 1.0], 'takes' => 24], [], $none);
        // Pushed at a metre a second from where they touch.
        self::assertGreaterThan(1.6, $frames[29]->of('b', Track::POSE)[0]);
        // Let go in the middle of it both have that speed and keep it.
        self::assertEqualsWithDelta(10.0 / 24.0, $frames[39]->of('a', Track::POSE)[0] - $frames[29]->of('a', Track::POSE)[0], 0.02);
        // A heavy ball that comes at it afterwards sends it off.
        $thrown = ['position' => ['x' => -3.0], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 8000.0, 'velocity' => ['x' => 5.0], 'restitution' => 0.0]]] + $other;
        $frames = self::frames(['after' => 'frame', 'fallsAt' => 1, 'restitution' => 0.0], ['release' => ['trigger' => 'never']], ['forces' => [], 'props' => [$thrown]]);
        // Momentum: 8000 * 0.064 * 5 kg m/s are shared by the two.
        $speed = static fn (string $id): float => 24.0 * ((float) $frames[40]->of($id, Track::POSE)[0] - (float) $frames[39]->of($id, Track::POSE)[0]);
        self::assertEqualsWithDelta(512.0 * 5.0, 512.0 * $speed('b') + 1000.0 * $speed('a'), 0.1);
        self::assertGreaterThan(1.5, $speed('a'));
    }

    #[Group('slow')]
    public function testItGoesOnFromAnyFrameWithTheSameBits(): void
    {
        $prop = ['break' => ['cellular' => ['pieces' => 12, 'seed' => 4]], 'position' => ['y' => 0.6]];
        $staged = ['after' => 'end', 'outward' => 0.5, 'scale' => 0.6, 'variety' => 0.5, 'rotation' => ['x' => 50.0]];
        $shot = ['planes' => [['id' => 'f', 'name' => 'F']], 'forces' => [['id' => 'g', 'name' => 'G'], ['id' => 'w', 'name' => 'W', 'force' => 'wind']]];
        $all = self::frames($staged, $prop, $shot);
        foreach ([3, 14, 18, 30] as $at) {
            $first = self::simulation($staged, $prop, $shot);
            foreach ($first->frames() as $n => $_) {
                if ($n === $at) {
                    break;
                }
            }
            $second = self::simulation($staged, $prop, $shot);
            $second->restore($first->save());
            foreach ($second->frames() as $n => $frame) {
                self::assertSame($all[$n]->values, $frame->values, "from {$at}, frame {$n}");
                self::assertSame($all[$n]->readout, $frame->readout, "from {$at}, frame {$n}");
            }
        }
    }

    public function testAnOpenSheetCannotFall(): void
    {
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('open sheet');
        self::frames(['after' => 'end'], ['source' => ['kind' => 'sheet']]);
    }
}
