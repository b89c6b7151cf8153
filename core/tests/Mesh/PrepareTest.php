<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Repair;
use YardBreak\Core\Mesh\Subdivision;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\HardMeshes;

final class PrepareTest extends TestCase
{
    public function testASoupWithTurnedFacesADoubledFaceAndAHoleBecomesASolid(): void
    {
        $box = Solids::box(1, 1, 1, 3);
        $stream = RandomStream::named(3, 'soup');
        $x = $y = $z = $triangles = [];
        $kept = 0;
        for ($f = 0; $f < $box->triangleCount(); $f++) {
            if ($f === 40 || $f === 41) {
                continue;
            }
            $corners = array_slice($box->triangles, 3 * $f, 3);
            if ($stream->float() < 0.3) {
                $corners = array_reverse($corners);
            }
            foreach ($f === 7 ? [...$corners, ...$corners] : $corners as $v) {
                $triangles[] = count($x);
                $x[] = $box->x[$v] + 1e-9 * $stream->float();
                $y[] = $box->y[$v];
                $z[] = $box->z[$v];
            }
            $kept++;
        }
        $repair = Repair::of(new TriangleMesh($x, $y, $z, $triangles));
        self::assertTrue(Topology::of($repair->mesh)->isWatertight());
        self::assertSame($box->vertexCount(), $repair->mesh->vertexCount());
        self::assertSame($kept + 2, $repair->mesh->triangleCount());
        self::assertEqualsWithDelta(1.0, MassProperties::of($repair->mesh)->volume, 1e-8);
        $done = implode('; ', $repair->done);
        foreach (['vertices joined', '1 empty or doubled face removed', 'turned around', '1 hole filled'] as $word) {
            self::assertStringContainsString($word, $done);
        }
    }

    public function testASoundMeshStaysAsItIs(): void
    {
        $ball = Normals::computed(Solids::ball(1.0, 6));
        $repair = Repair::of($ball);
        self::assertSame([], $repair->done);
        self::assertEquals($ball->triangles, $repair->mesh->triangles);
    }

    public function testAnInsideOutMeshTurnsAndAHollowLooksInwards(): void
    {
        $ball = Normals::computed(Solids::ball(1.0, 6));
        $outside = $ball->turned(range(0, $ball->triangleCount() - 1));
        self::assertLessThan(0.0, MassProperties::of($outside)->volume);
        $mended = Repair::of($outside)->mesh;
        self::assertEqualsWithDelta(MassProperties::of($ball)->volume, MassProperties::of($mended)->volume, 1e-12);
        foreach ($mended->triangles as $k => $v) {
            self::assertGreaterThan(0.9, ($mended->normals[3 * $k] ?? 0) * $mended->x[$v] + ($mended->normals[3 * $k + 1] ?? 0) * $mended->y[$v] + ($mended->normals[3 * $k + 2] ?? 0) * $mended->z[$v]);
        }
        // A small ball in a large one, both looking outwards: the inner one is a hollow.
        $n = $ball->vertexCount();
        $both = new TriangleMesh(
            [...$ball->x, ...array_map(static fn (float $a): float => 0.5 * $a, $ball->x)],
            [...$ball->y, ...array_map(static fn (float $a): float => 0.5 * $a, $ball->y)],
            [...$ball->z, ...array_map(static fn (float $a): float => 0.5 * $a, $ball->z)],
            [...$ball->triangles, ...array_map(static fn (int $v): int => $v + $n, $ball->triangles)],
        );
        self::assertEqualsWithDelta(0.875 * MassProperties::of($ball)->volume, MassProperties::of(Repair::of($both)->mesh)->volume, 1e-9);
    }

    public function testFlatSubdivisionKeepsTheShape(): void
    {
        $torus = Normals::computed(Solids::torus(1.0, 0.3, 12, 8));
        $fine = Subdivision::flat($torus);
        self::assertSame(4 * $torus->triangleCount(), $fine->triangleCount());
        self::assertTrue(Topology::of($fine)->isWatertight());
        self::assertEqualsWithDelta(MassProperties::of($torus)->volume, MassProperties::of($fine)->volume, 1e-12);
        self::assertCount(9 * $fine->triangleCount(), $fine->normals ?? []);
        self::assertCount(6 * $fine->triangleCount(), $fine->uvs ?? []);
    }

    /** Loop 1987: at a vertex of six neighbours 10/16 of itself and 1/16 of each; on an edge 3/8 of its ends, 1/8 across. */
    public function testSmoothSubdivisionHasLoopsWeights(): void
    {
        // A hexagon about a raised middle, closed by a far point below, so that the middle has six neighbours.
        $x = $y = $z = [];
        for ($k = 0; $k < 6; $k++) {
            [$x[], $y[], $z[]] = [cos($k * M_PI / 3.0), 0.0, sin($k * M_PI / 3.0)];
        }
        [$x[], $y[], $z[]] = [0.0, 1.6, 0.0];
        [$x[], $y[], $z[]] = [0.0, -1.0, 0.0];
        $triangles = [];
        for ($k = 0; $k < 6; $k++) {
            array_push($triangles, $k, 6, ($k + 1) % 6, ($k + 1) % 6, 7, $k);
        }
        $fine = Subdivision::smooth(new TriangleMesh($x, $y, $z, $triangles));
        self::assertEqualsWithDelta(1.6 * 10.0 / 16.0, $fine->y[6], 1e-12);
        // The new vertex on the edge from corner 0 to the middle: across lie corners 1 and 5.
        $found = false;
        foreach ($fine->x as $v => $px) {
            $found = $found || (abs($px - (0.375 * 1.0 + 0.125 * (0.5 + 0.5))) < 1e-12 && abs($fine->y[$v] - 0.375 * 1.6) < 1e-12 && abs($fine->z[$v]) < 1e-12);
        }
        self::assertTrue($found);
        self::assertTrue(Topology::of($fine)->isWatertight());
    }

    /** A ball with a fin on it (three faces in an edge) and a second ball that touches it in a corner: both come out closed. */
    public function testTanglesAreTakenOutAndCornersParted(): void
    {
        $ball = Solids::ball(0.5, 8);
        [$a, $b] = [$ball->triangles[0], $ball->triangles[1]];
        $fin = count($ball->x);
        $finned = new TriangleMesh([...$ball->x, 0.9], [...$ball->y, 0.9], [...$ball->z, 0.9], [...$ball->triangles, $a, $b, $fin]);
        self::assertGreaterThan(0, Topology::of($finned)->crowdedEdgeCount());
        $repair = Repair::of($finned);
        self::assertTrue(Topology::of($repair->mesh)->isWatertight(), implode('; ', $repair->done));
        self::assertEqualsWithDelta(MassProperties::of($ball)->volume, MassProperties::of($repair->mesh)->volume, 0.01);
        self::assertStringContainsString('where more than two met in an edge', implode('; ', $repair->done));

        $box = Solids::box(1, 1, 1, 1);
        $moved = $box->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [1.0, 1.0, 1.0]);
        $both = new TriangleMesh([...$box->x, ...$moved->x], [...$box->y, ...$moved->y], [...$box->z, ...$moved->z], [...$box->triangles, ...array_map(static fn (int $v): int => $v + count($box->x), $moved->triangles)]);
        $repair = Repair::of($both);
        self::assertSame(2, Topology::of($repair->mesh)->parts, 'they touch in one corner, and are two all the same');
        self::assertSame([], $repair->done);

        // The first has a hole, so its rims are joined with what is near: parted again, the hole filled.
        $repair = Repair::of($both->picked(range(1, $both->triangleCount() - 1)));
        self::assertTrue(Topology::of($repair->mesh)->isWatertight());
        self::assertSame(2, Topology::of($repair->mesh)->parts, 'joined in one corner, then parted there');
        self::assertContains('1 vertex parted where only corners or edges touched', $repair->done);
        self::assertEqualsWithDelta(2.0, MassProperties::of($repair->mesh)->volume, 1e-12);
    }

    /** What is sound is left alone: repair moves nothing, whatever touches, is thin, hollow or tiny. */
    #[Group('slow')]
    public function testARepairLeavesWhatIsSound(): void
    {
        foreach (HardMeshes::all() as $name => $make) {
            $mesh = $make();
            $repair = Repair::of($mesh);
            self::assertTrue(Topology::of($repair->mesh)->isWatertight(), $name);
            self::assertEqualsWithDelta(1.0, MassProperties::of($repair->mesh)->volume / MassProperties::of($mesh)->volume, 1e-12, $name);
            self::assertSame($mesh->triangleCount(), $repair->mesh->triangleCount(), $name);
        }
    }

    /** Solids side by side with the face between them there twice become one, in any state of their vertices; a doubled ball becomes one ball. */
    public function testFacesBetweenSolidsGo(): void
    {
        $still = [0.0, 0.0, 0.0, 1.0];
        foreach ([1, 3] as $divisions) {
            $box = Solids::box(1, 1, 1, $divisions);
            $two = TriangleMesh::together([$box, $box->transformed(1.0, $still, [1.0, 0.0, 0.0])]);
            foreach ([$two, $two->joined()] as $mesh) {
                $repair = Repair::of($mesh);
                self::assertTrue(Topology::of($repair->mesh)->isWatertight());
                self::assertSame(1, Topology::of($repair->mesh)->parts);
                self::assertEqualsWithDelta(2.0, MassProperties::of($repair->mesh)->volume, 1e-12);
                self::assertSame($two->triangleCount() - 4 * $divisions ** 2, $repair->mesh->triangleCount());
            }
        }
        // A sheet with two sides, of one triangle and of many, stays a sheet or gets nothing worse.
        $twice = new TriangleMesh([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0], [0, 1, 2, 0, 2, 1]);
        self::assertSame(0.0, MassProperties::of(Repair::of($twice)->mesh)->volume);
        $sheet = Solids::sheet(1, 1, 3);
        self::assertContains('18 empty or doubled faces removed', Repair::of(TriangleMesh::together([$sheet, $sheet->turned(range(0, 17))]))->done);
        $ball = Solids::ball(0.5, 4);
        $repair = Repair::of(TriangleMesh::together([$ball, $ball, $ball->transformed(1.0, $still, [3.0, 0.0, 0.0])]));
        self::assertSame(2, Topology::of($repair->mesh)->parts);
        self::assertSame(2 * $ball->triangleCount(), $repair->mesh->triangleCount());
        self::assertContains('volume -33.3 %', $repair->done, 'what changes the volume of something closed says by how much');
    }

    /** A cube's corner has three faces: rounded, its normals go along the diagonal; a ball's faces are flat if every edge is sharp. */
    public function testEdgesLookSharpFromTheAngleThatIsSaid(): void
    {
        $cube = Solids::box(2, 2, 2, 1);
        $bent = static function (TriangleMesh $mesh): float {
            $least = 1.0;
            foreach ($mesh->triangles as $corner => $v) {
                [$x, $y, $z] = array_slice((array) $mesh->normals, 3 * $corner, 3);
                $least = min($least, ($x * $mesh->x[$v] + $y * $mesh->y[$v] + $z * $mesh->z[$v]) / sqrt($mesh->x[$v] ** 2 + $mesh->y[$v] ** 2 + $mesh->z[$v] ** 2));
            }

            return $least;
        };
        // A face's two triangles may meet at a corner, where they weigh twice: the diagonal to 20 degrees.
        self::assertGreaterThan(cos(deg2rad(20.0)), $bent(Normals::computed($cube, 180.0)));
        foreach ([89.0, Normals::CREASE_DEGREES, 0.0] as $sharp) {
            self::assertEqualsWithDelta(sqrt(1 / 3), $bent(Normals::computed($cube, $sharp)), 1e-12);
        }
        $ball = Solids::ball(1.0, 6);
        self::assertGreaterThan(0.99, $bent(Normals::computed($ball, 180.0)));
        foreach (array_chunk((array) Normals::computed($ball, 0.0)->normals, 9) as $face) {
            // Where two faces of a ball lie in one plane they share it.
            self::assertEqualsWithDelta(array_slice($face, 0, 3), array_slice($face, 3, 3), 1e-6);
            self::assertEqualsWithDelta(array_slice($face, 0, 3), array_slice($face, 6, 3), 1e-6);
        }
    }

    public function testHowEdgesLookIsPartOfTheMeshOnlyIfItIsSaid(): void
    {
        $prepared = static function (array $prepare): array {
            $shot = Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'box'], 'prepare' => $prepare]]]);
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());

            return [$pipeline->preparedHash($shot->props[0]), $pipeline->prepared($shot->props[0])->normals];
        };
        [$plain, $sharp] = $prepared([]);
        self::assertSame($plain, $prepared(['crease' => 170])[0], 'what is not in force counts for nothing');
        [$other, $round] = $prepared(['shading' => 'angle', 'crease' => 170]);
        self::assertNotSame($plain, $other);
        self::assertNotEquals($sharp, $round);
        self::assertEquals($sharp, $prepared(['shading' => 'angle'])[1], 'the standard angle is that of a mesh without a file');
        self::assertEquals($round, $prepared(['shading' => 'round'])[1]);
        self::assertEquals($sharp, $prepared(['shading' => 'sharp'])[1]);
    }
}
