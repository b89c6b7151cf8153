<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Rigid\ContactPair;
use YardBreak\Core\Motion\Rigid\ConvexHull;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\HullContact;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidTuning;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Pieces that are felt as balls, and pieces of one prop that feel each other only when they have come apart. */
final class BallShapeTest extends TestCase
{
    private const G = 9.81;

    private static function box(float $a, float $b, float $c): ConvexHull
    {
        $x = $y = $z = [];
        foreach ([-0.5, 0.5] as $u) {
            foreach ([-0.5, 0.5] as $v) {
                foreach ([-0.5, 0.5] as $w) {
                    [$x[], $y[], $z[]] = [$a * $u, $b * $v, $c * $w];
                }
            }
        }

        return HullBuilder::of($x, $y, $z);
    }

    /**
     * @param array{float, float, float} $place
     * @param array{float, float, float} $velocity
     */
    private static function roll(RigidWorld $world, float $radius, array $place, array $velocity = [0.0, 0.0, 0.0], float $friction = 0.6, float $restitution = 0.0): int
    {
        $i = 0.4 * $radius * $radius;
        $body = $world->bodies->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [$i, $i, $i, 0.0, 0.0, 0.0]), $place, Quaternion::IDENTITY);
        $world->bodies->addShape($body, ConvexHull::ball($radius), [0.0, 0.0, 0.0], $body, $friction, $restitution);
        $world->bodies->setVelocity($body, $velocity, [0.0, 0.0, 0.0]);

        return $body;
    }

    /** The point of a hull nearest to a ball, against the mesh tree (checked elsewhere against brute force), from both sides of the pair. */
    #[Group('slow')]
    public function testTheNearestPointOfAHullIsThatOfItsSurface(): void
    {
        $random = RandomStream::named(5, 'ball-contact');
        for ($n = 0; $n < 40; $n++) {
            $x = $y = $z = [];
            for ($i = 0; $i < 12; $i++) {
                [$x[], $y[], $z[]] = array_map(static fn (float $v): float => $v * $random->between(0.3, 1.0), $random->direction());
            }
            $hull = HullBuilder::of($x, $y, $z);
            $triangles = [];
            for ($f = 0; $f < count($hull->d); $f++) {
                for ($k = $hull->start[$f] + 2; $k < $hull->start[$f + 1]; $k++) {
                    array_push($triangles, $hull->loop[$hull->start[$f]], $hull->loop[$k - 1], $hull->loop[$k]);
                }
            }
            $tree = SurfaceTree::of(new TriangleMesh($hull->x, $hull->y, $hull->z, $triangles), true);
            for ($m = 0; $m < 25; $m++) {
                $centre = array_map(static fn (float $v): float => $v * $random->between(0.0, 2.5), $random->direction());
                $tree->look($tree->nearest($centre[0], $centre[1], $centre[2], 100.0), $centre[0], $centre[1], $centre[2]);
                $outside = $tree->distance > 0.0;
                $pair = new ContactPair(0, 1, false);
                HullContact::find($pair, $hull, ConvexHull::ball(0.1), [1.0, 0.0, 0.0, 0.0, 1.0, 0.0, 0.0, 0.0, 1.0, ...$centre], 100.0);
                self::assertSame(1, $pair->count);
                [$px, $py, $pz] = [$pair->onB[0] + $centre[0] - $pair->onA[0], $pair->onB[1] + $centre[1] - $pair->onA[1], $pair->onB[2] + $centre[2] - $pair->onA[2]];
                $gap = $pair->normal[0] * $px + $pair->normal[1] * $py + $pair->normal[2] * $pz;
                self::assertEqualsWithDelta($tree->distance - 0.1, $gap, 1e-5, 'corners of a face lie only nearly in its plane');
                if ($outside) {
                    self::assertEqualsWithDelta(0.0, abs($tree->nx - $pair->normal[0]) + abs($tree->ny - $pair->normal[1]) + abs($tree->nz - $pair->normal[2]), $tree->distance > 0.05 ? 2e-4 : 1.0);
                }
                // The other way round, turned about a skew axis.
                $turn = Quaternion::aboutAxis([0.6, 0.0, 0.8], 1.1);
                [$tx, $ty, $tz] = Quaternion::rotate($turn, [-$centre[0], -$centre[1], -$centre[2]]);
                $other = new ContactPair(0, 1, false);
                HullContact::find($other, ConvexHull::ball(0.1), $hull, [...Quaternion::matrix($turn), $tx, $ty, $tz], 100.0);
                foreach ([0, 1, 2] as $k) {
                    self::assertEqualsWithDelta(-Quaternion::rotate($turn, $pair->normal)[$k], $other->normal[$k], 1e-9);
                    self::assertEqualsWithDelta($pair->onA[$k], $other->onB[$k], 1e-9);
                }
            }
        }
    }

    /**
     * A ball that rolls down a slope is held back by its own turning and by its rolling friction: 5/7 g (sin - mu_r cos) (any
     * text on mechanics). Its spin dies out besides, at a rate of its own.
     */
    public function testItRollsDownASlope(): void
    {
        $slope = deg2rad(20.0);
        $world = new RigidWorld([self::G * sin($slope), -self::G * cos($slope), 0.0]);
        $body = self::roll($world, 0.1, [0.0, 0.1, 0.0]);
        for ($n = 0; $n < 24; $n++) {
            $world->step(1.0 / 240.0);
        }
        [[$speed], $spin] = $world->bodies->velocity($body);
        self::assertEqualsWithDelta(5.0 / 7.0 * self::G * (sin($slope) - RigidTuning::BALL_ROLLING * cos($slope)) * 0.1, $speed, 0.04 * $speed);
        self::assertEqualsWithDelta(-$speed / 0.1, $spin[2], 0.08 * $speed / 0.1, 'it rolls, and does not slide');
    }

    /** On the level it comes to rest: at most after v / (5/7 mu_r g). */
    public function testItComesToRest(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0]);
        $body = self::roll($world, 0.1, [0.0, 0.1, 0.0], [1.0, 0.0, 0.0]);
        $seconds = 5.0 / 7.0 / (5.0 / 7.0 * RigidTuning::BALL_ROLLING * self::G) + 1.0;
        for ($n = 0; $n < (int) (240 * $seconds); $n++) {
            $world->step(1.0 / 240.0);
        }
        self::assertTrue($world->bodies->isAsleep($body));
        self::assertGreaterThan(0.2, $world->bodies->placeOf($body)[0], 'it has rolled a while');
    }

    /** Heights of a bounce are as the square of it (Newton), on a floor and on a box that does not give way. */
    public function testItBounces(): void
    {
        foreach ([true, false] as $floor) {
            $world = new RigidWorld([0.0, -self::G, 0.0], $floor ? 0.0 : null, 0.5, 0.7);
            if (! $floor) {
                $body = $world->bodies->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]), [0.0, -0.5, 0.0], Quaternion::IDENTITY, false);
                $world->bodies->addShape($body, self::box(2.0, 1.0, 2.0), [0.0, 0.0, 0.0], 99, 0.5, 0.0);
            }
            $ball = self::roll($world, 0.1, [0.0, 1.1, 0.0], restitution: 0.7);
            $top = 0.0;
            $bounced = false;
            for ($n = 0; $n < 240; $n++) {
                $world->step(1.0 / 240.0);
                $bounced = $bounced || $world->bodies->velocity($ball)[0][1] > 0.0;
                $top = $bounced ? max($top, $world->bodies->placeOf($ball)[1] - 0.1) : 0.0;
                if ($bounced && $world->bodies->velocity($ball)[0][1] < 0.0) {
                    break;
                }
            }
            self::assertEqualsWithDelta(0.49, $top, 0.02);
        }
    }

    /** Two equal balls without bounce lost: the one that came stays, the other goes on (Newton's cradle). */
    public function testAHeadOnHitHandsTheSpeedOn(): void
    {
        $world = new RigidWorld([0.0, 0.0, 0.0], null);
        $a = self::roll($world, 0.1, [-1.0, 0.0, 0.0], [3.0, 0.0, 0.0], 0.0, 1.0);
        $b = self::roll($world, 0.1, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.0, 1.0);
        for ($n = 0; $n < 100; $n++) {
            $world->step(1.0 / 240.0);
        }
        self::assertEqualsWithDelta(0.0, $world->bodies->velocity($a)[0][0], 1e-6);
        self::assertEqualsWithDelta(3.0, $world->bodies->velocity($b)[0][0], 1e-6);
    }

    /** Over boxes that stand side by side it rolls as over one, and through one it never goes. */
    public function testItRollsOverJointsAndThroughNoWall(): void
    {
        foreach ([0.5, 2.0, 10.0] as $speed) {
            $world = new RigidWorld([0.0, -self::G, 0.0], null);
            for ($k = -40; $k < 40; $k++) {
                $body = $world->bodies->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]), [0.13 * $k, -0.05, 0.0], Quaternion::IDENTITY, false);
                $world->bodies->addShape($body, self::box(0.13, 0.1, 1.0), [0.0, 0.0, 0.0], 99, 0.0, 0.0);
            }
            $ball = self::roll($world, 0.1, [-1.0, 0.1, 0.0], [$speed, 0.0, 0.0], 0.0);
            for ($n = 0; $n < (int) (0.5 * 240); $n++) {
                $world->step(1.0 / 240.0);
                self::assertEqualsWithDelta(0.1, $world->bodies->placeOf($ball)[1], 2e-4, "at {$speed} m/s");
            }
            self::assertEqualsWithDelta($speed, $world->bodies->velocity($ball)[0][0], 0.01 * $speed);
        }
        foreach ([5.0, 30.0, 100.0] as $speed) {
            foreach ([0.0, 50.0] as $angle) {
                $world = new RigidWorld([0.0, 0.0, 0.0], null);
                $wall = $world->bodies->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]), [0.0, 0.0, 0.0], Quaternion::IDENTITY, false);
                $world->bodies->addShape($wall, self::box(0.01, 8.0, 8.0), [0.0, 0.0, 0.0], 99, 0.3, 0.0);
                $ball = self::roll($world, 0.03, [-1.0, 0.0, 0.0], [$speed * cos(deg2rad($angle)), $speed * sin(deg2rad($angle)), 0.0], 0.3);
                for ($n = 0; $n < 60; $n++) {
                    $world->step(1.0 / 240.0);
                    self::assertLessThan(-0.034, $world->bodies->placeOf($ball)[0], "at {$speed} m/s and {$angle} degrees");
                }
            }
        }
    }

    /**
     * @param array<string, mixed> $rigid
     *
     * @return list<Frame>
     */
    private static function broken(array $rigid, int $frames = 30): array
    {
        $document = ['version' => 2, 'frames' => $frames, 'planes' => [['id' => 'f', 'name' => 'F', 'restitution' => 0.0]], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['y' => 3.0],
            'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 24, 'seed' => 3]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => $rigid],
        ]]];

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)), false);
    }

    /** What the break comes apart by on its own, while it falls freely, m. */
    private static function burst(Frame $start, Frame $end): float
    {
        [$a, $b] = [array_chunk($start->of('a', Track::POSE), 7), array_chunk($end->of('a', Track::POSE), 7)];
        $most = 0.0;
        foreach ($a as $k => $p) {
            foreach ($a as $j => $q) {
                foreach ([0, 1, 2] as $axis) {
                    $most = max($most, abs($b[$k][$axis] - $b[$j][$axis] - $p[$axis] + $q[$axis]));
                }
            }
        }

        return $most;
    }

    #[Group('slow')]
    public function testSmallBallsDoNotPushEachOtherOff(): void
    {
        foreach ([['shape' => 'ball', 'ballSize' => 50], ['shape' => 'ball', 'ballSize' => 100, 'siblings' => 30]] as $rigid) {
            $frames = self::broken($rigid, 12);
            self::assertLessThan(1e-6, self::burst($frames[0], $frames[11]), 'while they fall');
        }
    }

    /** A ball lies lower than its piece: at half the size its middle is half as high as the piece reaches. */
    public function testABallLiesByItsSize(): void
    {
        foreach ([40.0, 80.0] as $size) {
            $document = ['version' => 2, 'frames' => 60, 'planes' => [['id' => 'f', 'name' => 'F', 'restitution' => 0.0]], 'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['y' => 1.0],
                'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'restitution' => 0.0, 'shape' => 'ball', 'ballSize' => $size]],
            ]]];
            $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)), false);
            self::assertEqualsWithDelta(0.01 * $size * sqrt(0.75), $frames[59]->of('a', Track::POSE)[1], 1e-3);
        }
    }

    /** Two halves of a bar that go through each other meet only when they have moved so far. */
    public function testSiblingsMeetAfterTheirDistance(): void
    {
        foreach ([0.0, 20.0, 35.0] as $cm) {
            $document = ['version' => 2, 'frames' => 24, 'fps' => 24, 'planes' => [], 'forces' => [
                // The upper half is pressed into the lower.
                ['id' => 'g', 'name' => 'G', 'force' => 'pull', 'pull' => ['to' => 'place', 'strength' => 5.0, 'law' => 'even']],
            ], 'props' => [[
                'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 0.5, 'height' => 2.0, 'depth' => 0.5, 'divisions' => 1]],
                'break' => ['pattern' => 'courses', 'courses' => ['length' => 5.0, 'height' => 1.0]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]],
                'motion' => ['rigid' => ['siblings' => $cm, 'restitution' => 0.0, 'friction' => 0.0]],
            ]]];
            $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read($document)), false);
            $near = INF;
            foreach ($frames as $frame) {
                $poses = array_chunk($frame->of('a', Track::POSE), 7);
                self::assertCount(2, $poses);
                $near = min($near, abs($poses[0][1] - $poses[1][1]));
            }
            // Until then nothing holds them; then they come no deeper than the way of a step or two.
            self::assertEqualsWithDelta(1.0 - 0.01 * $cm, $near, 0.08, "{$cm} cm");
        }
    }
}
