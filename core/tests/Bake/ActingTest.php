<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Acting;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\StageRunner;

/** Up to which frame two shots have been acted on alike: the frames that stay when one becomes the other. */
final class ActingTest extends TestCase
{
    private const FRAMES = 40;

    /** @return array<mixed> */
    private static function document(): array
    {
        $key = static fn (int $frame, float $value): array => ['frame' => $frame, 'value' => $value, 'ease' => 'hold'];

        return [
            'version' => 2, 'frames' => self::FRAMES, 'cues' => [['id' => 'go', 'name' => 'Go', 'frame' => 20], ['id' => 'idle', 'name' => 'Idle', 'frame' => 5]],
            'forces' => [
                ['id' => 'g', 'name' => 'G', 'force' => 'gravity', 'gravity' => ['strength' => ['keys' => [$key(1, 9.8), $key(30, 3.0)]]]],
                ['id' => 'w', 'name' => 'W', 'force' => 'wind', 'wind' => ['velocity' => ['x' => ['keys' => [$key(1, 0.0), $key(25, 2.0)]]], 'turbulence' => ['keys' => [$key(1, 0.0), $key(28, 1.0)]]]],
            ],
            'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['divisions' => 1]], 'position' => ['x' => ['keys' => [$key(1, 0.0), $key(25, 0.2)]], 'y' => ['keys' => [$key(1, 1.0), $key(15, 1.5)]]], 'scale' => ['z' => ['keys' => [$key(1, 1.0), $key(15, 1.2)]]], 'break' => ['cellular' => ['pieces' => 6]],
                'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 22, 'to' => 36, 'softness' => 5.0]]]], 'release' => ['trigger' => 'cue', 'cue' => ['cue' => 'go']],
            ], [
                'id' => 'b', 'name' => 'B', 'source' => ['box' => ['divisions' => 1]], 'position' => ['y' => 4.0], 'break' => ['cellular' => ['pieces' => 3]], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5]],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['a'], 'full' => ['keys' => [$key(1, 0.1), $key(27, 0.15)]], 'none' => 4.0]]]],
            ], [
                'id' => 'c', 'name' => 'C', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 3]], 'position' => ['y' => 6.0, 'x' => 2.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]],
                'motion' => ['mover' => 'cloth', 'cloth' => ['pressure' => ['keys' => [$key(1, 0.0), $key(24, 2.0)]]]],
            ]],
        ];
    }

    /** @return iterable<string, array{list<int|string>, mixed, int}> where, its new value, the last frame that stays */
    public static function changes(): iterable
    {
        yield 'nothing' => [['frames'], self::FRAMES, self::FRAMES];
        // A force that sets in at frame 30 acts on the way from 30 to 31.
        yield 'a later key of gravity' => [['forces', 0, 'gravity', 'strength', 'keys', 1, 'value'], 5.0, 30];
        yield 'that key, moved later' => [['forces', 0, 'gravity', 'strength', 'keys', 1, 'frame'], 33, 30];
        yield 'that key, moved earlier' => [['forces', 0, 'gravity', 'strength', 'keys', 1, 'frame'], 26, 26];
        yield 'gravity from the first frame' => [['forces', 0, 'gravity', 'strength', 'keys', 0, 'value'], 9.0, 1];
        yield 'a later key of the wind' => [['forces', 1, 'wind', 'velocity', 'x', 'keys', 1, 'value'], 4.0, 25];
        yield 'the seed of gusts that blow later' => [['forces', 1, 'wind', 'seed'], 9, 28];
        // Held by keys it jumps within the step that ends at the key's frame.
        yield 'a later key of its place' => [['props', 0, 'position', 'y', 'keys', 1, 'value'], 2.0, 14];
        yield 'a later key of its size' => [['props', 0, 'scale', 'z', 'keys', 1, 'value'], 1.5, 14];
        yield 'the cue it lets go at, later' => [['cues', 0, 'frame'], 24, 19];
        yield 'the cue it lets go at, earlier' => [['cues', 0, 'frame'], 12, 11];
        yield 'a cue that nothing hangs on' => [['cues', 1, 'frame'], 9, self::FRAMES];
        yield 'the threshold of a weight' => [['props', 1, 'release', 'weight', 'threshold'], 0.4, 0];
        yield 'what is near, by a later key' => [['props', 0, 'position', 'x', 'keys', 1, 'value'], 0.4, 24];
        yield 'how near is near' => [['props', 1, 'weight', 'stack', 0, 'reach', 'none'], 5.0, 0];
        yield 'how near is near, by a later key' => [['props', 1, 'weight', 'stack', 0, 'reach', 'full', 'keys', 1, 'value'], 0.2, 26];
        yield 'when the weight begins, later' => [['props', 0, 'weight', 'stack', 0, 'sweep', 'from'], 26, 22];
        // It acts from its frame on; that frame itself is baked again too.
        yield 'a later key of what blows a cloth up' => [['props', 2, 'motion', 'cloth', 'pressure', 'keys', 1, 'value'], 5.0, 23];
        yield 'what the first frame is called in files' => [['firstFrame'], 1001, self::FRAMES];
        yield 'its name' => [['props', 0, 'name'], 'B', self::FRAMES];
        yield 'its pieces' => [['props', 0, 'break', 'cellular', 'pieces'], 7, 0];
        yield 'what does not change over time' => [['props', 0, 'motion'], ['mover' => 'rigid', 'rigid' => ['density' => 500]], 0];
        yield 'the floor' => [['planes'], [], 0];
        yield 'the frame rate' => [['fps'], 30, 0];
    }

    /** @param list<int|string> $path */
    #[DataProvider('changes')]
    #[Group('slow')]
    public function testWhatStays(array $path, mixed $value, int $stays): void
    {
        $document = self::document();
        $at = &$document;
        foreach ($path as $part) {
            self::assertIsArray($at);
            $at = &$at[$part];
        }
        $at = $value;
        unset($at);
        [$before, $after] = [self::acting(self::document()), self::acting($document)];
        for ($n = 1; $n <= self::FRAMES; $n++) {
            self::assertSame($n <= $stays, $before->upTo($n) === $after->upTo($n), "frame {$n}");
        }
    }

    /** States are kept where a later edit is likely to set in: before each of these, and at it. */
    #[Group('slow')]
    public function testStatesAreKeptWhereSomethingSetsIn(): void
    {
        $changes = self::acting(self::document())->changes();
        foreach ([14, 15, 19, 20, 21, 22, 24, 25, 27, 28, 29, 30] as $frame) {
            self::assertContains($frame, $changes);
        }
        self::assertNotContains(35, $changes);
        self::assertSame(array_values(array_unique($changes)), $changes);
    }

    /** @param array<mixed> $document */
    private static function acting(array $document): Acting
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());

        return $pipeline->acting(Shot::read($document))[1];
    }

    /** @return iterable<string, array{array<string, mixed>, bool}> settings of a prop with keys on a cue, and whether they decide its weight */
    public static function keyed(): iterable
    {
        $keys = ['keys' => [['cue' => 'go', 'value' => 0.1], ['cue' => 'go', 'offset' => 5, 'value' => 0.6]]];
        $weight = static fn (string $kind, array $settings, array $more = []): array => ['weight' => ['stack' => [['source' => $kind, $kind => $settings, ...$more]]]];
        yield 'a size of a zone' => [$weight('zone', ['within' => $keys]), true];
        yield 'a place of a zone' => [$weight('zone', ['at' => ['y' => $keys]]), true];
        yield 'an amount' => [$weight('noise', [], ['amount' => $keys]), true];
        yield 'a radius' => [$weight('ring', ['grows' => 'keys', 'radius' => $keys]), true];
        yield 'a speed' => [$weight('spread', ['places' => [['x' => 0, 'y' => 0.5, 'z' => 0]], 'speed' => $keys]), true];
        yield 'how far bands have moved' => [$weight('bands', ['moved' => $keys]), true];
        yield 'a height that swells' => [['motion' => ['mover' => 'swell', 'swell' => ['height' => $keys]]], false];
        yield 'a further weight that another goes by' => [['weights' => [['id' => 'one', 'name' => 'One', ...$weight('zone', ['within' => $keys])['weight']]], ...$weight('other', ['weight' => 'one'])], true];
    }

    /**
     * Moving the cue changes what hangs on it, so nothing that was kept for the old one may be taken.
     *
     * @param array<string, mixed> $prop
     */
    #[DataProvider('keyed')]
    #[Group('slow')]
    public function testMovingACueIsAChangeOfAllThatHangsOnIt(array $prop, bool $weighs): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $hashes = [];
        foreach ([5, 9] as $frame) {
            $shot = Shot::read(['version' => 2, 'frames' => 24, 'cues' => [['id' => 'go', 'name' => 'Go', 'frame' => $frame]], 'props' => [['id' => 'a', 'name' => 'A', 'release' => ['trigger' => 'weight'], ...$prop]]]);
            $hashes[] = [
                $pipeline->motionHash($shot), $pipeline->acting($shot)[1]->upTo(24),
                $weighs ? StageRunner::hash($pipeline->weightTrack($shot->props[0], 'release', null, 1, 16)) : (string) $frame,
                $weighs ? StageRunner::hash($pipeline->releases($shot->props[0], 24)) : (string) $frame,
            ];
        }
        foreach ($hashes[0] as $k => $hash) {
            self::assertNotSame($hash, $hashes[1][$k], ['frames', 'what acts', 'weight', 'releases'][$k]);
        }
    }
}
