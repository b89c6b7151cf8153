<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\ClosestPoint;
use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Surfaces that cloth touches: asked for their nearest place, and never gone through. */
final class SurfaceTest extends TestCase
{
    /** Faces without area lie on their neighbours' edges: what is asked near them finds the neighbours. */
    public function testFacesWithoutAreaAreLeftOut(): void
    {
        $box = Solids::box(1.0, 1.0, 1.0);
        $split = count($box->x);
        // A corner in the middle of an edge, with a face that is no wider than the edge, and one that is a point.
        $mesh = new TriangleMesh([...$box->x, 0.5 * ($box->x[0] + $box->x[1])], [...$box->y, 0.5 * ($box->y[0] + $box->y[1])], [...$box->z, 0.5 * ($box->z[0] + $box->z[1])], [...$box->triangles, 0, $split, 1, 2, 2, 2]);
        $tree = SurfaceTree::of($mesh, true);
        $plain = SurfaceTree::of($box, true);
        $random = RandomStream::named(1, 'no area');
        for ($n = 0; $n < 200; $n++) {
            $at = [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
            $tree->look($tree->nearest(...[...$at, 10.0, -1]), ...$at);
            $plain->look($plain->nearest(...[...$at, 10.0, -1]), ...$at);
            self::assertEqualsWithDelta($plain->distance, $tree->distance, 1e-12);
        }
    }

    /** Against looking at every triangle, and against the ray test for the side; with and without a seed. */
    #[Group('thorough')]
    public function testNearestPlacesAndSidesAreThoseOfBruteForce(): void
    {
        foreach ([Solids::torus(0.5, 0.2), Solids::box(0.6, 0.3, 0.5, 2), Solids::cone(0.4, 0.7, 6)] as $k => $mesh) {
            $tree = SurfaceTree::of($mesh, true);
            $inside = new InsideTest($mesh);
            $random = RandomStream::named($k, 'surface');
            for ($n = 0; $n < (getenv('YARD_BREAK_LONG') ? 400 : 150); $n++) {
                [$x, $y, $z] = [$random->between(-0.8, 0.8), $random->between(-0.8, 0.8), $random->between(-0.8, 0.8)];
                $expected = sqrt(ClosestPoint::distanceSquared($mesh, $x, $y, $z));
                foreach ([-1, $n % $mesh->triangleCount()] as $seed) {
                    $found = $tree->nearest($x, $y, $z, 10.0, $seed);
                    self::assertGreaterThanOrEqual(0, $found);
                    $tree->look($found, $x, $y, $z);
                    self::assertEqualsWithDelta($expected, abs($tree->distance), 1e-12);
                    self::assertSame($inside->contains($x, $y, $z), $tree->distance < 0.0, "mesh {$k} at {$x} {$y} {$z}");
                    // Back along the direction lies the surface.
                    $back = ClosestPoint::distanceSquared($mesh, $x - $tree->distance * $tree->nx, $y - $tree->distance * $tree->ny, $z - $tree->distance * $tree->nz);
                    self::assertLessThan(1e-10, sqrt($back));
                }
                self::assertSame($expected < 0.05, $tree->nearest($x, $y, $z, 0.05) >= 0, 'a limit finds what is nearer, and only that');
            }
        }
    }

    public function testSharpEdgesAreThoseThatTurnAway(): void
    {
        self::assertCount(12, SurfaceTree::of(Solids::box(1.0, 1.0, 1.0, 1), true)->ridges());
        self::assertCount(0, SurfaceTree::of(Solids::ball(1.0, 12), true)->ridges());
        foreach (SurfaceTree::of(Solids::box(1.0, 1.0, 1.0, 1), true)->ridges() as [$from, $to, $outward]) {
            foreach ([0, 1, 2] as $axis) {
                $middle = 0.5 * ($from[$axis] + $to[$axis]);
                self::assertEqualsWithDelta($middle * sqrt(2.0), $outward[$axis], 1e-9, 'outward from the middle of the box');
            }
        }
    }

    /** A cone has one, upwards; its rim, and the corners of a box, belong to sharp edges. */
    public function testTipsAreWhereItComesToAPoint(): void
    {
        self::assertEqualsWithDelta([[[0.0, 0.5, 0.0], [0.0, 1.0, 0.0]]], SurfaceTree::of(Solids::cone(0.5, 1.0), true)->tips(), 1e-9);
        self::assertEqualsWithDelta([[[0.0, 1.0, 0.0], [0.0, 1.0, 0.0]]], SurfaceTree::of(Solids::cone(0.5, 1.0), true)->grown(2.0)->tips(), 1e-9);
        foreach ([Solids::box(1.0, 1.0, 1.0, 1), Solids::ball(1.0, 12), Solids::cone(2.0, 0.5)] as $mesh) {
            self::assertSame([], SurfaceTree::of($mesh, true)->tips());
        }
    }

    /**
     * A cloth that falls over things that stand, turn and move, and onto the floor.
     *
     * @param array<string, mixed> $below
     *
     * @return list<int> triangles that cross at every fourth frame
     */
    private static function crossings(array $below, int $frames = 44): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'planes' => [['id' => 'floor', 'name' => 'Floor']], 'props' => [
            ['id' => 'cloth', 'name' => 'Cloth', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 24]], 'position' => ['y' => 0.66], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth', 'cloth' => ['gap' => 0.006]]],
            ['id' => 'below', 'name' => 'Below', ...$below, 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $cloth = $pipeline->broken($shot->props[0])->pieces->mesh(0);
        $mesh = $pipeline->broken($shot->props[1])->pieces->mesh(0);
        $counts = [];
        foreach ($pipeline->frames($shot) as $number => $frame) {
            if ($number % 4 === 0) {
                /** @var list<array{float, float, float}> $places */
                $places = array_chunk($frame->of('cloth', Track::VERTICES), 3);
                self::assertGreaterThan(0.0, min(array_column($places, 1)), "through the floor at frame {$number}");
                $counts[] = Crossings::count(self::posed($mesh, $pipeline->broken($shot->props[1])->centre(0), $frame->of('below', Track::POSE)), $mesh->triangles, $places, $cloth->triangles);
            }
        }

        return $counts;
    }

    /**
     * @param array{float, float, float} $centre
     * @param array<int, float|int> $pose
     *
     * @return list<array{float, float, float}>
     */
    private static function posed(TriangleMesh $mesh, array $centre, array $pose): array
    {
        $places = [];
        foreach ($mesh->x as $i => $x) {
            $places[] = Quaternion::carried(
                [(float) $pose[0], (float) $pose[1], (float) $pose[2]],
                Quaternion::normalized([(float) $pose[3], (float) $pose[4], (float) $pose[5], (float) $pose[6]]),
                [$x - $centre[0], $mesh->y[$i] - $centre[1], $mesh->z[$i] - $centre[2]],
            );
        }

        return $places;
    }

    #[Group('long')]
    public function testNothingGoesThroughARoundThing(): void
    {
        self::assertSame(0, max(self::crossings(['source' => ['kind' => 'ball', 'ball' => ['width' => 0.6, 'divisions' => 10]], 'position' => ['y' => 0.3]])));
    }

    #[Group('slow')]
    public function testNothingGoesThroughAThingThatMovesAndTurns(): void
    {
        self::assertSame(0, max(self::crossings([
            'source' => ['kind' => 'torus', 'torus' => ['width' => 0.6, 'tube' => 0.18, 'divisions' => 10]],
            'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -0.2], ['frame' => 30, 'value' => 0.3]]], 'y' => 0.45],
            'rotation' => ['x' => 90, 'y' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 40, 'value' => 150]]]],
        ])));
    }

    /** Sharp edges hold it too, with a floor beneath; at an upright corner a few triangles may touch for a moment. */
    #[Group('long')]
    public function testSharpEdgesDoNotCutThrough(): void
    {
        $counts = self::crossings(['source' => ['box' => ['width' => 0.5, 'height' => 0.5, 'depth' => 0.5, 'divisions' => 1]], 'position' => ['y' => 0.25], 'rotation' => ['y' => 20]]);
        self::assertLessThanOrEqual(3, count(array_filter($counts)), implode(' ', $counts));
        self::assertLessThan(30, max($counts));
        self::assertSame(0, end($counts));
    }
}
