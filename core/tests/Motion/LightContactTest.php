<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\EvenAirflow;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Light\LightBodies;
use YardBreak\Core\Motion\Light\LightPiece;
use YardBreak\Core\Motion\Light\LightWorld;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** Light pieces on what is no floor: they land, slide as Coulomb says, ride, fall off, and never pass. */
final class LightContactTest extends TestCase
{
    private const G = 9.80665;

    private const DT = 1.0 / 72.0;

    private static function piece(float $friction = 0.5, float $restitution = 0.0, bool $sticks = false, float $fallSpeed = 1000.0): LightPiece
    {
        return new LightPiece(0.02, 0.002, [0.0, 1.0, 0.0], $fallSpeed, 0.0, [1.0, 0.0, 0.0], $friction, $restitution, $sticks);
    }

    /** A box, or what is given, that somebody else moves. */
    private static function thing(?TriangleMesh $mesh = null, bool $closed = true, float $friction = 0.5): MovedThing
    {
        return new MovedThing(SurfaceTree::of($mesh ?? Solids::box(1.0, 0.2, 1.0, 1), $closed), $friction);
    }

    private static function gravity(): Forces
    {
        return new Forces([[new Gravity(Animated::constant(self::G)), null, false]]);
    }

    /** @param callable(float): void|null $moves what happens to the collider in a step that ends at a time, s */
    private static function move(LightWorld $world, Collider $on, int $steps, ?callable $moves = null, ?Forces $forces = null): void
    {
        $forces ??= self::gravity();
        for ($n = 1; $n <= $steps; $n++) {
            $world->open([$on], []);
            $world->step($forces, [0], static fn (): array => [1.0], 1.0, self::DT);
            if ($moves !== null) {
                $moves($n * self::DT);
            }
            $world->close([$on], self::DT);
        }
    }

    /**
     * @param array{float, float, float} $at
     * @param array{float, float, float} $velocity
     */
    private static function world(LightPiece $piece, array $at, array $velocity = [0.0, 0.0, 0.0]): LightWorld
    {
        $world = new LightWorld(0.05);
        $world->add($piece);
        $world->place(0, $at, Quaternion::fromDegrees(20.0, 0.0, 35.0));
        $world->letGo(0, $velocity);

        return $world;
    }

    public function testItLiesFlatOnTopAsHighAsItIsThick(): void
    {
        $world = self::world(self::piece(), [0.1, 0.5, -0.2]);
        self::move($world, self::thing(), 60);
        self::assertSame(LightBodies::RESTING, $world->state(0));
        [$x, $y, $z, $qx, $qy, $qz, $qw] = $world->pose(0);
        self::assertEqualsWithDelta([0.1, 0.102, -0.2], [$x, $y, $z], 1e-9);
        self::assertEqualsWithDelta(1.0, abs(Quaternion::rotate([$qx, $qy, $qz, $qw], [0.0, 1.0, 0.0])[1]), 1e-6);
    }

    /** Coulomb: a slope holds what lies on it up to the angle whose tangent is the friction; beyond, it slides with g (sin - mu cos). */
    public function testASlopeHoldsItOrLetsItSlide(): void
    {
        foreach ([20 => true, 26 => true, 28 => false, 45 => false] as $degrees => $holds) {
            $slope = self::thing(Solids::box(40.0, 0.2, 40.0, 1));
            $slope->rotation = Quaternion::fromDegrees(0.0, 0.0, (float) $degrees);
            $angle = deg2rad((float) $degrees);
            $world = self::world(self::piece(), [-0.103 * sin($angle), 0.103 * cos($angle), 0.0]);
            self::move($world, $slope, 72);
            $way = sqrt($world->pose(0)[0] ** 2 + ($world->pose(0)[1] - 0.102 / cos($angle)) ** 2);
            self::assertSame($holds, $world->state(0) === LightBodies::RESTING, "{$degrees} degrees");
            if (! $holds) {
                $a = self::G * (sin($angle) - 0.5 * cos($angle));
                self::assertEqualsWithDelta($a, $world->speed(0), 0.05 * self::G, "{$degrees} degrees, after a second");
                self::assertGreaterThan(0.3 * $a, $way);
            }
        }
    }

    /** Neither a closed thing nor a sheet without thickness is passed. */
    public function testNothingPassesHoweverFast(): void
    {
        $box = Solids::box(2.0, 2e-9, 2.0, 1);
        $sheet = $box->picked(array_values(array_filter(range(0, $box->triangleCount() - 1), static fn (int $t): bool => $box->cross($t)[1] > 1.0)));
        self::assertSame(2, $sheet->triangleCount());
        foreach ([[self::thing(Solids::box(2.0, 0.002, 2.0, 1)), 0.001], [self::thing($sheet, false), 0.0]] as [$thing, $half]) {
            foreach ([5.0, 40.0, 100.0, 500.0] as $speed) {
                foreach ([1.0, -1.0] as $side) {
                    $world = self::world(self::piece(), [0.01, $side * 0.7, 0.02], [0.0, -$side * $speed, 0.0]);
                    self::move($world, $thing, 23, null, new Forces([]));
                    self::assertEqualsWithDelta($side * ($half + 0.002), $world->pose(0)[1], 1e-6, "{$speed} m/s from side {$side}");
                }
            }
        }
    }

    /** Restitution e: it comes back with e times the speed, so to e2 of the height (any text on collisions). */
    public function testItBounces(): void
    {
        $world = self::world(self::piece(0.5, 0.6), [0.0, 1.102, 0.0]);
        $highest = 0.0;
        $down = false;
        for ($n = 0; $n < 120; $n++) {
            $before = $world->pose(0)[1];
            self::move($world, self::thing(), 1);
            $down = $down || $before < 0.15;
            $highest = $down ? max($highest, $world->pose(0)[1]) : 0.0;
        }
        self::assertEqualsWithDelta(0.102 + 0.36, $highest, 0.04);
    }

    public function testItStaysWhereItFirstTouchesIfItSticks(): void
    {
        $wall = self::thing(Solids::box(0.2, 4.0, 4.0, 1));
        $world = self::world(self::piece(sticks: true), [-1.0, 0.0, 0.0], [10.0, 0.0, 0.0]);
        self::move($world, $wall, 60);
        $at = $world->pose(0);
        self::assertSame(LightBodies::RESTING, $world->state(0));
        self::assertEqualsWithDelta(-0.102, $at[0], 1e-9);
        // Also upside down, and shaken.
        self::move($world, $wall, 30, static function (float $time) use ($wall): void {
            $wall->position = [0.4 * sin(30.0 * $time), 0.0, 0.0];
        });
        self::assertEqualsWithDelta(-0.102 + $wall->position[0], $world->pose(0)[0], 1e-9);
    }

    public function testItRidesOnWhatMovesAndIsLeftBehindByWhatIsTooQuick(): void
    {
        // A tray is moved by so many m/s2: friction keeps up to mu g times the spare that rest has; what is quicker slides from under it.
        foreach ([2 => true, 4 => true, 30 => false] as $a => $rides) {
            $tray = self::thing(Solids::box(8.0, 0.2, 8.0, 1));
            $world = self::world(self::piece(), [0.0, 0.11, 0.0]);
            self::move($world, $tray, 30);
            self::assertSame(LightBodies::RESTING, $world->state(0));
            self::move($world, $tray, 30, static function (float $time) use ($tray, $a): void {
                $tray->position = [0.5 * $a * $time * $time, 0.0, 0.0];
            });
            $behind = $tray->position[0] - $world->pose(0)[0];
            if ($rides) {
                self::assertEqualsWithDelta(0.0, $behind, 1e-9, "{$a} m/s2");
            } else {
                self::assertGreaterThan(0.5, $behind, "{$a} m/s2");
                self::assertEqualsWithDelta(0.5 * 0.5 * self::G * (30 * self::DT) ** 2, $world->pose(0)[0], 0.15, 'dragged along by friction alone');
            }
        }
    }

    public function testItTurnsWithWhatTurnsAndFallsOnceTooSteep(): void
    {
        $plate = self::thing(Solids::box(2.0, 0.2, 2.0, 1));
        $world = self::world(self::piece(), [0.3, 0.11, 0.0]);
        self::move($world, $plate, 20);
        $before = $world->pose(0);
        self::move($world, $plate, 40, static function (float $time) use ($plate): void {
            $plate->rotation = Quaternion::fromDegrees(0.0, 90.0 * $time * $time, 0.0);
        });
        $expected = Quaternion::rotate($plate->rotation, [$before[0], $before[1], $before[2]]);
        self::assertEqualsWithDelta($expected, array_slice($world->pose(0), 0, 3), 1e-9);
        self::move($world, $plate, 72, static function (float $time) use ($plate): void {
            $plate->rotation = Quaternion::fromDegrees(0.0, 0.0, -60.0 * $time);
        });
        self::assertSame(LightBodies::LOOSE, $world->state(0));
    }

    /** What lies on a floor is pushed along by a box that comes, at its speed; one that comes down on it leaves it where it is. */
    public function testWhatComesPushesWhatLies(): void
    {
        $box = self::thing();
        $box->position = [-0.8, 0.1, 0.0];
        $world = self::world(self::piece(), [0.0, 0.1, 0.0]);
        $world->addPlane([0.0, 1.0, 0.0], 0.0, 0.5);
        self::move($world, $box, 72);
        self::assertSame(LightBodies::RESTING, $world->state(0));
        self::move($world, $box, 72, static function (float $t) use ($box): void {
            $box->position[0] = -0.8 + 0.8 * $t;
        });
        [$x, $y] = $world->pose(0);
        self::assertEqualsWithDelta(0.5 + 0.002, $x, 0.002, 'beside the box');
        self::assertEqualsWithDelta(0.002, $y, 1e-4, 'on the floor');
        self::move($world, $box, 36);
        self::assertSame(LightBodies::RESTING, $world->state(0));

        $place = array_slice($world->pose(0), 0, 3);
        $box->position = [$place[0], 0.5, 0.0];
        self::move($world, $box, 72, static function (float $t) use ($box): void {
            $box->position[1] = 0.5 - 0.4 * $t;
        });
        self::assertSame($place, array_slice($world->pose(0), 0, 3), 'it is under the box');
    }

    /** What lies on a box that is keyed larger and smaller is lifted and let down, and lies where it did, as far above it. */
    #[Group('slow')]
    public function testItRidesOnWhatGrows(): void
    {
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => 60, 'forces' => [['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'props' => [
            ['id' => 'box', 'name' => 'Box', 'source' => ['kind' => 'box', 'box' => ['width' => 0.6, 'height' => 0.4, 'depth' => 0.6]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'scale' => ['x' => ['keys' => [['frame' => 24, 'value' => 1.0], ['frame' => 60, 'value' => 1.5]]], 'y' => ['keys' => [['frame' => 24, 'value' => 1.0], ['frame' => 40, 'value' => 2.0], ['frame' => 60, 'value' => 0.5]]]]],
            ['id' => 'chips', 'name' => 'Chips', 'source' => ['kind' => 'box', 'box' => ['width' => 0.2, 'height' => 0.04, 'depth' => 0.2]], 'position' => ['x' => 0.1, 'y' => 0.24], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 6]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'light']],
        ]])));
        $lies = static fn (int $frame, int $axis): array => array_column(array_map(static fn (array $pose): array => array_map(floatval(...), $pose), array_chunk($frames[$frame]->of('chips', Track::POSE), 7)), $axis);
        $off = static fn (array $heights, float $top): array => array_map(static fn (float $y): float => $y - $top, $heights);
        $above = $off($lies(24, 1), 0.2);
        self::assertEqualsWithDelta($above, $off($lies(40, 1), 0.4), 1e-6, 'lifted');
        self::assertEqualsWithDelta($above, $off($lies(60, 1), 0.1), 1e-6, 'let down');
        self::assertEqualsWithDelta(array_map(static fn (float $x): float => 1.5 * $x, $lies(24, 0)), $lies(60, 0), 1e-6, 'and apart with it');
    }

    /** @return list<MovedThing> planks that stand about the middle, each so steep that it lets a piece slide */
    private static function pocket(int $sides): array
    {
        $planks = [];
        for ($k = 0; $k < $sides; $k++) {
            // Its upper face leans inward by 55 degrees and goes through a place a little beside the middle, not the same for any two.
            $turn = Quaternion::multiply(Quaternion::fromDegrees(0.0, 360.0 * $k / $sides + 10.0, 0.0), Quaternion::fromDegrees(0.0, 0.0, -55.0));
            $plank = new MovedThing(SurfaceTree::of(Solids::box(2.0, 0.2, 2.0, 1), true), 0.5, travel: 0.0, name: "plank {$k}");
            $plank->rotation = $turn;
            $plank->position = array_map(static fn (float $v): float => -(0.1 + 0.003 * $k) * $v, Quaternion::rotate($turn, [0.0, 1.0, 0.0]));
            $planks[] = $plank;
        }

        return $planks;
    }

    /** What is in a thing and on its way out goes on: bits may begin inside. */
    public function testWhatComesOutOfAThingIsNotHeldThere(): void
    {
        $world = self::world(self::piece(), [0.0, -0.09, 0.0], [0.0, -0.2, 0.0]);
        self::move($world, self::thing(), 30);
        self::assertLessThan(-0.3, $world->pose(0)[1]);
    }

    /** All of them in one: it meets whichever side is nearest, one after the other. */
    public function testItRestsInAHollowOfOneThing(): void
    {
        foreach ([3, 4, 5] as $sides) {
            // A paper cup that stands on its tip.
            [$x, $y, $z, $triangles] = [[0.0], [0.0], [0.0], []];
            for ($k = 0; $k < $sides; $k++) {
                [$x[], $y[], $z[]] = [cos(2.0 * M_PI * $k / $sides + 0.2), 1.6, sin(2.0 * M_PI * $k / $sides + 0.2)];
                array_push($triangles, 0, 1 + ($k + 1) % $sides, 1 + $k);
            }
            $world = self::world(self::piece(), [0.02, 0.3, 0.01]);
            self::move($world, new MovedThing(SurfaceTree::of(new TriangleMesh($x, $y, $z, $triangles), false), 0.5, travel: 0.0), 100);
            self::assertSame(LightBodies::RESTING, $world->state(0), "between {$sides}");
            self::assertLessThan(0.05, $world->pose(0)[1], 'far down');
        }
    }

    /** Sides that would let it slide bear it together, and it does not turn over between them for ever; it goes on when one is drawn away. */
    public function testItRestsInAPocket(): void
    {
        foreach ([2, 3, 4, 5] as $sides) {
            $planks = self::pocket($sides);
            $world = self::world(self::piece(), [0.004, 0.3, 0.002]);
            $again = self::world(self::piece(), [0.0, 0.0, 0.0]);
            $step = static function (LightWorld $world) use (&$planks): void {
                $world->open($planks, []);
                $world->step(self::gravity(), [0], static fn (): array => [1.0], 1.0, self::DT);
                $world->close($planks, self::DT);
            };
            for ($n = 0; $n < 60; $n++) {
                $step($world);
                if ($n === 40) {
                    $again->restore(State::read(State::pack($world->save())));
                } elseif ($n > 40) {
                    $step($again);
                    self::assertSame($world->pose(0), $again->pose(0), 'the same from any step');
                }
            }
            self::assertSame(LightBodies::RESTING, $world->state(0), "between {$sides}");
            $pose = $world->pose(0);
            $step($world);
            self::assertSame($pose, $world->pose(0));
            $again->restore(State::read(State::pack($world->save())));
            array_shift($planks);
            $step($again);
            $step($again);
            self::assertSame(LightBodies::LOOSE, $again->state(0), 'without one of them it falls');
        }
    }

    public function testItFallsWhenWhatItLiesOnIsGone(): void
    {
        $world = self::world(self::piece(), [0.0, 0.11, 0.0]);
        self::move($world, self::thing(), 20);
        self::assertSame(LightBodies::RESTING, $world->state(0));
        $world->open([], []);
        $world->step(self::gravity(), [0], static fn (): array => [1.0], 1.0, self::DT);
        $world->close([], self::DT);
        self::assertSame(LightBodies::LOOSE, $world->state(0));
    }

    /** What lies on a thing lies in the wind: each of them, however the last digit of its height has been rounded. */
    public function testWindTakesItOff(): void
    {
        $still = Animated::constant(0.0);
        foreach ([1 => LightBodies::RESTING, 6 => LightBodies::LOOSE] as $speed => $state) {
            $wind = new Forces([[new Gravity(Animated::constant(self::G)), null, false], [new Wind(new EvenAirflow([Animated::constant((float) $speed), $still, $still]), $still, 0.5, 0, 1), null, false]]);
            foreach ([0.01, 0.02, 0.04, 0.06, 0.1, 0.2] as $height) {
                $box = self::thing(Solids::box(50.0, $height, 50.0, 1));
                $world = self::world(self::piece(fallSpeed: 4.0), [0.0, 0.5 * $height + 0.01, 0.0]);
                self::move($world, $box, 20);
                self::assertSame(LightBodies::RESTING, $world->state(0));
                self::move($world, $box, 10, null, $wind);
                self::assertSame($state, $world->state(0), "{$speed} m/s, {$height} m high");
            }
        }
    }

    /** The way through the triangles, one by one. */
    #[Group('slow')]
    public function testTheFirstTriangleOnAWayIsFound(): void
    {
        $mesh = Solids::torus(1.0, 0.3, 12);
        $tree = SurfaceTree::of($mesh, true);
        $random = RandomStream::named(3, 'ways');
        $hits = 0;
        for ($n = 0; $n < 2000; $n++) {
            [$px, $py, $pz] = [$random->between(-1.0, 1.0), $random->between(-0.4, 0.4), $random->between(-1.0, 1.0)];
            [$dx, $dy, $dz] = $n % 5 === 0 ? [0.0, $random->between(-1.0, 1.0), 0.0] : [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
            $first = 2.0;
            for ($t = 0; $t < $mesh->triangleCount(); $t++) {
                $corner = static fn (int $k): array => [$mesh->x[$mesh->triangles[3 * $t + $k]] - $px, $mesh->y[$mesh->triangles[3 * $t + $k]] - $py, $mesh->z[$mesh->triangles[3 * $t + $k]] - $pz];
                $volume = static fn (array $a, array $b): float => $a[0] * ($b[1] * $dz - $b[2] * $dy) + $a[1] * ($b[2] * $dx - $b[0] * $dz) + $a[2] * ($b[0] * $dy - $b[1] * $dx);
                [$a, $b, $c] = [$corner(0), $corner(1), $corner(2)];
                $signs = [$volume($a, $b), $volume($b, $c), $volume($c, $a)];
                if (min($signs) >= 0.0 || max($signs) <= 0.0) {
                    [$nx, $ny, $nz] = $mesh->cross($t);
                    $along = $nx * $dx + $ny * $dy + $nz * $dz;
                    $at = $along !== 0.0 ? ($nx * $a[0] + $ny * $a[1] + $nz * $a[2]) / $along : -1.0;
                    $first = $at >= 0.0 && $at <= 1.0 ? min($first, $at) : $first;
                }
            }
            $found = $tree->crossed($px, $py, $pz, $dx, $dy, $dz);
            self::assertSame($first > 1.0, $found === null, "way {$n}");
            if ($found !== null) {
                $hits++;
                self::assertEqualsWithDelta($first, $found[1], 1e-9, "way {$n}");
            }
        }
        self::assertGreaterThan(300, $hits);
    }

    /** @return array<string, mixed> a ball sheds flakes; a ring shelf below it is moved away */
    private static function document(string $mover): array
    {
        return ['version' => 2, 'frames' => 60, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'floor', 'name' => 'Floor']], 'props' => [
            [
                'id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 5]], 'position' => ['y' => 1.2],
                'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 150, 'lift' => 0.002]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]],
                'motion' => ['mover' => 'light', 'light' => ['fallSpeed' => 4, 'outward' => 0.3, 'variety' => 0.2]],
            ],
            [
                'id' => 'shelf', 'name' => 'Shelf', 'source' => ['kind' => 'box', 'box' => ['width' => 0.7, 'height' => 0.05, 'depth' => 0.7]],
                'position' => ['y' => ['keys' => [['frame' => 30, 'value' => 0.5], ['frame' => 50, 'value' => 0.8]]]],
                'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => $mover],
            ],
        ]];
    }

    /** @return list<array{string}> */
    public static function movers(): array
    {
        return [['rigid'], ['staged']];
    }

    #[DataProvider('movers')]
    #[Group('thorough')]
    public function testFlakesLieOnTheirCoreAndOnAShelfThatRises(string $mover): void
    {
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(self::document($mover))), false);
        $poses = $frames[59]->of('ball', Track::POSE);
        $shelf = $frames[59]->of('shelf', Track::POSE)[1];
        $onCore = $onShelf = 0;
        foreach (array_chunk(array_slice($poses, 7), 7) as [$x, $y, $z]) {
            $out = sqrt($x * $x + ($y - 1.2) ** 2 + $z * $z);
            self::assertGreaterThan(0.23, $out, 'none inside the core');
            $onCore += $out < 0.26 ? 1 : 0;
            if (abs($x) < 0.34 && abs($z) < 0.34 && $y < 0.9) {
                self::assertGreaterThan($shelf + 0.0245, $y, 'none in or under the shelf');
                $onShelf += $y < $shelf + 0.04 ? 1 : 0;
            }
        }
        self::assertEqualsWithDelta(0.8, $shelf, 0.001);
        // Friction 0.6 keeps what lies within 31 degrees of the top: a fourteenth of a ball.
        self::assertEqualsWithDelta(150 * 0.5 * (1.0 - cos(atan(0.6))), $onCore, 4);
        self::assertGreaterThan(15, $onShelf);
    }

    /** @return list<array{bool}> */
    public static function companies(): array
    {
        return [[true], [false]];
    }

    #[DataProvider('companies')]
    #[Group('thorough')]
    public function testWhatRestsOnThingsGoesOnFromAnyFrame(bool $shelf): void
    {
        $document = self::document('staged');
        $document['frames'] = 45;
        // Let go one after the other: flakes that lie on flakes that are held yet.
        $document['props'][0]['release'] = ['trigger' => 'weight'];
        $document['props'][0]['weight'] = ['stack' => [['source' => 'sweep', 'sweep' => ['backwards' => true, 'from' => 1, 'to' => 40]]]];
        if (! $shelf) {
            // Alone nobody else asks for the core, and it is not as large as it was broken.
            $document['props'] = [$document['props'][0] + ['scale' => ['x' => 1.6, 'y' => 1.6, 'z' => ['keys' => [['frame' => 5, 'value' => 1.6], ['frame' => 40, 'value' => 1.3]]]]]];
        }
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $whole = $saved = [];
        $simulation = $pipeline->motion(Shot::read($document));
        foreach ($simulation->frames() as $number => $frame) {
            $whole[$number] = $frame->values;
            $saved[$number] = $simulation->save();
        }
        foreach ([8, 20, 33] as $from) {
            $again = $pipeline->motion(Shot::read($document));
            $again->restore($saved[$from]);
            foreach ($again->frames() as $number => $frame) {
                self::assertSame($whole[$number], $frame->values, "frame {$number} from {$from}");
            }
        }
        $seats = array_map(static fn (State $mover): int => substr_count($mover->string('state'), 'ball/core'), State::read($saved[33])->parts('movers'));
        self::assertGreaterThan(3, max($seats), 'some lie on the core');
    }

    /** What flakes come off is there for others too: a hard ball and a cloth lie on it. */
    #[Group('thorough')]
    public function testWhatFlakesComeOffIsFelt(): void
    {
        foreach (['rigid', 'cloth'] as $mover) {
            $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => 40, 'planes' => [], 'props' => [
                [
                    'id' => 'slab', 'name' => 'Slab', 'source' => ['box' => ['width' => 0.6, 'height' => 0.2, 'depth' => 0.6, 'divisions' => 2]],
                    'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 40, 'lift' => 0.001]], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'light'],
                ],
                [
                    'id' => 'other', 'name' => 'Other', 'position' => ['y' => 0.3], 'break' => ['pattern' => 'whole'],
                    ...$mover === 'rigid'
                        ? ['source' => ['box' => ['width' => 0.1, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'restitution' => 0.0]]]
                        : ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.3, 'depth' => 0.3, 'divisions' => 6]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth']],
                ],
            ]])), false);
            if ($mover === 'rigid') {
                self::assertEqualsWithDelta(0.15, $frames[39]->of('other', Track::POSE)[1], 0.002, 'it lies on the slab');
            } else {
                self::assertGreaterThan(0.1, min(array_column(array_chunk($frames[39]->of('other', Track::VERTICES), 3), 1)), 'all of it above the slab');
            }
        }
    }
}
