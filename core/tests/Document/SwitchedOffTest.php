<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Document;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

final class SwitchedOffTest extends TestCase
{
    /** A box that lets go as a ball goes by, and another one beneath it. */
    private static function shot(bool $ball, bool $below, bool $without = false): Shot
    {
        $props = [
            ['id' => 'below', 'name' => 'Below', 'on' => $below, 'source' => ['kind' => 'box'], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'ball', 'name' => 'Ball', 'on' => $ball, 'source' => ['kind' => 'ball'], 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -3], ['frame' => 20, 'value' => 3]]], 'y' => 1.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'box', 'name' => 'Box', 'source' => ['kind' => 'box'], 'position' => ['y' => 1.0], 'break' => ['cellular' => ['pieces' => 4]],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['ball'], 'full' => 0.5, 'none' => 1.0]]]], 'release' => ['trigger' => 'weight'], 'motion' => ['rigid' => ['before' => 'held']]],
        ];

        return Shot::read(['version' => 2, 'frames' => 30, 'props' => $without ? array_slice($props, 1) : $props]);
    }

    public function testItIsLeftOutAsIfItWereNotThere(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        self::assertNotSame($pipeline->motionHash(self::shot(true, true)), $pipeline->motionHash(self::shot(true, false)));
        self::assertSame($pipeline->motionHash(self::shot(true, true, without: true)), $pipeline->motionHash(self::shot(true, false)));
        self::assertSame($pipeline->acting(self::shot(true, true, without: true))[1]->upTo(30), $pipeline->acting(self::shot(true, false))[1]->upTo(30));
        $ids = array_map(static fn (Track $track): string => $track->prop, $pipeline->motion(self::shot(false, false))->tracks());
        self::assertSame(['box'], array_values(array_unique($ids)));
    }

    public function testWeightsThatGoByItStillDo(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $released = [];
        foreach ($pipeline->frames(self::shot(false, false)) as $number => $frame) {
            $released[$number] = $frame->released();
        }
        self::assertSame(0, $released[1]);
        self::assertSame(4, $released[30]);
        self::assertNotNull(self::shot(false, false)->prop('ball'));
    }

    public function testChecksPointAtTheRightPropAndSayWhenAllAreOff(): void
    {
        $document = ['version' => 2, 'props' => [
            ['id' => 'a', 'name' => 'A', 'on' => false],
            ['id' => 'b', 'name' => 'B', 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'held']]],
        ]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $pointers = array_map(static fn (Finding $finding): string => $finding->pointer, Checks::of(Shot::read($document), $pipeline));
        self::assertContains('/props/1/release/trigger', $pointers);
        $document['props'][1]['on'] = false;
        self::assertSame('Every prop of the shot is switched off.', Checks::of(Shot::read($document), $pipeline)[0]->text);
    }
}
