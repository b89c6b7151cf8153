<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cloth and soft things that are held are as solid as anything else. */
final class FirmTest extends TestCase
{
    /**
     * @param array<string, mixed> $held what is held
     * @param array<string, mixed> $falls what comes at it
     *
     * @return list<Frame>
     */
    private static function frames(array $held, array $falls, int $frames): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => $frames, 'forces' => [['id' => 'gravity', 'name' => 'Gravity', 'force' => 'gravity']], 'props' => [
            ['id' => 'held', 'name' => 'Held', 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], ...$held],
            ['id' => 'falls', 'name' => 'Falls', 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], ...$falls],
        ]])), false);
    }

    /**
     * A cube of 1 m on the floor.
     *
     * @return array<string, mixed>
     */
    private static function stone(string $mover, int $divisions): array
    {
        return ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => $divisions]], 'position' => ['y' => 0.5], 'motion' => ['mover' => $mover, $mover => $mover === 'soft' ? ['fineness' => 6] : []]];
    }

    /** @return iterable<string, array{string, int}> */
    public static function stones(): iterable
    {
        yield 'cloth' => ['cloth', 8];
        yield 'cloth of large triangles' => ['cloth', 2];
        yield 'soft' => ['soft', 8];
    }

    /** It lies flat on top, as far off as surfaces keep, and sleeps. */
    #[DataProvider('stones')]
    #[Group('slow')]
    public function testABoxLiesOnIt(string $mover, int $divisions): void
    {
        $frames = self::frames(self::stone($mover, $divisions), ['source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => 0.1, 'y' => 1.6], 'motion' => ['mover' => 'rigid']], 30);
        $pose = $frames[29]->of('falls', 'pose');
        self::assertEqualsWithDelta(1.15, $pose[1], 0.006);
        self::assertLessThan(0.02, hypot((float) $pose[3], (float) $pose[5]), 'it has not tipped');
        self::assertSame($pose, $frames[28]->of('falls', 'pose'), 'it rests');
    }

    #[Group('slow')]
    public function testNothingOfAHeapGetsInside(): void
    {
        $frames = self::frames(self::stone('cloth', 8), ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.5]], 'position' => ['x' => 0.1, 'y' => 1.7], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 12]], 'motion' => ['mover' => 'rigid']], 40);
        foreach ($frames as $n => $frame) {
            foreach (array_chunk($frame->of('falls', 'pose'), 7) as $k => [$x, $y, $z]) {
                self::assertFalse(max(abs((float) $x), abs((float) $z)) < 0.49 && $y > 0.01 && $y < 1.0, 'piece ' . $k . ' at frame ' . ($n + 1));
            }
        }
        $above = array_filter(array_chunk($frames[39]->of('falls', 'pose'), 7), static fn (array $pose): bool => $pose[1] > 1.0);
        self::assertGreaterThan(4, count($above), 'and some lie on top');
    }

    /** Of many corners that lie close together the outermost ones bear it: it lies as high as it is round, and rolls nowhere. */
    #[Group('slow')]
    public function testSomethingFinelyDividedLiesOnItAsHigh(): void
    {
        foreach ([[0.3, 40], [0.06, 24]] as [$width, $divisions]) {
            $frames = self::frames(self::stone('cloth', 4), ['source' => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => $divisions]], 'position' => ['x' => 0.03, 'y' => 1.02 + 0.5 * $width, 'z' => 0.01], 'motion' => ['mover' => 'rigid']], 30);
            [$x, $y, $z] = $frames[29]->of('falls', 'pose');
            self::assertEqualsWithDelta(1.0 + 0.5 * $width, $y, 0.005, "{$width} m");
            self::assertEqualsWithDelta([0.03, 0.01], [$x, $z], 0.02);
        }
    }

    /** At 30 and 100 m/s, aslant: its lowest place sinks in by less than half a centimetre. */
    #[Group('slow')]
    public function testWhatIsFastDoesNotGoThrough(): void
    {
        foreach ([['cloth', 0.06, 30.0], ['cloth', 0.3, 100.0], ['soft', 0.06, 30.0]] as [$mover, $width, $speed]) {
            $lowest = INF;
            foreach (self::frames(self::stone($mover, 6), ['source' => ['kind' => 'ball', 'ball' => ['width' => $width]], 'position' => ['x' => 0.06, 'y' => 2.0, 'z' => 0.03], 'motion' => ['mover' => 'rigid', 'rigid' => ['velocity' => ['x' => 0.3 * $speed, 'y' => -$speed]]]], 8) as $frame) {
                [$x, $y, $z] = $frame->of('falls', 'pose');
                $lowest = max(abs((float) $x), abs((float) $z)) < 0.5 ? min($lowest, $y - 0.5 * $width) : $lowest;
            }
            self::assertGreaterThan(0.995, $lowest, "{$mover}, {$speed} m/s");
        }
    }

    /** What slides along below something thin is not in it: it gets as far as without it. */
    public function testWhatIsBelowSomethingThinIsNotInIt(): void
    {
        $end = static function (float $height): float {
            $plate = ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 0.01, 'depth' => 1.0, 'divisions' => 6]], 'position' => ['y' => $height], 'motion' => ['mover' => 'cloth']];

            return (float) self::frames($plate, ['source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => -0.3, 'y' => 0.15, 'z' => 0.04], 'motion' => ['mover' => 'rigid', 'rigid' => ['friction' => 0.05, 'velocity' => ['x' => 3.0]]]], 14)[13]->of('falls', 'pose')[0];
        };
        self::assertEqualsWithDelta($end(1.5), $end(0.311), 1e-3);
    }

    /** A jar that falls on it breaks as it would on a stone, by how fast it comes. */
    #[Group('slow')]
    public function testWhatWaitsForATouchFeelsIt(): void
    {
        $ball = ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.3]], 'position' => ['y' => 1.6], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 5]]];
        $released = static fn (float $speed): float => self::frames(self::stone('cloth', 6), $ball + ['release' => ['trigger' => 'contact', 'contact' => ['speed' => $speed]], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'falls']]], 14)[13]->readout['released'] ?? -1.0;
        // Through 45 cm it comes at 3 m/s.
        self::assertSame(5.0, $released(2.5));
        self::assertSame(0.0, $released(3.5));
    }

    /** What is glued breaks on it by how strong its glue is. */
    #[Group('slow')]
    public function testGlueFeelsIt(): void
    {
        $slab = ['source' => ['kind' => 'box', 'box' => ['width' => 0.6, 'height' => 0.1, 'depth' => 0.6]], 'position' => ['y' => 2.2], 'rotation' => ['z' => 12.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 8]]];
        $off = static fn (float $glue): float => self::frames(self::stone('cloth', 8), $slab + ['motion' => ['mover' => 'rigid', 'rigid' => ['glue' => $glue]]], 18)[17]->readout['released'] ?? -1.0;
        self::assertSame(0.0, $off(1000.0));
        self::assertGreaterThan(2.0, $off(0.05));
    }
}
