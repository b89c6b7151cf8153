<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Rigid\Inertia;
use YardBreak\Core\Motion\Rigid\RigidWorld;

/** The rigid solver against textbook mechanics (any textbook; formulas beside each check). */
final class RigidTest extends TestCase
{
    private const G = 9.80665;

    private const DT = 1.0 / 60.0;

    /**
     * @param array{float, float, float} $size
     * @param array{float, float, float} $place
     * @param array{float, float, float, float} $turn
     */
    private static function box(RigidWorld $world, array $size, array $place, array $turn = Quaternion::IDENTITY, float $friction = 0.5, float $bounce = 0.0, bool $free = true): int
    {
        static $group = 0;
        $mesh = Solids::box(...$size);
        $mass = MassProperties::of($mesh);
        $body = $world->bodies->addBody(new Inertia(1000.0 * $mass->volume, [0.0, 0.0, 0.0], array_map(static fn (float $i): float => 1000.0 * $i, $mass->inertia)), $place, $turn, $free);
        $world->bodies->addShape($body, HullBuilder::of($mesh->x, $mesh->y, $mesh->z), [0.0, 0.0, 0.0], ++$group, $friction, $bounce);

        return $body;
    }

    public function testProjectileFollowsTheParabola(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0], null);
        $body = self::box($world, [0.1, 0.2, 0.3], [0.0, 0.0, 0.0]);
        $world->bodies->setVelocity($body, [3.0, 8.0, -1.0], [0.0, 0.0, 0.0]);
        for ($s = 0; $s < 120; $s++) {
            $world->step(self::DT);
        }
        [$x, $y, $z] = $world->bodies->placeOf($body);
        self::assertEqualsWithDelta(6.0, $x, 1e-9);
        self::assertEqualsWithDelta(-2.0, $z, 1e-9);
        // y = v t - g t2/2; semi-implicit Euler is low by g t h/2 with h the substep.
        self::assertEqualsWithDelta(16.0 - 0.5 * self::G * 4.0, $y, self::G * 2.0 * self::DT / 8.0);
    }

    /** @return iterable<string, array{float}> */
    public static function bounces(): iterable
    {
        yield 'e = 0.8' => [0.8];
        yield 'e = 0.5' => [0.5];
    }

    #[DataProvider('bounces')]
    public function testBounceHeightsFallByTheSquareOfTheBounce(float $e): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0], 0.0, 0.0, 0.0);
        $body = self::box($world, [0.2, 0.2, 0.2], [0.0, 1.1, 0.0], bounce: $e);
        $peaks = [];
        $before = [1.1, 0.0];
        $rising = false;
        for ($s = 0; $s < 400 && count($peaks) < 2; $s++) {
            $world->step(1.0 / 240.0);
            $y = $world->bodies->placeOf($body)[1];
            if ($rising && $y < $before[0]) {
                $peaks[] = $before[0] - 0.1;
            }
            $rising = $y > $before[0];
            $before = [$y, 0.0];
        }
        // h_n = e^(2n) h_0, from a drop of 1 m; the step in which it hits costs up to g h dt of speed.
        self::assertEqualsWithDelta($e ** 2, $peaks[0], 0.035);
        self::assertEqualsWithDelta($e ** 4, $peaks[1], 0.05);
    }

    public function testBlockHoldsBelowTheFrictionAngleAndSlidesAboveIt(): void
    {
        $mu = 0.5;
        foreach ([20 => false, 25 => false, 30 => true, 40 => true] as $degrees => $slides) {
            $a = deg2rad($degrees);
            // The floor stays level; gravity is tilted instead.
            $world = new RigidWorld([self::G * sin($a), -self::G * cos($a), 0.0], 0.0, $mu, 0.0);
            $body = self::box($world, [0.4, 0.1, 0.3], [0.0, 0.05, 0.0], friction: $mu);
            for ($s = 0; $s < 60; $s++) {
                $world->step(self::DT);
            }
            $x = $world->bodies->placeOf($body)[0];
            if ($slides) {
                // x = g (sin a - mu cos a) t2/2
                $expected = 0.5 * self::G * (sin($a) - $mu * cos($a));
                self::assertEqualsWithDelta($expected, $x, 0.04 * $expected + 0.01, "{$degrees} degrees");
            } else {
                self::assertEqualsWithDelta(0.0, $x, 2e-3, "{$degrees} degrees");
            }
        }
    }

    public function testStoppingDistance(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0], 0.0, 0.4, 0.0);
        $body = self::box($world, [0.5, 0.1, 0.5], [0.0, 0.05, 0.0], friction: 0.4);
        $world->bodies->setVelocity($body, [3.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
        for ($s = 0; $s < 120; $s++) {
            $world->step(self::DT);
        }
        // v2 / (2 mu g)
        self::assertEqualsWithDelta(9.0 / (2.0 * 0.4 * self::G), $world->bodies->placeOf($body)[0], 0.03);
    }

    /** Free rotation of a body with three different moments: momentum stays, energy nearly, and the middle axis flips. */
    public function testAngularMomentumStaysAndTheMiddleAxisFlips(): void
    {
        $world = new RigidWorld([0.0, 0.0, 0.0], null);
        $size = [0.1, 0.3, 0.6];
        $body = self::box($world, $size, [0.0, 0.0, 0.0]);
        $world->bodies->setVelocity($body, [1.0, 2.0, 3.0], [0.01, 5.0, 0.0]);
        $i = MassProperties::of(Solids::box(...$size))->inertia;
        $momentum = static function () use ($world, $body, $i): array {
            $q = $world->bodies->turnOf($body);
            $w = Quaternion::rotate(Quaternion::conjugate($q), $world->bodies->velocity($body)[1]);

            return Quaternion::rotate($q, [1000.0 * $i[0] * $w[0], 1000.0 * $i[1] * $w[1], 1000.0 * $i[2] * $w[2]]);
        };
        $l0 = $momentum();
        $e0 = $world->bodies->kineticEnergy($body);
        $flipped = false;
        for ($s = 0; $s < 1200; $s++) {
            $world->step(self::DT);
            $up = Quaternion::rotate($world->bodies->turnOf($body), [0.0, 1.0, 0.0]);
            $flipped = $flipped || $up[1] < -0.9;
        }
        $size = sqrt($l0[0] ** 2 + $l0[1] ** 2 + $l0[2] ** 2);
        self::assertEqualsWithDelta($l0, $momentum(), 1e-9 * $size);
        self::assertEqualsWithDelta($e0, $world->bodies->kineticEnergy($body), 2e-3 * $e0);
        self::assertTrue($flipped, 'turning about the middle axis is unstable (Landau and Lifshitz, Mechanics, par. 37)');
        self::assertEqualsWithDelta([20.0, 40.0, 60.0], $world->bodies->placeOf($body), 1e-9);
    }

    /** A symmetric top precesses about its momentum at L / I1 (Landau and Lifshitz, Mechanics, par. 33). */
    public function testSymmetricTopPrecesses(): void
    {
        $world = new RigidWorld([0.0, 0.0, 0.0], null);
        $body = self::box($world, [0.2, 0.6, 0.2], [0.0, 0.0, 0.0]);
        $i = MassProperties::of(Solids::box(0.2, 0.6, 0.2))->inertia;
        $spin = [1.0, 6.0, 0.0];
        $world->bodies->setVelocity($body, [0.0, 0.0, 0.0], $spin);
        $l = [$i[0] * $spin[0], $i[1] * $spin[1], 0.0];
        $size = hypot($l[0], $l[1]);
        $axis = [$l[0] / $size, $l[1] / $size, 0.0];
        $period = 2.0 * M_PI * $i[0] / $size;
        for ($s = 0, $n = 240; $s < $n; $s++) {
            $world->step($period / $n);
        }
        $end = Quaternion::rotate($world->bodies->turnOf($body), [0.0, 1.0, 0.0]);
        self::assertEqualsWithDelta([0.0, 1.0, 0.0], $end, 2e-3, 'after one period the figure axis is back');
        self::assertEqualsWithDelta($axis[1], $end[0] * $axis[0] + $end[1] * $axis[1], 2e-3);
    }

    public function testMomentumIsKeptInACollisionInFreeSpace(): void
    {
        $world = new RigidWorld([0.0, 0.0, 0.0], null);
        $a = self::box($world, [0.3, 0.2, 0.2], [-0.5, 0.03, 0.0], bounce: 0.3);
        $b = self::box($world, [0.2, 0.3, 0.25], [0.5, 0.0, 0.02], Quaternion::fromDegrees(20, 30, 10), bounce: 0.3);
        $world->bodies->setVelocity($a, [2.0, 0.0, 0.0], [0.0, 1.0, 0.0]);
        $world->bodies->setVelocity($b, [-1.0, 0.0, 0.0], [0.0, 0.0, 2.0]);
        $masses = [1000.0 * 0.3 * 0.2 * 0.2, 1000.0 * 0.2 * 0.3 * 0.25];
        $sum = static fn (): array => array_map(static fn (int $k): float => $masses[0] * $world->bodies->velocity($a)[0][$k] + $masses[1] * $world->bodies->velocity($b)[0][$k], [0, 1, 2]);
        $before = $sum();
        $hit = false;
        for ($s = 0; $s < 60; $s++) {
            $world->step(self::DT);
            $hit = $hit || $world->touches() !== [];
        }
        self::assertTrue($hit);
        self::assertEqualsWithDelta($before, $sum(), 1e-9 * 24.0);
    }

    public function testTenBoxesStandFor20Seconds(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0]);
        $boxes = [];
        for ($k = 0; $k < 10; $k++) {
            $boxes[] = self::box($world, [0.4, 0.2, 0.4], [0.0, 0.1 + 0.2 * $k, 0.0]);
        }
        for ($s = 0; $s < 1200; $s++) {
            $world->step(self::DT);
        }
        foreach ($boxes as $k => $box) {
            [$x, $y, $z] = $world->bodies->placeOf($box);
            // Contacts are soft: each gives way by less than a millimetre under the boxes above it.
            self::assertEqualsWithDelta(0.1 + 0.2 * $k, $y, 1e-3 * ($k + 1), "box {$k}");
            self::assertLessThan(2e-3, hypot($x, $z));
            self::assertTrue($world->bodies->isAsleep($box));
        }
    }

    public function testADrivenBodyPushesAndASleeperWakesWhenItsSupportGoes(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0]);
        $table = self::box($world, [1.0, 0.1, 1.0], [0.0, 0.5, 0.0], free: false);
        $cup = self::box($world, [0.1, 0.1, 0.1], [0.0, 0.6, 0.0]);
        for ($s = 0; $s < 120; $s++) {
            $world->step(self::DT);
        }
        self::assertTrue($world->bodies->isAsleep($cup));
        $world->bodies->setVelocity($table, [0.0, -0.4, 0.0], [0.0, 0.0, 0.0]);
        for ($s = 0; $s < 45; $s++) {
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta(0.3, $world->bodies->placeOf($cup)[1], 0.01, 'it goes down with the table');
        $world->bodies->setVelocity($table, [0.0, 0.0, 0.0], [0.0, 0.0, 0.0]);
        for ($s = 0; $s < 90; $s++) {
            $world->step(self::DT);
        }
        $world->bodies->place($table, [5.0, 0.2, 0.0], Quaternion::IDENTITY);
        $world->wakeNeighbours($table);
        for ($s = 0; $s < 90; $s++) {
            $world->step(self::DT);
        }
        self::assertEqualsWithDelta(0.05, $world->bodies->placeOf($cup)[1], 3e-3, 'it has fallen to the floor');
    }

    public function testFastPieceDoesNotPassThroughTheFloor(): void
    {
        $world = new RigidWorld([0.0, -self::G, 0.0]);
        $body = self::box($world, [0.05, 0.05, 0.05], [0.0, 3.0, 0.0], Quaternion::fromDegrees(30, 20, 50));
        $world->bodies->setVelocity($body, [5.0, -40.0, 0.0], [10.0, 0.0, 3.0]);
        for ($s = 0; $s < 240; $s++) {
            $world->step(self::DT);
            self::assertGreaterThan(0.0, $world->bodies->placeOf($body)[1]);
        }
        self::assertEqualsWithDelta(0.025, $world->bodies->placeOf($body)[1], 2e-3);
    }

    public function testHullHoldsAllPointsAndIsClosed(): void
    {
        $stream = \YardBreak\Core\Math\RandomStream::named(5, 'hull');
        for ($n = 5; $n < 40; $n += 7) {
            $x = $y = $z = [];
            for ($i = 0; $i < $n; $i++) {
                [$x[], $y[], $z[]] = $stream->direction();
            }
            $hull = HullBuilder::of($x, $y, $z);
            self::assertSame(2, count($hull->x) - count($hull->ex) + count($hull->d), 'Euler');
            foreach ($x as $i => $px) {
                foreach ($hull->d as $f => $d) {
                    self::assertLessThan($d + 2e-3, $hull->nx[$f] * $px + $hull->ny[$f] * $y[$i] + $hull->nz[$f] * $z[$i]);
                }
            }
        }
        $box = Solids::box(1, 2, 3, 6);
        $hull = HullBuilder::of($box->x, $box->y, $box->z);
        self::assertCount(6, $hull->d);
        self::assertCount(8, $hull->x);
        self::assertCount(12, $hull->ex);
    }
}
