<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\Holding;
use YardBreak\Core\Motion\Soft\Lattice;
use YardBreak\Core\Motion\Soft\Matter;
use YardBreak\Core\Motion\Soft\Skin;
use YardBreak\Core\Motion\Soft\SoftBody;
use YardBreak\Core\Motion\Surface\PlaneContact;

/**
 * Soft bodies against formulas of handbooks of elasticity (bars, beams and what a solid does when it is drawn out, as in Young and
 * Budynas, Roark's Formulas for Stress and Strain; from memory).
 *
 * @phpstan-import-type Pose from Holding
 */
final class SoftBodyTest extends TestCase
{
    private const G = 9.80665;

    private const STILL = [[0.0, 0.0, 0.0], Quaternion::IDENTITY, [1.0, 1.0, 1.0]];

    private static function matter(float $young, float $poisson = 0.3, float $damping = 0.0, float $friction = 0.5): Matter
    {
        return new Matter(1000.0, $young, $poisson, $damping, 0.0, $friction, 0.002, false);
    }

    /**
     * @param callable(float, float, float): bool $held which nodes are
     * @param list<PlaneContact> $planes
     * @param Pose $pose
     */
    private static function body(TriangleMesh $mesh, float $side, Matter $matter, float $h, callable $held, array $planes = [], array $pose = self::STILL): SoftBody
    {
        $fine = EdgeSplit::of($mesh, 1.5 * $side);
        $lattice = Lattice::of([$fine], $side);
        $hold = array_map(static fn (float $x, float $y, float $z): float => $held($x, $y, $z) ? 1.0 : 0.0, $lattice->x, $lattice->y, $lattice->z);

        return new SoftBody($lattice, $fine, range(0, $fine->vertexCount() - 1), $matter, $planes, $h, $hold, $pose);
    }

    /**
     * @param float $gravity along y, m/s2
     * @param Pose $pose
     */
    private static function move(SoftBody $body, float $seconds, float $h, float $gravity, array $pose = self::STILL): void
    {
        $count = count($body->nodes()[0]);
        for ($step = 0, $steps = (int) round($seconds * 48); $step < $steps; $step++) {
            $pushes = new Pushes($count);
            $pushes->ay = array_fill(0, $count, $gravity);
            $body->begin($pushes, 1.0 / 48.0, []);
            for ($k = 0, $parts = (int) round(1.0 / 48.0 / $h); $k < $parts; $k++) {
                $body->substep($pose, $pose);
            }
        }
    }

    private static function bar(float $x, float $y, float $z): TriangleMesh
    {
        return Solids::box($x, $y, $z, 1);
    }

    /** After a push only what goes with the pushed nodes is placed anew, and all of the surface is where it would be placed as a whole. */
    public function testAPushMovesOnlyWhatIsBesideIt(): void
    {
        $fine = EdgeSplit::of(self::bar(1.0, 0.3, 0.3), 0.05);
        $lattice = Lattice::of([$fine], 0.05);
        $mass = array_fill(0, $lattice->nodes(), 1.0);
        $skin = new Skin($lattice, $mass);
        $random = RandomStream::named(5, 'skin');
        $beside = [];
        foreach (range(0, 2) as $axis) {
            $beside[$axis] = array_map(static fn (): float => $random->between(-0.01, 0.01), range(1, $skin->count()));
        }
        $nodes = [$lattice->x, $lattice->y, $lattice->z];
        foreach ([null, [$beside[0], $beside[1], $beside[2]]] as $relief) {
            foreach ([1, 7, $skin->count()] as $count) {
                $is = $to = $skin->places(...$nodes, beside: $relief);
                for ($k = 0; $k < $count; $k++) {
                    $to[$k % 3][$k] += $random->between(-0.02, 0.02);
                }
                $pushed = Skin::differing($is, $to);
                self::assertSame(range(0, $count - 1), $pushed);
                $nodes = $skin->given($pushed, $nodes, $is, $to, $mass, 2.0);
                $whole = $skin->places(...$nodes, beside: $relief);
                self::assertSame($whole, $skin->placesAgain($is, $pushed, $nodes[0], $nodes[1], $nodes[2], $relief));
                self::assertGreaterThanOrEqual($count, count(Skin::differing($is, $whole)));
            }
        }
    }

    /** A straight bar that is to be an arc becomes one by itself: its boxes are bent and warped, not only drawn out; and its middle stays where it was. */
    #[Group('slow')]
    public function testABarIsBentIntoAnArc(): void
    {
        $h = 1.0 / 480.0;
        $mesh = self::bar(1.0, 0.1, 0.1);
        $body = self::body($mesh, 0.05, self::matter(2e5, 0.3, 4.0), $h, static fn (): bool => false);
        [$x, $y, $z] = $rest = $body->nodes();
        $radius = 0.6;
        $arc = [[], [], []];
        foreach ($x as $n => $along) {
            $arc[0][] = ($radius - $y[$n]) * sin($along / $radius);
            $arc[1][] = $radius - ($radius - $y[$n]) * cos($along / $radius);
            $arc[2][] = $z[$n];
        }
        $none = array_fill(0, EdgeSplit::of($mesh, 0.075)->vertexCount(), 0.0);
        $body->take($rest, $arc, [$none, $none, $none], 1);
        self::move($body, 2.0, $h, 0.0);
        $is = $body->nodes();
        $far = static fn (array $of, int $a, int $b): float => sqrt(($of[0][$a] - $of[0][$b]) ** 2 + ($of[1][$a] - $of[1][$b]) ** 2 + ($of[2][$a] - $of[2][$b]) ** 2);
        for ($a = 0, $n = count($x); $a < $n; $a += 7) {
            for ($b = 0; $b < $a; $b += 5) {
                self::assertEqualsWithDelta($far($arc, $a, $b), $far($is, $a, $b), 2e-3, "from node {$a} to {$b}");
            }
        }
        $share = Lattice::of([EdgeSplit::of($mesh, 0.075)], 0.05)->volume;
        foreach ([$x, $y, $z] as $axis => $was) {
            $went = array_sum(array_map(static fn (float $volume, float $from, float $to): float => $volume * ($to - $from), $share, $was, $is[$axis])) / array_sum($share);
            self::assertEqualsWithDelta(0.0, $went, 1e-9, "axis {$axis}");
        }
    }

    /** A bar that hangs by its top is longer by rho g L^2 / 2E. */
    #[Group('long')]
    public function testABarHangsLonger(): void
    {
        foreach ([[0.1, 8], [0.05, 8], [0.05, 16]] as [$side, $parts]) {
            $h = 1.0 / (48.0 * $parts);
            $body = self::body(self::bar(0.1, 1.0, 0.1), $side, self::matter(4e4, 0.0, 4.0), $h, static fn (float $x, float $y): bool => $y > 0.499);
            self::move($body, 5.0, $h, -0.25 * self::G);
            $longer = 1000.0 * 0.25 * self::G / 8e4;
            self::assertEqualsWithDelta($longer, -0.5 - min($body->nodes()[1]), 0.08 * $longer, "boxes of {$side} m, {$parts} parts of a step");
        }
    }

    /**
     * Solved in turn, boxes give a little more than their matter: the more of them there are, the more.
     *
     * A beam held at one end droops by w L^4 / 8EI at the other, be it one box thick or two.
     */
    #[Group('slow')]
    public function testABeamDroops(): void
    {
        foreach ([[0.1, 16, 0.06], ...getenv('YARD_BREAK_LONG') ? [[0.05, 32, 0.12]] : []] as [$side, $parts, $within]) {
            $h = 1.0 / (48.0 * $parts);
            $young = 1e6;
            $droop = 1000.0 * 0.2 * self::G * 0.01 * 0.6 ** 4 / (8.0 * $young * 0.1 ** 4 / 12.0);
            $body = self::body(self::bar(0.6, 0.1, 0.1), $side, self::matter($young, 0.0, 6.0), $h, static fn (float $x): bool => $x < -0.299);
            self::move($body, 4.0, $h, -0.2 * self::G);
            self::assertEqualsWithDelta($droop, -0.05 - min($body->nodes()[1]), $within * $droop, "boxes of {$side} m, {$parts} parts of a step");
        }
    }

    /** Drawn out by a hundredth it gets thinner by Poisson's ratio of that, and at 0.49 keeps its volume nearly. */
    #[Group('slow')]
    public function testItGetsThinner(): void
    {
        $h = 1.0 / 384.0;
        foreach ([0.0, 0.25, 0.4] as $poisson) {
            $body = self::body(self::bar(0.1, 0.5, 0.1), 0.05, self::matter(5e4, $poisson, 6.0), $h, static fn (float $x, float $y): bool => abs($y) > 0.249);
            // Held ends go apart.
            $pose = [[0.0, 0.0, 0.0], Quaternion::IDENTITY, [1.0, 1.02, 1.0]];
            self::move($body, 3.0, $h, 0.0, $pose);
            [$x, $y] = $body->nodes();
            $middle = array_filter($x, static fn (float $at, int $i): bool => abs($y[$i]) < 0.03, ARRAY_FILTER_USE_BOTH);
            self::assertNotSame([], $middle);
            self::assertEqualsWithDelta(-0.02 * $poisson, (max([0.0, ...$middle]) - min([0.0, ...$middle])) / 0.1 - 1.0, 0.0012, "Poisson's ratio {$poisson}");
        }
    }

    /** A free bar held at one end swings lengthwise at a quarter wave, sqrt(E / rho) / 4L, and loses less of it the smaller the substeps. */
    #[Group('slow')]
    public function testABarSwings(): void
    {
        $swings = [];
        foreach ([8, 32] as $parts) {
            $h = 1.0 / (48.0 * $parts);
            $body = self::body(self::bar(0.1, 1.0, 0.1), 0.1, self::matter(4e4, 0.0), $h, static fn (float $x, float $y): bool => $y > 0.499);
            // It is let go from its own length: it swings about the longer one.
            $below = 1000.0 * self::G / 8e4;
            $last = $crossed = null;
            $least = 0.0;
            for ($step = 1; $step <= 96; $step++) {
                self::move($body, 1.0 / 48.0, $h, -self::G);
                $off = -0.5 - min($body->nodes()[1]) - $below;
                if ($last !== null && $last > 0.0 && $off <= 0.0) {
                    $at = ($step - $off / ($off - $last)) / 48.0;
                    $crossed ??= $at;
                    $swings[$parts] = $at - $crossed > 0.0 ? $at - $crossed : ($swings[$parts] ?? 0.0);
                    if ($at - $crossed > 0.0) {
                        break;
                    }
                }
                $least = min($least, $off);
                $last = $off;
            }
        }
        // The length is measured at the end, which the higher waves shake too.
        self::assertEqualsWithDelta(4.0 / sqrt(40.0), $swings[32] ?? 0.0, 0.04 * 4.0 / sqrt(40.0));
        self::assertEqualsWithDelta(4.0 / sqrt(40.0), $swings[8] ?? 0.0, 0.1 * 4.0 / sqrt(40.0));
    }

    /** Free and shaken it goes nowhere and turns as it did: momentum stays. */
    #[Group('slow')]
    public function testMomentumStays(): void
    {
        $h = 1.0 / 384.0;
        $mesh = Solids::torus(0.5, 0.2);
        $fine = EdgeSplit::of($mesh, 0.15);
        $lattice = Lattice::of([$fine], 0.1);
        $body = new SoftBody($lattice, $fine, range(0, $fine->vertexCount() - 1), self::matter(3e4), [], $h, array_fill(0, $lattice->nodes(), 0.0), self::STILL);
        // Blown at one side for a moment: it goes, turns and wobbles.
        $pushes = new Pushes($lattice->nodes());
        foreach ($lattice->x as $i => $x) {
            $pushes->ay[$i] = $x > 0.3 ? 60.0 : 0.0;
        }
        $body->begin($pushes, 1.0 / 48.0, []);
        for ($k = 0; $k < 8; $k++) {
            $body->substep(self::STILL, self::STILL);
        }
        $before = self::momentum($body, $lattice, $h);
        self::move($body, 1.0, $h, 0.0);
        $after = self::momentum($body, $lattice, $h);
        self::assertGreaterThan(1.0, $before[1]);
        foreach ([0, 1, 2] as $axis) {
            self::assertEqualsWithDelta($before[$axis], $after[$axis], 1e-8 * $before[1], "momentum, axis {$axis}");
        }
        self::assertGreaterThan(1.0, abs($before[5]));
        foreach ([3, 4, 5] as $axis) {
            self::assertEqualsWithDelta($before[$axis], $after[$axis], 0.01 * abs($before[5]), 'angular momentum, axis ' . ($axis - 3));
        }
        self::assertLessThan($before[6], $after[6], 'what it wobbles dies away, none comes from nowhere');
    }

    /** At a frame's end it has lost spin, at 1.5/s, if another thing that bends has pushed it, and none if it has met nothing; it goes on as fast. */
    public function testWhatOthersPushLosesSpin(): void
    {
        $h = 1.0 / 384.0;
        $fine = EdgeSplit::of(self::bar(0.4, 0.2, 0.3), 0.15);
        $lattice = Lattice::of([$fine], 0.1);
        foreach ([false, true] as $pushed) {
            $body = new SoftBody($lattice, $fine, range(0, $fine->vertexCount() - 1), self::matter(1e5), [], $h, array_fill(0, $lattice->nodes(), 0.0), self::STILL);
            $pushes = new Pushes($lattice->nodes());
            foreach ($lattice->x as $i => $x) {
                $pushes->ay[$i] = 60.0 * $x;
            }
            $body->begin($pushes, 1.0 / 24.0, []);
            for ($k = 0; $k < 16; $k++) {
                $body->substep(self::STILL, self::STILL);
            }
            if ($pushed) {
                $now = $body->bending();
                $now->y[0] += 1e-9;
                $body->bent($now);
            }
            $before = self::momentum($body, $lattice, $h);
            $body->settle();
            $after = self::momentum($body, $lattice, $h);
            self::assertGreaterThan(0.1, $before[5]);
            self::assertEqualsWithDelta($pushed ? 1.0 / (1.0 + 1.5 / 24.0) : 1.0, $after[5] / $before[5], 1e-9);
            self::assertEqualsWithDelta($before[1], $after[1], 1e-9 * $before[5]);
        }
    }

    /** @return array{float, float, float, float, float, float, float} momentum, angular momentum, energy of the motion */
    private static function momentum(SoftBody $body, Lattice $lattice, float $h): array
    {
        $sum = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $saved = $body->save();
        foreach ($lattice->volume as $i => $volume) {
            $at = $v = [];
            foreach (['x', 'y', 'z'] as $axis) {
                /** @var array<int, float> $now */
                $now = $saved[$axis];
                /** @var array<int, float> $was */
                $was = $saved["p{$axis}"];
                $at[] = $now[$i];
                $v[] = 1000.0 * $volume * ($now[$i] - $was[$i]) / $h;
            }
            foreach ([0, 1, 2] as $k) {
                $sum[$k] += $v[$k];
                $sum[3 + $k] += $at[($k + 1) % 3] * $v[($k + 2) % 3] - $at[($k + 2) % 3] * $v[($k + 1) % 3];
            }
            $sum[6] += 0.5 * ($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2) / (1000.0 * $volume);
        }

        return $sum;
    }

    /** Dropped on a floor it squashes, gives way to the sides, keeps its volume if it is to, and stands as high as it was made, less what it weighs down. */
    #[Group('slow')]
    public function testItSquashesAndRests(): void
    {
        $h = 1.0 / 384.0;
        $mesh = self::bar(0.4, 0.4, 0.4);
        $body = self::body($mesh, getenv('YARD_BREAK_LONG') ? 0.05 : 0.08, self::matter(3e4, 0.49, 2.0), $h, static fn (): bool => false, [new PlaneContact([0.0, 1.0, 0.0], -1.0, 0.0)]);
        $lowest = $least = $most = 1.0;
        $wide = 0.0;
        for ($frame = 0; $frame < 120; $frame++) {
            $before = $body->places();
            self::move($body, 1.0 / 24.0, $h, -self::G);
            $y = $body->nodes()[1];
            $high = max([-INF, ...$y]) - min([INF, ...$y]);
            $lowest = min($lowest, $high);
            $wide = max($wide, max([-INF, ...$body->nodes()[0]]) - min([INF, ...$body->nodes()[0]]));
            $share = $body->volume() / 0.064;
            [$least, $most] = [min($least, $share), max($most, $share)];
            self::assertGreaterThan(-1.03, min([INF, ...$y]), "below the floor at {$frame}");
        }
        self::assertLessThan(0.34, $lowest, 'it squashes');
        self::assertGreaterThan(0.42, $wide, 'to the sides');
        self::assertGreaterThan(0.97, $least);
        self::assertLessThan(1.03, $most);
        // Under its own weight a column without friction is lower by rho g L^2 / 2E.
        [, $y] = $body->nodes();
        self::assertEqualsWithDelta(0.4 - 1000.0 * self::G * 0.16 / 6e4, max([-INF, ...$y]) - min([INF, ...$y]), 0.006);
        self::assertEqualsWithDelta($before, $body->places(), 0.01 / 24.0, 'it rests');
    }

    /** On a slope it holds below Coulomb's angle and slides above it, as fast as a block would. */
    #[Group('slow')]
    public function testItSlides(): void
    {
        $h = 1.0 / 384.0;
        foreach ([[0.4, 15.0, 0.0], [0.4, 30.0, 1.0]] as [$friction, $degrees, $slides]) {
            [$s, $c] = [sin(deg2rad($degrees)), cos(deg2rad($degrees))];
            $pose = [[0.0, 0.0, 0.0], Quaternion::fromDegrees(0.0, 0.0, $degrees), [1.0, 1.0, 1.0]];
            $body = self::body(self::bar(0.4, 0.2, 0.4), 0.1, self::matter(2e5, 0.3, 0.0, $friction), $h, static fn (): bool => false, [new PlaneContact([-$s, $c, 0.0], -0.1, $friction)], $pose);
            self::move($body, 1.0, $h, -self::G, $pose);
            [$x, $y] = $body->nodes();
            $way = -(array_sum($x) * $c + array_sum($y) * $s) / count($x);
            $formula = $slides * 0.5 * self::G * ($s - $friction * $c);
            self::assertEqualsWithDelta($formula, $way, 0.02 + 0.03 * $formula, "{$degrees} degrees");
        }
    }

    /** Boxes have the volume of what they fill, however it lies in them. */
    #[Group('slow')]
    public function testTheLatticeIsFilled(): void
    {
        foreach ([[Solids::torus(0.5, 0.2), 0.05], [Solids::ball(0.5, 24), 0.06], [self::bar(0.31, 0.17, 0.53), 0.07]] as [$mesh, $side]) {
            $lattice = Lattice::of([$mesh], $side);
            self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, array_sum($lattice->volume), 0.02 * MassProperties::of($mesh)->volume);
            foreach ($lattice->box as $v => $box) {
                $at = [0.0, 0.0, 0.0];
                for ($c = 0; $c < 8; $c++) {
                    $share = 1.0;
                    foreach ([0, 1, 2] as $axis) {
                        $share *= ($c >> $axis & 1) === 1 ? $lattice->share[3 * $v + $axis] : 1.0 - $lattice->share[3 * $v + $axis];
                    }
                    $node = $lattice->corners[8 * $box + $c];
                    $at = [$at[0] + $share * $lattice->x[$node], $at[1] + $share * $lattice->y[$node], $at[2] + $share * $lattice->z[$node]];
                }
                self::assertEqualsWithDelta([$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]], $at, 1e-9);
            }
        }
    }
}
