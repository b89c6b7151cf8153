<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellComplex;
use YardBreak\Core\Break\CellDiagramBuilder;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Flaps;
use YardBreak\Core\Break\Fracture;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\PieceFaces;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Tests\Fixture\Meshes;
use YardBreak\Core\Tests\Fixture\Soundness;

/** Meshes and cuts that make cutters fail: closed pieces, or a refusal that says why, never a wrong piece. */
final class HardTest extends TestCase
{
    use Soundness;

    /** @return iterable<string, array{TriangleMesh, bool|null}> mesh, and whether it must be refused (null: it may be) */
    public static function meshes(): iterable
    {
        $still = [0.0, 0.0, 0.0, 1.0];
        $ball = Solids::ball(0.5, 8);
        $box = Solids::box(1, 1, 1, 2);
        yield 'two balls that poke through each other' => [self::together($ball, $ball->transformed(1.0, $still, [0.35, 0.05, 0.1])), true];
        yield 'two boxes that share a whole face' => [self::together($box, $box->transformed(1.0, $still, [1.0, 0.0, 0.0])), null];
        yield 'two boxes that touch along an edge' => [self::together($box, $box->transformed(1.0, $still, [1.0, 1.0, 0.0])), null];
        yield 'the same ball twice' => [self::together($ball, $ball), true];
        yield 'a Moebius strip' => [Meshes::moebius(), true];
        yield 'an open sheet' => [Solids::sheet(1, 1, 4), true];
        yield 'needle triangles' => [Solids::box(1, 1e-4, 1e-3, 1), false];
        yield 'a million metres from the origin' => [$box->transformed(1.0, $still, [1e6, -1e6, 1e6]), false];
        yield 'a tenth of a millimetre' => [Solids::ball(0.5e-4, 6), false];
    }

    /** @return list<Pattern> scaled and placed for a mesh */
    private static function patterns(TriangleMesh $mesh, float $off): array
    {
        $s = $mesh->size();
        [$low, $high] = $mesh->bounds();
        $m = [0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])];
        $at = static fn (float $u, float $v): array => [$m[0] + ($u + $off) * $s, $m[1] + ($v + $off) * $s];

        return [
            new CellularPattern(30, 1, 0.3),
            new WebPattern(1, [$m], [0.1, 0.2, 1.0], 9, 4, 0.3 * $s, 1.3, 0.4, false),
            new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.3 * $s, 0.2 * $s, 0.0, 0.5, 0.0, 0.0),
            new HalvingPattern(4, 0, 1, 0.0),
            new GrainPattern(20, 1, 0.3, [0.0, 1.0, 0.0], 5.0, 0.6),
            // Along edges and through vertices where the mesh is a lattice.
            new DrawnPattern([new Line([$at(-2.0, 0.0), $at(2.0, 0.0)]), new Line([$at(-1.0, -1.0), $at(1.0, 1.0)]), new Line([$at(0.0, -2.0), $at(0.0, 2.0)])], 2),
        ];
    }

    #[DataProvider('meshes')]
    #[Group('slow')]
    public function testClosedPiecesOrARefusalWithTheReason(TriangleMesh $mesh, ?bool $refused): void
    {
        $mesh = Normals::computed($mesh);
        foreach (self::patterns($mesh, $refused === null ? 0.03 : 0.0) as $pattern) {
            try {
                $broken = (new Breaker())->break($mesh, $pattern);
                self::assertNotTrue($refused, $pattern::class . ' made pieces of what has no inside');
                self::assertSound($broken, $mesh, $pattern::class);
            } catch (BreakFailed $refusal) {
                self::assertMatchesRegularExpression('/watertight|crosses itself|volumes differ/', $refusal->getMessage(), $pattern::class);
                self::assertNotFalse($refused, $pattern::class . ': ' . $refusal->getMessage());
            }
        }
    }

    /** Flakes need no inside: any surface will do, and each flake is closed. */
    #[DataProvider('meshes')]
    public function testFlakesOfAnySurfaceAreClosed(TriangleMesh $mesh, ?bool $refused): void
    {
        $s = $mesh->size();
        $flakes = iterator_to_array((new FlakesPattern(60, 1, 0.5, 0.005 * $s, 0.002 * $s))->flakes(Normals::computed($mesh), new Progress()));
        self::assertGreaterThan(20, count($flakes));
        foreach ($flakes as $k => $flake) {
            self::assertTrue(Topology::of($flake)->isWatertight(), "flake {$k}" . ($refused === true ? ' of a surface without inside' : ''));
            self::assertGreaterThan(0.0, MassProperties::of($flake)->volume, "flake {$k}");
        }
    }

    /** Ties are broken by the sites' order: of two in one place, one has the cell and the other none. */
    /** Torn cuts that wander as far as they can: closed pieces all the same, without flaps or edges with four faces. */
    #[Group('thorough')]
    #[Group('long')]
    public function testCutsThatWanderAsFarAsTheyCan(): void
    {
        foreach ([[6, 0.3, 1.0], [6, 0.15, 1.0], [7, 0.3, 0.0], [3, 0.3, 0.0]] as [$seed, $wander, $jagged]) {
            $broken = (new Breaker())->break(Normals::computed(Solids::box(1, 1, 1, 4)), new HalvingPattern(3, 0, $seed, $wander, $jagged));
            self::assertGreaterThan(7, count($broken->pieces));
            $volume = 0.0;
            foreach ($broken->pieces as $k => $piece) {
                $topology = Topology::of($piece->mesh);
                self::assertTrue($topology->isWatertight(), "seed {$seed}, piece {$k}: {$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded edges");
                $volume += $piece->mass->volume;
            }
            self::assertEqualsWithDelta(1.0, $volume, 1e-9);
        }
    }

    /** Where a cut can neither wander nor be straight the piece stays, nothing is half done, and it is said; without wandering it is refused. */
    public function testACutThatCannotWanderIsSaid(): void
    {
        // A box whose walls along y are missing: no cut across them closes.
        $box = Solids::box(1, 1, 1, 2);
        $open = $box->picked(array_values(array_filter(range(0, $box->triangleCount() - 1), static fn (int $f): bool => abs($box->cross($f)[2]) > 1e-9)));
        $fracture = Fracture::whole($open);
        $before = $fracture->faceCount();
        (new HalvingPattern(1, 0, 3, 0.1))->cut($fracture, 0, $open, new Progress());
        self::assertSame(1, $fracture->pieces);
        self::assertGreaterThanOrEqual($before, $fracture->faceCount());
        self::assertCount(1, $fracture->notes);
        self::assertStringStartsWith('1 of the cuts could not wander', $fracture->notes[0]);
        $this->expectException(BreakFailed::class);
        (new HalvingPattern(1, 0, 3, 0.0))->cut(Fracture::whole($open), 0, $open, new Progress());
    }

    /** A flap between two faces goes, and what lies on their other sides meets; an edge with four faces becomes two. */
    public function testFlapsAreTakenOff(): void
    {
        // A pyramid (vertices 0 to 3) with a flap of two triangles over 0, 1, 4 sticking out of its edge 0-1.
        $fracture = Fracture::whole(new TriangleMesh([0.0, 1.0, 0.0, 0.0, 0.5], [0.0, 0.0, 1.0, 0.0, -1.0], [0.0, 0.0, 0.0, 1.0, 0.0], [0, 2, 1, 1, 2, 3, 0, 3, 2, 0, 1, 3, 0, 1, 4, 0, 4, 1]));
        $volume = $fracture->volumes()[0];
        self::assertSame(1, Flaps::fold(new PieceFaces($fracture), [0]));
        self::assertSame(0, Flaps::fold(new PieceFaces($fracture), [0]));
        self::assertCount(4, (new PieceFaces($fracture))->of(0));
        self::assertEqualsWithDelta($volume, $fracture->volumes()[0], 1e-15);
    }

    public function testTwoSitesInOnePlaceShareNothing(): void
    {
        [$x, $y, $z] = [[0.1, 0.1, -0.3], [0.2, 0.2, 0.0], [0.0, 0.0, 0.1]];
        $diagram = CellDiagramBuilder::voronoi($x, $y, $z, CellComplex::voronoi($x, $y, $z, [-1.0, -1.0, -1.0], [1.0, 1.0, 1.0]));
        $volumes = $diagram->volumes();
        self::assertEqualsWithDelta(0.0, min($volumes[0], $volumes[1]), 1e-12);
        self::assertEqualsWithDelta(8.0, array_sum($volumes), 1e-12);
        $pieces = MeshCutter::cut(Normals::computed(Solids::box(1, 1, 1)), $diagram);
        self::assertCount(2, $pieces);
    }

    /** Sites on the mesh's own vertices, so that walls run half-way between them, through the mesh's edges and vertices. */
    public function testSitesOnVerticesAndWallsThroughVerticesAndEdges(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 4));
        $sites = [$box->x, $box->y, $box->z];
        $complex = CellComplex::voronoi($sites[0], $sites[1], $sites[2], [-0.6, -0.6, -0.6], [0.6, 0.6, 0.6]);
        $volume = 0.0;
        foreach (MeshCutter::cut($box, CellDiagramBuilder::voronoi($sites[0], $sites[1], $sites[2], $complex)) as $k => $piece) {
            $topology = Topology::of($piece->mesh);
            self::assertTrue($topology->isWatertight(), "piece {$k}: {$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded");
            $volume += $piece->mass->volume;
        }
        self::assertEqualsWithDelta(1.0, $volume, 1e-12);
        $slabs = CellComplex::slabs([1.0, 0.0, 0.0], [-0.25, 0.0, 0.25], [-0.6, -0.6, -0.6], [0.6, 0.6, 0.6]);
        $pieces = MeshCutter::cut($box, CellDiagramBuilder::general($slabs));
        self::assertCount(4, $pieces);
        foreach ($pieces as $piece) {
            self::assertEqualsWithDelta(0.25, $piece->mass->volume, 1e-12);
        }
    }

    private static function together(TriangleMesh $a, TriangleMesh $b): TriangleMesh
    {
        $base = count($a->x);

        return new TriangleMesh([...$a->x, ...$b->x], [...$a->y, ...$b->y], [...$a->z, ...$b->z], [...$a->triangles, ...array_map(static fn (int $i): int => $i + $base, $b->triangles)]);
    }
}
