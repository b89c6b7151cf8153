<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\EdgeInserter;
use YardBreak\Core\Break\Fracture;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Break\PieceFaces;
use YardBreak\Core\Break\PieceRefiner;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\WallFiller;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** What is done to the faces of a fracture while it is made: nothing moves, everything keeps fitting. */
final class WallTest extends TestCase
{
    /** @return iterable<string, array{Pattern, float}> */
    public static function walls(): iterable
    {
        yield 'flat walls' => [new CellularPattern(12, 3, 0.2), 0.06];
        yield 'flat walls, coarse' => [new CellularPattern(30, 4, 0.0), 0.3];
        yield 'curved walls' => [new GrainPattern(6, 2, 0.3, [0.0, 1.0, 0.0], 8.0, 0.7, [[0.0, -0.5, 0.0], [0.06, 0.0, 0.0], [0.0, 0.5, 0.0]]), 0.06];
    }

    #[DataProvider('walls')]
    public function testWallsGetEvenTriangles(Pattern $pattern, float $fineness): void
    {
        $fracture = self::broken(Solids::box(0.9, 1.0, 0.8, 2), $pattern);
        $before = $fracture->volumes();
        $old = count($fracture->x);
        $area = self::innerArea($fracture);
        $new = (new WallFiller(new PieceFaces($fracture)))->fill(range(0, $fracture->pieces - 1), $fineness, static fn (int $f): bool => $fracture->origin[$f] < 0);
        self::assertFits($fracture);
        // A curved wall is a polyhedron, whose edges may run otherwise now: what one side loses the other gains.
        self::assertEqualsWithDelta(array_sum($before), array_sum($fracture->volumes()), 1e-12);
        self::assertEqualsWithDelta($area, self::innerArea($fracture), 2e-3 * $area);
        $inside = array_filter($new, static fn (int $v): bool => $v >= $old);
        self::assertSame(count($new), count($inside), 'vertices that were there stay where they are');
        $lengths = self::innerEdges($fracture);
        sort($lengths);
        self::assertLessThan(1.16 * $fineness, $lengths[(int) (0.99 * count($lengths))], 'twice the largest circle at most, nearly everywhere');
        // 0.43 of the square of a side is an even triangle's area.
        $triangles = count(array_filter($fracture->origin, static fn (int $o, int $f): bool => $o < 0 && $fracture->back[$f] !== Fracture::GONE, ARRAY_FILTER_USE_BOTH));
        self::assertLessThan(6.0 * $area / (0.433 * $fineness ** 2) + 40 * $fracture->pieces, $triangles, 'not many more than it takes');
    }

    public function testFlatWallsKeepTheirPiecesVolumes(): void
    {
        $fracture = self::broken(Solids::torus(0.6, 0.25, 24, 12), new CellularPattern(15, 3, 0.2));
        $before = $fracture->volumes();
        (new WallFiller(new PieceFaces($fracture)))->fill(range(0, $fracture->pieces - 1), 0.05, static fn (int $f): bool => $fracture->origin[$f] < 0);
        self::assertEqualsWithDelta($before, $fracture->volumes(), 1e-12);
        self::assertFits($fracture);
    }

    /** Bumps finer than anyone can keep or look at are made as fine as is possible, and that is said. */
    #[Group('thorough')]
    #[Group('long')]
    public function testTooFineBumpsAreMadeCoarser(): void
    {
        $broken = (new Breaker(roughness: 0.5, fineness: 0.0005))->break(Normals::computed(Solids::box(1, 1, 1, 1)), new HalvingPattern(1, 0, 1, 0.0));
        self::assertCount(1, $broken->notes);
        self::assertMatchesRegularExpression('/^Edges of 0.5 mm would divide the fresh faces into [\d,]+ triangles. They are made \S+ mm here.$/', $broken->notes[0]);
        $triangles = array_sum(array_map(static fn (Piece $p): int => $p->mesh->triangleCount(), $broken->pieces));
        self::assertGreaterThan(2 * 120_000, $triangles);
        self::assertLessThan(2 * 180_000, $triangles);
        self::assertEqualsWithDelta(1.0, array_sum(array_map(static fn (Piece $p): float => $p->mass->volume, $broken->pieces)), 1e-9);
        self::assertSame([], (new Breaker(roughness: 0.5, fineness: 0.05))->break(Normals::computed(Solids::box(1, 1, 1, 1)), new HalvingPattern(1, 0, 1, 0.0))->notes);
    }

    /** Every way to put vertices on the sides of a triangle: the same area, no face turned or flat, weights as the places say. */
    public function testVerticesOnEdgesAreTakenIn(): void
    {
        foreach ([[1, 0, 0], [0, 2, 0], [1, 1, 0], [3, 0, 2], [1, 1, 1], [5, 2, 4], [0, 7, 1]] as $counts) {
            $fracture = Fracture::whole(Solids::box(2, 3, 1));
            $faces = new PieceFaces($fracture);
            $corners = array_slice($fracture->corner, 0, 3);
            $inserted = [];
            foreach ($counts as $side => $count) {
                [$a, $b] = [$corners[$side], $corners[($side + 1) % 3]];
                [$low, $high] = [min($a, $b), max($a, $b)];
                for ($k = 1; $k <= $count; $k++) {
                    $s = $k / ($count + 1);
                    $inserted[EdgeInserter::key($a, $b)][] = count($fracture->x);
                    $fracture->x[] = $fracture->x[$low] + $s * ($fracture->x[$high] - $fracture->x[$low]);
                    $fracture->y[] = $fracture->y[$low] + $s * ($fracture->y[$high] - $fracture->y[$low]);
                    $fracture->z[] = $fracture->z[$low] + $s * ($fracture->z[$high] - $fracture->z[$low]);
                }
            }
            $source = Solids::box(2, 3, 1);
            (new EdgeInserter($faces))->insert($inserted, [0]);
            self::assertFits($fracture);
            self::assertEqualsWithDelta(6.0, $fracture->volumes()[0], 1e-12);
            self::assertCount($source->triangleCount() + 2 * array_sum($counts), $faces->of(0), 'each vertex on an edge makes two faces more');
            foreach ($faces->of(0) as $face) {
                self::assertGreaterThan(1e-3, $fracture->area($face));
                self::assertPlacesFollowFromWeights($fracture, $source, $face);
            }
        }
    }

    public function testHalvingEdgesKeepsTheSkin(): void
    {
        $source = Solids::ball(0.5, 5);
        $fracture = Fracture::whole($source);
        $faces = new PieceFaces($fracture);
        $volume = $fracture->volumes()[0];
        $new = (new PieceRefiner($faces))->refine([0], 0.08, static fn (int $f): bool => $fracture->y[$fracture->corner[3 * $f]] > 0.1);
        self::assertGreaterThan(50, count($new));
        self::assertEqualsWithDelta($volume, $fracture->volumes()[0], 1e-12);
        self::assertFits($fracture);
        foreach ($faces->of(0) as $face) {
            self::assertPlacesFollowFromWeights($fracture, $source, $face);
        }
    }

    private static function broken(TriangleMesh $mesh, Pattern $pattern): Fracture
    {
        $fracture = Fracture::whole($mesh);
        $pattern->cut($fracture, 0, $mesh, new Progress());

        return $fracture;
    }

    /** Each directed edge of a piece has its opposite: every piece is closed and oriented. */
    private static function assertFits(Fracture $fracture): void
    {
        $balance = [];
        foreach ($fracture->back as $f => $back) {
            if ($back === Fracture::GONE) {
                continue;
            }
            foreach ([0, 1, 2] as $e) {
                [$a, $b] = [$fracture->corner[3 * $f + $e], $fracture->corner[3 * $f + ($e + 1) % 3]];
                $sign = $a < $b ? 1 : -1;
                $key = EdgeInserter::key($a, $b);
                $balance[$back][$key] = ($balance[$back][$key] ?? 0) + $sign;
                if ($fracture->front[$f] !== Fracture::OUTSIDE) {
                    $balance[$fracture->front[$f]][$key] = ($balance[$fracture->front[$f]][$key] ?? 0) - $sign;
                }
            }
        }
        foreach ($balance as $piece => $edges) {
            self::assertSame([], array_filter($edges), "piece {$piece} is closed");
        }
    }

    /** A face of the skin remembers where its corners lie in the triangle it came from. */
    private static function assertPlacesFollowFromWeights(Fracture $f, TriangleMesh $source, int $face): void
    {
        [$a, $b, $c] = array_slice($source->triangles, 3 * $f->origin[$face], 3);
        foreach ([0, 1, 2] as $k) {
            [$s, $t] = [$f->weight[6 * $face + 2 * $k], $f->weight[6 * $face + 2 * $k + 1]];
            $v = $f->corner[3 * $face + $k];
            self::assertEqualsWithDelta($s * $source->x[$a] + $t * $source->x[$b] + (1.0 - $s - $t) * $source->x[$c], $f->x[$v], 1e-12);
            self::assertEqualsWithDelta($s * $source->y[$a] + $t * $source->y[$b] + (1.0 - $s - $t) * $source->y[$c], $f->y[$v], 1e-12);
        }
    }

    private static function innerArea(Fracture $f): float
    {
        $sum = 0.0;
        foreach ($f->back as $face => $back) {
            $sum += $back !== Fracture::GONE && $f->origin[$face] < 0 ? $f->area($face) : 0.0;
        }

        return $sum;
    }

    /** @return non-empty-list<float> */
    private static function innerEdges(Fracture $f): array
    {
        $lengths = [];
        foreach ($f->back as $face => $back) {
            if ($back === Fracture::GONE || $f->origin[$face] >= 0) {
                continue;
            }
            foreach ([0, 1, 2] as $e) {
                [$a, $b] = [$f->corner[3 * $face + $e], $f->corner[3 * $face + ($e + 1) % 3]];
                $lengths[] = sqrt(($f->x[$a] - $f->x[$b]) ** 2 + ($f->y[$a] - $f->y[$b]) ** 2 + ($f->z[$a] - $f->z[$b]) ** 2);
            }
        }
        self::assertNotSame([], $lengths);

        return $lengths;
    }

    /** What bends is as finely divided where it was broken as where it was not: a flat wall of a few long triangles would not fold, and be thrown about for ever. */
    public function testFreshFacesOfWhatFoldsAreAsFineAsTheSurface(): void
    {
        $ball = Solids::ball(0.5, 8);
        foreach ([false, true] as $folds) {
            $pieces = (new Breaker(folds: $folds))->break($ball, new CellularPattern(3, 1, 0.3))->pieces;
            $longest = 0.0;
            foreach ($pieces as $piece) {
                MeshCutter::requireSolid($piece->mesh);
                foreach ($piece->mesh->triangles as $c => $a) {
                    $b = $piece->mesh->triangles[$c % 3 === 2 ? $c - 2 : $c + 1];
                    $longest = max($longest, Vector::distance([$piece->mesh->x[$a], $piece->mesh->y[$a], $piece->mesh->z[$a]], [$piece->mesh->x[$b], $piece->mesh->y[$b], $piece->mesh->z[$b]]));
                }
            }
            self::assertSame($folds, $longest < 2.0 * $ball->meanEdge(), sprintf('%.2f mean edges', $longest / $ball->meanEdge()));
            self::assertEqualsWithDelta(MassProperties::of($ball)->volume, array_sum(array_map(static fn (Piece $piece): float => MassProperties::of($piece->mesh)->volume, $pieces)), 1e-9);
        }
    }
}
