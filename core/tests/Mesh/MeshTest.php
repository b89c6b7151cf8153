<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\PolygonTriangulator;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\WindingNumber;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

final class MeshTest extends TestCase
{
    /**
     * Handbook solids: volume, height of the centre, moments of inertia about the centre at unit density (any table of
     * moments of inertia; here from memory). Curved solids are polyhedra with a fine division, so they match within the
     * given relative tolerance, which shrinks with the square of the division.
     *
     * @return iterable<string, array{TriangleMesh, float, float, float, float, float}>
     */
    public static function handbook(): iterable
    {
        yield 'box 2 x 3 x 5' => [Solids::box(2, 3, 5, 2), 30.0, 0.0, 30.0 * (9 + 25) / 12, 30.0 * (4 + 25) / 12, 1e-14];
        $v = 4 / 3 * M_PI * 8;
        yield 'ball of radius 2' => [Solids::ball(2, 48), $v, 0.0, 0.4 * $v * 4, 0.4 * $v * 4, 2e-3];
        $v = M_PI * 1.5 ** 2 * 4;
        yield 'cylinder r 1.5 h 4' => [Solids::cylinder(1.5, 4, 192, 4), $v, 0.0, $v * (3 * 1.5 ** 2 + 16) / 12, $v * 1.5 ** 2 / 2, 1e-3];
        $v = M_PI * 4 * 3 / 3;
        yield 'cone r 2 h 3' => [Solids::cone(2, 3, 192, 4), $v, -1.5 + 3 / 4, $v * (3 / 20 * 4 + 3 / 80 * 9), 0.3 * $v * 4, 1e-3];
        $v = 2 * M_PI ** 2 * 3 * 0.5 ** 2;
        yield 'torus R 3 r 0.5' => [Solids::torus(3, 0.5, 192, 96), $v, 0.0, $v * (4 * 9 + 5 * 0.25) / 8, $v * (9 + 0.75 * 0.25), 3e-3];
        // Pyramid with square base a, height h: V = a2h/3, centre h/4 up, Iy = V a2/10, Ix = V (a2/20 + 3h2/80).
        $v = 4 * 3 / 3;
        yield 'pyramid a 2 h 3' => [Solids::pyramid(2, 3), $v, -1.5 + 0.75, $v * (4 / 20 + 3 * 9 / 80), $v * 4 / 10, 1e-14];
    }

    #[DataProvider('handbook')]
    public function testMassPropertiesMatchTheHandbook(TriangleMesh $mesh, float $volume, float $height, float $ix, float $iy, float $tolerance): void
    {
        self::assertTrue(Topology::of($mesh)->isWatertight());
        // Far from the origin and turned about y: volume and inertia must not suffer.
        $moved = $mesh->transformed(1.0, Quaternion::fromDegrees(0.0, 90.0, 0.0), [100.0, 7.0, -40.0]);
        foreach ([[$mesh, $height], [$moved, $height + 7.0]] as [$each, $y]) {
            $mass = MassProperties::of($each);
            self::assertEqualsWithDelta($volume, $mass->volume, $tolerance * $volume + 1e-9 * $volume);
            self::assertEqualsWithDelta($y, $mass->centre[1], $tolerance * 3 + 1e-9);
            self::assertEqualsWithDelta($iy, $mass->inertia[1], $tolerance * $iy * 2 + 1e-9 * $iy);
        }
        self::assertEqualsWithDelta($ix, MassProperties::of($mesh)->inertia[0], 2 * $tolerance * $ix);
        self::assertEqualsWithDelta($ix, MassProperties::of($moved)->inertia[2], 2 * $tolerance * $ix + 1e-9 * $ix);
    }

    public function testTheJarIsOneClosedThinWalledPot(): void
    {
        $jar = GrainJar::mesh();
        $topology = Topology::of($jar);
        self::assertTrue($topology->isWatertight());
        self::assertSame(1, $topology->parts);
        self::assertEqualsWithDelta(20000, $jar->triangleCount(), 500);
        $mass = MassProperties::of($jar);
        self::assertGreaterThan(0.0, $mass->volume);
        // Hollow: its middle is not in the clay, its foot is.
        self::assertEqualsWithDelta(0.0, WindingNumber::at($jar, 0.0, 0.2, 0.0), 1e-9);
        self::assertEqualsWithDelta(1.0, WindingNumber::at($jar, 0.001, 0.005, 0.001), 1e-9);
    }

    /** Of 3 by 1 m with 30 divisions: 30 by 30 long cells, or 30 by 10 square ones; turned the other way as well. */
    /** With one end on its axis an outline makes a hood: one rim, and the area of the cone's side (handbook). */
    public function testAnOutlineThatEndsOffItsAxisIsOpenThere(): void
    {
        $hood = Lathe::turn([[0.3, 0.0], [0.0, 0.4]], 90);
        self::assertEqualsWithDelta(M_PI * 0.3 * 0.5, $hood->area(), 1e-3 * $hood->area());
        self::assertSame(90, Topology::of($hood)->openEdgeCount());
        self::assertTrue(Topology::of(Lathe::turn([[0.3, 0.0], [0.4, 0.1], [0.3, 0.2]], 90))->isWatertight(), 'a ring is closed');
    }

    public function testASheetHasSquareCellsIfAsked(): void
    {
        foreach ([[3.0, 1.0, false, 31 * 31], [3.0, 1.0, true, 31 * 11], [1.0, 3.0, true, 31 * 11], [9.0, 0.1, true, 31 * 2]] as [$width, $depth, $square, $vertices]) {
            $shot = Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => $width, 'depth' => $depth, 'divisions' => 30, 'square' => $square]], 'break' => ['pattern' => 'whole']]]]);
            $mesh = (new Pipeline(new MemoryStore(), new NoAssets()))->broken($shot->props[0])->pieces->mesh(0);
            self::assertSame($vertices, $mesh->vertexCount());
            self::assertEqualsWithDelta([[-0.5 * $width, 0.0, -0.5 * $depth], [0.5 * $width, 0.0, 0.5 * $depth]], $mesh->bounds(), 1e-9);
        }
    }

    public function testOpenAndCrowdedEdgesAreCounted(): void
    {
        $sheet = Topology::of(Solids::sheet(1, 1, 4));
        self::assertSame(16, $sheet->openEdgeCount());
        self::assertFalse($sheet->isWatertight());
        $box = Solids::box(1, 1, 1);
        $twice = new TriangleMesh($box->x, $box->y, $box->z, [...$box->triangles, ...$box->triangles]);
        self::assertSame(18, Topology::of($twice)->crowdedEdgeCount());
    }

    public function testInsideTestAgreesWithTheWindingNumber(): void
    {
        $torus = Solids::torus(1.0, 0.4, 40, 20);
        $inside = new InsideTest($torus);
        $stream = RandomStream::named(3, 'inside');
        $hits = 0;
        for ($i = 0; $i < 400; $i++) {
            [$x, $y, $z] = [$stream->between(-1.5, 1.5), $stream->between(-0.5, 0.5), $stream->between(-1.5, 1.5)];
            $expected = WindingNumber::at($torus, $x, $y, $z) > 0.5;
            self::assertSame($expected, $inside->contains($x, $y, $z), "{$x} {$y} {$z}");
            $hits += (int) $expected;
        }
        self::assertGreaterThan(50, $hits);
    }

    public function testNormalsKeepCreasesSharpAndCurvesSmooth(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1));
        foreach (array_chunk($box->normals ?? [], 3) as $n) {
            self::assertEqualsWithDelta(1.0, max(abs($n[0]), abs($n[1]), abs($n[2])), 1e-12);
        }
        $ball = Normals::computed(Solids::ball(1, 24));
        foreach ($ball->triangles as $k => $v) {
            $dot = ($ball->normals[3 * $k] ?? 0) * $ball->x[$v] + ($ball->normals[3 * $k + 1] ?? 0) * $ball->y[$v] + ($ball->normals[3 * $k + 2] ?? 0) * $ball->z[$v];
            self::assertGreaterThan(0.999, $dot);
        }
    }

    public function testTriangulationFillsARegionWithHoles(): void
    {
        $u = $v = [];
        $loop = static function (float $cx, float $cy, float $r, int $n, bool $hole) use (&$u, &$v): array {
            $chain = [];
            for ($k = 0; $k < $n; $k++) {
                $angle = ($hole ? -1 : 1) * 2 * M_PI * $k / $n;
                $chain[] = count($u);
                $u[] = $cx + $r * cos($angle);
                $v[] = $cy + $r * sin($angle);
            }

            return $chain;
        };
        $loops = [$loop(0, 0, 5, 40, false), $loop(-2, 0, 1, 12, true), $loop(2, 1, 1.2, 15, true), $loop(1, -3, 0.5, 7, true), $loop(20, 0, 1, 9, false)];
        $triangles = PolygonTriangulator::triangulate($loops, $u, $v);
        $area = static fn (int $n, float $r): float => 0.5 * $n * $r * $r * sin(2 * M_PI / $n);
        $expected = $area(40, 5) - $area(12, 1) - $area(15, 1.2) - $area(7, 0.5) + $area(9, 1);
        $sum = 0.0;
        $edges = [];
        for ($k = 0; $k < count($triangles); $k += 3) {
            [$a, $b, $c] = array_slice($triangles, $k, 3);
            $sum += 0.5 * (($u[$b] - $u[$a]) * ($v[$c] - $v[$a]) - ($v[$b] - $v[$a]) * ($u[$c] - $u[$a]));
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$p, $q]) {
                $edges["{$p},{$q}"] = ($edges["{$p},{$q}"] ?? 0) + 1;
            }
        }
        self::assertEqualsWithDelta($expected, $sum, 1e-9);
        foreach ($loops as $chain) {
            foreach ($chain as $k => $p) {
                $q = $chain[($k + 1) % count($chain)];
                self::assertSame(1, $edges["{$p},{$q}"] ?? 0, 'every edge of an outline is used once');
                self::assertArrayNotHasKey("{$q},{$p}", $edges);
            }
        }
    }
}
