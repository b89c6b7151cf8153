<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\ClosestPoint;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\PlaneCuts;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Remesh;
use YardBreak\Core\Mesh\Shell;
use YardBreak\Core\Mesh\SurfaceGrid;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

final class RemeshTest extends TestCase
{
    /** @return iterable<string, array{TriangleMesh, int, float}> mesh, triangles wanted, how much volume may change */
    public static function meshes(): iterable
    {
        yield 'a box of twelve triangles' => [Solids::box(1, 1, 1), 1200, 1e-9];
        yield 'a ball, finer' => [Solids::ball(0.5, 10), 3000, 0.005];
        yield 'a ball, coarser' => [Solids::ball(0.5, 24), 800, 0.02];
        yield 'a torus' => [Solids::torus(0.4, 0.15), 2000, 0.02];
        yield 'a thin-walled jar' => [GrainJar::mesh(segments: 48, rings: 40), 3000, 0.03];
    }

    #[Group('slow')]
    #[DataProvider('meshes')]
    public function testTrianglesAreEvenOnTheSameSurface(TriangleMesh $mesh, int $count, float $change): void
    {
        $even = Remesh::to($mesh, $count);
        self::assertEqualsWithDelta($count, $even->triangleCount(), 0.15 * $count);
        $topology = Topology::of($even);
        self::assertTrue($topology->isWatertight(), "{$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded");
        self::assertSame(Topology::of($mesh)->parts, $topology->parts);
        $volume = MassProperties::of($mesh)->volume;
        self::assertEqualsWithDelta($volume, MassProperties::of($even)->volume, $change * $volume);
        // Genus stays: vertices - edges + faces.
        $euler = static fn (TriangleMesh $m): int => count(array_unique($m->triangles)) - intdiv($m->triangleCount(), 2);
        self::assertSame($euler($mesh), $euler($even));
        $lengths = self::edges($even);
        $mean = array_sum($lengths) / count($lengths);
        $spread = sqrt(array_sum(array_map(static fn (float $l): float => ($l - $mean) ** 2, $lengths)) / count($lengths));
        self::assertLessThan(0.25, $spread / $mean);
        self::assertGreaterThan(0.25 * $mean, min($lengths));
        self::assertLessThan(2.0 * $mean, max($lengths));
        $surface = new SurfaceGrid($mesh);
        foreach ($even->x as $v => $x) {
            [, [$px, $py, $pz]] = $surface->nearest($x, $even->y[$v], $even->z[$v]);
            self::assertEqualsWithDelta(0.0, hypot($px - $x, $py - $even->y[$v], ) + abs($pz - $even->z[$v]), 1e-9, 'every vertex lies on the old surface');
        }
    }

    /** Each face of the box has its own square of texture: no triangle reaches over two of them. */
    public function testTextureCoordinatesAreNotSmeared(): void
    {
        $box = Solids::box(2, 2, 2, 1);
        $even = Remesh::to($box, 1500);
        $uvs = $even->uvs ?? [];
        self::assertCount(6 * $even->triangleCount(), $uvs);
        foreach (array_chunk($even->triangles, 3) as $f => [$a, $b, $c]) {
            $u = [$even->x[$b] - $even->x[$a], $even->y[$b] - $even->y[$a], $even->z[$b] - $even->z[$a]];
            $w = [$even->x[$c] - $even->x[$a], $even->y[$c] - $even->y[$a], $even->z[$c] - $even->z[$a]];
            $area = 0.5 * sqrt(($u[1] * $w[2] - $u[2] * $w[1]) ** 2 + ($u[2] * $w[0] - $u[0] * $w[2]) ** 2 + ($u[0] * $w[1] - $u[1] * $w[0]) ** 2);
            $k = 6 * $f;
            $painted = 0.5 * (($uvs[$k + 2] - $uvs[$k]) * ($uvs[$k + 5] - $uvs[$k + 1]) - ($uvs[$k + 4] - $uvs[$k]) * ($uvs[$k + 3] - $uvs[$k + 1]));
            // A face of 2 x 2 m shows the whole square once.
            self::assertEqualsWithDelta($area / 4.0, $painted, 1e-9);
        }
    }

    public function testOpenRimsStay(): void
    {
        $sheet = Remesh::to(Solids::sheet(1, 2, 2), 600);
        self::assertSame([[-0.5, 0.0, -1.0], [0.5, 0.0, 1.0]], $sheet->bounds());
        self::assertSame(1, Topology::of($sheet)->parts);
        self::assertEqualsWithDelta(2.0, MassProperties::ofSheet($sheet, 1.0)->volume, 1e-9);
    }

    public function testAShellHasItsThickness(): void
    {
        $ball = Shell::of(Solids::ball(0.5, 30), 0.02, 0.01);
        self::assertTrue(Topology::of($ball)->isWatertight());
        self::assertSame(2, Topology::of($ball)->parts, 'an outer and an inner side');
        self::assertEqualsWithDelta(4.0 / 3.0 * M_PI * (0.53 ** 3 - 0.51 ** 3), MassProperties::of($ball)->volume, 2e-4);
        $box = Shell::of(Solids::box(1, 1, 1), 0.1, 0.0);
        // Walls keep their thickness at edges and corners, as far as one direction can.
        self::assertEqualsWithDelta(1.2 ** 3 - 1.0, MassProperties::of($box)->volume, 0.02);
        $sheet = Shell::of(Solids::sheet(1, 2, 4), 0.02, 0.0);
        self::assertTrue(Topology::of($sheet)->isWatertight(), 'an open sheet becomes a solid');
        self::assertEqualsWithDelta(0.04, MassProperties::of($sheet)->volume, 1e-12);
    }

    public function testCutLinesPartFacesAndKeepTheShape(): void
    {
        foreach ([Normals::computed(Solids::ball(0.5, 6)), Normals::computed(Solids::box(1, 2, 1, 2))] as $mesh) {
            $cut = PlaneCuts::random($mesh, 10, 3);
            self::assertTrue(Topology::of($cut)->isWatertight());
            self::assertGreaterThan(1.5 * $mesh->triangleCount(), $cut->triangleCount());
            self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, MassProperties::of($cut)->volume, 1e-12);
            self::assertCount(9 * $cut->triangleCount(), $cut->normals ?? []);
            self::assertCount(6 * $cut->triangleCount(), $cut->uvs ?? []);
            self::assertEquals($cut, PlaneCuts::random($mesh, 10, 3));
        }
        // Through vertices: nothing is made twice.
        $box = Solids::box(1, 1, 1, 2);
        self::assertEqualsWithDelta($box->triangleCount(), PlaneCuts::cut($box, [1.0, 0.0, 0.0], 0.0)->triangleCount(), 0);
    }

    /** The nearest point is no farther than any of many points of the triangle, and is one of them. */
    public function testClosestPointIsTheClosest(): void
    {
        $stream = RandomStream::named(1, 'closest');
        $point = static fn (): array => [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
        $far = static fn (array $p, array $q): float => ($p[0] - $q[0]) ** 2 + ($p[1] - $q[1]) ** 2 + ($p[2] - $q[2]) ** 2;
        for ($k = 0; $k < 200; $k++) {
            [$p, $a, $b, $c] = [$point(), $point(), $point(), $point()];
            $nearest = ClosestPoint::onTriangle($p, $a, $b, $c);
            $best = INF;
            for ($i = 0; $i <= 40; $i++) {
                for ($j = 0; $i + $j <= 40; $j++) {
                    [$s, $t] = [$i / 40.0, $j / 40.0];
                    $best = min($best, $far($p, array_map(static fn (float $u, float $v, float $w): float => $s * $u + $t * $v + (1.0 - $s - $t) * $w, $a, $b, $c)));
                }
            }
            self::assertLessThanOrEqual($best + 1e-12, $far($p, $nearest));
            self::assertGreaterThan(sqrt($best) - 0.08, sqrt($far($p, $nearest)));
        }
    }

    public function testTheGridFindsTheNearestTriangle(): void
    {
        $mesh = Solids::torus(0.4, 0.15, 20, 10);
        $grid = new SurfaceGrid($mesh);
        $stream = RandomStream::named(2, 'grid');
        for ($k = 0; $k < 100; $k++) {
            [$x, $y, $z] = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
            [, [$px, $py, $pz]] = $grid->nearest($x, $y, $z);
            self::assertEqualsWithDelta(ClosestPoint::distanceSquared($mesh, $x, $y, $z), ($px - $x) ** 2 + ($py - $y) ** 2 + ($pz - $z) ** 2, 1e-12);
        }
    }

    /** @return list<float> */
    private static function edges(TriangleMesh $m): array
    {
        $lengths = [];
        foreach (array_chunk($m->triangles, 3) as $t) {
            foreach ([[0, 1], [1, 2], [2, 0]] as [$i, $j]) {
                $lengths[] = sqrt(($m->x[$t[$i]] - $m->x[$t[$j]]) ** 2 + ($m->y[$t[$i]] - $m->y[$t[$j]]) ** 2 + ($m->z[$t[$i]] - $m->z[$t[$j]]) ** 2);
            }
        }

        return $lengths;
    }
}
