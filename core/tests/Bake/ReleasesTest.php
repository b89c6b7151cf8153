<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What is said of releases before a bake is what the bake does. */
final class ReleasesTest extends TestCase
{
    private const FRAMES = 30;

    /** @return iterable<string, array{array<string, mixed>, int}> how it lets go, and how many pieces do */
    public static function ways(): iterable
    {
        $weight = static fn (array ...$stack): array => ['weight' => ['stack' => $stack], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.4]]];
        yield 'a front' => [$weight(['source' => 'sweep', 'sweep' => ['from' => 3, 'to' => 24]]), 20];
        yield 'what passes by, and not all of it' => [$weight(['source' => 'reach', 'reach' => ['props' => ['ball'], 'full' => 0.2, 'none' => 0.6]]), 0];
        yield 'at a frame' => [['release' => ['trigger' => 'frame', 'frame' => ['frame' => 12]]], 20];
        yield 'at a cue' => [['release' => ['trigger' => 'cue', 'cue' => ['cue' => 'go']]], 20];
        yield 'never' => [['release' => ['trigger' => 'never']], 0];
        yield 'flakes over a core' => [['break' => ['pattern' => 'flakes', 'flakes' => ['count' => 60]], 'motion' => ['mover' => 'light'], ...$weight(['source' => 'sweep', 'sweep' => ['from' => 3, 'to' => 24]])], 60];
    }

    /** @param array<string, mixed> $prop */
    #[DataProvider('ways')]
    #[Group('slow')]
    public function testTheyAreThoseOfTheBake(array $prop, int $all): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $shot = Shot::read(['version' => 2, 'frames' => self::FRAMES, 'cues' => [['id' => 'go', 'name' => 'Go', 'frame' => 17]], 'props' => [
            ['id' => 'a', 'name' => 'A', 'source' => ['box' => ['divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['cellular' => ['pieces' => 20]], ...$prop],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 6]], 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -1.5], ['frame' => 20, 'value' => 0.1]]], 'y' => 2.0, 'z' => 0.6], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $before = $pipeline->runner->result($pipeline->releases($shot->props[0], self::FRAMES));
        $baked = [];
        $last = 0;
        foreach ($pipeline->frames($shot) as $frame) {
            $baked[] = $frame->released() - $last;
            $last = $frame->released();
        }
        self::assertSame($baked, $before);
        if ($all > 0) {
            self::assertSame($all, array_sum($before));
        } elseif (isset($prop['weight'])) {
            self::assertGreaterThan(0, array_sum($before));
            self::assertLessThan(20, array_sum($before));
        }
        self::assertSame($before, $pipeline->runner->result($pipeline->releases($shot->props[0], self::FRAMES)));
        self::assertSame(1, $pipeline->runner->ran('releases'), 'kept');
    }

    /** A front that goes a centimetre a frame over bricks of 25: it reaches them, their middles, and is past them. */
    public function testAPieceGoesByWhereItIsRead(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $first = [];
        foreach (['largest', 'centre', 'smallest'] as $reads) {
            $shot = Shot::read(['version' => 2, 'frames' => 140, 'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'courses', 'courses' => ['length' => 0.25, 'height' => 0.2, 'offset' => 0, 'variety' => 0]],
                'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 11, 'to' => 111, 'softness' => 0]]], 'pieces' => $reads], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5, 'variety' => 0]],
            ]]]);
            $releases = $pipeline->runner->result($pipeline->releases($shot->props[0], 140));
            $first[$reads] = array_keys(array_filter($releases));
            self::assertSame(4, array_sum($releases), $reads);
        }
        foreach ([0, 1, 2, 3] as $brick) {
            self::assertEqualsWithDelta(12.5, $first['centre'][$brick] - $first['largest'][$brick], 1.5);
            self::assertEqualsWithDelta(25.0, $first['smallest'][$brick] - $first['largest'][$brick], 1.5);
        }
    }
}
