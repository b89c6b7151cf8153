<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cue;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Sightings;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\CueFrames;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cues that are found stand where they are found, and follow when the motion changes. */
final class CueFramesTest extends TestCase
{
    private const TOUCH = ['moment' => 'touch', 'touch' => ['prop' => 'ball']];

    /**
     * A ball of 1 m comes down by 0.05 m a frame, from 2 m: it touches the floor at frame 31.
     *
     * @param list<array<string, mixed>> $cues
     * @param array<string, mixed> $ball
     *
     * @return array<mixed>
     */
    private static function document(array $cues, array $ball = []): array
    {
        return Schema::load()->complete(['version' => 2, 'frames' => 60, 'cues' => $cues, 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 1, 'divisions' => 8]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'position' => ['y' => ['keys' => [['frame' => 1, 'value' => 2.0, 'ease' => 'linear'], ['frame' => 41, 'value' => 0.0]]]], ...$ball],
        ]]);
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<string, int>
     */
    private static function frames(array $document): array
    {
        return array_map(static fn (array $cue): int => $cue['frame'], Shot::read(self::found($document))->cues);
    }

    /**
     * @param array<mixed> $document
     *
     * @return array<mixed>
     */
    private static function found(array $document): array
    {
        return CueFrames::found($document, Shot::read($document), self::pipeline()->surfaces);
    }

    private static function pipeline(): Pipeline
    {
        return new Pipeline(new MemoryStore(), new NoAssets());
    }

    public function testATouchIsFoundAndOthersStayWhereTheyArePut(): void
    {
        $cues = [['id' => 'hand', 'name' => 'By hand', 'frame' => 7], ['id' => 'hit', 'name' => 'Hit', 'frame' => 3, 'at' => self::TOUCH]];
        self::assertSame(['hand' => 7, 'hit' => 31], self::frames(self::document($cues)));
        // Twice as fast: 1 + 1.5 / 0.1.
        $faster = ['position' => ['y' => ['keys' => [['frame' => 1, 'value' => 2.0, 'ease' => 'linear'], ['frame' => 21, 'value' => 0.0]]]]];
        self::assertSame(['hand' => 7, 'hit' => 16], self::frames(self::document($cues, $faster)));
        // Whoever reads the document has the frame; found again it is the same.
        $found = self::found(self::document($cues));
        self::assertSame($found, self::found($found));
    }

    public function testALevelIsFound(): void
    {
        // A sharp front from below, in 20 frames from frame 11: past half at 21, at the last vertex at 31.
        $ball = ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 11, 'to' => 31, 'softness' => 0.0, 'ease' => 'linear']]]]];
        $level = static fn (string $where): array => ['moment' => 'level', 'level' => ['prop' => 'ball', 'where' => $where]];
        $cues = [['id' => 'first', 'name' => 'First', 'at' => $level('first')], ['id' => 'last', 'name' => 'Last', 'at' => $level('last')]];
        ['first' => $first, 'last' => $last] = self::frames(self::document($cues, $ball));
        self::assertEqualsWithDelta(11, $first, 1);
        self::assertEqualsWithDelta(31, $last, 1);
    }

    public function testWhatHangsOnOneMayMoveWhatAnotherWaitsFor(): void
    {
        // The second ball sets out when the first one has landed, and needs another 30 frames.
        $document = self::document([
            ['id' => 'second', 'name' => 'Second', 'frame' => 2, 'at' => ['moment' => 'touch', 'touch' => ['prop' => 'late']]],
            ['id' => 'hit', 'name' => 'Hit', 'frame' => 3, 'at' => self::TOUCH],
        ]);
        $late = $document['props'][0];
        $late['id'] = $late['name'] = 'late';
        $late['position']['y']['keys'] = [['cue' => 'hit', 'offset' => -10, 'value' => 2.0, 'ease' => 'linear'], ['cue' => 'hit', 'offset' => 10, 'value' => 0.0, 'ease' => 'smooth']];
        $document['props'][] = $late;
        self::assertSame(['second' => 36, 'hit' => 31], self::frames(Schema::load()->complete($document)));
    }

    public function testWhatNeverHappensIsSaidAndLeavesTheCue(): void
    {
        $say = static function (array $touch, array $ball = []): string {
            $document = self::found(self::document([['id' => 'hit', 'name' => 'Hit', 'frame' => 5, 'at' => ['moment' => 'touch', 'touch' => $touch]]], $ball));
            self::assertSame(5, Shot::read($document)->cues['hit']['frame']);

            return implode(' ', array_map(static fn ($finding): string => $finding->text, Checks::of(Shot::read($document), self::pipeline())));
        };
        self::assertStringContainsString('never happens in the shot. It stays at frame 5.', $say(['prop' => 'ball'], ['position' => ['y' => 3.0]]));
        self::assertStringContainsString('no prop is chosen', $say([]));
        self::assertStringContainsString('no longer in the shot', $say(['prop' => 'gone']));
        self::assertStringContainsString('cannot touch itself', $say(['prop' => 'ball', 'other' => 'ball']));
        // A prop without a mesh says so itself; the cue waits.
        self::assertStringContainsString('No file', $say(['prop' => 'ball'], ['source' => ['kind' => 'file']]));
    }

    /** What was baked is looked at frame by frame here, and by halving there. */
    #[Group('slow')]
    public function testACueIsFoundInWhatWasBaked(): void
    {
        $at = static fn (string $what, string $prop = ''): array => ['moment' => 'baked', 'baked' => ['what' => $what, 'prop' => $prop]];
        $cues = [];
        foreach (['first', 'last', 'rest'] as $what) {
            $cues[] = ['id' => $what, 'name' => $what, 'frame' => 7, 'at' => $at($what)];
        }
        $cues[] = ['id' => 'sheet', 'name' => 'Sheet', 'frame' => 7, 'at' => $at('first', 'sheet')];
        $cues[] = ['id' => 'never', 'name' => 'Never', 'frame' => 7, 'at' => $at('first', 'ball')];
        $document = Schema::load()->complete(['version' => 2, 'frames' => 70, 'cues' => $cues, 'planes' => [['id' => 'f', 'name' => 'F']], 'forces' => [['id' => 'g', 'name' => 'G']], 'props' => [
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.4, 'height' => 0.4, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 0.6], 'break' => ['cellular' => ['pieces' => 6, 'seed' => 2]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5, 'over' => 9]], 'motion' => ['rigid' => ['restitution' => 0.0, 'friction' => 0.9]]],
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.4, 'depth' => 0.4, 'divisions' => 4]], 'position' => ['x' => 2.0, 'y' => 0.1], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]], 'motion' => ['mover' => 'cloth']],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball'], 'position' => ['x' => -2.0, 'y' => 0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $shot = Shot::read($document);
        $pipeline = self::pipeline();
        self::assertSame(['first' => 7, 'last' => 7, 'rest' => 7, 'sheet' => 7, 'never' => 7], self::frames($document), 'before a bake they stay');
        self::assertSame([], array_filter(Checks::of($shot, $pipeline), static fn ($finding): bool => str_starts_with($finding->pointer, '/cues')));
        $seen = self::seen();
        $released = [];
        $moves = [];
        $before = null;
        foreach ($pipeline->frames($shot) as $n => $frame) {
            $seen->note($frame);
            $released[$n] = count(array_filter($frame->of('block', Track::FLAGS), static fn (int|float $flag): bool => ((int) $flag & Frame::RELEASED) > 0));
            $moves[$n] = $before !== null && (self::strayed($before->of('block', Track::POSE), $frame->of('block', Track::POSE), 7) > $shot->settleSpeed / 24.0 || self::strayed($before->of('sheet', Track::VERTICES), $frame->of('sheet', Track::VERTICES), 3) > $shot->settleSpeed / 24.0);
            $before = $frame;
        }
        $found = CueFrames::found($document, $shot, $pipeline->seeing($shot, $seen));
        $frames = array_map(static fn (array $cue): int => $cue['frame'], Shot::read($found)->cues);
        self::assertSame(min(array_keys(array_filter($released))), $frames['first']);
        // The sheet has let go by then, too.
        self::assertSame(max(12, array_search(max($released), $released, true)), $frames['last']);
        self::assertSame(12, $frames['sheet']);
        self::assertSame(7, $frames['never'], 'what never happens moves no cue');
        self::assertFalse($moves[70], 'this comes to rest');
        // A piece that has stopped may still turn for a moment.
        self::assertGreaterThanOrEqual(max(array_keys(array_filter($moves))), $frames['rest']);
        self::assertLessThanOrEqual(max(array_keys(array_filter($moves))) + 4, $frames['rest']);
    }

    /** Sightings that have a name, as those of a bake have. */
    private static function seen(): Sightings
    {
        return new class () implements Sightings {
            /** @var array<int, Frame> */
            private array $frames = [];

            public function last(): int
            {
                return count($this->frames);
            }

            public function note(Frame $frame): void
            {
                $this->frames[$frame->number] = $frame;
            }

            public function resume(int $frame): void
            {
            }

            public function of(string $prop, string $kind, int $frame): ?array
            {
                return ($this->frames[$frame] ?? null)?->find($prop, $kind);
            }

            public function isLive(): bool
            {
                return false;
            }

            public function name(): string
            {
                return 'seen';
            }
        };
    }

    /**
     * @param array<int, float|int> $was
     * @param array<int, float|int> $is
     */
    private static function strayed(array $was, array $is, int $width): float
    {
        $most = 0.0;
        foreach (array_chunk($was, $width) as $k => [$x, $y, $z]) {
            $most = max($most, sqrt(($is[$width * $k] - $x) ** 2 + ($is[$width * $k + 1] - $y) ** 2 + ($is[$width * $k + 2] - $z) ** 2));
        }

        return $most;
    }
}
