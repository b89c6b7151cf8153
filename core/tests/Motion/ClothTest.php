<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Force\EvenAirflow;
use YardBreak\Core\Force\ForceField;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Gravity;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Force\Wind;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Remesh;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Cloth;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Surface\PlaneContact;

/**
 * Cloth against formulas of handbooks.
 *
 * @phpstan-import-type Pose from Holding
 */
final class ClothTest extends TestCase
{
    private const G = 9.80665;

    /** s; twelve substeps a frame of 1/24 s. */
    private const H = 1.0 / 288.0;

    /** Substeps of a step. */
    private const STEP = 4;

    private const STILL = [[0.0, 0.0, 0.0], Quaternion::IDENTITY, [1.0, 1.0, 1.0]];

    /** A flat strip along x, from 0, its width along z. */
    private static function strip(float $length, float $width, int $along, int $across): TriangleMesh
    {
        $x = $y = $z = $triangles = [];
        for ($i = 0; $i <= $along; $i++) {
            for ($j = 0; $j <= $across; $j++) {
                [$x[], $y[], $z[]] = [$length * $i / $along, 0.0, $width * ($j / $across - 0.5)];
            }
        }
        for ($i = 0; $i < $along; $i++) {
            for ($j = 0; $j < $across; $j++) {
                $a = $i * ($across + 1) + $j;
                $b = $a + $across + 1;
                array_push($triangles, ...(($i + $j) % 2 === 1 ? [$a, $a + 1, $b, $b, $a + 1, $b + 1] : [$a, $a + 1, $b + 1, $a, $b + 1, $b]));
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    private static function fabric(
        float $mass = 0.2,
        float $stretch = 2e4,
        float $bend = 1e-5,
        float $shear = 0.5,
        float $damping = 0.0,
        float $drag = 0.0,
        float $friction = 0.4,
        float $gap = 0.004,
    ): Fabric {
        return new Fabric($mass, $stretch, $shear, $bend, $damping, $drag, $friction, $gap);
    }

    /**
     * @param list<int> $held
     * @param list<PlaneContact> $planes
     * @param Pose $pose
     */
    private static function cloth(TriangleMesh $mesh, Fabric $fabric, array $held = [], array $planes = [], array $pose = self::STILL, int $finer = 1): Cloth
    {
        $hold = array_fill(0, $mesh->vertexCount(), 0.0);
        foreach ($held as $v) {
            $hold[$v] = 1.0;
        }

        return new Cloth(Weave::of($mesh, $fabric), $fabric, $planes, self::H / $finer, $hold, $pose);
    }

    /**
     * @param list<ForceField> $forces
     * @param Pose $pose
     */
    private static function move(Cloth $cloth, float $seconds, array $forces, array $pose = self::STILL, int $finer = 1): void
    {
        $dt = self::H * self::STEP / $finer;
        for ($s = 0, $steps = (int) round($seconds / $dt); $s < $steps; $s++) {
            [$x, $y, $z] = $cloth->axes();
            $cloth->begin((new Forces(array_map(static fn (ForceField $force): array => [$force, null, false], $forces)))->at($x, $y, $z, array_fill(0, count($x), 0), 1.0, $dt, static fn (): array => []), $dt, []);
            for ($k = 0; $k < self::STEP; $k++) {
                $cloth->substep($pose, $pose);
            }
            if ($s % (3 * $finer) === 3 * $finer - 1) {
                $cloth->finish();
            }
        }
    }

    /** @return list<ForceField> */
    private static function gravity(): array
    {
        return [new Gravity(Animated::constant(self::G))];
    }

    /**
     * A hanging strip gets longer by rho g L2 / (2 E) (any text on strength of materials; here by width: mass an area,
     * stiffness a width). At the substeps of a bake it is soft by up to half; with smaller ones that goes, on any mesh.
     */
    #[Group('thorough')]
    public function testAStripGetsLongerUnderItsOwnWeight(): void
    {
        $stretch = 400.0;
        $expected = 0.2 * self::G / (2.0 * $stretch);
        // Hung along -y: the strip's x axis points down.
        $pose = [[0.0, 0.0, 0.0], Quaternion::fromDegrees(0.0, 0.0, -90.0), [1.0, 1.0, 1.0]];
        foreach ([[20, 2], [40, 4]] as [$along, $across]) {
            foreach ([[1, 0.8], [4, 0.3]] as [$finer, $within]) {
                $cloth = self::cloth(self::strip(1.0, 0.1, $along, $across), self::fabric(stretch: $stretch, shear: 0.0, damping: 4.0), range(0, $across), [], $pose, $finer);
                self::move($cloth, 2.0, self::gravity(), $pose, $finer);
                $lowest = min(self::every($cloth->places(), 1));
                self::assertEqualsWithDelta($expected, -$lowest - 1.0, $within * $expected, "{$along} by {$across}, substep / {$finer}");
            }
        }
    }

    /**
     * Peirce's cantilever as in ASTM D1388 (Peirce 1930): where so much of a strip hangs over an edge that the line to its end
     * droops by 41.5 degrees, half of that is its bending length.
     */
    #[Group('thorough')]
    public function testAStripDroopsAsItsBendingLengthSays(): void
    {
        $overhang = 0.12;
        $bend = Fabric::rigidity(0.2, $overhang);
        foreach ([[4, 1, 10.0], [6, 16, 3.5], [8, 16, 3.5]] as [$rows, $finer, $within]) {
            // The first three rows are held; the edge of the table is at the last of them.
            $edge = $overhang / $rows;
            $cloth = self::cloth(self::strip($overhang + 2.0 * $edge, 4.0 * $edge, $rows + 2, 4), self::fabric(bend: $bend, damping: 6.0), range(0, 14), [], self::STILL, $finer);
            self::move($cloth, 2.0, self::gravity(), self::STILL, $finer);
            $places = array_chunk($cloth->places(), 3);
            [$from, $to] = [$places[12], $places[5 * ($rows + 2) + 2]];
            self::assertEqualsWithDelta(41.5, rad2deg(atan2($from[1] - $to[1], $to[0] - $from[0])), $within, "{$rows} rows, substep / {$finer}");
        }
    }

    /** Laid on a cylinder, it has the energy of a plate in whatever direction it is bent (any text on plates), but for the factor its hinges need. */
    #[Group('slow')]
    public function testBendingCostsTheSameInEveryDirection(): void
    {
        $weave = Weave::of(Remesh::to(Normals::computed(self::strip(1.0, 1.0, 10, 10)), 3000), self::fabric(bend: 1.0));
        $radius = 5.0;
        foreach ([0.0, 30.0, 45.0, 77.0] as $degrees) {
            [$c, $s] = [cos(deg2rad($degrees)), sin(deg2rad($degrees))];
            $places = [];
            foreach ($weave->x as $i => $x) {
                $along = ($c * $x + $s * $weave->z[$i]) / $radius;
                $places[] = [$radius * sin($along), $radius * (1.0 - cos($along)), -$s * $x + $c * $weave->z[$i]];
            }
            $energy = 0.0;
            foreach ($weave->rigidity as $k => $rigidity) {
                foreach ([0, 1, 2] as $axis) {
                    $sum = 0.0;
                    foreach ($weave->hinge as $q => $vertices) {
                        $sum += $weave->factor[$q][$k] * $places[$vertices[$k]][$axis];
                    }
                    $energy += 0.5 * $rigidity * $sum * $sum;
                }
            }
            self::assertEqualsWithDelta(1.5 * 0.5 * array_sum($weave->area) / $radius ** 2, $energy, 0.06 * $energy, "{$degrees} degrees");
        }
    }

    /** v = v_t tanh(g t / v_t), v_t = sqrt(2 m g / (rho Cd A)), as long as it falls flat (handbook; air 1.225 kg/m3, plate 1.17). */
    public function testItFallsThroughAirAsAPlate(): void
    {
        $cloth = self::cloth(self::strip(0.4, 0.4, 6, 6), self::fabric(mass: 0.3, bend: 1.0, drag: 1.0));
        $terminal = sqrt(2.0 * 0.3 * self::G / (1.225 * 1.17));
        foreach ([0.25, 0.5] as $round => $seconds) {
            self::move($cloth, 0.25 - 1.0 / 72.0, self::gravity());
            $before = $cloth->places();
            self::move($cloth, 1.0 / 72.0, self::gravity());
            self::assertEqualsWithDelta($terminal * tanh(self::G * ($seconds - 0.5 / 72.0) / $terminal), 72.0 * (array_sum(self::every($before, 1)) - array_sum(self::every($cloth->places(), 1))) / 49.0, 0.03, "round {$round}");
        }
    }

    /** The stiffest cloth that can be set falls as flat as it was: bending makes no energy, whatever its rigidity. */
    public function testStiffClothStaysCalm(): void
    {
        foreach ([0.1, 1.0, 20.0] as $bend) {
            $cloth = self::cloth(self::strip(0.4, 0.4, 6, 6), self::fabric(mass: 0.3, bend: $bend));
            self::move($cloth, 0.5, self::gravity());
            $heights = self::every($cloth->places(), 1);
            self::assertLessThan(0.003, max($heights) - min($heights), "rigidity {$bend} N m");
        }
    }

    /** In a wind it ends up as fast as the wind, across its face. */
    public function testTheWindCarriesIt(): void
    {
        $wind = new Wind(new EvenAirflow([Animated::constant(0.0), Animated::constant(3.0), Animated::constant(0.0)]), Animated::constant(0.0), 1.0, 0, 1);
        $cloth = self::cloth(self::strip(0.3, 0.3, 4, 4), self::fabric(mass: 0.02, bend: 1.0, drag: 1.0));
        self::move($cloth, 2.0, [$wind]);
        $before = $cloth->places();
        self::move($cloth, 1.0 / 72.0, [$wind]);
        self::assertEqualsWithDelta(3.0, 72.0 * ($cloth->places()[1] - $before[1]), 0.05);
    }

    /** Nothing acts: momentum stays, whatever the cloth does in itself. */
    public function testInItselfItMakesNoMomentum(): void
    {
        $mesh = self::strip(0.6, 0.4, 14, 9);
        $fabric = self::fabric(damping: 1.0);
        $cloth = self::cloth($mesh, $fabric);
        $weave = Weave::of($mesh, $fabric);
        // A kink across it, to shake it.
        $kick = new class () implements ForceField {
            public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
            {
                foreach ($x as $i => $along) {
                    $pushes->ay[$i] += $along < 0.3 ? 200.0 * ($z[$i] + 0.2) : 0.0;
                }
            }

            public function movesAir(): bool
            {
                return false;
            }

            public function uniform(float $frame): ?array
            {
                return null;
            }

            public function sample(float $frame): array
            {
                return [];
            }

            public function changes(): array
            {
                return [];
            }
        };
        self::move($cloth, 1.0 / 72.0, [$kick]);
        $momentum = static function (array $from, array $to) use ($weave): array {
            $sum = [0.0, 0.0, 0.0];
            foreach ($weave->mass as $i => $mass) {
                foreach ([0, 1, 2] as $axis) {
                    $sum[$axis] += 288.0 * $mass * ($to[3 * $i + $axis] - $from[3 * $i + $axis]);
                }
            }

            return $sum;
        };
        $speeds = [];
        foreach ([0, 1] as $round) {
            $from = $cloth->places();
            $cloth->begin(new Pushes(count($from)), self::H, []);
            $cloth->substep(self::STILL, self::STILL);
            $speeds[$round] = $momentum($from, $cloth->places());
            self::move($cloth, $round === 0 ? 1.0 : 0.0, []);
        }
        self::assertGreaterThan(0.01, $speeds[0][1]);
        // Damping takes 1 - h a substep from all speed alike; nothing else may change it.
        $kept = (1.0 - self::H) ** 288;
        foreach ([0, 1, 2] as $axis) {
            self::assertEqualsWithDelta($kept * $speeds[0][$axis], $speeds[1][$axis], 0.02 * abs($speeds[0][1]));
        }
    }

    /** A sheet on a slope slides above the angle whose tangent is the friction, and stays below it (Coulomb). */
    public function testItSlidesAboveTheAngleOfFriction(): void
    {
        foreach ([[20.0, false], [40.0, true]] as [$degrees, $slides]) {
            $turn = Quaternion::fromDegrees(0.0, 0.0, -$degrees);
            $normal = Quaternion::rotate($turn, [0.0, 1.0, 0.0]);
            $gap = 0.004;
            $start = [[$gap * $normal[0], $gap * $normal[1], $gap * $normal[2]], $turn, [1.0, 1.0, 1.0]];
            $cloth = self::cloth(self::strip(0.3, 0.3, 6, 6), self::fabric(damping: 0.5), [], [new PlaneContact($normal, $gap, tan(deg2rad(30.0)))], $start);
            $before = $cloth->places();
            self::move($cloth, 0.5, self::gravity());
            $way = sqrt(($cloth->places()[0] - $before[0]) ** 2 + ($cloth->places()[1] - $before[1]) ** 2);
            if ($slides) {
                // s = 1/2 g (sin a - mu cos a) t2.
                self::assertEqualsWithDelta(0.5 * self::G * (sin(deg2rad($degrees)) - tan(deg2rad(30.0)) * cos(deg2rad($degrees))) * 0.25, $way, 0.03);
            } else {
                self::assertLessThan(0.002, $way);
            }
        }
    }

    /** The finest sheet that hangs by its edge stays as long as it is: pulls go through it in a substep. */
    #[Group('thorough')]
    public function testAFineSheetDoesNotStretchLikeRubber(): void
    {
        $mesh = self::strip(1.0, 0.6, 50, 30);
        $cloth = self::cloth($mesh, self::fabric(damping: 0.5), range(0, 30));
        $most = 0.0;
        for ($frame = 0; $frame < 30; $frame++) {
            self::move($cloth, 1.0 / 24.0, self::gravity());
            $most = max($most, $cloth->stretch());
        }
        self::assertLessThan(0.07, $most);
        self::assertLessThan(0.04, $cloth->stretch());
    }

    /** Held by degrees it comes back to its place without a jolt: no faster than a few times the speed it swung with. */
    public function testTakenBackByDegreesItDoesNotJerk(): void
    {
        $mesh = self::strip(0.5, 0.3, 20, 12);
        $cloth = self::cloth($mesh, self::fabric(damping: 0.5), range(0, 12));
        $fastest = static function (int $steps, callable $hold) use ($cloth): float {
            $most = 0.0;
            for ($step = 1; $step <= $steps; $step++) {
                $hold($step);
                $before = $cloth->places();
                self::move($cloth, 1.0 / 72.0, self::gravity());
                foreach (array_chunk($cloth->places(), 3) as $i => [$x, $y, $z]) {
                    $most = max($most, 72.0 * sqrt(($x - $before[3 * $i]) ** 2 + ($y - $before[3 * $i + 1]) ** 2 + ($z - $before[3 * $i + 2]) ** 2));
                }
            }

            return $most;
        };
        $swinging = $fastest(29, static fn (int $step): null => null);
        $rest = static fn (float $hold): array => array_map(static fn (int $i): float => $i <= 12 ? 1.0 : $hold, range(0, $mesh->vertexCount() - 1));
        $back = $fastest(24, static fn (int $step) => $cloth->holdBy($rest(min(1.0, $step / 18.0))));
        self::assertGreaterThan(2.0, $swinging);
        self::assertLessThan(3.0 * $swinging, $back);
        self::assertEqualsWithDelta(0.0, max(array_map(abs(...), self::every($cloth->places(), 1))), 1e-12, 'back in its place');
    }

    /**
     * @param list<float> $places
     *
     * @return list<float> one coordinate of each vertex
     */
    private static function every(array $places, int $axis): array
    {
        return array_column(array_chunk($places, 3), $axis);
    }
}
