<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\BroadPhase;
use YardBreak\Core\Motion\Rigid\ContactPair;
use YardBreak\Core\Motion\Rigid\ConvexHull;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\HullContact;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidTuning;
use YardBreak\Core\Motion\Rigid\SeparatingAxis;
use YardBreak\Core\Tests\Fixture\Node;

/** The parts of the rigid solver, each against something that does it in another way. */
final class ContactTest extends TestCase
{
    private const MARGIN = 0.01;

    public function testTheSweepFindsThePairsThatTryingAllFinds(): void
    {
        foreach ([1, 2, 3] as $seed) {
            $stream = RandomStream::named($seed, 'spheres');
            $x = $y = $z = $r = $body = $active = $free = [];
            for ($i = 0; $i < 250; $i++) {
                [$x[], $y[], $z[], $r[]] = [$stream->between(-2.0, 2.0), $stream->between(-2.0, 2.0), $stream->between(-2.0, 2.0), $stream->between(0.01, 0.4)];
                // Some bodies have two shapes; some are at rest, some are driven.
                $body[] = intdiv(3 * $i, 4);
                $active[intdiv(3 * $i, 4)] = $stream->float() < 0.6;
                $free[intdiv(3 * $i, 4)] = $stream->float() < 0.8;
            }
            $expected = [];
            for ($i = 0; $i < 250; $i++) {
                for ($j = $i + 1; $j < 250; $j++) {
                    $near = ($x[$i] - $x[$j]) ** 2 + ($y[$i] - $y[$j]) ** 2 + ($z[$i] - $z[$j]) ** 2 < ($r[$i] + $r[$j]) ** 2;
                    if ($near && $body[$i] !== $body[$j] && ($active[$body[$i]] || $active[$body[$j]]) && ($free[$body[$i]] || $free[$body[$j]])) {
                        array_push($expected, $i, $j);
                    }
                }
            }
            self::assertGreaterThan(200, count($expected));
            $hulls = array_map(static fn (float $radius): ConvexHull => new ConvexHull([$radius / (1.0 + RigidTuning::LOOK_AHEAD)], [0.0], [0.0], [], [], [], [], [0], [], [], [], [], [], [], []), $r);
            $still = array_fill(0, count($active), 0.0);
            $keys = (new BroadPhase())->pairs($x, $y, $z, $hulls, $body, $active, $free, $still, $still, array_fill(0, 6 * count($active), 0.0), 0.01);
            sort($keys);
            $pairs = [];
            foreach ($keys as $key) {
                array_push($pairs, $key >> 20, $key & 1048575);
            }
            self::assertSame($expected, $pairs);
        }
    }

    /** npm rapier on the same hulls: both find them touching or apart, and the same depth where they overlap. */
    #[Group('thorough')]
    public function testDepthsAreThoseOfRapier(): void
    {
        $stream = RandomStream::named(4, 'pairs');
        $cases = $ours = [];
        for ($n = 0; $n < 150; $n++) {
            [$a, $b] = [self::hull($stream), self::hull($stream)];
            $turn = Quaternion::normalized([$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)]);
            $direction = $stream->direction();
            $far = $stream->between(0.3, 1.5);
            $move = [$far * $direction[0], $far * $direction[1], $far * $direction[2]];
            $pair = new ContactPair(0, 1, false);
            HullContact::find($pair, $a, $b, [...Quaternion::matrix($turn), ...$move], self::MARGIN);
            $ours[] = [$pair, $a, $b, $turn, $move];
            $cases[] = ['a' => self::points($a), 'b' => self::points($b), 'turn' => $turn, 'move' => $move];
        }
        $theirs = Node::run('@dimforge/rapier3d-compat', <<<'JS'
            const RAPIER = (await import('@dimforge/rapier3d-compat')).default;
            await RAPIER.init();
            return input.map(({ a, b, turn, move }) => {
                const world = new RAPIER.World({ x: 0, y: 0, z: 0 });
                const collider = (points) => world.createCollider(RAPIER.ColliderDesc.convexHull(Float32Array.from(points.flat())));
                const [p, q] = [collider(a), collider(b)];
                q.setTranslation({ x: move[0], y: move[1], z: move[2] });
                q.setRotation({ x: turn[0], y: turn[1], z: turn[2], w: turn[3] });
                world.step();
                const contact = p.contactCollider(q, 5);
                const answer = contact ? [contact.distance, contact.normal1.x, contact.normal1.y, contact.normal1.z] : null;
                world.free();
                return answer;
            });
            JS, $cases);
        $overlapping = $apart = 0;
        foreach ($ours as $k => [$pair, $a, $b, $turn, $move]) {
            self::assertIsArray($theirs[$k]);
            $distance = (float) $theirs[$k][0];
            if ($distance > self::MARGIN * 1.5) {
                $apart++;
                self::assertSame(0, $pair->count, "pair {$k} is {$distance} apart");
            }
            if ($distance < -0.005) {
                $overlapping++;
                self::assertGreaterThan(0, $pair->count, "pair {$k} overlaps by " . -$distance);
                // A face is preferred to a pair of edges that is hardly better, so that boxes rest on faces.
                $preference = 2.0 * RigidTuning::FACE_PREFERENCE * min($a->radius, $b->radius);
                self::assertEqualsWithDelta(-$distance, self::depth($pair, $turn, $move), $preference + 2e-4, "pair {$k}");
            }
        }
        self::assertGreaterThan(40, $overlapping);
        self::assertGreaterThan(40, $apart);
    }

    /** Moved apart along the normal by the depth, two hulls no longer overlap: the definition of depth. */
    public function testMovingByTheDepthParts(): void
    {
        $stream = RandomStream::named(5, 'parting');
        $tried = 0;
        for ($n = 0; $n < 200; $n++) {
            [$a, $b] = [self::hull($stream), self::hull($stream)];
            $turn = Quaternion::normalized([$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)]);
            $direction = $stream->direction();
            $move = array_map(static fn (float $d): float => 0.6 * $d, $direction);
            $pair = new ContactPair(0, 1, false);
            HullContact::find($pair, $a, $b, [...Quaternion::matrix($turn), ...$move], self::MARGIN);
            if ($pair->count === 0) {
                continue;
            }
            $tried++;
            self::assertLessThanOrEqual(4, $pair->count);
            self::assertEqualsWithDelta(1.0, $pair->normal[0] ** 2 + $pair->normal[1] ** 2 + $pair->normal[2] ** 2, 1e-9);
            $depth = self::depth($pair, $turn, $move);
            // All of a lies behind, all of b before a plane across the normal.
            $most = -INF;
            foreach (self::points($a) as $p) {
                $most = max($most, self::dot($p, $pair->normal));
            }
            $least = INF;
            foreach (self::points($b) as $p) {
                $q = Quaternion::rotate($turn, $p);
                $least = min($least, self::dot([$q[0] + $move[0], $q[1] + $move[1], $q[2] + $move[2]], $pair->normal));
            }
            // Faces that lie nearly in one plane have been made one, so they are not quite where the points are.
            self::assertEqualsWithDelta($most - $least, $depth, 1e-3);
        }
        self::assertGreaterThan(100, $tried);
    }

    /** Edges that are left out keep two hulls no farther apart than those that are not: all against all finds the same. */
    public function testEdgesThatAreLeftOutDoNotMatter(): void
    {
        $stream = RandomStream::named(6, 'edges');
        $found = $all = $left = 0;
        for ($n = 0; $n < 400; $n++) {
            [$a, $b] = [self::hull($stream), self::hull($stream)];
            $turn = Quaternion::normalized([$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)]);
            $matrix = Quaternion::matrix($turn);
            $far = $stream->between(0.55, 0.95);
            [$tx, $ty, $tz] = $t = array_map(static fn (float $d): float => $far * $d, $stream->direction());
            [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = $matrix;
            $s = [$m0 * $tx + $m3 * $ty + $m6 * $tz, $m1 * $tx + $m4 * $ty + $m7 * $tz, $m2 * $tx + $m5 * $ty + $m8 * $tz];
            [, $gapA, $TA, $cornerB] = SeparatingAxis::bestFace($a, $b, $m0, $m3, $m6, $m1, $m4, $m7, $m2, $m5, $m8, ...$t);
            [, $gapB, $TB, $cornerA] = SeparatingAxis::bestFace($b, $a, $m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, -$s[0], -$s[1], -$s[2]);
            $least = max($gapA, $gapB);
            $inB = Quaternion::rotate($turn, [$b->x[$cornerB], $b->y[$cornerB], $b->z[$cornerB]]);
            $edgesA = SeparatingAxis::edgesTowards($a, $TA, $tx, $ty, $tz, $least + $b->core, $inB[0] + $tx, $inB[1] + $ty, $inB[2] + $tz, $least);
            [$x, $y, $z] = [$a->x[$cornerA] - $tx, $a->y[$cornerA] - $ty, $a->z[$cornerA] - $tz];
            $edgesB = SeparatingAxis::edgesTowards($b, $TB, -$s[0], -$s[1], -$s[2], $least + $a->core, $m0 * $x + $m3 * $y + $m6 * $z, $m1 * $x + $m4 * $y + $m7 * $z, $m2 * $x + $m5 * $y + $m8 * $z, $least);
            $pose = [...$matrix, ...$t];
            $best = SeparatingAxis::bestEdges($a, $b, array_keys($a->left), array_keys($b->left), $pose, INF, $least);
            $some = SeparatingAxis::bestEdges($a, $b, $edgesA, $edgesB, $pose, INF, $least);
            self::assertEqualsWithDelta($best[2], $some[2], 1e-3 * min($a->radius, $b->radius), "pair {$n}");
            $found += $some[0] >= 0 ? 1 : 0;
            $all += count($a->left) * count($b->left);
            $left += count($edgesA) * count($edgesB);
        }
        self::assertGreaterThan(100, $found);
        self::assertLessThan(0.03 * $all, $left, 'and few are left');
    }

    /** A second look with a small move keeps the points' impulses; a new pair has none. */
    public function testPointsThatStayKeepTheirImpulses(): void
    {
        $box = self::hullOf(Solids::box(1, 1, 1));
        $pair = new ContactPair(0, 1, false);
        HullContact::find($pair, $box, $box, [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.2, 0.999, 0.1], self::MARGIN);
        self::assertSame(4, $pair->count);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $pair->normal, 1e-5);
        self::assertSame(0.0, array_sum($pair->impulse));
        $pair->impulse = range(1.0, 12.0);
        HullContact::find($pair, $box, $box, [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.2005, 0.9991, 0.1], self::MARGIN);
        self::assertSame(range(1.0, 12.0), array_map(floatval(...), $pair->impulse));
        HullContact::find($pair, $box, $box, [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, 0.2, 1.5, 0.1], self::MARGIN);
        self::assertSame(0, $pair->count);
    }

    /** Two that touch nowhere, though no axis parts them, are looked at again: how far apart they were once says nothing of now. */
    public function testWithoutPointsNothingIsKnownOfAGap(): void
    {
        $pair = new ContactPair(0, 1, false);
        $pair->part(0.04);
        $pair->renew([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.01);
        $pair->renew([], [], 0.01);
        self::assertSame([0, 0.0], [$pair->count, $pair->gap]);
    }

    /** Boxes put together: the inertia of the larger box that they are (Steiner's theorem). */
    public function testPartsTogetherAreTheWhole(): void
    {
        $whole = MassProperties::of(Solids::box(2, 3, 1));
        $parts = [];
        foreach ([[-0.5, 0.0], [0.5, 0.0]] as [$x, $y]) {
            $half = MassProperties::of(Solids::box(1, 3, 1));
            $parts[] = new Inertia(1000.0 * $half->volume, [$x + 7.0, $y, -2.0], array_map(static fn (float $i): float => 1000.0 * $i, $half->inertia));
        }
        $together = Inertia::together($parts);
        self::assertEqualsWithDelta(6000.0, $together->mass, 1e-9);
        self::assertEqualsWithDelta([7.0, 0.0, -2.0], $together->centre, 1e-12);
        self::assertEqualsWithDelta(array_map(static fn (float $i): float => 1000.0 * $i, $whole->inertia), $together->tensor, 1e-8);
    }

    public function testTheInverseIsTheInverse(): void
    {
        $stream = RandomStream::named(7, 'inertia');
        for ($n = 0; $n < 50; $n++) {
            $mesh = Solids::box($stream->between(0.2, 2.0), $stream->between(0.2, 2.0), $stream->between(0.2, 2.0))
                ->transformed(1.0, Quaternion::fromDegrees(360.0 * $stream->float(), 360.0 * $stream->float(), 0.0), [0.0, 0.0, 0.0]);
            $inertia = new Inertia(1.0, [0.0, 0.0, 0.0], MassProperties::of($mesh)->inertia);
            [$a, $b] = [self::matrix($inertia->widened()), self::matrix($inertia->inverse())];
            for ($i = 0; $i < 3; $i++) {
                for ($j = 0; $j < 3; $j++) {
                    $sum = $a[$i][0] * $b[0][$j] + $a[$i][1] * $b[1][$j] + $a[$i][2] * $b[2][$j];
                    self::assertEqualsWithDelta($i === $j ? 1.0 : 0.0, $sum, 1e-9);
                }
            }
        }
        // A needle has next to no inertia about its axis; its inverse is finite all the same.
        $needle = new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 0.0, 1.0, 0.0, 0.0, 0.0]);
        foreach ($needle->inverse() as $value) {
            self::assertTrue(is_finite($value));
        }
    }

    /** A hull's volume is that of the solid (here all faces of a convex mesh). */
    public function testHullsHaveTheVolumeOfTheSolid(): void
    {
        foreach ([Solids::box(1, 2, 3, 3), Solids::cylinder(0.5, 1.0, 10, 2), Solids::cone(0.5, 1.0, 9, 2), Solids::pyramid(1, 2)] as $mesh) {
            self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, self::hullOf($mesh)->volume(), 1e-3 * MassProperties::of($mesh)->volume);
        }
    }

    private static function hull(RandomStream $stream): ConvexHull
    {
        $x = $y = $z = [];
        for ($i = 0, $n = 6 + (int) (14.0 * $stream->float()); $i < $n; $i++) {
            $d = $stream->direction();
            $s = $stream->between(0.4, 0.6);
            [$x[], $y[], $z[]] = [$s * $d[0], 0.7 * $s * $d[1], $s * $d[2]];
        }

        return HullBuilder::of($x, $y, $z);
    }

    private static function hullOf(TriangleMesh $mesh): ConvexHull
    {
        return HullBuilder::of($mesh->x, $mesh->y, $mesh->z);
    }

    /** @return list<array{float, float, float}> */
    private static function points(ConvexHull $hull): array
    {
        $points = [];
        foreach ($hull->x as $i => $x) {
            $points[] = [$x, $hull->y[$i], $hull->z[$i]];
        }

        return $points;
    }

    /**
     * How deep the deepest point is: from its place on b to that on a, along the normal.
     *
     * @param array{float, float, float, float} $turn
     * @param array<int, float> $move
     */
    private static function depth(ContactPair $pair, array $turn, array $move): float
    {
        $deepest = -INF;
        for ($k = 0; $k < $pair->count; $k++) {
            $q = Quaternion::rotate($turn, [$pair->onB[3 * $k], $pair->onB[3 * $k + 1], $pair->onB[3 * $k + 2]]);
            $gap = [];
            foreach ([0, 1, 2] as $c) {
                $gap[] = $pair->onA[3 * $k + $c] - $q[$c] - $move[$c];
            }
            $deepest = max($deepest, self::dot($gap, $pair->normal));
        }

        return $deepest;
    }

    /**
     * @param array<int, float> $a
     * @param array<int, float> $b
     */
    private static function dot(array $a, array $b): float
    {
        return $a[0] * $b[0] + $a[1] * $b[1] + $a[2] * $b[2];
    }

    /**
     * @param array{float, float, float, float, float, float} $t
     *
     * @return list<list<float>>
     */
    private static function matrix(array $t): array
    {
        return [[$t[0], $t[3], $t[5]], [$t[3], $t[1], $t[4]], [$t[5], $t[4], $t[2]]];
    }
}
