<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\MovingGlb;
use YardBreak\Core\Tests\Fixture\Settings;

/** Props that play what moves in their file: a bar that bends and a ball that flies about, from half a second to two. */
final class PlayedTest extends TestCase
{
    use Settings;

    private const ASSET = 'dddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddd';

    private static string $path;

    public static function setUpBeforeClass(): void
    {
        self::$path = (string) tempnam(sys_get_temp_dir(), 'plays');
        file_put_contents(self::$path, MovingGlb::creature());
    }

    public static function tearDownAfterClass(): void
    {
        unlink(self::$path);
    }

    /**
     * @param array<string, mixed> $prop
     * @param list<array<string, mixed>> $others
     * @param array<string, mixed> $more
     */
    private static function shot(array $prop = [], array $others = [], array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 40, 'forces' => [], 'planes' => [], ...$more, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'file' => ['asset' => self::ASSET, 'fileName' => 'creature.glb']], 'break' => ['pattern' => 'whole'],
            'played' => ['on' => true], 'motion' => ['mover' => 'played'], ...$prop,
        ], ...$others]]);
    }

    private static function pipeline(): Pipeline
    {
        return new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => self::$path]));
    }

    /** @return list<Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array(self::pipeline()->frames($shot), false);
    }

    /** @return list<list<float>> where the file has its vertices so many seconds after its first key */
    private static function inTheFile(float $seconds): array
    {
        $scene = GlbScene::open((string) file_get_contents(self::$path));
        $nodes = $scene->nodes->places(0.5 + $seconds);

        return array_merge(...array_map(static fn (int $part): array => array_chunk($scene->placed($part, $nodes, 0.5 + $seconds)[0], 3), array_keys($scene->parts)));
    }

    /**
     * Every vertex is where one of the file is.
     *
     * @param array{float, float, float} $place of the prop
     * @param array{float, float, float, float} $turn
     */
    private static function assertAsInTheFile(Frame $frame, float $seconds, array $place, array $turn, string $when): void
    {
        $theirs = array_map(static fn (array $at): array => Quaternion::carried($place, $turn, [$at[0], $at[1], $at[2]]), self::inTheFile($seconds));
        foreach (array_chunk($frame->of('a', 'vertices'), 3) as $own) {
            self::assertLessThan(1e-6, min(array_map(static fn (array $at): float => max(abs($at[0] - $own[0]), abs($at[1] - $own[1]), abs($at[2] - $own[2])), $theirs)), $when);
        }
    }

    /** @return iterable<string, array{array<string, mixed>, list<array{int, float}>}> settings, and by frame how much of the file has been played, s */
    public static function times(): iterable
    {
        yield 'at once' => [[], [[1, 0.0], [13, 0.5], [30, 29 / 24], [40, 1.5]]];
        yield 'later and half as fast' => [['starts' => 5, 'speed' => 50], [[1, 0.0], [5, 0.0], [29, 0.5]]];
        yield 'again and again' => [['after' => 'repeats', 'speed' => 200], [[10, 0.75], [28, 0.75], [39, 1.5 * (38 / 18 - 2)]]];
        yield 'there and back' => [['after' => 'returns', 'speed' => 200], [[10, 0.75], [19, 1.5], [28, 0.75]]];
    }

    /**
     * @param array<string, mixed> $played
     * @param list<array{int, float}> $seconds
     */
    #[DataProvider('times')]
    #[Group('slow')]
    public function testItIsWhereTheFileHasIt(array $played, array $seconds): void
    {
        $frames = self::frames(self::shot(['played' => ['on' => true, ...$played], 'position' => ['y' => 2.0], 'rotation' => ['z' => 30.0]]));
        foreach ($seconds as [$n, $at]) {
            self::assertAsInTheFile($frames[$n - 1], $at, [0.0, 2.0, 0.0], Quaternion::fromDegrees(0.0, 0.0, 30.0), "frame {$n}");
        }
    }

    /** Divided, each new vertex stays between those it came from. */
    #[Group('slow')]
    public function testWhatIsPreparedOtherwiseGoesAlong(): void
    {
        $shot = self::shot(['prepare' => ['divide' => 1]]);
        $frames = self::frames($shot);
        $rest = self::pipeline()->prepared($shot->props[0]);
        $coarse = self::pipeline()->prepared(self::shot()->props[0]);
        self::assertSame(4 * $coarse->triangleCount(), $rest->triangleCount());
        $places = array_chunk($frames[20]->of('a', 'vertices'), 3);
        $theirs = self::inTheFile(20 / 24);
        // Half way between two corners of a triangle at rest, half way between them in the file.
        $known = array_map(static fn (float $x, float $y, float $z): string => sprintf('%.6f %.6f %.6f', $x, $y, $z), $coarse->x, $coarse->y, $coarse->z);
        $at = array_combine(array_map(static fn (array $place): string => sprintf('%.6f %.6f %.6f', ...$place), array_map(null, $rest->x, $rest->y, $rest->z)), $places);
        $checked = 0;
        foreach (array_chunk($coarse->triangles, 3) as [$a, $b]) {
            $middle = sprintf('%.6f %.6f %.6f', 0.5 * ($coarse->x[$a] + $coarse->x[$b]), 0.5 * ($coarse->y[$a] + $coarse->y[$b]), 0.5 * ($coarse->z[$a] + $coarse->z[$b]));
            if (isset($at[$middle], $at[$known[$a]], $at[$known[$b]])) {
                foreach ([0, 1, 2] as $axis) {
                    self::assertEqualsWithDelta(0.5 * ($at[$known[$a]][$axis] + $at[$known[$b]][$axis]), $at[$middle][$axis], 1e-6);
                }
                $checked++;
            }
        }
        self::assertGreaterThan(100, $checked);
        foreach (array_intersect_key($at, array_flip($known)) as $own) {
            self::assertLessThan(1e-6, min(array_map(static fn (array $place): float => max(abs($place[0] - $own[0]), abs($place[1] - $own[1]), abs($place[2] - $own[2])), $theirs)));
        }
    }

    /** The bar bends over onto a box that waits to be touched: that lets go, and is pushed aside. */
    #[Group('slow')]
    public function testItStrikesWhatIsInItsWay(): void
    {
        $box = ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => -0.7, 'y' => 0.6], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.2]], 'motion' => ['mover' => 'rigid']];
        $frames = self::frames(self::shot([], [$box]));
        $x = array_map(static fn (Frame $frame): float => (float) $frame->of('b', 'pose')[0], $frames);
        $gone = array_map(static fn (Frame $frame): float => $frame->readout['released'] ?? 0.0, $frames);
        $first = (int) array_search(1.0, $gone, true);
        self::assertGreaterThan(3, $first, 'not before it is there');
        self::assertLessThan(16, $first);
        self::assertEqualsWithDelta(-0.7, $x[$first - 1], 1e-9);
        self::assertGreaterThan(0.3, abs($x[39] + 0.7), 'it was sent away');
        // Without the bar nothing happens to it.
        self::assertSame(0.0, self::frames(self::shot(['played' => ['on' => true, 'starts' => 100]], [$box]))[39]->readout['released']);
    }

    /** Cloth that plays: what is held is where the file has it, what lets go falls. */
    #[Group('slow')]
    public function testClothIsLedByItsFile(): void
    {
        $gravity = ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']]];
        $cloth = ['motion' => ['mover' => 'cloth', 'cloth' => ['feelsItself' => false]]];
        $held = self::frames(self::shot($cloth + ['release' => ['trigger' => 'never']], [], $gravity));
        self::assertAsInTheFile($held[20], 20 / 24, [0.0, 0.0, 0.0], Quaternion::IDENTITY, 'held');
        $free = self::frames(self::shot($cloth + ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 13]]], [], $gravity));
        self::assertSame($held[11]->of('a', 'vertices'), $free[11]->of('a', 'vertices'));
        $low = static fn (Frame $frame): float => min(array_map(static fn (array $p): float => (float) $p[1], array_chunk($frame->of('a', 'vertices'), 3)));
        self::assertLessThan($low($held[35]) - 2.0, $low($free[35]));
    }

    #[Group('slow')]
    /** What is set on it goes with it: the feet of pegs are on its surface, wherever that is by then. */
    public function testWhatIsSetOnItGoesWithIt(): void
    {
        $pegs = ['id' => 'pegs', 'name' => 'Pegs', 'source' => ['box' => ['width' => 0.01, 'height' => 0.1, 'depth' => 0.01, 'divisions' => 1]], 'position' => ['y' => 0.05], 'break' => ['pattern' => 'copies', 'copies' => ['count' => 20]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'set', 'set' => ['on' => 'a', 'variety' => 0, 'lean' => 0, 'takes' => 1]]];
        $shot = self::shot(['position' => ['x' => 0.5]], [$pegs]);
        $mesh = TriangleMesh::together(self::pipeline()->broken($shot->props[0])->pieces);
        $before = [];
        foreach (self::frames($shot) as $n => $frame) {
            if (! in_array($n, [4, 20, 38], true)) {
                continue;
            }
            $places = array_map(null, ...array_chunk(array_map(floatval(...), $frame->of('a', 'vertices')), 3));
            $surface = SurfaceTree::of(new TriangleMesh($places[0], $places[1], $places[2], $mesh->triangles), false);
            $feet = [];
            foreach (array_chunk(array_map(floatval(...), $frame->of('pegs', 'pose')), 7) as [$x, $y, $z, $a, $b, $c, $d]) {
                $feet[] = [$x, $y, $z] = Quaternion::carried([$x, $y, $z], [$a, $b, $c, $d], [0.0, -0.05, 0.0]);
                $surface->look($surface->nearest($x, $y, $z, INF), $x, $y, $z);
                self::assertEqualsWithDelta(0.0, $surface->distance, 1e-6, 'frame ' . ($n + 1));
            }
            self::assertNotEquals($before, $feet);
            $before = $feet;
        }
    }

    public function testItGoesOnWithTheSameBits(): void
    {
        $shot = self::shot(['motion' => ['mover' => 'cloth', 'cloth' => []], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 30]]], [], ['frames' => 24, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']]]);
        $simulation = self::pipeline()->motion($shot);
        $whole = [];
        $saved = '';
        foreach ($simulation->frames() as $number => $frame) {
            $whole[$number] = md5(serialize($frame));
            $saved = $number === 10 ? $simulation->save() : $saved;
        }
        $again = self::pipeline()->motion($shot);
        $again->restore($saved);
        $gone = 0;
        foreach ($again->frames() as $number => $frame) {
            self::assertSame($whole[$number], md5(serialize($frame)), "frame {$number}");
            $gone++;
        }
        self::assertSame(14, $gone);
    }

    /** What the form shows of it works: a box that falls on the car tells how it slides and how far off it is kept. */
    #[Group('thorough')]
    public function testEverySettingIsSeen(): void
    {
        $car = (string) tempnam(sys_get_temp_dir(), 'drives');
        file_put_contents($car, MovingGlb::drive());
        $document = static fn (int $speed): array => ['version' => 2, 'frames' => 12, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'file' => ['asset' => self::ASSET, 'fileName' => 'drive.glb']], 'break' => ['pattern' => 'whole'],
            'played' => ['on' => true, 'speed' => $speed], 'motion' => ['mover' => 'played'],
        ], ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => 0.4, 'y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'rigid']]]];
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $car]));
        $frames = static fn (Shot $shot): iterable => array_map(serialize(...), iterator_to_array($pipeline->frames($shot), false));
        $acting = static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames);
        self::assertControlsWork($document(90), ['props', '0', 'motion'], $frames, $pipeline->motionHash(...), ['mover'], [], $acting);
        // So fast that it comes to its end. Off, there is nothing that it could move as.
        self::assertControlsWork($document(600), ['props', '0', 'played'], $frames, $pipeline->motionHash(...), ['on'], [], $acting);
        unlink($car);
    }

    /** @return list<string> severities and remedies */
    private static function said(Shot $shot): array
    {
        $said = [];
        foreach (Checks::of($shot, self::pipeline()) as $finding) {
            /** @var Finding $finding */
            $said[] = "{$finding->severity} {$finding->pointer} " . json_encode($finding->remedy['value'] ?? null, JSON_THROW_ON_ERROR);
        }

        return $said;
    }

    public function testWhatCannotBePlayedIsSaid(): void
    {
        self::assertSame([], self::said(self::shot()));
        self::assertSame([], self::said(self::shot(['release' => ['trigger' => 'never']])), 'it moves');
        self::assertContains('stop /props/0/played/on true', self::said(self::shot(['played' => []])));
        self::assertContains('warn /props/0/motion/mover "played"', self::said(self::shot(['motion' => ['mover' => 'rigid']])));
        self::assertContains('stop /props/0/motion/mover null', self::said(self::shot(['source' => ['kind' => 'box']])));
        // A file in which nothing moves.
        $glb = new MovingGlb();
        $still = (string) tempnam(sys_get_temp_dir(), 'still');
        file_put_contents($still, $glb->file(['scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0]], 'meshes' => [['primitives' => [['attributes' => ['POSITION' => $glb->accessor([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], 3)]]]]]]));
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $still]));
        $texts = array_map(static fn (Finding $finding): string => $finding->text, Checks::of(self::shot(), $pipeline));
        self::assertContains('A cannot play its file. Nothing moves in the file.', $texts);
        unlink($still);
    }
}
