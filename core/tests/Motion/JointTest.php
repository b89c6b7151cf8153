<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\Joint\Hinge;
use YardBreak\Core\Motion\Rigid\Joint\Joint;
use YardBreak\Core\Motion\Rigid\Joint\JointEnd;
use YardBreak\Core\Motion\Rigid\Joint\Rope;
use YardBreak\Core\Motion\Rigid\Joint\Spring;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;

/** Ropes, springs and hinges against textbook mechanics (any textbook; formulas beside each check). */
final class JointTest extends TestCase
{
    private const G = 9.80665;

    private const DT = 1.0 / 60.0;

    /**
     * @param array{float, float, float} $size
     * @param array{float, float, float} $place
     *
     * @return array{int, int, float} body, its shape, its mass
     */
    private static function box(RigidWorld $world, array $size, array $place, bool $free = true): array
    {
        static $group = 0;
        $mesh = Solids::box(...$size);
        $mass = MassProperties::of($mesh);
        $body = $world->bodies->addBody(new Inertia(1000.0 * $mass->volume, [0.0, 0.0, 0.0], array_map(static fn (float $i): float => 1000.0 * $i, $mass->inertia)), $place, Quaternion::IDENTITY, $free);

        return [$body, $world->bodies->addShape($body, HullBuilder::of($mesh->x, $mesh->y, $mesh->z), [0.0, 0.0, 0.0], ++$group, 0.5, 0.0), 1000.0 * $mass->volume];
    }

    private static function world(?float $floor = null): RigidWorld
    {
        return new RigidWorld([0.0, -self::G, 0.0], $floor);
    }

    /** @return array<int, float> times at which a number goes through 0 upward, between steps by straight line */
    private static function crossings(RigidWorld $world, int $steps, callable $number): array
    {
        $times = [];
        $before = $number();
        for ($s = 1; $s <= $steps; $s++) {
            $world->step(self::DT);
            $now = $number();
            if ($before < 0.0 && $now >= 0.0) {
                $times[] = self::DT * ($s - $now / ($now - $before));
            }
            $before = $now;
        }

        return $times;
    }

    /** A rod that swings about one end: T = 2 pi sqrt(2 L / (3 g)) for small swings; at 5 degrees longer by 1 + a2/16. Undamped, it swings on. */
    public function testARodSwingsAboutItsEnd(): void
    {
        $world = self::world();
        [$body, $shape] = self::box($world, [0.02, 1.0, 0.02], [0.0, -0.5, 0.0]);
        $a = deg2rad(5.0);
        $world->bodies->place($body, [0.5 * sin($a), -0.5 * cos($a), 0.0], Quaternion::aboutAxis([0.0, 0.0, 1.0], $a));
        $world->joints->add(new Hinge(JointEnd::on($world->bodies, $shape, [0.0, 0.0, 0.0]), JointEnd::fixed([0.0, 0.0, 0.0]), INF, false, $world->bodies, [0.0, 0.0, 1.0], 0.0, null));
        $times = self::crossings($world, 1000, static fn (): float => $world->bodies->placeOf($body)[0]);
        $period = 2.0 * M_PI * sqrt(2.0 * 1.0002 / (3.0 * self::G)) * (1.0 + $a * $a / 16.0);
        self::assertEqualsWithDelta($period, ($times[count($times) - 1] - $times[0]) / (count($times) - 1), 0.002 * $period);
        $widest = 0.0;
        for ($s = 0; $s < 100; $s++) {
            $world->step(self::DT);
            $widest = max($widest, abs($world->bodies->placeOf($body)[0]));
        }
        self::assertEqualsWithDelta(0.5 * sin($a), $widest, 0.03 * 0.5 * sin($a), 'after ten swings');
        [, $y] = Quaternion::carried($world->bodies->placeOf($body), $world->bodies->turnOf($body), [0.0, 0.5, 0.0]);
        self::assertEqualsWithDelta(0.0, $y, 1e-4);
    }

    /** A cone of a pendulum: omega2 = g / (L cos a). It keeps its height, and its rope its length. */
    public function testAWeightCirclesOnARope(): void
    {
        $world = self::world();
        $a = deg2rad(40.0);
        [$body, $shape] = self::box($world, [0.05, 0.05, 0.05], [2.0 * sin($a), -2.0 * cos($a), 0.0]);
        $world->joints->add(new Rope(JointEnd::on($world->bodies, $shape, $world->bodies->placeOf($body)), JointEnd::fixed([0.0, 0.0, 0.0]), INF, false, 2.0));
        $omega = sqrt(self::G / (2.0 * cos($a)));
        $world->bodies->setVelocity($body, [0.0, 0.0, $omega * 2.0 * sin($a)], [0.0, 0.0, 0.0]);
        $times = self::crossings($world, 600, static fn (): float => $world->bodies->placeOf($body)[2]);
        self::assertEqualsWithDelta(2.0 * M_PI / $omega, ($times[count($times) - 1] - $times[0]) / (count($times) - 1), 0.005 * 2.0 * M_PI / $omega);
        self::assertEqualsWithDelta(-2.0 * cos($a), $world->bodies->placeOf($body)[1], 0.02);
        self::assertLessThan(2.0005, Vector::distance($world->bodies->placeOf($body), [0.0, 0.0, 0.0]));
    }

    /** It falls freely as long as the rope is slack, and then no farther. */
    public function testASlackRopeDoesNothing(): void
    {
        $world = self::world();
        [$body, $shape] = self::box($world, [0.1, 0.1, 0.1], [0.3, 0.0, 0.0]);
        $world->joints->add(new Rope(JointEnd::on($world->bodies, $shape, [0.3, 0.0, 0.0]), JointEnd::fixed([0.0, 0.0, 0.0]), INF, false, 1.0));
        $far = 0.0;
        for ($s = 1; $s <= 240; $s++) {
            $world->step(self::DT);
            $place = $world->bodies->placeOf($body);
            if ($s <= 20) {
                self::assertEqualsWithDelta([0.3, -0.5 * self::G * ($s * self::DT) ** 2, 0.0], $place, 0.01);
            }
            $far = max($far, Vector::distance($place, [0.0, 0.0, 0.0]));
        }
        self::assertLessThan(1.002, $far);
        self::assertGreaterThan(0.999, $far);
    }

    /** Hooke: it hangs mg/k lower and swings at sqrt(k/m); each swing is smaller by exp(-2 pi z / sqrt(1 - z2)). */
    public function testAWeightHangsOnASpring(): void
    {
        $world = self::world();
        [$body, $shape, $mass] = self::box($world, [0.1, 0.1, 0.1], [0.0, -1.0, 0.0]);
        [$stiffness, $damping] = [40.0, 0.1];
        $world->joints->add(new Spring(JointEnd::on($world->bodies, $shape, [0.0, -1.0, 0.0]), JointEnd::fixed([0.0, 0.0, 0.0]), INF, false, 1.0, $stiffness, $damping));
        $rest = -1.0 - $mass * self::G / $stiffness;
        $omega = sqrt($stiffness / $mass);
        $lows = [];
        $at = [0.0, 0.0];
        $times = self::crossings($world, 300, function () use ($world, $body, $rest, &$lows, &$at): float {
            $y = $world->bodies->placeOf($body)[1] - $rest;
            if ($at[0] > $at[1] && $y > $at[1] && $at[1] < 0.0) {
                $lows[] = $at[1];
            }
            $at = [$at[1], $y];

            return $y;
        });
        $period = 2.0 * M_PI / ($omega * sqrt(1.0 - $damping ** 2));
        self::assertEqualsWithDelta($period, $times[1] - $times[0], 0.01 * $period);
        // Backward steps damp a little more.
        $ratio = exp(-2.0 * M_PI * $damping / sqrt(1.0 - $damping ** 2));
        self::assertEqualsWithDelta($ratio, $lows[1] / $lows[0], 0.1 * $ratio);
        for ($s = 0; $s < 1200; $s++) {
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta($rest, $world->bodies->placeOf($body)[1], 1e-3);
        self::assertTrue($world->bodies->isAsleep($body), 'it comes to rest');
    }

    /** Each rope of a chain of weights carries all that hangs on it. */
    public function testEachRopeCarriesWhatHangsOnIt(): void
    {
        $world = self::world();
        $joints = [];
        $above = JointEnd::fixed([0.0, 0.0, 0.0]);
        $mass = 0.0;
        for ($k = 1; $k <= 4; $k++) {
            [, $shape, $mass] = self::box($world, [0.1, 0.1, 0.1], [0.0, -0.3 * $k, 0.0]);
            $joints[] = $joint = new Rope($above, JointEnd::on($world->bodies, $shape, [0.0, -0.3 * $k + 0.05, 0.0]), INF, false, $k === 1 ? 0.25 : 0.2);
            $world->joints->add($joint);
            $above = JointEnd::on($world->bodies, $shape, [0.0, -0.3 * $k - 0.05, 0.0]);
        }
        for ($s = 0; $s < 80; $s++) {
            $world->step(self::DT);
        }
        foreach ($joints as $k => $joint) {
            self::assertEqualsWithDelta((4 - $k) * $mass * self::G, $joint->force, 0.02 * $mass * self::G);
        }
    }

    /** @return iterable<string, array{string}> */
    public static function kinds(): iterable
    {
        yield 'a rope' => ['rope'];
        yield 'a spring' => ['spring'];
        yield 'a hinge' => ['hinge'];
    }

    private static function hung(RigidWorld $world, string $kind, float $strength): int
    {
        [$body, $shape] = self::box($world, [0.1, 0.1, 0.1], [0.0, -1.0, 0.0]);
        [$a, $b] = [JointEnd::fixed([0.0, 0.0, 0.0]), JointEnd::on($world->bodies, $shape, [0.0, -0.95, 0.0])];
        $world->joints->add(match ($kind) {
            'rope' => new Rope($a, $b, $strength, false, 0.95),
            // Let go where it will rest, so that it is not pulled by more than its weight.
            'spring' => new Spring($a, $b, $strength, false, 0.95 - 0.001 * self::G, 1000.0, 1.0),
            default => new Hinge(JointEnd::fixed([0.0, -0.95, 0.0]), $b, $strength, false, $world->bodies, null, 0.0, null),
        });

        return $body;
    }

    /** A weight of 1 kg hangs on what holds 11 N, and falls from what holds 9 N. */
    #[DataProvider('kinds')]
    public function testItBreaksAboveItsStrength(string $kind): void
    {
        foreach ([[11.0, true], [9.0, false]] as [$strength, $holds]) {
            $world = self::world();
            $body = self::hung($world, $kind, $strength);
            for ($s = 0; $s < 60; $s++) {
                $world->step(self::DT);
            }
            $y = $world->bodies->placeOf($body)[1];
            $holds ? self::assertEqualsWithDelta(-1.0, $y, 0.02) : self::assertLessThan(-4.0, $y);
        }
    }

    /** A leaf that swings shut stays upright on its axis, and stops where it is stopped. */
    public function testAGateTurnsAboutItsAxisUpToItsStop(): void
    {
        $world = self::world();
        [$body, $shape] = self::box($world, [1.0, 1.0, 0.05], [0.5, 0.0, 0.0]);
        $world->joints->add($hinge = new Hinge(JointEnd::fixed([0.0, 0.5, 0.0]), JointEnd::on($world->bodies, $shape, [0.0, 0.5, 0.0]), INF, false, $world->bodies, [0.0, 1.0, 0.0], 0.2, [deg2rad(-10.0), deg2rad(60.0)]));
        $world->bodies->setVelocity($body, [0.0, 0.0, -1.0], [0.0, 2.0, 0.0]);
        $farthest = 0.0;
        for ($s = 0; $s < 240; $s++) {
            $world->step(self::DT);
            $farthest = max($farthest, rad2deg($hinge->angle()));
            $up = Quaternion::rotate($world->bodies->turnOf($body), [0.0, 1.0, 0.0]);
            self::assertGreaterThan(cos(deg2rad(0.5)), $up[1], 'it leans');
        }
        self::assertEqualsWithDelta(60.0, $farthest, 1.0);
        self::assertEqualsWithDelta(0.5, Quaternion::carried($world->bodies->placeOf($body), $world->bodies->turnOf($body), [-0.5, 0.5, 0.0])[1], 2e-4);
    }

    /** Nothing from outside acts on two that only hold each other. */
    #[DataProvider('kinds')]
    public function testMomentumStays(string $kind): void
    {
        $world = new RigidWorld([0.0, 0.0, 0.0], null);
        [$one, $first, $m] = self::box($world, [0.1, 0.2, 0.3], [-0.4, 0.0, 0.0]);
        [$two, $second, $n] = self::box($world, [0.2, 0.1, 0.2], [0.4, 0.0, 0.0]);
        [$a, $b] = [JointEnd::on($world->bodies, $first, [-0.3, 0.05, 0.0]), JointEnd::on($world->bodies, $second, [0.3, 0.0, 0.05])];
        $world->joints->add(match ($kind) {
            'rope' => new Rope($a, $b, INF, false, 0.65),
            'spring' => new Spring($a, $b, INF, false, 0.4, 500.0, 0.1),
            default => new Hinge(JointEnd::on($world->bodies, $first, [0.0, 0.0, 0.0]), JointEnd::on($world->bodies, $second, [0.0, 0.0, 0.0]), INF, false, $world->bodies, [0.0, 0.0, 1.0], 0.5, [-1.0, 1.0]),
        });
        $world->bodies->setVelocity($one, [0.0, -1.0, 0.3], [3.0, 1.0, 0.0]);
        $world->bodies->setVelocity($two, [1.0, 1.0, 0.0], [0.0, 2.0, 2.0]);
        $momentum = static fn (): array => array_map(static fn (float $p, float $q): float => $m * $p + $n * $q, $world->bodies->velocity($one)[0], $world->bodies->velocity($two)[0]);
        $before = $momentum();
        for ($s = 0; $s < 240; $s++) {
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta($before, $momentum(), 1e-9);
    }

    /** A plumb comes to rest straight below its hook, not where it happens to turn round, and sleeps; its rope cut, it falls. */
    public function testAPlumbComesToRestAndFallsWhenItIsCut(): void
    {
        $world = self::world(-5.0);
        [$body, $shape] = self::box($world, [0.1, 0.1, 0.1], [0.1, -0.95, 0.0]);
        $joint = new Hinge(JointEnd::fixed([0.1, 0.0, 0.0]), JointEnd::on($world->bodies, $shape, [0.1, 0.0, 0.0]), INF, false, $world->bodies, null, 1.0, null);
        $world->joints->add($joint);
        $world->bodies->setVelocity($body, [0.6, 0.0, 0.3], [0.0, 0.0, 0.0]);
        for ($s = 0; $s < 1500 && ! $world->bodies->isAsleep($body); $s++) {
            $world->step(self::DT);
        }
        self::assertTrue($world->bodies->isAsleep($body));
        self::assertEqualsWithDelta([0.1, -0.95, 0.0], $world->bodies->placeOf($body), 0.005);
        $world->joints->cut($joint);
        for ($s = 0; $s < 200; $s++) {
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta(-4.95, $world->bodies->placeOf($body)[1], 0.01);
    }

    /** What a joint holds together may lie in each other, and is not hurled apart by the joint's end. */
    public function testWhatIsJoinedDoesNotPushItselfApart(): void
    {
        $world = self::world(0.0);
        [$one, $first] = self::box($world, [1.0, 0.2, 0.2], [0.0, 0.1, 0.0]);
        [$two, $second] = self::box($world, [1.0, 0.2, 0.2], [0.9, 0.1, 0.0]);
        $joint = new Hinge(JointEnd::on($world->bodies, $first, [0.45, 0.1, 0.0]), JointEnd::on($world->bodies, $second, [0.45, 0.1, 0.0]), INF, false, $world->bodies, [0.0, 0.0, 1.0], 0.0, null);
        $world->joints->add($joint);
        for ($s = 0; $s < 240; $s++) {
            if ($s === 120) {
                $world->joints->cut($joint);
            }
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta([0.0, 0.1, 0.0], $world->bodies->placeOf($one), 0.01);
        self::assertEqualsWithDelta([0.9, 0.1, 0.0], $world->bodies->placeOf($two), 0.01);
    }

    #[DataProvider('kinds')]
    public function testItGoesOnFromAnyStepWithTheSameBits(string $kind): void
    {
        $make = static function () use ($kind): array {
            $world = self::world(-3.0);
            $body = self::hung($world, $kind, 30.0);
            $world->bodies->setVelocity($body, [2.0, 0.0, 1.0], [0.0, 1.0, 0.0]);

            return [$world, $body];
        };
        [$world, $body] = $make();
        for ($s = 0; $s < 30; $s++) {
            $world->step(self::DT);
        }
        $saved = State::read(State::pack($world->save()));
        [$again, $same] = $make();
        $again->restore($saved);
        for ($s = 0; $s < 60; $s++) {
            $world->step(self::DT);
            $again->step(self::DT);
        }
        self::assertSame(serialize([$world->bodies->placeOf($body), $world->bodies->velocity($body)]), serialize([$again->bodies->placeOf($same), $again->bodies->velocity($same)]));
    }
}
