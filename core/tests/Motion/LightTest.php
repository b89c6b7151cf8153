<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Eddies;
use YardBreak\Core\Force\EvenAirflow;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Light\Leaning;
use YardBreak\Core\Motion\Light\LightBodies;
use YardBreak\Core\Motion\Light\LightPiece;
use YardBreak\Core\Motion\Light\LightWorld;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Light pieces against formulas of any text on drag, and what an artist sees of them. */
final class LightTest extends TestCase
{
    private const G = 9.80665;

    private static function piece(float $fallSpeed, float $friction = 0.0): LightPiece
    {
        return new LightPiece(0.05, 0.001, [0.0, 1.0, 0.0], $fallSpeed, 4.0, [0.6, 0.0, 0.8], $friction);
    }

    /** v = v_t tanh(g t / v_t): a fall from rest with drag that grows with the square of the speed. */
    public function testAFallThroughStillAirFollowsTheTanh(): void
    {
        foreach ([0.4, 1.2, 5.0] as $terminal) {
            $error = [];
            foreach ([120, 960, 1920] as $steps) {
                $dt = 1.0 / $steps;
                $world = new LightWorld(0.01);
                $world->add(self::piece($terminal));
                $world->letGo(0, [0.0, 0.0, 0.0]);
                $worst = 0.0;
                for ($n = 1; $n <= $steps; $n++) {
                    $world->step(new Forces([[new Gravity(Animated::constant(self::G)), null, false]]), [0], static fn (): array => [1.0], 1.0, $dt);
                    $worst = max($worst, abs($world->speed(0) - $terminal * tanh(self::G * $n * $dt / $terminal)) / $terminal);
                }
                $error[] = $worst;
            }
            self::assertLessThan(0.08, $error[0], "falls at {$terminal} m/s");
            // Drag is taken as the product of the speeds before and after the step: second order (Mickens 1994, from memory).
            self::assertEqualsWithDelta(4.0, $error[1] / $error[2], 0.4, 'half the step, a quarter of the error');
        }
    }

    public function testTheAirCarriesAPieceAtItsOwnSpeed(): void
    {
        $world = new LightWorld(0.01);
        $world->add(self::piece(0.5));
        $world->letGo(0, [0.0, 0.0, 0.0]);
        $still = Animated::constant(0.0);
        $wind = new Wind(new EvenAirflow([Animated::constant(3.0), $still, $still]), $still, 0.5, 0, 1);
        for ($n = 0; $n < 2400; $n++) {
            $world->step(new Forces([[$wind, null, false]]), [0], static fn (): array => [1.0], 1.0, 1.0 / 120.0);
        }
        self::assertEqualsWithDelta(3.0, $world->speed(0), 0.01);
    }

    /** On the floor it lies flat, as high as it is thick, slides as Coulomb says (v2 / (2 mu g), mu the geometric mean of both) and then is still. */
    public function testItLandsFlatAndSlidesToRest(): void
    {
        $world = new LightWorld(0.01);
        // So heavy that the air does not matter.
        $world->add(self::piece(1000.0, 0.8));
        $world->addPlane([0.0, 1.0, 0.0], 0.3, 0.2);
        $world->place(0, [0.0, 0.301, 0.0], Quaternion::IDENTITY);
        $world->letGo(0, [2.0, 0.0, 0.0]);
        for ($n = 0; $n < 400; $n++) {
            $world->step(new Forces([[new Gravity(Animated::constant(self::G)), null, false]]), [0], static fn (): array => [1.0], 1.0, 1.0 / 240.0);
        }
        self::assertSame(LightBodies::RESTING, $world->state(0));
        [$x, $y] = $world->pose(0);
        self::assertEqualsWithDelta(0.301, $y, 1e-9);
        self::assertEqualsWithDelta(4.0 / (2.0 * 0.4 * self::G), $x, 0.02);
    }

    /**
     * On a floor a share of the wind reaches it. Drag by the square of the air's speed against it, which is the weight at its falling
     * speed, is held by friction until the air that reaches it is as fast as the root of the friction times that (half as much again: what
     * rests, rests), and from then on it slides slower than the air by so much: a balance of two forces.
     */
    public function testWindDrivesItAlongAFloor(): void
    {
        $still = Animated::constant(0.0);
        foreach ([[4.0, 0.0], [4.0, 0.25], [8.0, 0.25], [4.0, 1.0]] as [$speed, $exposure]) {
            $world = new LightWorld(0.02);
            $world->add(new LightPiece(0.05, 0.001, [0.0, 1.0, 0.0], 1.2, 4.0, [0.6, 0.0, 0.8], 0.8, exposure: $exposure));
            $world->addPlane([0.0, 1.0, 0.0], 0.0, 0.8);
            $world->place(0, [0.0, 0.001, 0.0], Quaternion::IDENTITY);
            $world->letGo(0, [0.0, 0.0, 0.0]);
            $blows = static fn (float $speed): Forces => new Forces([[new Gravity(Animated::constant(self::G)), null, false], [new Wind(new EvenAirflow([Animated::constant($speed), $still, $still]), $still, 0.5, 0, 1), null, false]]);
            $step = static fn (float $speed) => $world->step($blows($speed), [0], static fn (): array => [1.0], 1.0, 1.0 / 240.0);
            $step(0.0);
            self::assertSame(LightBodies::RESTING, $world->state(0));
            for ($n = 0; $n < 720; $n++) {
                $step($speed);
            }
            $holds = 1.2 * sqrt(0.8);
            $slides = $exposure * $speed > sqrt(1.5) * $holds;
            self::assertSame($slides ? LightBodies::LOOSE : LightBodies::RESTING, $world->state(0), "{$speed} m/s, {$exposure} of it");
            self::assertEqualsWithDelta($slides ? $exposure * $speed - $holds : 0.0, $world->speed(0), 0.02, "{$speed} m/s, {$exposure} of it");
            self::assertEqualsWithDelta(0.001, $world->pose(0)[1], 1e-9, 'it stays on the floor');
            // The wind drops.
            for ($n = 0; $n < 240; $n++) {
                $step(0.0);
            }
            self::assertSame(LightBodies::RESTING, $world->state(0));
        }
    }

    public function testItLeansNoMoreThanThereIsRoomFor(): void
    {
        $turn = Quaternion::normalized([0.4, -0.3, 0.5, 0.7]);
        foreach ([1.0, 0.5, 0.1, 0.0] as $sine) {
            $leaned = Leaning::atMost($turn, [0.0, 1.0, 0.0], [0.0, 0.6, 0.8], $sine);
            [$x, $y, $z] = Quaternion::rotate($leaned, [0.0, 1.0, 0.0]);
            $cosine = abs(0.6 * $y + 0.8 * $z);
            self::assertLessThanOrEqual($sine + 1e-9, sqrt(max(0.0, 1.0 - $cosine * $cosine)));
            self::assertEqualsWithDelta(1.0, $x * $x + $y * $y + $z * $z, 1e-12);
        }
        self::assertSame($turn, Leaning::atMost($turn, [0.0, 1.0, 0.0], [0.0, 0.6, 0.8], 1.0));
    }

    public function testAFlatPieceIsKnownByItsInertia(): void
    {
        foreach ([[0.3, 0.01, 0.2], [0.3, 0.02, 0.03]] as $size) {
            $turn = Quaternion::fromDegrees(30.0, 40.0, 50.0);
            $mass = MassProperties::of(Solids::box($size[0], $size[1], $size[2], 1)->transformed(1.0, $turn, [3.0, 1.0, 2.0]));
            $axis = LightPiece::across($mass);
            $expected = Quaternion::rotate($turn, [0.0, 1.0, 0.0]);
            self::assertEqualsWithDelta(1.0, abs($axis[0] * $expected[0] + $axis[1] * $expected[1] + $axis[2] * $expected[2]), 1e-6);
        }
    }

    /** Their speed is what was asked for, on average; what flows to a place flows on: the divergence is nought, by differences. */
    #[Group('slow')]
    public function testEddiesAreAsFastAsAskedAndPileUpNowhere(): void
    {
        $eddies = Eddies::seeded(4, 'test');
        $random = RandomStream::named(1, 'places');
        $field = static function (float $x, float $y, float $z) use ($eddies): array {
            $u = $v = $w = [0.0];
            $eddies->add([$x], [$y], [$z], 1.0, 1.0, $u, $v, $w);

            return [$u[0], $v[0], $w[0]];
        };
        $sum = $worst = $slope = 0.0;
        $h = 1e-5;
        for ($n = 0; $n < 2000; $n++) {
            [$x, $y, $z] = [$random->between(0.0, 8.0), $random->between(0.0, 8.0), $random->between(0.0, 8.0)];
            $here = $field($x, $y, $z);
            $sum += $here[0] ** 2 + $here[1] ** 2 + $here[2] ** 2;
            $along = ($field($x + $h, $y, $z)[0] - $field($x - $h, $y, $z)[0]) / (2.0 * $h);
            $slope += abs($along) / 2000;
            $worst = max($worst, abs($along + ($field($x, $y + $h, $z)[1] - $field($x, $y - $h, $z)[1] + $field($x, $y, $z + $h)[2] - $field($x, $y, $z - $h)[2]) / (2.0 * $h)));
        }
        self::assertEqualsWithDelta(1.0, sqrt($sum / 2000), 0.05);
        self::assertGreaterThan(0.5, $slope, 'it does change from place to place');
        self::assertLessThan(1e-8, $worst, 'at any place');
        // Between the points of the grid, and after 32 cells the same again.
        $a = $b = [[0.0], [0.0], [0.0]];
        $eddies->add([0.13], [-0.7], [2.2], 1.5, 0.5, $a[0], $a[1], $a[2]);
        $eddies->add([0.13 + 4.0], [-0.7], [2.2 - 4.0], 1.5, 0.5, $b[0], $b[1], $b[2]);
        self::assertEqualsWithDelta($a, $b, 1e-9);
        self::assertNotSame([[0.0], [0.0], [0.0]], $a);
    }

    /** @return list<Frame> */
    private static function frames(string $mover, int $frames, float $life): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity'], ['id' => 'w', 'name' => 'W', 'force' => 'wind']], 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 5]], 'position' => ['y' => 0.5],
            'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 60, 'lift' => 0.002]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 5]],
            'motion' => ['mover' => $mover, 'light' => ['life' => $life, 'fade' => 6, 'variety' => 0.2]],
        ]]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot), false);
    }

    #[Group('thorough')]
    public function testFlakesLeaveTheCoreComeDownAndAreGone(): void
    {
        $frames = self::frames('light', 100, 70);
        $last = $frames[99];
        self::assertSame(0, $frames[3]->released());
        self::assertSame(60, $last->released(), 'all but the core');
        self::assertSame(0, $last->moving(), 'at rest');
        $poses = $last->of('a', Track::POSE);
        $lives = $last->of('a', Track::LIFE);
        self::assertSame(array_slice($frames[0]->of('a', Track::POSE), 0, 7), array_slice($poses, 0, 7), 'the core stays');
        for ($k = 1; $k <= 60; $k++) {
            self::assertSame(0.0, $lives[$k]);
        }
        self::assertSame(1.0, $lives[0]);
        $before = 1.0;
        foreach ($frames as $frame) {
            foreach ($frame->of('a', Track::POSE) as $n => $value) {
                self::assertTrue($n % 7 !== 1 || $value > 0.0, "above the floor at frame {$frame->number}");
            }
            $life = (float) $frame->of('a', Track::LIFE)[7];
            self::assertLessThanOrEqual($before, $life, 'life only ends');
            $before = $life;
        }
    }
}
