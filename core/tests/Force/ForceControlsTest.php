<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Force;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\ShotForces;
use YardBreak\Core\Tests\Fixture\Settings;

/** What the form shows of a force changes what it does, its hash and what acts at the frames; what it hides does none of that. */
#[Group('thorough')]
final class ForceControlsTest extends TestCase
{
    use Settings;

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function forces(): iterable
    {
        yield 'gravity' => [['force' => 'gravity']];
        yield 'wind' => [['force' => 'wind']];
        yield 'wind from a place' => [['force' => 'wind', 'wind' => ['blows' => 'outward', 'at' => ['x' => 0.1, 'y' => 0.2, 'z' => 0.05]]]];
        yield 'turbulence' => [['force' => 'turbulence']];
        foreach (['place', 'line', 'plane', 'prop'] as $to) {
            yield "pull to a {$to}" => [['force' => 'pull', 'pull' => ['to' => $to, 'prop' => 'a', 'at' => ['x' => 0.15, 'y' => 0.2, 'z' => 0.1]]]];
        }
        yield 'pull as drawn' => [['force' => 'pull', 'pull' => ['law' => 'drawn', 'ends' => 1.3, 'at' => ['x' => 0.15, 'y' => 0.2, 'z' => 0.1]]]];
        foreach (['push', 'air'] as $by) {
            yield "swirl by {$by}" => [['force' => 'swirl', 'swirl' => ['by' => $by]]];
        }
        foreach (['' => 'blast', 'one' => 'blast at a cue'] as $cue => $name) {
            yield $name => [['force' => 'blast', 'blast' => ['frame' => 2, 'cue' => $cue, 'speed' => 5.0, 'lasts' => 0.3]]];
        }
        yield 'along a line' => [['force' => 'stream', 'stream' => ['places' => [['x' => 0, 'y' => 0, 'z' => 0], ['x' => 1, 'y' => 1, 'z' => 0]]]]];
        yield 'drag' => [['force' => 'drag']];
        // Around a place: one that stands nowhere else, one that does, and one that may.
        // As around a place of the others.
        if (getenv('YARD_BREAK_LONG')) {
            yield 'wind around a place' => [['force' => 'wind', 'wind' => ['everywhere' => false]]];
        }
        yield 'drag around a place, its edge drawn' => [['force' => 'drag', 'drag' => ['everywhere' => false, 'edge' => 'curve']]];
        yield 'blast around its place' => [['force' => 'blast', 'blast' => ['frame' => 2, 'speed' => 5.0, 'lasts' => 0.3, 'everywhere' => false]]];
        yield 'pull to a prop around a place' => [['force' => 'pull', 'pull' => ['to' => 'prop', 'prop' => 'a', 'everywhere' => false]]];
    }

    /** @param array<string, mixed> $force */
    #[DataProvider('forces')]
    public function testWhatIsShownWorks(array $force): void
    {
        $document = ['version' => 2, 'frames' => 20, 'cues' => [['id' => 'one', 'name' => 'One', 'frame' => 2], ['id' => 'two', 'name' => 'Two', 'frame' => 6]], 'forces' => [['id' => 'f', 'name' => 'F', ...$force]], 'props' => [
            ['id' => 'a', 'name' => 'A', 'source' => ['box' => ['divisions' => 1]], 'break' => ['pattern' => 'whole']], ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'ball', 'ball' => ['divisions' => 3]], 'position' => ['x' => 0.3], 'break' => ['pattern' => 'whole']],
        ]];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $x = [0.05, 0.4, -0.7, 0.3, 1.6, -0.2, 0.2];
        $y = [0.02, 0.3, 0.5, -0.6, 0.4, 0.9, 0.25];
        $z = [0.04, 0.1, 0.4, 0.35, -0.3, -0.5, 0.1];
        $group = [0, 0, 0, 1, 1, 1, 1];
        $result = static function (Shot $shot) use ($pipeline, $x, $y, $z, $group): array {
            $forces = ShotForces::on($shot, $shot->props, $pipeline->surfaces);
            $frames = [1.0, 2.25, 3.0, 6.5, 9.0, 20.0];

            return array_map(static fn (float $frame): string => serialize((array) $forces->at($x, $y, $z, $group, $frame, 1.0 / 96.0, static fn (): array => [0.1, 0.2, 0.3, 0.4, 0.5, 0.6, 0.7])), $frames);
        };
        $acting = static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo(20);
        $own = ['props' => [['b']], 'prop' => ['b', ''], 'cue' => ['two'], 'direction' => [['x' => 1.0, 'y' => 0.3, 'z' => 0.0]], 'detail' => [4], 'places' => [[['x' => 0, 'y' => 0, 'z' => 0], ['x' => 1, 'y' => 0, 'z' => 0.5]]], 'on' => [false], 'calm' => [0.6]];
        self::assertGreaterThan(4, self::assertControlsWork($document, ['forces', '0'], $result, $pipeline->motionHash(...), ['force', 'id', 'name'], $own, $acting));
    }
}
