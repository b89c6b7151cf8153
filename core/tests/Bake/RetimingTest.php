<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Codec\Codecs;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** The same motion in another time. */
final class RetimingTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-retiming-' . bin2hex(random_bytes(5));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf ' . escapeshellarg($this->folder));
    }

    /**
     * @param array<string, mixed> $time of the shot
     * @param array<string, mixed> $own of its first prop
     */
    private static function shot(array $time, array $own = []): Shot
    {
        return Shot::read($time + ['version' => 2, 'frames' => 24, 'props' => [
            $own + ['id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.6], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 6]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 6]], 'motion' => ['rigid' => ['outward' => 1.0, 'anySpin' => 300]]],
            ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.4, 'depth' => 0.4, 'divisions' => 4]], 'position' => ['y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]], 'motion' => ['mover' => 'cloth']],
        ]]);
    }

    /**
     * @param array<string, mixed> $time
     * @param array<string, mixed> $own
     *
     * @return array<int, Frame> by number
     */
    private function baked(string $name, array $time, array $own = []): array
    {
        $path = "{$this->folder}/{$name}.frames";
        Baker::bake(new Pipeline(new MemoryStore(), new NoAssets()), self::shot($time, $own), $path);
        $reader = BakeReader::open($path);
        self::assertSame(24, $reader->frames());
        $frames = [];
        for ($n = 1; $n <= 24; $n++) {
            $frame = $reader->frame($n);
            self::assertNotNull($frame);
            $frames[$n] = $frame;
        }

        return $frames;
    }

    /** The same bits, but for what is written anew: vertices in steps of what they take up, turns of which two parts are the largest. */
    private static function assertAlike(Frame $expected, Frame $frame, string $what): void
    {
        foreach ($expected->tracks as $k => $track) {
            if ($track->kind === Track::VERTICES) {
                self::assertEqualsWithDelta($expected->values[$k], $frame->values[$k], 1e-6, $what);
            } elseif ($track->kind === Track::POSE) {
                self::assertSamePoses($expected->values[$k], $frame->values[$k], $what);
            } else {
                self::assertSame($expected->values[$k], $frame->values[$k], $what);
            }
        }
    }

    /**
     * Places to the bit, turns within a step.
     *
     * @param array<int, float|int> $expected
     * @param array<int, float|int> $poses
     */
    private static function assertSamePoses(array $expected, array $poses, string $what): void
    {
        foreach (array_chunk($expected, 7) as $k => $pose) {
            self::assertSame(array_slice($pose, 0, 3), array_slice($poses, 7 * $k, 3), $what);
            self::assertEqualsWithDelta(array_slice($pose, 3), array_slice($poses, 7 * $k + 3, 4), 1e-5, $what);
        }
    }

    #[Group('slow')]
    public function testBackwardsTheLastIsTheFirst(): void
    {
        $plain = $this->baked('plain', []);
        $back = $this->baked('back', ['plays' => 'backwards']);
        foreach ($plain as $n => $frame) {
            self::assertAlike($frame, $back[25 - $n], "frame {$n}");
            self::assertSame($frame->readout, $back[25 - $n]->readout);
        }
        self::assertSame(6 + 25, $back[1]->released());
        self::assertSame(0, $back[24]->released());
        self::assertSame(['back.frames', 'back.frames.index', 'plain.frames', 'plain.frames.index'], array_values(array_diff(scandir($this->folder) ?: [], ['.', '..'])), 'and nothing else is left behind');
    }

    #[Group('slow')]
    public function testByKeysItIsSlowerStandsStillAndRunsBack(): void
    {
        $plain = $this->baked('plain', []);
        $keys = [['frame' => 1, 'value' => 4, 'ease' => 'linear'], ['frame' => 11, 'value' => 9, 'ease' => 'linear'], ['frame' => 15, 'value' => 9, 'ease' => 'linear'], ['frame' => 23, 'value' => 1, 'ease' => 'linear']];
        $shown = $this->baked('keys', ['plays' => 'keys', 'shows' => ['keys' => $keys]]);
        foreach ([1 => 4, 3 => 5, 11 => 9, 13 => 9, 15 => 9, 16 => 8, 23 => 1, 24 => 1] as $n => $of) {
            self::assertAlike($plain[$of], $shown[$n], "frame {$n} shows {$of}");
        }
        // Half-way between two: places in the middle, the turn as far from either.
        [$a, $b, $between] = [$plain[7]->of('a', Track::POSE), $plain[8]->of('a', Track::POSE), $shown[8]->of('a', Track::POSE)];
        $turned = 0;
        for ($k = 0; $k < count($a); $k += 7) {
            for ($n = 0; $n < 3; $n++) {
                self::assertEqualsWithDelta(0.5 * ($a[$k + $n] + $b[$k + $n]), $between[$k + $n], 1e-6);
            }
            $turn = static fn (array $pose): array => [(float) $pose[$k + 3], (float) $pose[$k + 4], (float) $pose[$k + 5], (float) $pose[$k + 6]];
            $angle = static fn (array $p, array $q): float => 2.0 * acos(min(1.0, abs(Quaternion::multiply(Quaternion::conjugate($turn($p)), $turn($q))[3])));
            self::assertEqualsWithDelta(0.5 * $angle($a, $b), $angle($a, $between), 2e-3);
            self::assertEqualsWithDelta(0.5 * $angle($a, $b), $angle($between, $b), 2e-3);
            $turned += $angle($a, $b) > 0.05 ? 1 : 0;
        }
        self::assertGreaterThan(2, $turned, 'some do turn');
        [$a, $b, $between] = [$plain[7]->of('b', Track::VERTICES), $plain[8]->of('b', Track::VERTICES), $shown[8]->of('b', Track::VERTICES)];
        foreach ($between as $k => $value) {
            self::assertEqualsWithDelta(0.5 * ($a[$k] + $b[$k]), $value, 1e-4);
        }
        self::assertSame(floor($shown[8]->readout['moving']), $shown[8]->readout['moving'], 'no half pieces');
    }

    /** One prop runs back while the others go on, and the other way round; a prop by keys is where they say. */
    #[Group('slow')]
    public function testAPropHasATimeOfItsOwn(): void
    {
        $plain = $this->baked('plain', []);

        foreach ([[[], ['plays' => 'backwards'], static fn (int $n): array => [25 - $n, $n]], [['plays' => 'backwards'], ['plays' => 'forward'], static fn (int $n): array => [$n, 25 - $n]],
            [[], ['plays' => 'keys', 'shows' => ['keys' => [['frame' => 1, 'value' => 9, 'ease' => 'hold'], ['frame' => 12, 'value' => 4, 'ease' => 'hold']]]], static fn (int $n): array => [$n < 12 ? 9 : 4, $n]]] as $k => [$time, $prop, $moments]) {
            $shown = $this->baked("own{$k}", $time, $prop);
            foreach ($shown as $n => $frame) {
                [$of, $others] = $moments($n);
                self::assertSamePoses($plain[$of]->of('a', Track::POSE), $frame->of('a', Track::POSE), "frame {$n} shows {$of}");
                self::assertSame($plain[$of]->of('a', Track::FLAGS), $frame->of('a', Track::FLAGS), "frame {$n} shows {$of}");
                self::assertEqualsWithDelta($plain[$others]->of('b', Track::VERTICES), $frame->of('b', Track::VERTICES), 1e-6);
                // Six pieces that let go at frame 6; the sheet counts at its own moment.
                $six = static fn (int $at): int => $at >= 6 ? 6 : 0;
                self::assertSame($plain[$others]->released() - $six($others) + $six($of), $frame->released(), "frame {$n}");
            }
        }
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $hash = static fn (array $prop): string => $pipeline->motionHash(self::shot([], $prop));
        self::assertSame($hash([]), $hash(['plays' => 'forward']), 'as the shot does');
        self::assertNotSame($hash([]), $hash(['plays' => 'backwards']));
        self::assertSame($hash(['plays' => 'backwards']), $hash(['plays' => 'backwards', 'shows' => 5]));
    }

    /** Both say the same turn: the shorter way is gone. */
    public function testATurnGoesTheShorterWay(): void
    {
        $a = [0.0, 0.0, 0.0, ...Quaternion::aboutAxis([0.0, 1.0, 0.0], 0.2)];
        $b = [0.0, 0.0, 0.0, ...array_map(static fn (float $q): float => -$q, Quaternion::aboutAxis([0.0, 1.0, 0.0], 0.8))];
        $between = array_map(floatval(...), Codecs::of(Track::POSE)->between($a, $b, 0.25));
        self::assertEqualsWithDelta(Quaternion::aboutAxis([0.0, 1.0, 0.0], 0.35), array_slice($between, 3), 1e-12);
        self::assertSame([3, 1], Codecs::of(Track::FLAGS)->between([3, 1], [1, 1], 0.7));
        self::assertEqualsWithDelta([0.6], Codecs::of(Track::WEIGHT)->between([0.2], [1.0], 0.5), 1e-12);
    }

    public function testWhatIsShownDecidesTheHash(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $plain = $pipeline->motionHash(self::shot([]));
        self::assertSame($plain, $pipeline->motionHash(self::shot(['shows' => 7])), 'without keys it shows what happens');
        self::assertNotSame($plain, $pipeline->motionHash(self::shot(['plays' => 'backwards'])));
        self::assertNotSame($pipeline->motionHash(self::shot(['plays' => 'keys', 'shows' => 3])), $pipeline->motionHash(self::shot(['plays' => 'keys', 'shows' => 7])));
    }
}
