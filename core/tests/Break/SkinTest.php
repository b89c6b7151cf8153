<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\FacesPattern;
use YardBreak\Core\Break\FlakesPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\SkinPattern;
use YardBreak\Core\Break\SurfaceSites;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\PackedMeshes;
use YardBreak\Core\Tests\Fixture\Meshes;

final class SkinTest extends TestCase
{
    /** @return iterable<string, array{TriangleMesh}> */
    public static function meshes(): iterable
    {
        yield 'box' => [Normals::computed(Solids::box(1, 1, 1, 3))];
        yield 'ball' => [Normals::computed(Solids::ball(0.5, 10))];
        yield 'torus' => [Normals::computed(Solids::torus(0.4, 0.15))];
        if (getenv('YARD_BREAK_LONG')) {
            yield 'thin-walled jar' => [Normals::computed(GrainJar::mesh(0.4, 0.011))];
        }
        yield 'vase with a handle' => [Normals::computed(Meshes::vase(20))];
        yield 'open sheet' => [Normals::computed(Solids::sheet(1, 1, 8))];
    }

    /** @return list<TriangleMesh> */
    private static function flakes(SkinPattern $pattern, TriangleMesh $mesh): array
    {
        return array_values(iterator_to_array($pattern->flakes($mesh, new Progress()), false));
    }

    #[Group('slow')]
    #[DataProvider('meshes')]
    public function testFlakesAreClosedEvenAndCoverTheSurface(TriangleMesh $mesh): void
    {
        $area = 0.0;
        foreach ((new FlakesPattern(300, 1, 0.6, 0.0, 0.0))->flakes($mesh, new Progress()) as $sheet) {
            $area += MassProperties::ofSheet($sheet, 1.0)->volume;
        }
        self::assertEqualsWithDelta(MassProperties::ofSheet($mesh, 1.0)->volume, $area, 1e-9 * $area, 'sheets without lift are the surface itself');
        for ($seed = 1; $seed <= (getenv('YARD_BREAK_LONG') ? 4 : 2); $seed++) {
            $flakes = self::flakes(new FlakesPattern(300, $seed, 0.6, 0.002, 0.001), $mesh);
            // Near thin walls and rims a cell may lie on two sides of the prop: then it is two flakes.
            self::assertEqualsWithDelta(300, count($flakes), 50);
            $volumes = [];
            foreach ($flakes as $k => $flake) {
                $topology = Topology::of($flake);
                self::assertTrue($topology->isWatertight(), "flake {$k}: {$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded");
                self::assertSame(1, $topology->parts, "flake {$k}");
                $volumes[] = MassProperties::of($flake)->volume;
            }
            self::assertGreaterThan(0.0, min($volumes));
            $mean = array_sum($volumes) / count($volumes);
            self::assertLessThan(4.0 * $mean, max($volumes));
            self::assertLessThan(8, count(array_filter($volumes, static fn (float $v): bool => $v < 0.1 * $mean)), 'hardly any scraps are left');
        }
    }

    /** A ball's skin from r + lift to r + lift + thickness: its volume by the formula, less what flat triangles lose. */
    #[Group('slow')]
    public function testFlakesHaveTheThicknessAskedFor(): void
    {
        $ball = Normals::computed(Solids::ball(0.5, 40));
        $sum = 0.0;
        foreach ((new FlakesPattern(400, 3, 0.5, 0.01, 0.02))->flakes($ball, new Progress()) as $flake) {
            $sum += MassProperties::of($flake)->volume;
            [$nearest, $farthest] = [INF, 0.0];
            foreach ($flake->x as $i => $x) {
                $r = sqrt($x * $x + $flake->y[$i] ** 2 + $flake->z[$i] ** 2);
                $nearest = min($nearest, $r);
                $farthest = max($farthest, $r);
            }
            self::assertEqualsWithDelta(0.52, $nearest, 4e-4);
            self::assertEqualsWithDelta(0.53, $farthest, 4e-4);
        }
        self::assertEqualsWithDelta(4.0 / 3.0 * M_PI * (0.53 ** 3 - 0.52 ** 3), $sum, 0.003 * $sum);
    }

    /** Edges run along the cells: most of a flake's rim lies inside triangles, not on the mesh's edges. */
    public function testFlakesAreNotCutAlongTheMeshsEdges(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 1));
        $flakes = self::flakes(new FlakesPattern(60, 1, 0.6, 0.0, 0.0), $box);
        $corners = [];
        foreach ($flakes as $flake) {
            foreach ($flake->x as $i => $x) {
                $corners[(string) round($x, 9) . round($flake->y[$i], 9) . round($flake->z[$i], 9)] = true;
            }
        }
        self::assertGreaterThan(100, count($corners), 'twelve triangles have eight corners');
    }

    public function testSitesLieApart(): void
    {
        $ball = Solids::ball(0.5, 16);
        $strewn = new SurfaceSites($ball);
        [$x, $y, $z] = $strewn->strew(500, 0.0, 2);
        self::assertCount(500, $x);
        $least = INF;
        for ($i = 0; $i < 500; $i++) {
            for ($j = 0; $j < $i; $j++) {
                $least = min($least, sqrt(($x[$i] - $x[$j]) ** 2 + ($y[$i] - $y[$j]) ** 2 + ($z[$i] - $z[$j]) ** 2));
            }
        }
        // Dart throwing fills about seven tenths of the densest packing's distance (common practice, no source).
        self::assertGreaterThan(0.55 * $strewn->spacing(500), $least);
    }

    #[Group('slow')]
    public function testSameSeedSameBytes(): void
    {
        $mesh = Normals::computed(Solids::torus(0.4, 0.15));
        $bytes = static fn (int $seed): string => sha1(implode('', PackedMeshes::of((new FlakesPattern(200, $seed, 0.5, 0.004, 0.002))->flakes($mesh, new Progress()))->parts()));
        self::assertSame($bytes(1), $bytes(1));
        self::assertNotSame($bytes(1), $bytes(2));
    }

    public function testEveryFaceIsAPieceAndCutsPartThem(): void
    {
        $ball = Normals::computed(Solids::ball(0.5, 6));
        $plain = self::flakes(new FacesPattern(1, 0, 0, 0.003, 0.0), $ball);
        self::assertCount($ball->triangleCount(), $plain);
        self::assertCount(4 * $ball->triangleCount(), self::flakes(new FacesPattern(1, 0, 1, 0.003, 0.0), $ball));
        $cut = self::flakes(new FacesPattern(1, 8, 0, 0.003, 0.002), $ball);
        self::assertGreaterThan(1.3 * count($plain), count($cut));
        foreach ($cut as $k => $face) {
            self::assertTrue(Topology::of($face)->isWatertight(), "face {$k}");
        }
        $area = static fn (array $faces): float => array_sum(array_map(static fn (TriangleMesh $m): float => MassProperties::ofSheet($m, 1.0)->volume, $faces));
        self::assertEqualsWithDelta($area(self::flakes(new FacesPattern(1, 0, 0, 0.0, 0.0), $ball)), $area(self::flakes(new FacesPattern(1, 8, 0, 0.0, 0.0), $ball)), 1e-9);
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/more than 100,000/');
        self::flakes(new FacesPattern(1, 0, 4, 0.0, 0.0), Solids::ball(0.5, 16));
    }

    public function testTheCoreStaysAndSheetsWeighSomething(): void
    {
        $mesh = Normals::computed(Solids::ball(0.5, 8));
        $broken = BrokenProp::skin('hash', $mesh, (new FlakesPattern(50, 1, 0.5, 0.0, 0.002))->flakes($mesh, new Progress()));
        self::assertTrue($broken->hasCore);
        self::assertSame(MassProperties::of($mesh)->volume, $broken->mass[0]->volume);
        // Half a millimetre of card: a fiftieth of the ball's area each, about; and they sit where they are seen.
        foreach (array_slice($broken->mass, 1) as $k => $mass) {
            self::assertEqualsWithDelta(M_PI * 0.02 * 0.0005, $mass->volume, M_PI * 0.015 * 0.0005);
            [$x, $y, $z] = $mass->centre;
            self::assertEqualsWithDelta(0.5, sqrt($x * $x + $y * $y + $z * $z), 0.02, "flake {$k}");
        }
        $again = BrokenProp::decode('hash', implode('', $broken->encode()));
        self::assertTrue($again->hasCore);
        self::assertEquals(iterator_to_array($broken->pieces), iterator_to_array($again->pieces));
        self::assertEquals([$broken->mass, $broken->sizes, $broken->bounds], [$again->mass, $again->sizes, $again->bounds]);
    }

    /** A thin square plate: handbook moments a2/12 and a2/6 of its mass. */
    public function testASheetHasThePlatesMoments(): void
    {
        $plate = MassProperties::ofSheet(Solids::sheet(2, 2, 5), 0.01);
        self::assertEqualsWithDelta(0.04, $plate->volume, 1e-12);
        self::assertEqualsWithDelta([0.04 * 4.0 / 12.0, 0.04 * 4.0 / 6.0, 0.04 * 4.0 / 12.0], array_slice($plate->inertia, 0, 3), 1e-5);
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $plate->centre, 1e-12);
    }
}
