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

/** Frames that go by before the first. */
final class PreRollTest extends TestCase
{
    /** @param array<mixed> $more */
    private static function shot(int $preRoll, array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 30, 'preRoll' => $preRoll, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'floor', 'name' => 'Floor']], 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.6], 'rotation' => ['z' => 20],
                'break' => ['cellular' => ['pieces' => 6]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]],
            ['id' => 'rag', 'name' => 'Rag', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.3, 'depth' => 0.3, 'divisions' => 5]], 'position' => ['x' => 0.8, 'y' => 0.6], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]]]]],
            ...$more,
        ]]);
    }

    /** @return array<int, Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->motion($shot)->frames());
    }

    /** Where nothing is keyed, it is the same motion, begun earlier, to the bit. */
    public function testItIsTheSameMotionBegunEarlier(): void
    {
        [$plain, $rolled] = [self::frames(self::shot(0)), self::frames(self::shot(24))];
        self::assertSame(range(-23, 30), array_keys($rolled));
        foreach ([-23 => 1, -10 => 14, 1 => 25, 6 => 30] as $number => $of) {
            self::assertSame($plain[$of]->values, $rolled[$number]->values, "frame {$number}");
        }
        self::assertLessThan(0.2, $rolled[1]->of('block', Track::POSE)[1], 'it has fallen by then');
    }

    /** What is keyed, or lets go later, stands as at the first frame until that has come. */
    public function testWhatIsKnownBeforehandWaits(): void
    {
        $bar = ['id' => 'bar', 'name' => 'Bar', 'source' => ['box' => ['divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 2.0, 'ease' => 'linear'], ['frame' => 21, 'value' => 4.0]]]]];
        $late = ['id' => 'late', 'name' => 'Late', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['x' => -2.0, 'y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]]];
        $frames = self::frames(self::shot(24, [$bar, $late]));
        foreach ([-23 => 2.0, 0 => 2.0, 1 => 2.0, 11 => 3.0] as $number => $x) {
            self::assertEqualsWithDelta($x, $frames[$number]->of('bar', Track::POSE)[0], 1e-12, "frame {$number}");
        }
        self::assertSame($frames[-23]->of('late', Track::POSE), $frames[5]->of('late', Track::POSE));
        self::assertLessThan(0.9, $frames[12]->of('late', Track::POSE)[1]);
    }

    /** A weight that goes by how others move sees where they have got to before the first frame. */
    public function testWeightsSeeWhatHasMovedByThen(): void
    {
        $near = ['id' => 'near', 'name' => 'Near', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['z' => 0.4, 'y' => 0.05], 'break' => ['pattern' => 'whole'],
            'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['block'], 'where' => 'motion', 'full' => 0.35, 'none' => 0.36]]]], 'release' => ['trigger' => 'weight']];
        $flags = static fn (Frame $frame): int => $frame->of('near', Track::FLAGS)[0] & Frame::RELEASED;
        $frames = self::frames(self::shot(24, [$near]));
        self::assertSame(0, $flags($frames[-23]));
        self::assertNotSame(0, $flags($frames[1]));
    }

    #[Group('slow')]
    public function testCutOffInItItGoesOnWithTheSameBits(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $near = ['id' => 'near', 'name' => 'Near', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['z' => 0.4, 'y' => 0.05], 'break' => ['pattern' => 'whole'],
            'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['block'], 'where' => 'motion', 'full' => 0.35, 'none' => 0.36]]]], 'release' => ['trigger' => 'weight']];
        $shot = self::shot(24, [$near]);
        $whole = $saved = [];
        $simulation = $pipeline->motion($shot);
        foreach ($simulation->frames() as $number => $frame) {
            $whole[$number] = serialize($frame);
            $saved[$number] = $simulation->save();
        }
        foreach ([-23, -9, 0] as $after) {
            $again = $pipeline->motion($shot);
            $again->restore($saved[$after]);
            foreach ($again->frames() as $number => $frame) {
                self::assertSame(md5($whole[$number]), md5(serialize($frame)), "frame {$number}, restored after {$after}");
            }
            self::assertSame(md5($saved[30]), md5($again->save()));
        }
    }
}
