<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Rigid\Leverage;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What sticks out too far, hangs too heavy or is swung too hard comes off, where handbooks say. */
final class LeverageTest extends TestCase
{
    private const SIDE = 0.1;

    private const DENSITY = 2000.0;

    private const G = 9.81;

    /**
     * A row of cubes along x, glued with a strength; the bonds that break.
     *
     * @param list<int> $touched
     * @param array{float, float, float} $acceleration
     * @param array{float, float, float} $turning
     * @param array{float, float, float} $spin
     * @param list<array{int, array{float, float, float}, array{float, float, float}}>|null $presses
     *
     * @return list<int> bond k is between cubes k and k + 1
     */
    private static function row(int $cubes, float $strength, array $touched, array $acceleration, array $turning = [0.0, 0.0, 0.0], array $spin = [0.0, 0.0, 0.0], ?array $presses = null): array
    {
        $at = $mass = $bonds = [];
        for ($k = 0; $k < $cubes; $k++) {
            $at[] = [self::SIDE * ($k - 0.5 * ($cubes - 1)), 0.0, 0.0];
            $mass[] = self::DENSITY * self::SIDE ** 3;
            if ($k > 0) {
                $bonds[] = [$k - 1, $k - 1, $k, self::SIDE ** 2, $strength * self::SIDE ** 2, self::SIDE ** 2];
            }
        }

        return Leverage::breaks(array_keys($at), $at, $mass, array_fill_keys($touched, true), $acceleration, $turning, $spin, $bonds, $presses);
    }

    /** Cantilever under its own weight: M = w L2 / 2 at the root, stress M / W with W = a3 / 6 (Timoshenko, Strength of Materials I, 1930). */
    public function testACantileverBreaksAtItsRootAtTheHandbookMoment(): void
    {
        foreach ([3, 5, 12, 30] as $out) {
            $length = $out * self::SIDE;
            $moment = self::DENSITY * self::G * self::SIDE ** 2 * $length ** 2 / 2.0;
            $stress = $moment / (self::SIDE ** 3 / 6.0);
            $touched = [0, 1, 2];
            self::assertSame([], self::row(3 + $out, 1.001 * $stress, $touched, [0.0, self::G, 0.0]), "{$out} cubes out");
            self::assertSame([2], self::row(3 + $out, 0.999 * $stress, $touched, [0.0, self::G, 0.0]), "{$out} cubes out, at the root");
            // From the other end too, and lying on its side.
            self::assertSame([$out - 1], self::row(3 + $out, 0.999 * $stress, [$out, $out + 1, $out + 2], [0.0, 0.0, self::G]));
        }
    }

    /** A bar that hangs: the weight below, by the area. */
    public function testABarInTensionBreaksAtItsStrength(): void
    {
        foreach ([2, 7, 20] as $cubes) {
            $stress = self::DENSITY * self::G * self::SIDE * ($cubes - 1);
            // Held at the first cube, with what holds pulling along -x.
            self::assertSame([], self::row($cubes, 1.001 * $stress, [0], [-self::G, 0.0, 0.0]));
            self::assertSame([0], self::row($cubes, 0.999 * $stress, [0], [-self::G, 0.0, 0.0]));
            // Standing on it nothing is pulled, however weak.
            self::assertSame([], self::row($cubes, 1e-3 * $stress, [0], [self::G, 0.0, 0.0]));
        }
    }

    /** A rod that spins about its middle in the open: density omega2 L2 / 8 there (handbook value of the rotating rod). */
    public function testASpinningRodComesApartInTheMiddle(): void
    {
        $omega = 40.0;
        $stress = self::DENSITY * $omega ** 2 * (20 * self::SIDE) ** 2 / 8.0;
        self::assertSame([], self::row(20, 1.001 * $stress, [], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, $omega, 0.0]));
        self::assertSame([9], self::row(20, 0.999 * $stress, [], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, $omega, 0.0]));
    }

    /** A chimney that turns over on its foot breaks about a third up, where the moment is largest (Bundy 1940; Varieschi and Kamiya 2003, Am. J. Phys. 71, 1025). */
    public function testAFallingChimneyBreaksAThirdUp(): void
    {
        $cubes = 31;
        $length = $cubes * self::SIDE;
        foreach ([0.6, 1.0, 1.4] as $angle) {
            // Along x from the foot; at an angle from the upright: gravity along -x and y. Turned over by (3 g / 2 L) sin.
            [$down, $across] = [-self::G * cos($angle), self::G * sin($angle)];
            $alpha = 1.5 * $across / $length;
            $a = [-$down, 0.5 * $length * $alpha - $across, 0.0];
            $broken = self::row($cubes, 1e2, [0], $a, [0.0, 0.0, $alpha]);
            self::assertCount(1, $broken);
            self::assertEqualsWithDelta(1.0 / 3.0, ($broken[0] + 1) / $cubes, 0.06, "at {$angle}");
        }
    }

    /** Where what presses is not known nothing is said of it; and nothing breaks in free fall. */
    public function testUnknownSupportsAndFreeFallHold(): void
    {
        self::assertSame([], self::row(12, 1.0, [0, 11], [0.0, self::G, 0.0]));
        self::assertSame([], self::row(12, 1.0, [], [0.0, 0.0, 0.0]));
    }

    /**
     * A beam of twelve cubes between supports: M = w L2 / 8 in the middle, and P L / 4 more under a load there (any table of beams, e.g. Timoshenko 1930); with
     * supports a from its ends w (L2 / 8 - a L / 2).
     */
    #[TestWith([0.0, 0.0])]
    #[TestWith([0.0, 500.0])]
    #[TestWith([0.2, 0.0])]
    #[TestWith([0.2, 300.0])]
    public function testABeamBetweenSupportsBreaksInTheMiddle(float $in, float $load): void
    {
        $length = 12 * self::SIDE;
        $w = self::DENSITY * self::G * self::SIDE ** 2;
        $span = $length - 2.0 * $in;
        $stress = ($w * ($length ** 2 / 8.0 - $in * $length / 2.0) + $load * $span / 4.0) / (self::SIDE ** 3 / 6.0);
        $each = 0.5 * ($w * $length + $load);
        $out = (int) round($in / self::SIDE);
        $presses = [
            [$out, [-0.5 * $length + $in, -0.05, 0.0], [0.0, $each, 0.0]],
            [11 - $out, [0.5 * $length - $in, -0.05, 0.0], [0.0, $each, 0.0]],
            ...$load > 0.0 ? [[5, [0.0, 0.05, 0.0], [0.0, -$load, 0.0]]] : [],
        ];
        $touched = [$out, 11 - $out, ...$load > 0.0 ? [5] : []];
        $a = [0.0, self::G, 0.0];
        // What carries it moves it, less what the load takes.
        self::assertSame([], self::row(12, 1.001 * $stress, $touched, $a, presses: $presses));
        self::assertSame([5], self::row(12, 0.999 * $stress, $touched, $a, presses: $presses));
    }

    /** However what lies on a floor is held up there, it can lie there unbent; so does what leans on a wall that pushes hard. */
    public function testWhatLiesOnAFloorIsNotBent(): void
    {
        $weight = 12 * self::DENSITY * self::G * self::SIDE ** 3;
        $under = static fn (int $k, float $share): array => [$k, [self::SIDE * ($k - 5.5), -0.05, 0.0], [0.0, $share * $weight, 0.0]];
        // A solver may put it all on two corners.
        $presses = array_map(static fn (int $k): array => $under($k, $k === 0 || $k === 11 ? 0.45 : 0.01), range(0, 11));
        self::assertSame([], self::row(12, 1e-3, range(0, 11), [0.0, self::G, 0.0], presses: $presses));
        $ends = [$under(0, 0.5), $under(11, 0.5)];
        self::assertNotSame([], self::row(12, 1e-3, [0, 11], [0.0, self::G, 0.0], presses: $ends));
        self::assertSame([], self::row(12, 1e-3, [0, 11], [0.0, self::G, 0.0], presses: [...$ends, [0, [-0.6, 0.0, 0.0], [0.5 * $weight, 0.0, 0.0]]]));
    }

    /** A glued plank between two blocks breaks where it is weak, and lies there where it is not; on the floor it never breaks. */
    #[TestWith([3.0, 0.6, false])]
    #[TestWith([0.3, 0.6, true])]
    #[TestWith([0.3, 0.0, false])]
    #[Group('slow')]
    public function testAPlankBetweenTwoBlocks(float $glue, float $height, bool $breaks): void
    {
        $block = static fn (string $id, float $x): array => ['id' => $id, 'name' => $id, 'source' => ['box' => ['width' => 0.1, 'height' => 0.4, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['x' => $x, 'y' => $height - 0.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']];
        $shot = Shot::read(['version' => 2, 'frames' => 30, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'F']], 'props' => [$block('left', -1.15), $block('right', 1.15), [
            'id' => 'plank', 'name' => 'Plank', 'source' => ['box' => ['width' => 2.4, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['y' => $height + 0.051],
            'break' => ['pattern' => 'courses', 'courses' => ['axis' => ['x' => 0, 'y' => 1, 'z' => 0], 'length' => 0.1, 'height' => 0.5, 'depth' => 0, 'joint' => 0, 'variety' => 0, 'offset' => 0]],
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => ['density' => 2000, 'glue' => $glue]],
        ]]]);
        $frames = iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
        $heights = array_column(array_chunk($frames[30]->of('plank', Track::POSE), 7), 1);
        self::assertSame($breaks, min($heights) < $height + 0.03, implode(' ', array_map(static fn (float $y): string => (string) round($y, 2), $heights)));
    }

    /** @return array<int, Frame> */
    private static function plank(float $glue, int $frames): array
    {
        // Ten cubes in a row on a block, six of them out over its edge.
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'props' => [
            ['id' => 'table', 'name' => 'Table', 'source' => ['box' => ['width' => 1.2, 'height' => 0.5, 'depth' => 0.6, 'divisions' => 1]], 'position' => ['x' => -0.6, 'y' => 0.25], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'plank', 'name' => 'Plank', 'source' => ['box' => ['width' => 1.0, 'height' => 0.1, 'depth' => 0.1, 'divisions' => 1]], 'position' => ['x' => -0.1, 'y' => 0.551],
                'break' => ['pattern' => 'courses', 'courses' => ['axis' => ['x' => 0, 'y' => 1, 'z' => 0], 'length' => 0.1, 'height' => 0.5, 'depth' => 0, 'joint' => 0, 'variety' => 0, 'offset' => 0]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => ['density' => 2000, 'glue' => $glue]]],
        ]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
    }

    /** @return iterable<string, array{float, bool}> */
    public static function strengths(): iterable
    {
        // Four cubes out: 3 rho g a m2 = 94 kPa at the edge.
        yield 'twice as strong as needed' => [0.2, false];
        yield 'half as strong' => [0.045, true];
    }

    #[DataProvider('strengths')]
    public function testAPlankOverAnEdge(float $glue, bool $breaks): void
    {
        $frames = self::plank($glue, 30);
        $pose = $frames[30]->of('plank', Track::POSE);
        $heights = [];
        for ($k = 0; $k < intdiv(count($pose), 7); $k++) {
            $heights[] = (float) $pose[7 * $k + 1];
        }
        self::assertGreaterThan(8, count($heights));
        if ($breaks) {
            self::assertGreaterThan(1, count(array_filter($heights, static fn (float $y): bool => $y < 0.3)), 'what was out lies on the floor');
            self::assertGreaterThan(3, count(array_filter($heights, static fn (float $y): bool => $y > 0.53)), 'what was on the table lies there still');
        } else {
            self::assertGreaterThan(0.54, min($heights));
        }
    }
}
