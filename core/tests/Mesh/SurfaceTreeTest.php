<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\ClosestPoint;
use YardBreak\Core\Mesh\LeafDisc;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\TriangleOrder;

final class SurfaceTreeTest extends TestCase
{
    /** What the tree leaves out by boxes and discs is never the nearest: as near as the nearest of all triangles, one by one. */
    public function testTheNearestOfAllIsFound(): void
    {
        foreach ([1e-3, 1.0, 1e4] as $size) {
            $random = RandomStream::named(3, "tree {$size}");
            $mesh = self::jumble($random, $size);
            $tree = SurfaceTree::of($mesh, false);
            for ($n = 0; $n < 300; $n++) {
                $far = $size * 10.0 ** $random->between(-3.0, 4.0);
                $at = [$far * $random->between(-1.0, 1.0), $far * $random->between(-1.0, 1.0), $far * $random->between(-1.0, 1.0)];
                $tree->look($tree->nearest($at[0], $at[1], $at[2], INF), ...$at);
                self::assertEqualsWithDelta(self::brute($mesh, $at), $tree->distance, 1e-12 * ($size + $far));
            }
        }
    }

    /** Pieces that lie against each other at rest, even one within the other, are apart in the tree: when they go their ways no box is around parts of two. */
    public function testPiecesAreSortedOneByOne(): void
    {
        $pieces = [Solids::box(0.5, 0.5, 0.5, 4), self::aside(Solids::box(0.5, 0.5, 0.5, 4), 0.5), Solids::ball(0.3, 6)];
        $whole = TriangleMesh::together($pieces);
        $piece = array_merge(...array_map(static fn (TriangleMesh $mesh, int $k): array => array_fill(0, $mesh->triangleCount(), $k), $pieces, array_keys($pieces)));
        $sorted = (new TriangleOrder($whole))->of($whole);
        self::assertNotNull($sorted);
        [$first, $count, $faces] = $sorted;
        foreach ($count as $node => $own) {
            self::assertLessThan(2, count(array_unique(array_map(static fn (int $face): int => $piece[$face], array_slice($faces, $first[$node], $own)))));
        }
        sort($faces);
        self::assertSame(range(0, $whole->triangleCount() - 1), $faces);
    }

    /** Its triangles sorted as they lie at rest, a bent surface is as far from everywhere as sorted as it stands; also where one of them has lost its area. */
    public function testInAnotherOrderItIsAsFar(): void
    {
        $rest = Solids::ball(1.0, 8);
        $order = new TriangleOrder($rest);
        $random = RandomStream::named(8, 'order');
        foreach ([false, true] as $crushed) {
            $bent = static fn (array $places): array => array_map(static fn (float $place): float => $place + $random->between(-0.1, 0.1), $places);
            [$x, $y, $z] = [$bent($rest->x), $bent($rest->y), $bent($rest->z)];
            if ($crushed) {
                [$a, $b] = [$rest->triangles[0], $rest->triangles[1]];
                [$x[$b], $y[$b], $z[$b]] = [$x[$a], $y[$a], $z[$a]];
            }
            $mesh = new TriangleMesh($x, $y, $z, $rest->triangles);
            self::assertSame($crushed, $order->of($mesh) === null);
            [$plain, $known] = [SurfaceTree::of($mesh, false), SurfaceTree::of($mesh, false, $order)];
            for ($n = 0; $n < 300; $n++) {
                $at = [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
                $plain->look($plain->nearest($at[0], $at[1], $at[2], INF), ...$at);
                $known->look($known->nearest($at[0], $at[1], $at[2], INF), ...$at);
                self::assertEqualsWithDelta($plain->distance, $known->distance, 1e-12);
            }
        }
    }

    public function testADiscIsNeverFartherThanWhatIsInIt(): void
    {
        $random = RandomStream::named(4, 'disc');
        for ($n = 0; $n < 400; $n++) {
            $mesh = self::jumble($random, 1.0, 1 + $n % 8);
            $corners = [];
            foreach (range(0, $mesh->triangleCount() - 1) as $f) {
                [$a, $b, $c] = array_slice($mesh->triangles, 3 * $f, 3);
                array_push($corners, $mesh->x[$a], $mesh->y[$a], $mesh->z[$a], $mesh->x[$b] - $mesh->x[$a], $mesh->y[$b] - $mesh->y[$a], $mesh->z[$b] - $mesh->z[$a]);
                array_push($corners, $mesh->x[$c] - $mesh->x[$a], $mesh->y[$c] - $mesh->y[$a], $mesh->z[$c] - $mesh->z[$a], 0.0, 0.0, 0.0);
            }
            [$cx, $cy, $cz, $nx, $ny, $nz, $radius, $height] = LeafDisc::around($corners, 0, $mesh->triangleCount());
            $far = 10.0 ** $random->between(-2.0, 3.0);
            $at = [$far * $random->between(-1.0, 1.0), $far * $random->between(-1.0, 1.0), $far * $random->between(-1.0, 1.0)];
            [$wx, $wy, $wz] = [$at[0] - $cx, $at[1] - $cy, $at[2] - $cz];
            $up = $wx * $nx + $wy * $ny + $wz * $nz;
            $bound = hypot(max(0.0, sqrt(max(0.0, $wx * $wx + $wy * $wy + $wz * $wz - $up * $up)) - $radius), max(0.0, abs($up) - $height));
            self::assertLessThanOrEqual(self::brute($mesh, $at), $bound);
            self::assertGreaterThan(self::brute($mesh, $at) - 2.0 * ($radius + $height) - 1e-9, $bound, 'a bound worth having');
        }
    }

    /** Two triangles back to back face no way, and many in one place cannot be parted: neither is a reason to fail. */
    public function testWhatLiesOverItselfIsFoundToo(): void
    {
        $mesh = new TriangleMesh([0.0, 1.0, 0.0], [0.0, 0.0, 1.0], [0.0, 0.0, 0.0], array_merge(...array_fill(0, 25, [0, 1, 2, 0, 2, 1])));
        $tree = SurfaceTree::of($mesh, false);
        $tree->look($tree->nearest(0.2, 0.2, 3.0, INF), 0.2, 0.2, 3.0);
        self::assertEqualsWithDelta(3.0, $tree->distance, 1e-15);
        self::assertSame(-1, $tree->nearest(0.2, 0.2, 3.0, 2.9));
    }

    /** A tree that is asked as if it were larger answers as one made of a larger mesh. */
    public function testGrownItIsThatOfALargerMesh(): void
    {
        $mesh = Solids::torus(0.6, 0.2, 24, 10);
        $grown = SurfaceTree::of($mesh, true)->grown(1.5)->grown(2.0);
        $large = SurfaceTree::of($mesh->scaled([3.0, 3.0, 3.0]), true);
        self::assertEquals($large->bounds(), $grown->bounds());
        $random = RandomStream::named(5, 'grown');
        for ($n = 0; $n < 300; $n++) {
            [$x, $y, $z] = [$random->between(-3.0, 3.0), $random->between(-1.0, 1.0), $random->between(-3.0, 3.0)];
            self::assertSame($large->nearest($x, $y, $z, 0.5) < 0, ($found = $grown->nearest($x, $y, $z, 0.5)) < 0);
            $found = $grown->nearest($x, $y, $z, INF);
            $large->look($large->nearest($x, $y, $z, INF), $x, $y, $z);
            $grown->look($found, $x, $y, $z);
            self::assertEqualsWithDelta([$large->distance, $large->nx, $large->ny, $large->nz], [$grown->distance, $grown->nx, $grown->ny, $grown->nz], 1e-9);
            [$there, $here] = [$large->crossed($x, $y, $z, -$x, -$y, -$z), $grown->crossed($x, $y, $z, -$x, -$y, -$z)];
            self::assertEqualsWithDelta($there[1] ?? -1.0, $here[1] ?? -1.0, 1e-12);
        }
    }

    public function testKeptItAnswersTheSame(): void
    {
        $tree = SurfaceTree::of(Solids::torus(0.6, 0.2, 24, 10), true);
        $kept = SurfaceTree::unpacked($tree->packed());
        $random = RandomStream::named(6, 'kept');
        for ($n = 0; $n < 200; $n++) {
            [$x, $y, $z] = [$random->between(-1.0, 1.0), $random->between(-0.4, 0.4), $random->between(-1.0, 1.0)];
            self::assertSame($found = $tree->nearest($x, $y, $z, INF), $kept->nearest($x, $y, $z, INF));
            self::assertSame($tree->seat($found, $x, $y, $z), $kept->seat($found, $x, $y, $z));
            $tree->look($found, $x, $y, $z);
            $kept->look($found, $x, $y, $z);
            self::assertSame([$tree->distance, $tree->nx, $tree->ny, $tree->nz], [$kept->distance, $kept->nx, $kept->ny, $kept->nz]);
        }
    }

    /** Triangles of all shapes here and there: even ones, needles, some in one plane. */
    private static function jumble(RandomStream $random, float $size, int $count = 90): TriangleMesh
    {
        $x = $y = $z = [];
        for ($n = 0; $n < $count; $n++) {
            $middle = [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
            $thin = $n % 3 === 0 ? 1e-4 : 0.2;
            for ($corner = 0; $corner < 3; $corner++) {
                $x[] = $size * ($middle[0] + 0.3 * $random->between(-1.0, 1.0));
                $y[] = $size * ($middle[1] + $thin * $random->between(-1.0, 1.0));
                $z[] = $size * ($n % 5 === 0 ? 0.5 : $middle[2] + $thin * $random->between(-1.0, 1.0));
            }
        }

        return new TriangleMesh($x, $y, $z, range(0, 3 * $count - 1));
    }

    /** @param array{float, float, float} $at */
    private static function brute(TriangleMesh $mesh, array $at): float
    {
        return sqrt(ClosestPoint::distanceSquared($mesh, ...$at));
    }

    private static function aside(TriangleMesh $mesh, float $by): TriangleMesh
    {
        return new TriangleMesh(array_map(static fn (float $x): float => $x + $by, $mesh->x), $mesh->y, $mesh->z, $mesh->triangles);
    }
}
