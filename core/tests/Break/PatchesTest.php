<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\PatchesPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** Patches are the surface itself, each in one part, about as large as the others. */
final class PatchesTest extends TestCase
{
    /** @return list<TriangleMesh> */
    private static function patches(TriangleMesh $mesh, PatchesPattern $pattern): array
    {
        return [...$pattern->flakes($mesh, new Progress())];
    }

    private static function area(TriangleMesh $mesh): float
    {
        $sum = 0.0;
        for ($t = 0; $t < $mesh->triangleCount(); $t++) {
            [$x, $y, $z] = $mesh->cross($t);
            $sum += 0.5 * sqrt($x * $x + $y * $y + $z * $z);
        }

        return $sum;
    }

    public function testEveryFaceIsInOnePatchAndEachHangsTogether(): void
    {
        foreach ([Solids::box(1.0, 1.0, 1.0, 10), Solids::torus(1.0, 0.3)] as $mesh) {
            $patches = self::patches($mesh, new PatchesPattern(40, 5, null, 1.0));
            self::assertCount(40, $patches);
            self::assertSame($mesh->triangleCount(), array_sum(array_map(static fn (TriangleMesh $patch): int => $patch->triangleCount(), $patches)));
            self::assertEqualsWithDelta(self::area($mesh), array_sum(array_map(self::area(...), $patches)), 1e-9);
            foreach ($patches as $patch) {
                self::assertCount(1, Topology::parts($patch));
                self::assertGreaterThan(0.2 * self::area($mesh) / 40, self::area($patch));
                self::assertLessThan(3.0 * self::area($mesh) / 40, self::area($patch));
            }
            // Put together again it is the same surface.
            self::assertSame(Topology::of($mesh)->openEdgeCount(), Topology::of(TriangleMesh::together($patches)->joined())->openEdgeCount());
            self::assertGreaterThan(0, Topology::of(TriangleMesh::together($patches))->openEdgeCount());
        }
    }

    public function testTheyAreDrawnOutAlongAnAxis(): void
    {
        $box = Solids::box(1.0, 1.0, 1.0, 30);
        // The upper side alone.
        $mesh = $box->picked(array_values(array_filter(range(0, $box->triangleCount() - 1), static fn (int $t): bool => $box->cross($t)[1] > 1e-6)));
        $long = static function (PatchesPattern $pattern) use ($mesh): float {
            $ratios = [];
            foreach (self::patches($mesh, $pattern) as $patch) {
                [$low, $high] = $patch->bounds();
                $ratios[] = ($high[0] - $low[0]) / max(0.02, $high[2] - $low[2]);
            }
            sort($ratios);

            return $ratios[intdiv(count($ratios), 2)];
        };
        self::assertEqualsWithDelta(1.0, $long(new PatchesPattern(30, 1, null, 1.0)), 0.5);
        self::assertGreaterThan(2.0, $long(new PatchesPattern(30, 1, 0, 6.0)));
        self::assertLessThan(0.5, $long(new PatchesPattern(30, 1, 2, 6.0)));
    }

    public function testTheSeedDecides(): void
    {
        $bytes = static fn (int $seed): string => serialize(self::patches(Solids::torus(1.0, 0.3), new PatchesPattern(20, $seed, null, 1.0)));
        self::assertSame($bytes(3), $bytes(3));
        self::assertNotSame($bytes(3), $bytes(4));
    }

    /** Parts that hang together by nothing have patches each, though fewer are asked for. */
    public function testWhatNothingGrowsToIsAPatchOfItsOwn(): void
    {
        $mesh = TriangleMesh::together([Solids::box(1.0, 1.0, 1.0, 2), Solids::box(0.1, 0.1, 0.1, 1)->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [3.0, 0.0, 0.0])]);
        $patches = self::patches($mesh, new PatchesPattern(2, 1, null, 1.0));
        self::assertSame($mesh->triangleCount(), array_sum(array_map(static fn (TriangleMesh $patch): int => $patch->triangleCount(), $patches)));
        self::assertContains(12, array_map(static fn (TriangleMesh $patch): int => $patch->triangleCount(), $patches));
    }
}
