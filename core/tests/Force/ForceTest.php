<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Force;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\AirflowFromPlace;
use YardBreak\Core\Force\Blast;
use YardBreak\Core\Force\ChangingEddies;
use YardBreak\Core\Force\Extent;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Force\Limited;
use YardBreak\Core\Force\Pull;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Force\Stream;
use YardBreak\Core\Force\Swirl;
use YardBreak\Core\Force\ToPlace;
use YardBreak\Core\Force\Turbulence;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Curve;
use YardBreak\Core\Math\Falloff;
use YardBreak\Core\Math\Polyline;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\HullBuilder;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Each force against the formula it follows, at places and as it moves pieces. */
final class ForceTest extends TestCase
{
    /** @return list<Animated> */
    private static function vector(float $x, float $y, float $z): array
    {
        return [Animated::constant($x), Animated::constant($y), Animated::constant($z)];
    }

    /** @return array{float, float, float} acceleration at a place, m/s2 */
    private static function at(ForceField $force, float $x, float $y, float $z, float $frame = 1.0, float $seconds = 1.0 / 96.0): array
    {
        $pushes = new Pushes(1);
        $force->act([$x], [$y], [$z], $frame, $seconds, $pushes);

        return [$pushes->ax[0], $pushes->ay[0], $pushes->az[0]];
    }

    /**
     * Where a hard ball without gravity is at each frame.
     *
     * @param list<array<string, mixed>> $forces
     * @param array<string, mixed> $motion
     *
     * @return list<array{float, float, float}> by frame, from 0 for frame 1
     */
    private static function path(array $forces, float $x, int $frames, array $motion = [], float $fps = 24.0): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'fps' => $fps, 'planes' => [], 'forces' => array_map(static fn (array $force): array => ['id' => $force['force'], 'name' => 'F', ...$force], $forces), 'props' => [[
            'id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.1, 'divisions' => 3]], 'position' => ['x' => $x], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', ...$motion]],
        ]]]);
        $path = [];
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $frame) {
            $pose = $frame->of('ball', Track::POSE);
            $path[] = [(float) $pose[0], (float) $pose[1], (float) $pose[2]];
        }

        return $path;
    }

    /** What pulls harder the farther is a spring: x = cos(w t), w the root of its strength (any text on mechanics). */
    public function testAPullThatGrowsIsASpring(): void
    {
        $path = self::path([['force' => 'pull', 'pull' => ['law' => 'grows', 'strength' => (2.0 * M_PI) ** 2, 'calm' => 0.0]]], 1.0, 49);
        foreach ([6 => 0.0, 12 => -1.0, 18 => 0.0, 24 => 1.0, 48 => 1.0] as $frame => $x) {
            self::assertEqualsWithDelta($x, $path[$frame][0], 0.02, "frame {$frame}");
        }
    }

    /** What pulls harder the nearer keeps a ball on a circle at the speed at which S / r2 = v2 / r. */
    public function testAPullThatFadesKeepsAnOrbit(): void
    {
        $speed = 2.0;
        $path = self::path([['force' => 'pull', 'pull' => ['law' => 'fades', 'strength' => 0.5 * $speed ** 2, 'calm' => 0.0]]], 0.5, 60, ['velocity' => ['z' => $speed]]);
        $turned = 0.0;
        foreach ($path as $n => [$x, , $z]) {
            self::assertEqualsWithDelta(0.5, hypot($x, $z), 0.004, "frame {$n}");
            $turned += $n === 0 ? 0.0 : abs(atan2($z * $path[$n - 1][0] - $x * $path[$n - 1][2], $x * $path[$n - 1][0] + $z * $path[$n - 1][2]));
        }
        self::assertEqualsWithDelta($speed / 0.5 * 59.0 / 24.0, $turned, 0.05);
    }

    public function testAPullIsAsDrawn(): void
    {
        // Half as strong halfway out, nothing past its end, and nothing at all where it is calm.
        $drawn = new Pull(new ToPlace('place', self::vector(0.0, 0.0, 0.0), self::vector(0.0, 1.0, 0.0)), Animated::constant(8.0), 'drawn', Animated::constant(0.0), new Curve([[0.0, 1.0], [1.0, 0.0]]), 2.0);
        foreach ([[0.5, -6.0], [1.0, -4.0], [1.5, -2.0], [2.0, 0.0], [5.0, 0.0]] as [$far, $pull]) {
            self::assertEqualsWithDelta([$pull, 0.0, 0.0], self::at($drawn, $far, 0.0, 0.0), 1e-12);
        }
    }

    /** What is let out at one place and fades with the square of the distance piles up nowhere: its divergence is 0. */
    public function testAirBlowsFromAPlace(): void
    {
        $flow = static fn (float $fades): AirflowFromPlace => new AirflowFromPlace(self::vector(1.0, 0.0, 0.0), Animated::constant(6.0), $fades);
        $at = static function (AirflowFromPlace $flow, float $x, float $y, float $z): array {
            [$u, $v, $w] = [[0.5], [0.0], [0.0]];
            $flow->add([$x], [$y], [$z], 1.0, $u, $v, $w);

            return [$u[0], $v[0], $w[0]];
        };
        foreach ([[0.0, 6.0], [1.0, 3.0], [2.0, 1.5]] as [$fades, $speed]) {
            self::assertEqualsWithDelta([0.5, $speed, 0.0], $at($flow($fades), 1.0, 2.0, 0.0), 1e-12, 'added to what blows already, 2 m above the place');
        }
        self::assertEqualsWithDelta([0.5, 0.0, 0.0], $at($flow(2.0), 1.0, 0.0, 0.0), 1e-12, 'at the place itself');
        $h = 1e-4;
        $divergence = 0.0;
        foreach ([[$h, 0.0, 0.0], [0.0, $h, 0.0], [0.0, 0.0, $h]] as $axis => [$dx, $dy, $dz]) {
            $divergence += ($at($flow(2.0), 0.2 + $dx, 0.7 + $dy, -0.4 + $dz)[$axis] - $at($flow(2.0), 0.2 - $dx, 0.7 - $dy, -0.4 - $dz)[$axis]) / (2.0 * $h);
        }
        self::assertEqualsWithDelta(0.0, $divergence, 1e-6);
    }

    public function testItPullsToWhatItIsSetTo(): void
    {
        $pull = static fn (string $shape, string $law, float $strength = 8.0, float $calm = 0.0): Pull => new Pull(new ToPlace($shape, self::vector(1.0, 2.0, 3.0), self::vector(0.0, 5.0, 0.0)), Animated::constant($strength), $law, Animated::constant($calm));
        self::assertEqualsWithDelta([-8.0, 0.0, 0.0], self::at($pull('place', 'even'), 4.0, 2.0, 3.0), 1e-12);
        self::assertEqualsWithDelta([8.0, 0.0, 0.0], self::at($pull('place', 'even', -8.0), 4.0, 2.0, 3.0), 1e-12, 'less than nothing pushes');
        self::assertEqualsWithDelta([-24.0, 0.0, 0.0], self::at($pull('place', 'grows'), 4.0, 2.0, 3.0), 1e-12);
        self::assertEqualsWithDelta([-2.0, 0.0, 0.0], self::at($pull('place', 'fades'), 3.0, 2.0, 3.0), 1e-12);
        self::assertEqualsWithDelta([-4.0, 0.0, 0.0], self::at($pull('place', 'even', calm: 2.0), 2.0, 2.0, 3.0), 1e-12, 'half-way into where it is calm');
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], self::at($pull('place', 'fades'), 1.0, 2.0, 3.0), 1e-12);
        self::assertEqualsWithDelta([-8.0, 0.0, 0.0], self::at($pull('line', 'even'), 4.0, 77.0, 3.0), 1e-12, 'along the line it does not matter where');
        self::assertEqualsWithDelta([0.0, -8.0, 0.0], self::at($pull('plane', 'even'), 9.0, 2.5, -7.0), 1e-12);
    }

    /** To a box's surface: from a place over its face straight down, from inside outward, where its keys put it. */
    public function testItPullsToAProp(): void
    {
        $shot = Shot::read(['version' => 2, 'forces' => [['id' => 'p', 'name' => 'P', 'force' => 'pull', 'pull' => ['to' => 'prop', 'prop' => 'box', 'law' => 'grows', 'strength' => 3.0, 'calm' => 0.0]]], 'props' => [
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 1, 'height' => 1, 'depth' => 1, 'divisions' => 1]], 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 10]]]], 'rotation' => ['z' => 90], 'scale' => ['x' => 2, 'y' => 2, 'z' => 2]],
        ]]);
        $field = \YardBreak\Core\Stage\ShotForces::field($shot->forces[0], $shot, (new Pipeline(new MemoryStore(), new NoAssets()))->surfaces);
        self::assertEqualsWithDelta([0.0, -3.0 * 0.5, 0.0], self::at($field, 0.1, 1.5, 0.2), 1e-9);
        self::assertEqualsWithDelta([3.0 * 0.25, 0.0, 0.0], self::at($field, 0.75, 0.1, 0.2), 1e-9, 'from inside');
        self::assertEqualsWithDelta([0.0, -3.0 * 0.5, 0.0], self::at($field, 5.1, 1.5, 0.2, 6.0), 1e-9, 'half-way on its keys');
    }

    /** Rankine's vortex: as fast as a solid within the core, less and less beyond. */
    public function testASwirlTurnsLikeRankinesVortex(): void
    {
        $swirl = static fn (float $inward, float $lift): Swirl => new Swirl(self::vector(0.0, 9.0, 0.0), self::vector(0.0, 2.0, 0.0), Animated::constant(6.0), 0.5, Animated::constant($inward), Animated::constant($lift), false);
        foreach ([[0.1, 1.2], [0.5, 6.0], [1.0, 3.0], [2.0, 1.5]] as [$far, $strength]) {
            self::assertEqualsWithDelta([0.0, 0.0, -$strength], self::at($swirl(0.0, 0.0), $far, 1.0, 0.0), 1e-12, 'to the left, seen from above');
        }
        self::assertEqualsWithDelta([-1.5, 0.75, -3.0], self::at($swirl(0.5, 0.25), 1.0, 1.0, 0.0), 1e-12);
    }

    /**
     * Pulled to a plane harder the farther, a rod lies down in it and swings about it: I w' = -k I sin cos, for small angles with
     * the root of the strength, as its middle would.
     */
    public function testWhatPushesOneEndHarderTurnsIt(): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 49, 'planes' => [], 'forces' => [['id' => 'p', 'name' => 'P', 'force' => 'pull', 'pull' => ['to' => 'plane', 'law' => 'grows', 'strength' => (2.0 * M_PI) ** 2, 'calm' => 0.0]]], 'props' => [[
            'id' => 'rod', 'name' => 'Rod', 'source' => ['box' => ['width' => 1.0, 'height' => 0.02, 'depth' => 0.02, 'divisions' => 1]], 'rotation' => ['z' => 5], 'break' => ['pattern' => 'whole'],
            'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls']],
        ]]]);
        $lean = [];
        foreach ((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot) as $frame) {
            $pose = $frame->of('rod', Track::POSE);
            [, $up] = Quaternion::rotate([(float) $pose[3], (float) $pose[4], (float) $pose[5], (float) $pose[6]], [1.0, 0.0, 0.0]);
            $lean[] = rad2deg(asin($up));
        }
        foreach ([0 => 5.0, 6 => 0.0, 12 => -5.0, 18 => 0.0, 24 => 5.0, 48 => 5.0] as $n => $degrees) {
            self::assertEqualsWithDelta($degrees, $lean[$n], 0.25, "frame {$n}");
        }
    }

    /** dv/dt = -k v and dv/dt = -k v2: v = v0 exp(-k t), v = v0 / (1 + k v0 t). */
    public function testDragSlowsAsTheFormulasSay(): void
    {
        $path = self::path([['force' => 'drag', 'drag' => ['linear' => 2.0]]], 0.0, 25, ['velocity' => ['x' => 3.0], 'angularVelocity' => ['y' => 90.0]]);
        self::assertEqualsWithDelta(3.0 / 2.0 * (1.0 - exp(-2.0)), $path[24][0], 0.01);
        $path = self::path([['force' => 'drag', 'drag' => ['linear' => 0.0, 'square' => 0.5]]], 0.0, 25, ['velocity' => ['x' => 3.0]]);
        self::assertEqualsWithDelta(log(1.0 + 0.5 * 3.0) / 0.5, $path[24][0], 0.01);
    }

    /** The front comes at r / c; the sum of what it gives is S T / e at 1 m, whatever the steps (the integral of Friedlander's waveform up to T). */
    public function testABlastGivesTheSameWhateverTheSteps(): void
    {
        foreach ([12.0, 24.0, 60.0, 240.0] as $fps) {
            foreach ([[1.0, 0.0, 1.0], [2.0, 1.0, 0.5], [2.0, 2.0, 0.25], [4.0, 0.0, 1.0]] as [$far, $fades, $share]) {
                $blast = new Blast(self::vector(0.0, 0.0, 0.0), 10.0, 300.0, 40.0, 0.05, $fades, false, $fps);
                $speed = 0.0;
                $came = null;
                for ($frame = 1.0; $frame < 10.0 + $fps; $frame += 0.25) {
                    [$x, $y] = self::at($blast, $far, 0.0, 0.0, $frame, 0.25 / $fps);
                    $speed += $x * 0.25 / $fps;
                    $came ??= $x > 0.0 ? $frame : null;
                    self::assertSame(0.0, $y);
                }
                self::assertEqualsWithDelta($share * 300.0 * 0.05 / M_E, $speed, 1e-9, "{$fps} fps at {$far} m");
                self::assertEqualsWithDelta(10.0 + $fps * $far / 40.0, $came, 0.26, 'as fast as its front');
            }
        }
        // Drawn back as much as it was pushed.
        $blast = new Blast(self::vector(0.0, 0.0, 0.0), 1.0, 300.0, 40.0, 0.05, 0.0, true, 24.0);
        $speed = 0.0;
        for ($frame = 1.0; $frame < 60.0; $frame += 0.25) {
            $speed += self::at($blast, 0.0, 1.0, 0.0, $frame)[1] / 96.0;
        }
        self::assertEqualsWithDelta(0.0, $speed, 1e-9);
        self::assertEqualsWithDelta(3.0 + 23.0 / 24.0 * 300.0 * 0.08 / M_E, self::path([['force' => 'blast', 'blast' => ['frame' => 1, 'fades' => 'even', 'strength' => 300, 'at' => ['x' => 2.0], 'speed' => 10000]]], 3.0, 24)[23][0], 0.5, 'and throws a ball');
    }

    /** A ball in a wind: dv/dt = k (u - v)2, k by the area it turns to the wind: v = u - u / (1 + k u t). */
    public function testTheWindMovesAHardPieceAsMuchAsItIsLightForItsSize(): void
    {
        $density = 20.0;
        $hull = self::hull(Solids::ball(0.05, 3));
        $k = 0.5 * 1.225 * 0.95 * 0.25 * $hull->area() / ($density * $hull->volume());
        $path = self::path([['force' => 'wind', 'wind' => ['velocity' => ['x' => 12.0], 'turbulence' => 0]]], 0.0, 25, ['density' => $density]);
        self::assertGreaterThan(0.1, $k);
        self::assertEqualsWithDelta(12.0 - log(1.0 + 12.0 * $k) / $k, $path[24][0], 0.15, 'within 2 %: it is felt as a hull of fewer corners');
        self::assertEqualsWithDelta(0.0, self::path([['force' => 'wind']], 0.0, 25, ['density' => 8000])[24][0], 0.02, 'steel stands');
    }

    private static function hull(TriangleMesh $mesh): \YardBreak\Core\Motion\Rigid\ConvexHull
    {
        return HullBuilder::of($mesh->x, $mesh->y, $mesh->z);
    }

    /** A convex thing turns a quarter of its surface to the wind on average (Cauchy 1832): by looking at it from many sides. */
    public function testAQuarterOfTheSurfaceIsSeenOnAverage(): void
    {
        $hull = self::hull(Solids::box(0.3, 0.2, 0.1, 1));
        self::assertEqualsWithDelta(2.0 * (0.06 + 0.03 + 0.02), $hull->area(), 1e-9);
        $random = RandomStream::named(3, 'sides');
        $seen = 0.0;
        for ($n = 0; $n < 4000; $n++) {
            [$x, $y, $z] = $random->direction();
            $seen += (0.02 * abs($x) + 0.03 * abs($y) + 0.06 * abs($z)) / 4000;
        }
        self::assertEqualsWithDelta(0.25 * $hull->area(), $seen, 0.001);
    }

    #[Group('slow')]
    public function testTurbulenceIsAsStrongAsAskedAndPileUpNothing(): void
    {
        $drift = [0.3, 0.0, 0.0];
        $field = new Turbulence(Animated::constant(5.0), 0.7, 3, $drift, 48, 2, 24.0);
        $random = RandomStream::named(2, 'places');
        $sum = $worst = 0.0;
        $h = 1e-5;
        for ($n = 0; $n < 300; $n++) {
            [$x, $y, $z] = [$random->between(-4.0, 4.0), $random->between(-4.0, 4.0), $random->between(-4.0, 4.0)];
            [$u, $v, $w] = self::at($field, $x, $y, $z, 7.0);
            $sum += $u * $u + $v * $v + $w * $w;
            $worst = max($worst, abs(self::at($field, $x + $h, $y, $z, 7.0)[0] - self::at($field, $x - $h, $y, $z, 7.0)[0] + self::at($field, $x, $y + $h, $z, 7.0)[1]
                - self::at($field, $x, $y - $h, $z, 7.0)[1] + self::at($field, $x, $y, $z + $h, 7.0)[2] - self::at($field, $x, $y, $z - $h, 7.0)[2]) / (2.0 * $h));
        }
        self::assertEqualsWithDelta(5.0, sqrt($sum / 300), 0.5);
        self::assertLessThan(1e-5, $worst);
        self::assertNotEquals(self::at($field, 0.1, 0.2, 0.3, 1.0), self::at($field, 0.1, 0.2, 0.3, 20.0), 'it changes');
        // What drifts and does not change is elsewhere the same.
        $still = new Turbulence(Animated::constant(5.0), 0.7, 1, $drift, 0, 2, 24.0);
        self::assertEqualsWithDelta(self::at($still, 0.1, 0.2, 0.3, 1.0), self::at($still, 0.1 + 0.3, 0.2, 0.3, 25.0), 1e-9);
    }

    /** They are mixed everywhere, or asked one by one: whichever is less work, it is the same wind. */
    public function testOfFewAndOfManyEddiesAreTheSame(): void
    {
        $random = RandomStream::named(4, 'places');
        $places = [[], [], []];
        for ($n = 0; $n < 800; $n++) {
            foreach ($places as $axis => $_) {
                $places[$axis][] = $random->between(-3.0, 3.0);
            }
        }
        foreach ([12.5, 13.0] as $frame) {
            $many = [array_fill(0, 800, 0.5), array_fill(0, 800, 0.0), array_fill(0, 800, 0.0)];
            $eddies = new ChangingEddies(3, 'test', 24);
            $eddies->add(...[...$places, $frame, 2.0, 0.4], u: $many[0], v: $many[1], w: $many[2]);
            foreach (range(0, 799, 80) as $from) {
                $few = [array_fill(0, 80, 0.5), array_fill(0, 80, 0.0), array_fill(0, 80, 0.0)];
                $eddies->add(...[...array_map(static fn (array $of): array => array_slice($of, $from, 80), $places), $frame, 2.0, 0.4], u: $few[0], v: $few[1], w: $few[2]);
                foreach ($few as $axis => $values) {
                    self::assertEqualsWithDelta(array_slice($many[$axis], $from, 80), $values, 1e-12);
                }
            }
        }
        self::assertGreaterThan(1.0, max($many[1]));
    }

    public function testAStreamGoesAlongItsLine(): void
    {
        $stream = new Stream(new Polyline([[0.0, 0.0, 0.0], [2.0, 0.0, 0.0], [2.0, 3.0, 0.0]]), Animated::constant(4.0), Animated::constant(10.0));
        self::assertEqualsWithDelta([4.0, -5.0, 0.0], self::at($stream, 1.0, 0.5, 0.0), 1e-12);
        self::assertEqualsWithDelta([10.0, 4.0, 0.0], self::at($stream, 1.0, 2.0, 0.0), 1e-12);
        self::assertEqualsWithDelta([0.0, -10.0, 0.0], self::at($stream, 2.0, 4.0, 0.0), 1e-12, 'at its end it only holds');
    }

    public function testItReachesSoFarAndActsOnWhomItShould(): void
    {
        $near = new Limited(new Gravity(Animated::constant(10.0)), new Extent(self::vector(0.0, 0.0, 0.0), Animated::constant(1.0), 2.0, Falloff::of('linear')));
        foreach ([[0.5, 10.0], [1.0, 10.0], [2.0, 5.0], [2.5, 2.5], [3.0, 0.0], [9.0, 0.0]] as [$far, $g]) {
            self::assertEqualsWithDelta([0.0, -$g, 0.0], self::at($near, 0.0, 0.0, $far), 1e-12);
        }
        self::assertNull($near->uniform(1.0));
        $forces = new Forces([[new Gravity(Animated::constant(10.0)), null, false], [new Gravity(Animated::constant(4.0)), [1], false], [new Gravity(Animated::constant(2.0), self::vector(3.0, 0.0, 0.0)), [0, 1], true]]);
        self::assertSame([0.0, -10.0, 0.0], $forces->uniform(1.0), 'the same for all');
        $pushes = $forces->at([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0, 1, 2], 1.0, 0.01, static fn (): array => [0.5, 1.0, 1.0]);
        self::assertSame([1.0, 2.0, 0.0], array_values($pushes->ax));
        self::assertSame([-10.0, -14.0, -10.0], array_values($pushes->ay));
        self::assertSame([1.0, 2.0, 0.0], array_values($forces->uneven()->at([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0, 1, 2], 1.0, 0.01, static fn (): array => [0.5, 1.0, 1.0])->ax));
    }
}
