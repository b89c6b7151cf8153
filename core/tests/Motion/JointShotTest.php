<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Joints in a shot: what they hold on to, when they are cut, and what an edit of them leaves as it was. */
final class JointShotTest extends TestCase
{
    /**
     * A block of clay hangs on a rope, and breaks at frame 12.
     *
     * @param array<string, mixed> $joint
     *
     * @return array<string, mixed>
     */
    private static function hung(array $joint = []): array
    {
        return ['version' => 2, 'frames' => 40, 'cues' => [['id' => 'snip', 'name' => 'Snip', 'frame' => 20]],
            'planes' => [],
            'joints' => [['id' => 'rope', 'name' => 'Rope', 'prop' => 'block', 'rope' => ['from' => ['x' => 0, 'y' => 2.0, 'z' => 0], 'to' => ['x' => 0, 'y' => 3.0, 'z' => 0]], ...$joint]],
            'props' => [[
                'id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 1.8],
                'break' => ['cellular' => ['pieces' => 6, 'seed' => 2]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]], 'motion' => ['rigid' => ['before' => 'falls']],
            ]],
        ];
    }

    /**
     * @param array<string, mixed> $document
     *
     * @return list<Frame>
     */
    private static function frames(array $document): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)), false);
    }

    public function testTheWholeHangsAndThenThePieceAtTheRope(): void
    {
        $frames = self::frames(self::hung());
        $heights = static fn (Frame $frame): array => array_map(static fn (array $pose): float => $pose[1], array_chunk($frame->of('block', Track::POSE), 7));
        $start = $heights($frames[0]);
        self::assertEqualsWithDelta($start, $heights($frames[10]), 0.01);
        $fallen = array_map(static fn (float $from, float $to): float => $from - $to, $start, $heights($frames[39]));
        sort($fallen);
        self::assertLessThan(0.4, $fallen[0], 'the one that the rope holds, whose middle now hangs below it');
        // g t2 / 2 over 28 frames.
        self::assertEqualsWithDelta(0.5 * 9.81 * (28 / 24) ** 2, $fallen[2], 0.7);
        $ends = $frames[39]->of('rope', Track::ENDS);
        self::assertEqualsWithDelta([0.0, 3.0, 0.0, 1.0], array_slice($ends, 3), 1e-9);
        self::assertEqualsWithDelta(1.0, sqrt($ends[0] ** 2 + ($ends[1] - 3.0) ** 2 + $ends[2] ** 2), 2e-3);
    }

    public function testItIsCutAtAFrameOrACue(): void
    {
        foreach ([['cut' => 'frame', 'frame' => 20], ['cut' => 'cue', 'cue' => 'snip']] as $cut) {
            $frames = self::frames(['props' => [['release' => ['trigger' => 'never']] + self::hung()['props'][0]]] + self::hung($cut));
            $height = static fn (int $frame): float => $frames[$frame - 1]->of('block', Track::POSE)[1];
            $off = static fn (int $frame): float => $frames[$frame - 1]->of('rope', Track::ENDS)[6];
            self::assertEqualsWithDelta($height(1), $height(20), 0.01);
            self::assertEqualsWithDelta(0.5 * 9.81 * (20 / 24) ** 2, $height(20) - $height(40), 0.1);
            self::assertSame([1.0, 0.0], [$off(19), $off(20)]);
        }
    }

    /** Cut later, all that was before is as it was; another strength changes all. */
    public function testALaterCutKeepsTheFramesBefore(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $acting = static fn (array $joint, int $frame): string => $pipeline->acting(Shot::read(self::hung($joint)))[1]->upTo($frame);
        [$early, $late] = [['cut' => 'frame', 'frame' => 20], ['cut' => 'frame', 'frame' => 26]];
        self::assertSame($acting($early, 19), $acting($late, 19));
        self::assertNotSame($acting($early, 20), $acting($late, 20));
        self::assertNotSame($acting($early, 1), $acting(['strength' => 50] + $early, 1));
        self::assertNotSame($pipeline->motionHash(Shot::read(self::hung($early))), $pipeline->motionHash(Shot::read(self::hung($late))));
    }

    #[Group('slow')]
    public function testWhatHoldsNothingChangesNothing(): void
    {
        $free = self::hung(['on' => false]);
        $poses = static fn (array $document): array => array_map(static fn (Frame $frame): array => $frame->of('block', Track::POSE), self::frames($document));
        foreach ([['prop' => ''], ['prop' => 'gone'], ['other' => 'gone'], ['other' => 'block']] as $nothing) {
            self::assertSame($poses($free), $poses(self::hung($nothing)), json_encode($nothing) ?: '');
        }
        self::assertNotSame($poses($free), $poses(self::hung()));
    }

    public function testACueThatIsNotThereIsSaid(): void
    {
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage('cue');
        Shot::read(self::hung(['cut' => 'cue', 'cue' => 'ghost']));
    }
}
