<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\GlbScene;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\PieceDirections;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\PlayedPieces;
use YardBreak\Core\Tests\Fixture\MovingGlb;
use YardBreak\Core\Tests\Fixture\Settings;

/** Props that play what moves in their file: a bar that bends and a ball that flies about, from half a second to two. */
final class PlayedTest extends TestCase
{
    use Settings;

    private const ASSET = 'dddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddddd';

    private static string $path;

    private static string $car;

    public static function setUpBeforeClass(): void
    {
        self::$path = (string) tempnam(sys_get_temp_dir(), 'plays');
        file_put_contents(self::$path, MovingGlb::creature());
        self::$car = (string) tempnam(sys_get_temp_dir(), 'drives');
        file_put_contents(self::$car, MovingGlb::drive());
    }

    public static function tearDownAfterClass(): void
    {
        unlink(self::$path);
        unlink(self::$car);
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

    /**
     * @param array<string, mixed> $staged
     * @param array<string, mixed> $release
     * @param array<string, mixed> $played
     * @param array<string, mixed>|null $motion null: staged
     *
     * @return array{Pipeline, Shot} a car of two parts, each a piece that goes a way of its own from frame 7 on, without forces
     */
    private static function car(array $staged, array $release = ['trigger' => 'frame', 'frame' => ['frame' => 7]], array $played = [], ?array $motion = null): array
    {
        $shot = self::shot(['played' => ['on' => true, ...$played], 'source' => ['kind' => 'file', 'file' => ['asset' => self::ASSET, 'fileName' => 'drive.glb']], 'position' => ['y' => 2.0], 'rotation' => ['z' => 30.0], 'break' => ['pattern' => 'parts'], 'release' => $release, 'motion' => $motion ?? ['mover' => 'staged', 'staged' => ['variety' => 0, 'takes' => 1, ...$staged]]], [], ['frames' => 12]);

        return [new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => self::$car])), $shot];
    }

    /** @return list<array{float, float, float}> places of the corners of a piece */
    private static function corners(Pipeline $pipeline, Shot $shot, Frame $frame, int $piece): array
    {
        $broken = $pipeline->broken($shot->props[0]);
        [$mesh, $centre] = [$broken->pieces->mesh($piece), $broken->centre($piece)];
        [$x, $y, $z, $a, $b, $c, $d] = array_map(floatval(...), array_slice($frame->of('a', 'pose'), 7 * $piece, 7));

        return array_map(static fn (float $u, float $v, float $w): array => Quaternion::carried([$x, $y, $z], [$a, $b, $c, $d], [$u - $centre[0], $v - $centre[1], $w - $centre[2]]), array_values($mesh->x), array_values($mesh->y), array_values($mesh->z));
    }

    /**
     * Pieces are at home where the file has them, turned as it turns them.
     *
     * @param array<string, mixed> $motion
     */
    #[TestWith([['mover' => 'staged']])]
    #[TestWith([['mover' => 'light']])]
    public function testPiecesRideOnTheirFile(array $motion): void
    {
        [$pipeline, $shot] = self::car([], ['trigger' => 'never'], [], $motion);
        $scene = GlbScene::open((string) file_get_contents(self::$car));
        foreach ($pipeline->frames($shot) as $number => $frame) {
            $at = 1.0 + ($number - 1) / 24.0;
            $theirs = [];
            foreach (array_keys($scene->parts) as $part) {
                foreach (array_chunk($scene->placed($part, $scene->nodes->places($at), $at)[0], 3) as [$x, $y, $z]) {
                    $theirs[] = Quaternion::carried([0.0, 2.0, 0.0], Quaternion::fromDegrees(0.0, 0.0, 30.0), [$x, $y, $z]);
                }
            }
            foreach ([0, 1] as $piece) {
                foreach (self::corners($pipeline, $shot, $frame, $piece) as $own) {
                    self::assertLessThan(1e-6, min(array_map(static fn (array $at): float => Vector::distance($at, $own), $theirs)), "frame {$number}, piece {$piece}");
                }
            }
        }
    }

    /** Let go they go on as fast as the file moved them; and what sends them off the surface turns with them. */
    public function testPiecesLeaveTheirFileAtItsSpeed(): void
    {
        [$pipeline, $shot] = self::car(['after' => 'frame', 'fallsAt' => 7]);
        $frames = iterator_to_array($pipeline->frames($shot), false);
        [, $led] = self::car([], ['trigger' => 'never']);
        $ridden = iterator_to_array($pipeline->frames($led), false);
        $pieces = PlayedPieces::of($led->props[0], $pipeline->broken($led->props[0]), $pipeline->surfaces) ?? self::fail('it does not play');
        foreach ([0, 1] as $piece) {
            $place = static fn (array $frames, int $n): array => array_map(floatval(...), array_slice($frames[$n]->of('a', 'pose'), 7 * $piece, 3));
            // As fast as in its last step, a third of a frame long.
            $way = Quaternion::rotate(Quaternion::fromDegrees(0.0, 0.0, 30.0), Vector::times(Vector::minus($pieces->at(7.0)[$piece][0], $pieces->at(7.0 - 1.0 / 3.0)[$piece][0]), 3.0));
            self::assertGreaterThan(0.02, Vector::distance($way, [0.0, 0.0, 0.0]));
            self::assertLessThan(1e-6, Vector::distance($way, Vector::times(Vector::minus($place($frames, 10), $place($frames, 7)), 1.0 / 3.0)));
            self::assertGreaterThan(0.02, Vector::distance($place($frames, 10), $place($ridden, 10)), 'it does not follow the file any more');
        }
        [, $sent] = self::car(['normal' => 0.5]);
        [, $still] = self::car(['normal' => 0.5], played: ['starts' => 100]);
        $away = iterator_to_array($pipeline->frames($sent), false);
        $first = iterator_to_array($pipeline->frames($still), false);
        foreach ([0, 1] as $piece) {
            $pose = static fn (array $frames): array => array_map(floatval(...), array_slice($frames[11]->of('a', 'pose'), 7 * $piece, 7));
            [$there, $home] = [$pose($away), $pose($ridden)];
            $off = Vector::minus([$there[0], $there[1], $there[2]], [$home[0], $home[1], $home[2]]);
            self::assertEqualsWithDelta(0.5, Vector::distance($off, [0.0, 0.0, 0.0]), 1e-9);
            $from = array_map(floatval(...), array_slice($first[0]->of('a', 'pose'), 7 * $piece, 7));
            $to = array_map(floatval(...), array_slice($first[11]->of('a', 'pose'), 7 * $piece, 7));
            $turn = Quaternion::multiply([$home[3], $home[4], $home[5], $home[6]], Quaternion::conjugate([$from[3], $from[4], $from[5], $from[6]]));
            $expected = Quaternion::rotate($turn, Vector::minus([$to[0], $to[1], $to[2]], [$from[0], $from[1], $from[2]]));
            self::assertLessThan(1e-9, Vector::distance($expected, $off));
        }
    }

    /** Light ones leave at the speed that they had over the last frame, and off the surface as that is turned by then. */
    public function testLightPiecesLeaveTheirFileAtItsSpeed(): void
    {
        $release = ['trigger' => 'frame', 'frame' => ['frame' => 7]];
        $ways = [];
        foreach ([[], ['normal' => 1.0]] as $start) {
            [$pipeline, $shot] = self::car([], $release, [], ['mover' => 'light', 'light' => ['fallSpeed' => 50, 'variety' => 0, 'tumble' => 0, ...$start]]);
            $frames = iterator_to_array($pipeline->frames($shot), false);
            $broken = $pipeline->broken($shot->props[0]);
            $pieces = PlayedPieces::of($shot->props[0], $broken, $pipeline->surfaces) ?? self::fail('it does not play');
            foreach ([0, 1] as $piece) {
                $place = static fn (int $n): array => array_map(floatval(...), array_slice($frames[$n]->of('a', 'pose'), 7 * $piece, 3));
                $way = Quaternion::rotate(Quaternion::fromDegrees(0.0, 0.0, 30.0), Vector::minus($pieces->at(7.0)[$piece][0], $pieces->at(6.0)[$piece][0]));
                $ways[$start === [] ? 'plain' : 'off'][$piece] = Vector::minus($place(7), $place(6));
                if ($start === []) {
                    // The air has slowed it a little.
                    self::assertLessThan(0.15 * Vector::distance($way, [0.0, 0.0, 0.0]), Vector::distance($way, $ways['plain'][$piece]));
                } else {
                    $off = Vector::unit(Vector::minus($ways['off'][$piece], $ways['plain'][$piece])) ?? self::fail('it is not sent off');
                    $normal = (new PieceDirections($shot->props[0], $broken, $pipeline->surfaces))->offTheSurface($piece);
                    $turned = Quaternion::rotate(Quaternion::multiply(Quaternion::fromDegrees(0.0, 0.0, 30.0), $pieces->at(7.0)[$piece][1]), $normal);
                    self::assertGreaterThan(0.98, Vector::dot($off, $turned));
                    self::assertLessThan(0.98, Vector::dot($off, Quaternion::rotate(Quaternion::fromDegrees(0.0, 0.0, 30.0), $normal)), 'at rest it looked elsewhere');
                }
            }
        }
    }

    /** A core goes along in one piece, and strikes what is in its way there. */
    public function testACoreGoesAlong(): void
    {
        $struck = static function (array $played): float {
            $box = ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => 3.4, 'y' => 0.1, 'z' => -0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'contact', 'contact' => ['speed' => 0.1]], 'motion' => ['mover' => 'rigid']];
            $shot = self::shot(['played' => ['on' => true, ...$played], 'source' => ['kind' => 'file', 'file' => ['asset' => self::ASSET, 'fileName' => 'drive.glb']], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 20]], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'light']], [$box], ['frames' => 30]);
            $frames = iterator_to_array((new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => self::$car])))->frames($shot), false);

            return $frames[29]->readout['released'] ?? 0.0;
        };
        self::assertSame(1.0, $struck([]));
        self::assertSame(0.0, $struck(['starts' => 100]));
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
        $path = (string) tempnam(sys_get_temp_dir(), 'plays');
        // The second so fast that it comes to its end, and with several animations. Off, there is nothing that it could move as.
        foreach ([[MovingGlb::drive(), 12, 90, 'motion', ['mover'], []], [MovingGlb::creature(), 8, 600, 'played', ['on'], ['clip' => ['animation 2']]]] as [$file, $long, $speed, $part, $skip, $others]) {
            file_put_contents($path, $file);
            $document = ['version' => 2, 'frames' => $long, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'file' => ['asset' => self::ASSET, 'fileName' => 'drive.glb']], 'break' => ['pattern' => 'whole'],
                'played' => ['on' => true, 'speed' => $speed], 'motion' => ['mover' => 'played'],
            ], ['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3]], 'position' => ['x' => 0.4, 'y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'rigid']]]];
            $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $path]));
            $frames = static fn (Shot $shot): iterable => array_map(serialize(...), iterator_to_array($pipeline->frames($shot), false));
            $acting = static fn (Shot $shot): string => $pipeline->acting($shot)[1]->upTo($shot->frames);
            self::assertControlsWork($document, ['props', '0', $part], $frames, $pipeline->motionHash(...), $skip, $others, $acting);
        }
        unlink($path);
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
        $broken = ['break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 5]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 4]]];
        self::assertContains(
            'warn /props/0/motion/mover {"mover":"staged","staged":{"takes":1,"variety":0,"after":"end","density":700,"friction":0.6,"restitution":0.1}}',
            self::said(self::shot([...$broken, 'motion' => ['mover' => 'rigid', 'rigid' => ['density' => 700]]])),
        );
        $ride = '{"mover":"staged","staged":{"takes":1,"variety":0,"after":"end","friction":0.4}}';
        self::assertContains("warn /props/0/motion/mover {$ride}", self::said(self::shot($broken)), 'it goes as one');
        self::assertSame([], preg_grep('#/motion#', self::said(self::shot([...$broken, 'motion' => json_decode($ride, true)]))), 'it is mended');
        // Which is how it is left by who lets it play.
        $never = ['release' => ['trigger' => 'never'], ...array_diff_key($broken, ['release' => 0])];
        [$finding] = Checks::of(self::shot($never), self::pipeline());
        self::assertSame('/props/0', $finding->remedy['pointer'] ?? null);
        self::assertIsArray($finding->remedy['value']);
        $frames = self::frames(self::shot([...$never, ...$finding->remedy['value']], more: ['frames' => 14]));
        self::assertSame([0, 5], [$frames[10]->released(), $frames[13]->released()], 'pressed, they come off');
        $flakes = ['pattern' => 'flakes', 'flakes' => ['count' => 20]];
        self::assertContains('warn /props/0/break/flakes/core false', self::said(self::shot(['break' => $flakes, 'motion' => ['mover' => 'light']])));
        $flakes['flakes']['core'] = false;
        self::assertNotContains('warn /props/0/break/flakes/core false', self::said(self::shot(['break' => $flakes, 'motion' => ['mover' => 'light']])));
        self::assertContains('stop /props/0/motion/mover null', self::said(self::shot(['source' => ['kind' => 'box']])));
        // A file in which nothing moves.
        $glb = new MovingGlb();
        $still = (string) tempnam(sys_get_temp_dir(), 'still');
        file_put_contents($still, $glb->file(['scenes' => [['nodes' => [0]]], 'nodes' => [['mesh' => 0]], 'meshes' => [['primitives' => [['attributes' => ['POSITION' => $glb->accessor([0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.0], 3)]]]]]]));
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets([self::ASSET => $still]));
        $texts = array_map(static fn (Finding $finding): string => $finding->text, Checks::of(self::shot(), $pipeline));
        self::assertContains('A cannot play its file. Nothing moves in the file.', $texts);
        unlink($still);
        // An animation that it has no longer.
        self::assertContains('stop /props/0/played/clip ""', self::said(self::shot(['played' => ['on' => true, 'clip' => 'walk']])));
        self::assertSame([], self::said(self::shot(['played' => ['on' => true, 'clip' => 'animation 2']])));
    }
}
