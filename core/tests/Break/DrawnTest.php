<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\Lock;
use YardBreak\Core\Break\PictureDensity;
use YardBreak\Core\Break\PicturePattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Tests\Fixture\Soundness;

final class DrawnTest extends TestCase
{
    use Soundness;

    /** A board of 2 x 1 x 0.1 m. */
    private static function board(): TriangleMesh
    {
        return Normals::computed(Solids::box(2, 1, 0.1, 2));
    }

    /**
     * @param list<Line> $lines
     *
     * @return list<float> volumes, smallest first
     */
    private static function volumes(array $lines, int $axis = 2): array
    {
        return self::sorted((new Breaker())->break(self::board(), new DrawnPattern($lines, $axis)));
    }

    /** @return list<float> */
    private static function sorted(Broken $broken): array
    {
        $volumes = array_map(static fn (Piece $piece): float => round($piece->mass->volume, 9), $broken->pieces);
        sort($volumes);

        return $volumes;
    }

    /** Areas of school geometry, times the depth. */
    public function testPiecesHaveTheAreasThatWereDrawn(): void
    {
        self::assertEqualsWithDelta([0.05, 0.15], self::volumes([new Line([[-0.5, -0.5], [-0.5, 0.5]])]), 1e-9, 'straight through');
        self::assertEqualsWithDelta([0.025, 0.025, 0.05, 0.1], self::volumes([new Line([[0.0, -0.5], [0.0, 0.5]]), new Line([[-0.5, -0.5], [-0.5, 0.5]]), new Line([[-1.0, 0.0], [-0.5, 0.0]])]), 1e-9, 'a line may end on another');
        self::assertEqualsWithDelta([0.004, 0.196], self::volumes([new Line([[0.1, -0.1], [0.3, -0.1], [0.3, 0.1], [0.1, 0.1]], true)]), 1e-9, 'a loop inside is a piece');
        self::assertEqualsWithDelta([0.05, 0.05, 0.05, 0.05], self::volumes([new Line([[-1.0, 0.0], [1.0, 0.0]]), new Line([[0.0, -0.5], [0.0, 0.5]])]), 1e-9, 'lines that cross split each other');
    }

    public function testEndsReachLinesAndTheRim(): void
    {
        // Half a centimetre short of the rim, and a hair short of another line.
        $through = new Line([[0.0, -0.495], [0.0, 0.496]]);
        self::assertEqualsWithDelta([0.1, 0.1], self::volumes([$through]), 1e-9);
        self::assertEqualsWithDelta([0.05, 0.05, 0.1], self::volumes([$through, new Line([[1e-5, 0.0], [0.993, 0.0]])]), 1e-5);
    }

    public function testLinesThatEndInTheOpenCutNothingAndAreTold(): void
    {
        $broken = (new Breaker())->break(self::board(), new DrawnPattern([new Line([[-0.5, -0.5], [-0.5, 0.5]]), new Line([[0.1, 0.1], [0.4, 0.2]])], 2));
        self::assertCount(2, $broken->pieces);
        self::assertSame(['2 ends of lines lie in the open and cut nothing there.'], $broken->notes);
        $half = (new Breaker())->break(self::board(), new DrawnPattern([new Line([[-0.5, -0.5], [-0.5, 0.2]])], 2));
        self::assertCount(1, $half->pieces);
        self::assertSame(['One end of a line lies in the open and cuts nothing there.'], $half->notes);
    }

    /** A line from the rim into a hole, alone, parts nothing: there is a way round. A second one does. */
    public function testOneCutThroughARingIsNoPiece(): void
    {
        $ring = Normals::computed(Solids::torus(0.4, 0.1, 32, 12));
        $cut = new Line([[0.0, 0.2], [0.0, 0.6]]);
        // Seen from above: the drawing's axes are z and x.
        $one = (new Breaker())->break($ring, new DrawnPattern([$cut], 1));
        self::assertCount(1, $one->pieces);
        $two = (new Breaker())->break($ring, new DrawnPattern([$cut, new Line([[0.0, -0.2], [0.0, -0.6]])], 1));
        self::assertCount(2, $two->pieces);
        self::assertSound($two, $ring, 'ring');
        self::assertEqualsWithDelta($two->pieces[0]->mass->volume, $two->pieces[1]->mass->volume, 1e-6);
    }

    public function testEachSideCanBeDrawnOn(): void
    {
        foreach ([0 => 0.1, 1 => 2.0, 2 => 0.1] as $axis => $span) {
            $line = new Line([[-3.0, 0.0], [3.0, 0.0]]);
            self::assertCount(2, (new Breaker())->break(self::board(), new DrawnPattern([$line], $axis))->pieces, "axis {$axis} spans {$span}");
        }
    }

    /** Neighbours share their edges exactly: no gap, no overlap, to the bit. */
    public function testPiecesFitWithoutGaps(): void
    {
        $ball = Normals::computed(Solids::ball(0.5, 10));
        $web = StarterWeb::lines($ball, 2, 9, 3, 4);
        self::assertCount(12, $web);
        $broken = (new Breaker())->break($ball, new DrawnPattern($web, 2));
        self::assertGreaterThanOrEqual(36, count($broken->pieces));
        self::assertSound($broken, $ball, 'starter web');
        $rough = (new Breaker(roughness: 0.5, fineness: 0.08))->break($ball, new DrawnPattern($web, 2));
        self::assertSound($rough, $ball, 'rough');
    }

    /** Lines along the mesh's own edges and through its vertices: the hardest input there is. */
    public function testLinesAlongTheMeshsEdges(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 4));
        $lines = [new Line([[-0.25, -0.6], [-0.25, 0.6]]), new Line([[-0.6, 0.0], [0.6, 0.0]]), new Line([[-0.5, -0.5], [0.5, 0.5]]), new Line([[0.25, 0.25], [0.5, 0.0]])];
        $broken = (new Breaker())->break($box, new DrawnPattern($lines, 2));
        self::assertSound($broken, $box, 'lattice');
        self::assertGreaterThanOrEqual(6, count($broken->pieces));
    }

    public function testAPictureIsCutWhereItsTonesChange(): void
    {
        // Left third black, a white disc in the grey rest.
        $tones = [];
        for ($y = 0; $y < 60; $y++) {
            for ($x = 0; $x < 120; $x++) {
                $tones[] = $x < 40 ? 0.0 : (hypot($x - 80, $y - 30) < 15 ? 1.0 : 0.5);
            }
        }
        $broken = (new Breaker())->break(self::board(), new PicturePattern(new ToneMap('a', 120, 60, $tones), 3, 0.005, 2));
        self::assertSound($broken, self::board(), 'picture');
        $disc = M_PI * 0.25 ** 2 * 0.1;
        self::assertEqualsWithDelta([$disc, 0.2 / 3.0, 0.4 / 3.0 - $disc], self::sorted($broken), 0.0015);
    }

    public function testSpecksAreJoinedToWhatLiesAroundThem(): void
    {
        $tones = array_fill(0, 40 * 40, 0.9);
        for ($k = 0; $k < 30; $k++) {
            $tones[53 * $k + 7] = 0.1;
        }
        self::assertCount(1, (new Breaker())->break(self::board(), new PicturePattern(new ToneMap('b', 40, 40, $tones), 2, 0.02, 2))->pieces);
    }

    public function testCellsAreFinerWhereThePictureIsDark(): void
    {
        $tones = [];
        for ($k = 0; $k < 400; $k++) {
            $tones[] = $k % 20 < 10 ? 0.0 : 1.0;
        }
        $count = static function (bool $dark) use ($tones): int {
            $pieces = (new Breaker())->break(self::board(), new CellularPattern(60, 1, 0.2, map: new PictureDensity(new ToneMap('c', 20, 20, $tones), 2, $dark)))->pieces;

            return count(array_filter($pieces, static fn (Piece $piece): bool => $piece->mass->centre[0] < 0.0));
        };
        self::assertGreaterThan(48, $count(true));
        self::assertLessThan(12, $count(false));
    }

    /** What is locked keeps its shape to the bit while the rest breaks another way. */
    public function testLockedPiecesStay(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 2));
        $old = new CellularPattern(20, 4, 0.3);
        $before = (new Breaker())->break($box, $old);
        $halves = (new Breaker())->break($box, new HalvingPattern(3, 0, 1, 0.0));
        $locks = [new Lock($before->pieces[3]->mass->centre, $old), new Lock($before->pieces[7]->mass->centre, $old), new Lock($halves->pieces[2]->mass->centre, new HalvingPattern(3, 0, 1, 0.0))];
        $after = (new Breaker(locks: $locks))->break($box, new CellularPattern(30, 5, 0.3));
        self::assertSound($after, $box, 'locked');
        $volumes = array_map(static fn (Piece $piece): float => $piece->mass->volume, $after->pieces);
        foreach ([3, 7] as $k) {
            self::assertContainsEquals(round($before->pieces[$k]->mass->volume, 13), array_map(static fn (float $v): float => round($v, 13), $volumes));
        }
        self::assertGreaterThanOrEqual(32, count($volumes));
        // The same pattern again: nothing is cut twice.
        self::assertSame(count($before->pieces), count((new Breaker(locks: array_slice($locks, 0, 2)))->break($box, $old)->pieces));
    }
}
