<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Rigid\Bonds;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Glue;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What hangs together moves as one, and comes apart where a blow is too much for it. */
final class GlueTest extends TestCase
{
    /** A row of pieces of 1 kg, each bond holding 10 N. */
    private static function row(int $pieces = 6): Bonds
    {
        return new Bonds($pieces, array_map(static fn (int $k): array => [$k, $k + 1, 10.0, 0.01], range(0, $pieces - 2)));
    }

    /** Worked by hand: a blow of F on the end of a row of six needs F (1 - n/6) beyond the n-th piece, and each bond holds 10. */
    public function testABlowBreaksAsFarAsItIsTooMuch(): void
    {
        $mass = array_fill(0, 6, 1.0);
        $strong = array_fill(0, 6, 1.0);
        foreach ([[11.9, null, 1], [12.1, 1, 2], [14.9, 1, 2], [15.1, 2, 3], [31.0, 4, 5], [61.0, 5, 6]] as [$force, $broken, $parts]) {
            $bonds = self::row();
            $through = $bonds->strike(0, $force, $mass, $strong);
            self::assertCount($parts, $bonds->parts(range(0, 5)), "{$force} N");
            if ($broken === null) {
                self::assertNull($through);
            } else {
                self::assertEqualsWithDelta(10.0 / ($force * (1.0 - $broken / 6.0)), $through, 1e-12, 'as much as the last bond held');
                self::assertTrue($bonds->isCracked($broken));
                self::assertSame($broken === 5, $bonds->isCracked(min(5, $broken + 1)));
            }
        }
        // In the middle two bonds share it.
        self::assertNull(self::row()->strike(2, 23.9, $mass, $strong));
        $bonds = self::row();
        self::assertNotNull($bonds->strike(2, 24.1, $mass, $strong));
        self::assertSame([[3, 4, 5], [0, 1], [2]], $bonds->parts(range(0, 5)));
        // A half-eaten bond holds half.
        self::assertNull(self::row()->strike(0, 5.9, $mass, [1.0, 0.5, 1.0, 1.0, 1.0, 1.0]));
        self::assertNotNull(self::row()->strike(0, 6.1, $mass, [1.0, 0.5, 1.0, 1.0, 1.0, 1.0]));
    }

    public function testCutWeakenedAndKept(): void
    {
        $bonds = self::row();
        $bonds->cut([2, 3]);
        self::assertSame([[0, 1], [2, 3], [4, 5]], $bonds->parts(range(0, 5)));
        self::assertFalse($bonds->weaken([1.0, 1.0, 0.1, 0.1, 1.0, 1.0]));
        self::assertTrue($bonds->weaken([1.0, 1.0, 0.0, 1.0, 1.0, 1.0]));
        self::assertSame([[0, 1], [4, 5], [2], [3]], $bonds->parts(range(0, 5)));
        $again = self::row();
        $again->restore(new State(['b' => $bonds->save()]), 'b');
        self::assertSame($bonds->parts(range(0, 5)), $again->parts(range(0, 5)));
    }

    /**
     * @param array<string, mixed> $rigid
     * @param array<string, mixed> $more
     */
    private static function shot(array $rigid, int $frames, array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => $frames, 'props' => [[
            'id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.6, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 2]], 'position' => ['y' => 1.6], 'rotation' => ['x' => 30, 'z' => 40],
            'break' => ['cellular' => ['pieces' => 30, 'seed' => 4]], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.5]], 'motion' => ['rigid' => ['before' => 'falls', ...$rigid]], ...$more,
        ]]]);
    }

    /** @return array<int, Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
    }

    private static function cameOff(Frame $frame): int
    {
        return count(array_filter($frame->of('block', Track::FLAGS), static fn (int|float $flag): bool => ((int) $flag & Frame::RELEASED) !== 0));
    }

    #[Group('slow')]
    public function testTheStrongerItIsTheMoreHangsTogether(): void
    {
        $off = [];
        foreach ([0.0, 0.4, 1.5, 100.0] as $glue) {
            $off[] = self::cameOff(self::frames(self::shot(['glue' => $glue], 40))[40]);
        }
        self::assertSame(30, $off[0]);
        self::assertSame(0, $off[3]);
        self::assertGreaterThan($off[2], $off[1]);
        self::assertGreaterThan(0, $off[2]);
        self::assertLessThan(30, $off[2]);
    }

    /** What holds moves as if it were one body: like the same prop that never lets go, but that the floor meets its pieces one by one. */
    #[Group('slow')]
    public function testWhatHoldsMovesAsOne(): void
    {
        $frame = self::frames(self::shot(['glue' => 1000.0], 30))[30];
        $pose = $frame->of('block', Track::POSE);
        $turn = array_slice($pose, 3, 4);
        $first = self::frames(self::shot(['glue' => 1000.0], 2))[1]->of('block', Track::POSE);
        for ($k = 1; $k < 30; $k++) {
            self::assertSame($turn, array_slice($pose, 7 * $k + 3, 4));
            $way = Quaternion::rotate(
                Quaternion::multiply([(float) $turn[0], (float) $turn[1], (float) $turn[2], (float) $turn[3]], Quaternion::conjugate([(float) $first[3], (float) $first[4], (float) $first[5], (float) $first[6]])),
                [$first[7 * $k] - $first[0], $first[7 * $k + 1] - $first[1], $first[7 * $k + 2] - $first[2]],
            );
            self::assertEqualsWithDelta($way, [$pose[7 * $k] - $pose[0], $pose[7 * $k + 1] - $pose[1], $pose[7 * $k + 2] - $pose[2]], 1e-9);
        }
    }

    /** Glue eaten up in flight: momentum and angular momentum stay, whatever comes apart. */
    public function testComingApartMakesNoMomentum(): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 24, 'forces' => [], 'planes' => [], 'props' => [[
            'id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.6, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 2]], 'break' => ['cellular' => ['pieces' => 12, 'seed' => 4]],
            'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 4, 'to' => 20, 'softness' => 0.05]]]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]],
            'motion' => ['rigid' => ['before' => 'falls', 'velocity' => ['x' => 1.0, 'y' => 2.0], 'angularVelocity' => ['z' => 200, 'x' => 30], 'glue' => 1.0, 'glueByWeight' => true]],
        ]]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $masses = array_map(static fn ($mass): float => $mass->volume, $pipeline->broken($shot->props[0])->mass);
        $middle = [];
        $parts = [];
        foreach ($pipeline->frames($shot) as $number => $frame) {
            $pose = $frame->of('block', Track::POSE);
            $sum = [0.0, 0.0, 0.0];
            foreach ($masses as $k => $mass) {
                foreach ([0, 1, 2] as $axis) {
                    $sum[$axis] += $mass * $pose[7 * $k + $axis] / array_sum($masses);
                }
            }
            $middle[$number] = $sum;
            $parts[$number] = self::cameOff($frame);
        }
        self::assertSame(0, $parts[3]);
        self::assertSame(12, $parts[24]);
        for ($n = 2; $n <= 24; $n++) {
            // Nothing acts: the middle goes straight on, as fast as ever. Pieces that touch each other turn that into spin, no more.
            self::assertEqualsWithDelta([$middle[1][0] + ($n - 1) / 24.0, $middle[1][1] + 2.0 * ($n - 1) / 24.0, $middle[1][2]], $middle[$n], 2e-3, "frame {$n}");
        }
    }

    /** Bricks lie apart by their joints, and hold each other across them. */
    public function testBricksHoldAcrossJoints(): void
    {
        $shot = Shot::read(['version' => 2, 'props' => [[
            'id' => 'wall', 'name' => 'Wall', 'source' => ['box' => ['width' => 1.0, 'height' => 0.4, 'depth' => 0.1, 'divisions' => 1]],
            'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.25, 'height' => 0.1, 'joint' => 0.01]],
        ], ['id' => 'shell', 'name' => 'Shell', 'source' => ['kind' => 'ball'], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 30]]]]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $broken = $pipeline->broken($shot->props[0]);
        self::assertSame([], $broken->touching);
        $touching = Glue::touching($broken);
        // Two rows of four whole bricks and two of three between halves: three and four ends a row meet, and each brick of four lies on or under two.
        self::assertCount(18, $broken->pieces);
        self::assertCount(2 * (3 + 4) + 3 * 8, $touching);
        self::assertEqualsWithDelta(14 * 0.09 * 0.1 + 3 * 0.9 * 0.1, array_sum(array_column($touching, 2)), 0.03);
        self::assertSame([], Glue::touching($pipeline->broken($shot->props[1])), 'flakes lie on their core');
    }

    #[Group('slow')]
    public function testItGoesOnFromAnyFrameWithTheSameBits(): void
    {
        $shot = self::shot(['glue' => 0.05], 36);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $simulation = $pipeline->motion($shot);
        $whole = $saved = [];
        foreach ($simulation->frames() as $number => $frame) {
            $whole[$number] = serialize($frame);
            $saved[$number] = $simulation->save();
        }
        foreach ([10, 16, 20] as $after) {
            $again = $pipeline->motion($shot);
            $again->restore($saved[$after]);
            foreach ($again->frames() as $number => $frame) {
                self::assertSame($whole[$number], serialize($frame), "frame {$number}, restored after {$after}");
            }
        }
    }
}
