<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** A simulation that is saved and restored goes on with the same bits, whatever frame it was saved at. */
final class ResumeTest extends TestCase
{
    private static function shot(): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 32, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity'], ['id' => 'w', 'name' => 'W', 'force' => 'wind'], ['id' => 't', 'name' => 'T', 'force' => 'turbulence', 'turbulence' => ['strength' => 1.0]], ['id' => 'b', 'name' => 'B', 'force' => 'blast', 'blast' => ['frame' => 26, 'strength' => 60]]], 'planes' => [['id' => 'floor', 'name' => 'Floor', 'scatter' => 20], ['id' => 'ramp', 'name' => 'Ramp', 'tilt' => ['z' => 20], 'height' => -0.2]], 'joints' => [
            ['id' => 'cord', 'name' => 'Cord', 'prop' => 'plumb', 'other' => 'bar', 'rope' => ['from' => ['x' => -0.5, 'y' => 1.6, 'z' => 0.2], 'to' => ['x' => -0.5, 'y' => 0.1, 'z' => 0.2], 'slack' => 5], 'strength' => 300],
            ['id' => 'lace', 'name' => 'Lace', 'joint' => 'fastening', 'prop' => 'rag', 'other' => 'bar', 'strength' => 2, 'fastening' => ['within' => 0.06]],
            ['id' => 'glue', 'name' => 'Glue', 'joint' => 'fastening', 'prop' => 'bun', 'other' => 'wall', 'strength' => 20, 'fastening' => ['within' => 0.5]],
            ['id' => 'pin', 'name' => 'Pin', 'joint' => 'hinge', 'prop' => 'plumb', 'hinge' => ['at' => ['x' => -0.6, 'y' => 1.7, 'z' => 0.2], 'axis' => ['z' => 1], 'stops' => true], 'cut' => 'frame', 'frame' => 20],
        ], 'props' => [
            ['id' => 'plumb', 'name' => 'Plumb', 'source' => ['box' => ['width' => 0.2, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['x' => -0.5, 'y' => 1.65, 'z' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'shape' => 'ball']]],
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 2]], 'position' => ['y' => 0.5], 'rotation' => ['x' => 20, 'z' => 10],
                'break' => ['cellular' => ['pieces' => 24, 'seed' => 3]], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.5]], 'motion' => ['rigid' => ['before' => 'falls', 'siblings' => 3]]],
            ['id' => 'wall', 'name' => 'Wall', 'source' => ['box' => ['width' => 0.5, 'height' => 0.4, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['x' => 0.6, 'y' => 0.2],
                'scale' => ['y' => ['keys' => [['frame' => 3, 'value' => 1.0], ['frame' => 25, 'value' => 1.4]]]], 'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.15, 'height' => 0.1]], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 5, 'to' => 30]]]], 'release' => ['trigger' => 'weight']],
            ['id' => 'shell', 'name' => 'Shell', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 4]], 'position' => ['y' => ['keys' => [['frame' => 1, 'value' => 0.5], ['frame' => 20, 'value' => 0.8]]]],
                'scale' => ['x' => ['keys' => [['frame' => 1, 'value' => 1.2], ['frame' => 20, 'value' => 0.8]]]], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 40]], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 3, 'to' => 25]]]], 'release' => ['trigger' => 'weight'], 'motion' => ['mover' => 'light', 'light' => ['life' => 20]]],
            ['id' => 'sign', 'name' => 'Sign', 'source' => ['box' => ['divisions' => 1]], 'break' => ['cellular' => ['pieces' => 5]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 8]], 'motion' => ['mover' => 'staged', 'staged' => ['outward' => 0.3]]],
            ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 8]], 'position' => ['y' => 0.9], 'scale' => ['x' => ['keys' => [['frame' => 2, 'value' => 0.9], ['frame' => 28, 'value' => 1.1]]]], 'break' => ['pattern' => 'whole'], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 4, 'to' => 16]]]],
                'release' => ['trigger' => 'weight'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim']], 'growth' => 20, 'shape' => 'wide', 'amount' => ['keys' => [['frame' => 3, 'value' => 0], ['frame' => 32, 'value' => 100]]], 'pressure' => ['keys' => [['frame' => 4, 'value' => 0], ['frame' => 30, 'value' => 2]]]]]],
            ['id' => 'wide', 'name' => 'Wide', 'on' => false, 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 0.7, 'divisions' => 8]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'rag', 'name' => 'Rag', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.3, 'depth' => 0.3, 'divisions' => 5]], 'position' => ['x' => -0.5, 'y' => 0.1], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.2]], 'motion' => ['mover' => 'cloth']],
            ['id' => 'loaf', 'name' => 'Loaf', 'source' => ['box' => ['width' => 0.2, 'height' => 0.15, 'depth' => 0.2, 'divisions' => 2]], 'position' => ['x' => -0.2, 'y' => 0.9, 'z' => 0.5], 'rotation' => ['z' => 20], 'scale' => ['z' => ['keys' => [['frame' => 2, 'value' => 0.9], ['frame' => 10, 'value' => 1.1]]]], 'break' => ['cellular' => ['pieces' => 3]], 'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 4, 'to' => 12]]]],
                'release' => ['trigger' => 'weight'], 'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 3, 'growth' => 10, 'softer' => 0.5, 'shape' => 'risen', 'amount' => ['keys' => [['frame' => 3, 'value' => 0], ['frame' => 30, 'value' => 80]]]]]],
            ['id' => 'risen', 'name' => 'Risen', 'on' => false, 'source' => ['box' => ['width' => 0.25, 'height' => 0.2, 'depth' => 0.15, 'divisions' => 2]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'bun', 'name' => 'Bun', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 3]], 'position' => ['x' => 0.3, 'y' => 0.25, 'z' => 0.6], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.2]], 'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 3]]],
            ['id' => 'bar', 'name' => 'Bar', 'source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.6, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -0.5], ['frame' => 30, 'value' => 0.4]]], 'y' => 0.05]],
        ]]);
    }

    #[Group('slow')]
    public function testSavedAndRestoredItGoesOnWithTheSameBits(): void
    {
        $frames = self::assertGoesOn(self::shot(), getenv('YARD_BREAK_LONG') ? [1, 8, 12, 24, 31] : [24]);
        self::assertGreaterThan(75, $frames[32]->released());
    }

    /** A ball that rests on cloth, asleep before it and with it, is carried on, and falls when the cloth is let go. */
    #[Group('slow')]
    public function testWhatClothCarriesItCarriesOn(): void
    {
        $rim = ['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0], 'amount' => ['keys' => [['frame' => 80, 'value' => 1.0], ['frame' => 81, 'value' => 0.0]]]];
        $frames = self::assertGoesOn(Shot::read(['version' => 2, 'frames' => 90, 'planes' => [], 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'props' => [
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.6, 'depth' => 0.6, 'divisions' => 12]], 'position' => ['y' => 0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [$rim]]]],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 5]], 'position' => ['y' => 0.7], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls']]],
        ]]), [20, 78]);
        self::assertSame(Frame::ASLEEP, $frames[45]->of('ball', Track::FLAGS)[0] & Frame::ASLEEP);
        self::assertLessThan(0.5, $frames[90]->of('ball', Track::POSE)[1]);
    }

    /** A fine sheet falls on a ball: it takes all substeps where it strikes, and half of them before and after. */
    #[Group('slow')]
    public function testFineClothGoesOnAtItsPace(): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 20, 'planes' => [], 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'props' => [
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.2, 'depth' => 0.2, 'divisions' => 20]], 'position' => ['y' => 0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'cloth']],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.12, 'divisions' => 5]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $simulation = (new Pipeline(new MemoryStore(), new NoAssets()))->motion($shot);
        $paces = [];
        foreach ($simulation->frames() as $number => $_) {
            foreach (State::read($simulation->save())->parts('movers') as $mover) {
                $state = State::read($mover->string('state'));
                foreach ($state->has('props') ? $state->parts('props') : [] as $prop) {
                    $paces += $prop->has('every') ? [$number => $prop->int('every')] : [];
                }
            }
        }
        self::assertSame([2, 1], [$paces[4], $paces[7]]);
        self::assertGreaterThan(2, count(array_filter($paces, static fn (int $every): bool => $every === 2)));
        self::assertGoesOn($shot, [4, 7]);
    }

    /**
     * @param list<int> $afters frames after which it is saved
     *
     * @return array<int, Frame>
     */
    private static function assertGoesOn(Shot $shot, array $afters): array
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $frames = $whole = $saved = [];
        $simulation = $pipeline->motion($shot);
        foreach ($simulation->frames() as $number => $frame) {
            $frames[$number] = $frame;
            $whole[$number] = serialize($frame);
            $saved[$number] = $simulation->save();
        }
        $last = count($frames);
        foreach ($afters as $after) {
            $again = $pipeline->motion($shot);
            $again->restore($saved[$after]);
            $numbers = [];
            foreach ($again->frames() as $number => $frame) {
                $numbers[] = $number;
                self::assertSame(md5($whole[$number]), md5(serialize($frame)), "frame {$number}, restored after {$after}");
            }
            self::assertSame(range($after + 1, $last), $numbers);
            self::assertSame(md5($saved[$last]), md5($again->save()), 'and leaves the same state behind');
        }

        return $frames;
    }
}
