<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Cue;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Document\Schema;
use YardBreak\Core\Document\Shot;
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
}
