<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellComplex;
use YardBreak\Core\Break\CellCutting;
use YardBreak\Core\Break\CellDiagramBuilder;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\FacesPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Fracture;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Break\PieceCutter;
use YardBreak\Core\Break\PieceMeshes;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Break\Slivers;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Parting;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Tests\Fixture\HardMeshes;
use YardBreak\Core\Tests\Fixture\WrittenPieces;

/** Solids that touch themselves, crumbs, slivers and evenness; core/bench/hard.php goes through all meshes and patterns. */
final class LastTenthTest extends TestCase
{
    /** @return list<Pattern|SkinPattern> */
    private static function patterns(TriangleMesh $mesh): array
    {
        $s = $mesh->size();
        [$low, $high] = $mesh->bounds();
        $middle = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        $d = (MassProperties::of($mesh)->volume / 60.0) ** (1.0 / 3.0);

        return [
            new CellularPattern(40, 2, 0.3),
            new WebPattern(2, [[$middle[0] + 0.03 * $s, $middle[1] + 0.02 * $s, $middle[2]]], [0.0, 0.0, 1.0], 12, 6, 0.4 * $s, 1.3, 0.0, false),
            new CoursesPattern(CoursesPattern::BRICK, 2, [0.0, 1.0, 0.0], 2.0 * $d, $d, 0.0, 0.5, 0.0, 0.2),
            new CoursesPattern(CoursesPattern::HEXAGON, 2, [0.0, 1.0, 0.0], 1.5 * $d, $d, 0.0, 0.5, 0.0, 0.0),
            new HalvingPattern(3, 0, 2, 0.05),
            new FlakesPattern(80, 2, 0.5, 0.005 * $s, 0.002 * $s, false),
            new FacesPattern(2, 3, 0, 0.004 * $s, 0.0, false),
        ];
    }

    /** @return iterable<string, array{string}> */
    public static function touching(): iterable
    {
        // The others are like one of these.
        foreach (['cubes at an edge', 'nest of boxes', ...getenv('YARD_BREAK_LONG') ? ['checkerboard', 'gear', 'staircase', 'cubes at a corner', 'sponge', 'tunnels'] : []] as $name) {
            yield $name => [$name];
        }
    }

    /** As they are written: closed, outwards, no face that is nothing; together the whole, read back to 1e-9. */
    #[DataProvider('touching')]
    #[Group('slow')]
    public function testWhatTouchesItselfIsBrokenAndWrittenWell(string $name): void
    {
        $mesh = Normals::computed(Parting::whereCrowded(HardMeshes::all()[$name]()));
        $volume = MassProperties::of($mesh)->volume;
        foreach (self::patterns($mesh) as $pattern) {
            $pieces = $pattern instanceof Pattern
                ? array_map(static fn (Piece $piece): TriangleMesh => $piece->mesh, (new Breaker())->break($mesh, $pattern)->pieces)
                : iterator_to_array($pattern->flakes($mesh, new Progress()), false);
            self::assertGreaterThan(5, count($pieces));
            $written = new WrittenPieces(ObjWriter::write(array_map(static fn (TriangleMesh $piece, int $k): array => ["piece-{$k}", $piece], $pieces, array_keys($pieces))));
            self::assertSame([], $written->faults, $name . ', ' . $pattern::class);
            if ($pattern instanceof Pattern) {
                self::assertEqualsWithDelta(1.0, array_sum($written->volumes) / $volume, 1e-9, $pattern::class);
            }
        }
    }

    /**
     * Cuts past places where a solid touches itself, and a hair beside its edges: two corners in one place that only slivers hold
     * apart become one, four places in a row are not turned over between them for ever.
     */
    #[Group('slow')]
    public function testNoFaceIsNothingWhereASolidTouchesItself(): void
    {
        foreach (['rubble' => [new HalvingPattern(0, 16, 1, 0.0), new HalvingPattern(0, 64, 1, 0.0)], 'checkerboard' => [new WebPattern(1, [[0.0, 0.0, 0.0]], [0.0, 0.0, 1.0], 36, 16, 0.7, 1.3, 0.0, false)]] as $name => $patterns) {
            $mesh = Normals::computed(Parting::whereCrowded(HardMeshes::all()[$name]()));
            foreach ($patterns as $pattern) {
                $pieces = (new Breaker())->break($mesh, $pattern)->pieces;
                $written = new WrittenPieces(ObjWriter::write(array_map(static fn (Piece $piece, int $k): array => ["piece-{$k}", $piece->mesh], $pieces, array_keys($pieces))));
                self::assertSame([], $written->faults, $name . ', ' . $pattern::class);
                self::assertEqualsWithDelta(1.0, array_sum($written->volumes) / MassProperties::of($mesh)->volume, 1e-9);
            }
        }
    }

    /** Four places in a row, of which none can be taken out: they are opened by a hair, which nobody sees and no volume feels. */
    public function testWhatCannotBeTakenOutIsOpenedByAHair(): void
    {
        $nest = Normals::computed(Parting::whereCrowded(HardMeshes::all()['nest of boxes']()));
        $squashed = Normals::computed(Parting::whereCrowded(HardMeshes::all()['squashed']()));
        $d = (MassProperties::of($nest)->volume / 25.0) ** (1.0 / 3.0);
        foreach ([
            [$nest, new CoursesPattern(CoursesPattern::ROUND, 1, [0.0, 1.0, 0.0], 2.0 * $d, $d, 0.0, 0.5, 0.0, 0.0)],
            [$squashed, new DrawnPattern(StarterWeb::lines($squashed, 2, 7, 4, 2), 2)],
        ] as [$mesh, $pattern]) {
            $pieces = (new Breaker())->break($mesh, $pattern)->pieces;
            $written = new WrittenPieces(ObjWriter::write(array_map(static fn (Piece $piece, int $k): array => ["piece-{$k}", $piece->mesh], $pieces, array_keys($pieces))));
            self::assertSame([], $written->faults, $pattern::class);
            self::assertEqualsWithDelta(1.0, array_sum($written->volumes) / MassProperties::of($mesh)->volume, 1e-9);
        }
    }

    /** Cubes of any state of neighbours: parted nothing moves, every edge has two faces, and the volume is that of the cubes. */
    public function testPartingMovesNothing(): void
    {
        for ($seed = 1; $seed <= 12; $seed++) {
            $stream = RandomStream::named($seed, 'cubes');
            $filled = array_map(static fn (int $k): bool => $stream->float() < 0.5, range(0, 63));
            $mesh = HardMeshes::voxels(4, static fn (int $i, int $j, int $k): bool => $filled[16 * $i + 4 * $j + $k]);
            self::assertFalse(Topology::of($mesh)->isWatertight());
            $parted = Parting::whereCrowded(Normals::computed($mesh));
            self::assertTrue(Topology::of($parted)->isWatertight(), "seed {$seed}");
            self::assertEqualsWithDelta(count(array_filter($filled)) / 64.0, MassProperties::of($parted)->volume, 1e-12);
            self::assertCount(3 * count($parted->triangles), $parted->normals ?? []);
        }
        $box = Solids::box(1, 1, 1, 2);
        self::assertSame($box, Parting::whereCrowded($box), 'what is sound is not touched');
    }

    /** A place nearly on an edge, one nearly in a corner: the faces between go, nothing opens, the volume stays. */
    public function testSliversGo(): void
    {
        $box = Solids::box(1, 1, 1, 2);
        [$x, $y, $z, $t] = [$box->x, $box->y, $box->z, $box->triangles];
        foreach ([1e-10, 1e-13, 0.0] as $off) {
            foreach ([[0.5, 0.5], [1e-10, 1.0 - 1e-10], [0.31, 0.69]] as $round => [$s, $r]) {
                $f = 3 * (4 + 2 * $round);
                [$a, $b, $c] = [$t[$f], $t[$f + 1], $t[$f + 2]];
                // A new place in the face, a hair beside its edge from a to b.
                $m = count($x);
                foreach ([&$x, &$y, &$z] as &$axis) {
                    $axis[] = (1.0 - $off) * ($r * $axis[$a] + $s * $axis[$b]) + $off * $axis[$c];
                }
                unset($axis);
                [$t[$f], $t[$f + 1], $t[$f + 2]] = [$a, $b, $m];
                array_push($t, $b, $c, $m, $c, $a, $m);
            }
        }
        $mesh = new TriangleMesh($x, $y, $z, $t);
        self::assertTrue(Topology::of($mesh)->isWatertight());
        $before = new WrittenPieces(ObjWriter::write([['a', $mesh]]));
        self::assertSame(['flat face' => 1], $before->faults, 'else the test shows nothing');
        $mended = Slivers::without($mesh);
        self::assertSame([], (new WrittenPieces(ObjWriter::write([['a', $mended]])))->faults);
        self::assertEqualsWithDelta(1.0, MassProperties::of($mended)->volume, 1e-10);
        self::assertLessThan($mesh->triangleCount(), $mended->triangleCount());
        self::assertSame($box, Slivers::without($box));
    }

    /** A sponge's windows lie in line with one another: a cut through it covers none of them, and no triangle lies over another. */
    public function testCutsLeaveWindowsInLineOpen(): void
    {
        $sponge = Normals::computed(HardMeshes::all()['sponge']());
        [$low, $high] = $sponge->bounds();
        foreach ([-0.49, -0.21, -0.05, 0.013, 0.2] as $height) {
            $fracture = Fracture::whole($sponge);
            (new PieceCutter($fracture))->cut(0, new CellCutting(CellDiagramBuilder::general(CellComplex::slabs([0.0, 1.0, 0.0], [$height], $low, $high))));
            $sum = $all = 0.0;
            foreach (array_keys($fracture->back) as $f) {
                if ($fracture->origin[$f] < 0) {
                    $sum += 0.5 * $fracture->cross($f)[1];
                    $all += $fracture->area($f);
                }
            }
            // Sierpinski's carpet of two rounds, or where a row of cubes is missing what is left of it.
            self::assertEqualsWithDelta($all, abs($sum), 1e-9, "at {$height}");
            self::assertGreaterThan(0.19, $all);
        }
    }

    /** Two faces over the same corners, in two pieces: both go, and the pieces still fit. */
    public function testSliversOfTwoPiecesGoTogether(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 4));
        $fracture = Fracture::whole($box);
        (new HalvingPattern(2, 0, 5, 0.0))->cut($fracture, 0, $box, new Progress());
        $shared = array_values(array_filter(array_keys($fracture->back), static fn (int $f): bool => $fracture->front[$f] !== Fracture::OUTSIDE))[0];
        // The face between two pieces becomes three, about a place on its first edge; so the pieces have a sliver each there.
        [$a, $b, $c] = [$fracture->corner[3 * $shared], $fracture->corner[3 * $shared + 1], $fracture->corner[3 * $shared + 2]];
        $m = count($fracture->x);
        [$fracture->x[], $fracture->y[], $fracture->z[]] = [0.5 * ($fracture->x[$a] + $fracture->x[$b]), 0.5 * ($fracture->y[$a] + $fracture->y[$b]), 0.5 * ($fracture->z[$a] + $fracture->z[$b])];
        foreach ([[$a, $b, $m], [$b, $c, $m], [$c, $a, $m]] as $k => $corners) {
            if ($k === 0) {
                array_splice($fracture->corner, 3 * $shared, 3, $corners);
                continue;
            }
            array_push($fracture->corner, ...$corners);
            array_push($fracture->weight, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
            $fracture->back[] = $fracture->back[$shared];
            $fracture->front[] = $fracture->front[$shared];
            $fracture->origin[] = $fracture->origin[$shared];
        }
        $volumes = $fracture->volumes();
        Slivers::remove($fracture);
        self::assertEqualsWithDelta($volumes, $fracture->volumes(), 1e-12);
        foreach (PieceMeshes::of($fracture, $box) as $k => $piece) {
            self::assertTrue(Topology::of($piece)->isWatertight(), "piece {$k}");
        }
        self::assertSame([], (new WrittenPieces(ObjWriter::write(array_map(static fn (TriangleMesh $piece): array => ['p', $piece], PieceMeshes::of($fracture, $box)))))->faults);
    }

    /** The tips of teeth that a cut takes off stay on what they stood out of: no crumbs, and as many pieces as asked for. */
    #[DataProvider('toothed')]
    #[Group('slow')]
    public function testHalvingLeavesNoCrumbs(string $name): void
    {
        $mesh = Normals::computed(HardMeshes::all()[$name]());
        foreach ([new HalvingPattern(0, 40, 1, 0.0), new HalvingPattern(5, 0, 1, 0.0)] as $pattern) {
            $volumes = array_map(static fn (Piece $piece): float => $piece->mass->volume, (new Breaker())->break($mesh, $pattern)->pieces);
            $mean = array_sum($volumes) / count($volumes);
            self::assertLessThanOrEqual(0.02 * count($volumes), count(array_filter($volumes, static fn (float $volume): bool => $volume < 0.01 * $mean)));
            if ($pattern->count > 0) {
                self::assertEqualsWithDelta(40, count($volumes), 2);
            }
        }
    }

    /** @return iterable<string, array{string}> */
    public static function toothed(): iterable
    {
        foreach (['comb', 'gear', 'sponge', 'bur'] as $name) {
            yield $name => [$name];
        }
    }

    /** Evenness 1: from the 5th to the 95th of a hundred within 15 % of the mean, in solids, plates and rods; the focus still has the finer ones. */
    #[Group('long')]
    public function testEvennessOneMeansIt(): void
    {
        $torus = getenv('YARD_BREAK_LONG') ? ['torus' => Solids::torus(0.4, 0.12, 40, 20)] : [];
        foreach (['block' => Solids::box(1, 1, 1, 4), 'plate' => Solids::box(1, 1, 0.02, 4), 'rod' => Solids::box(0.1, 1, 0.1, 2), 'ball' => Solids::ball(0.5, 8), ...$torus] as $name => $mesh) {
            $mesh = Normals::computed($mesh);
            foreach ($name === 'rod' || getenv('YARD_BREAK_LONG') ? [40, 150] : [40] as $count) {
                $volumes = array_map(static fn (Piece $piece): float => $piece->mass->volume, (new Breaker())->break($mesh, new CellularPattern($count, 3, 1.0))->pieces);
                sort($volumes);
                $mean = array_sum($volumes) / count($volumes);
                self::assertGreaterThan(0.85 * $mean, $volumes[intdiv(count($volumes), 20)], "{$name} in {$count}");
                self::assertLessThan(1.15 * $mean, $volumes[count($volumes) - 1 - intdiv(count($volumes), 20)], "{$name} in {$count}");
            }
        }
        $finer = (new Breaker())->break(Normals::computed(Solids::box(1, 1, 1, 4)), new CellularPattern(80, 3, 1.0, focus: [[0.4, 0.4, 0.4]], reach: 0.3, clustering: 0.9));
        $near = array_filter($finer->pieces, static fn (Piece $piece): bool => min($piece->mass->centre) > 0.0);
        self::assertGreaterThan(2 * 80 / 8, count($near), 'an eighth of the block has more than twice its share');
    }

    /** Cells of a power diagram found by way of near sites are those found by trying all. */
    #[Group('slow')]
    public function testAPowerDiagramOfNearSitesIsThatOfAll(): void
    {
        for ($seed = 1; $seed <= 5; $seed++) {
            $stream = RandomStream::named($seed, 'power');
            [$x, $y, $z, $weights] = [[], [], [], []];
            for ($k = 0; $k < 60; $k++) {
                [$x[], $y[], $z[], $weights[]] = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), 0.3 * $stream->float()];
            }
            $complex = CellComplex::power($x, $y, $z, $weights, [-1.0, -1.0, -1.0], [1.0, 1.0, 1.0]);
            $all = CellDiagramBuilder::general($complex)->volumes();
            self::assertEqualsWithDelta($all, CellDiagramBuilder::voronoi($x, $y, $z, $complex, weights: $weights)->volumes(), 1e-12);
            self::assertEqualsWithDelta(8.0, array_sum($all), 1e-12);
            // Of 4,000 places each is in the cell where distance squared less weight is least.
            $count = array_fill(0, 60, 0);
            for ($k = 0; $k < 4000; $k++) {
                $p = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
                $power = array_map(static fn (int $i): float => ($x[$i] - $p[0]) ** 2 + ($y[$i] - $p[1]) ** 2 + ($z[$i] - $p[2]) ** 2 - $weights[$i], range(0, 59));
                $count[(int) array_search(min($power), $power, true)]++;
            }
            foreach ($count as $i => $hits) {
                self::assertEqualsWithDelta($all[$i] / 8.0, $hits / 4000.0, 0.02, "cell {$i}");
            }
        }
    }

    /** A shell whose wall is a millionth of its size has an inside; two balls that poke through each other have not. */
    public function testWallsMayBeThin(): void
    {
        $inner = Solids::ball(0.5 - 1e-6, 8);
        $shell = Normals::computed(HardMeshes::both(Solids::ball(0.5, 8), $inner->turned(range(0, $inner->triangleCount() - 1))));
        self::assertGreaterThan(15, count((new Breaker())->break($shell, new CellularPattern(20, 1, 0.3))->pieces));
        $this->expectExceptionMessage('crosses itself');
        (new Breaker())->break(HardMeshes::both(Solids::ball(0.5, 8), Solids::ball(0.5, 8)->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [0.3, 0.1, 0.0])), new CellularPattern(20, 1, 0.3));
    }

    /** A course with more bricks than its core can have walls is refused beforehand, by what to do. */
    public function testTooManyBricksRoundAboutAreRefused(): void
    {
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/^A course round about would have 314 bricks; at most 240 are laid\. Make them longer\.$/');
        (new Breaker())->break(Normals::computed(Solids::cylinder(0.5, 0.2, 64, 1)), new CoursesPattern(CoursesPattern::ROUND, 1, [0.0, 1.0, 0.0], 0.01, 0.2, 0.0, 0.5, 0.0, 0.0));
    }

    /** Thin, tiny, huge, far away, pointed. */
    #[Group('long')]
    public function testHardMeshesThroughAllThesePatterns(): void
    {
        $wrong = [];
        $all = HardMeshes::all();
        foreach ($all as $name => $make) {
            $mesh = Normals::computed(Parting::whereCrowded($make()));
            foreach (self::patterns($mesh) as $pattern) {
                $pieces = $pattern instanceof Pattern
                    ? array_map(static fn (Piece $piece): TriangleMesh => $piece->mesh, (new Breaker())->break($mesh, $pattern)->pieces)
                    : iterator_to_array($pattern->flakes($mesh, new Progress()), false);
                $written = new WrittenPieces(ObjWriter::write(array_map(static fn (TriangleMesh $piece): array => ['p', $piece], $pieces)));
                $wrong += $written->faults === [] ? [] : ["{$name}, " . $pattern::class => $written->faults];
            }
        }
        self::assertSame([], $wrong);
    }
}
