<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Tests\Fixture\Node;

/** Random numbers, noise and turns, each against what is known of it elsewhere. */
final class StatisticsTest extends TestCase
{
    /** Pearson's chi-squared: 99 degrees of freedom exceed 148.2 once in a thousand (any table; here from memory). */
    public function testNumbersAreUniformAndPairsToo(): void
    {
        foreach (['sites', 'noise', 'halving'] as $purpose) {
            $stream = RandomStream::named(11, $purpose);
            $ones = $pairs = array_fill(0, 100, 0);
            for ($i = 0; $i < 20_000; $i++) {
                [$a, $b] = [$stream->float(), $stream->float()];
                $ones[(int) (100.0 * $a)]++;
                $pairs[10 * (int) (10.0 * $a) + (int) (10.0 * $b)]++;
            }
            foreach ([$ones, $pairs] as $counts) {
                $chi = array_sum(array_map(static fn (int $n): float => ($n - 200.0) ** 2 / 200.0, $counts));
                self::assertLessThan(148.2, $chi, $purpose);
                self::assertGreaterThan(60.0, $chi, 'nor more even than chance is');
            }
        }
    }

    /** Neighbouring seeds and indices give streams that have nothing to do with one another. */
    public function testStreamsAreNotCorrelated(): void
    {
        $pairs = [
            [RandomStream::named(1, 'a'), RandomStream::named(2, 'a')],
            [RandomStream::named(1, 'a', 1), RandomStream::named(1, 'a', 2)],
            [RandomStream::named(1, 'a'), RandomStream::named(1, 'b')],
        ];
        foreach ($pairs as [$p, $q]) {
            $sum = 0.0;
            for ($i = 0; $i < 10_000; $i++) {
                $sum += ($p->float() - 0.5) * ($q->float() - 0.5);
            }
            // Each product has mean 0 and deviation 1/12.
            self::assertLessThan(4.0 / 12.0 * sqrt(10_000), abs($sum));
        }
    }

    /** On the unit sphere every coordinate is uniform between -1 and 1 (Archimedes), so its square has mean 1/3 and deviation sqrt(4/45). */
    public function testDirectionsAreUniform(): void
    {
        $stream = RandomStream::named(5, 'directions');
        $n = 20_000;
        $square = [0.0, 0.0, 0.0];
        $mean = [0.0, 0.0, 0.0];
        for ($i = 0; $i < $n; $i++) {
            $d = $stream->direction();
            self::assertEqualsWithDelta(1.0, $d[0] ** 2 + $d[1] ** 2 + $d[2] ** 2, 1e-12);
            foreach ([0, 1, 2] as $k) {
                $square[$k] += $d[$k] ** 2 / $n;
                $mean[$k] += $d[$k] / $n;
            }
        }
        foreach ([0, 1, 2] as $k) {
            self::assertEqualsWithDelta(1.0 / 3.0, $square[$k], 4.0 * sqrt(4.0 / 45.0 / $n));
            self::assertEqualsWithDelta(0.0, $mean[$k], 4.0 / sqrt(3.0 * $n));
        }
    }

    /** npm three ships the same reference noise (ImprovedNoise): every value, at whole numbers and far off too. */
    public function testNoiseIsThatOfThree(): void
    {
        $stream = RandomStream::named(6, 'places');
        $places = [[0.5, 0.5, 0.5], [-0.25, 3.0, 7.75], [255.9, -255.9, 0.1]];
        for ($i = 0; $i < 500; $i++) {
            $places[] = [$stream->between(-300.0, 300.0), $stream->between(-300.0, 300.0), $stream->between(-300.0, 300.0)];
        }
        $theirs = Node::run('three', 'const {ImprovedNoise}=await import("three/examples/jsm/math/ImprovedNoise.js");const n=new ImprovedNoise();return input.map((p)=>n.noise(...p))', $places);
        $noise = GradientNoise::unshifted();
        foreach ($places as $k => $place) {
            self::assertEqualsWithDelta($theirs[$k], $noise->at(...$place), 1e-11);
        }
    }

    /** Smooth: value and slope pass from one block of the lattice to the next without a step (Perlin 2002). */
    public function testNoiseIsSmoothAcrossTheLattice(): void
    {
        $noise = GradientNoise::seeded(3, 'smooth');
        $h = 1e-4;
        for ($i = 0; $i < 100; $i++) {
            $edge = (float) (int) (7.3 * $i) - 50.0;
            [$y, $z] = [0.37 * $i, 0.71 * $i];
            $left = ($noise->at($edge - $h, $y, $z) - $noise->at($edge - 2.0 * $h, $y, $z)) / $h;
            $right = ($noise->at($edge + 2.0 * $h, $y, $z) - $noise->at($edge + $h, $y, $z)) / $h;
            self::assertEqualsWithDelta($left, $right, 5e-3);
            self::assertEqualsWithDelta($noise->at($edge - 1e-9, $y, $z), $noise->at($edge + 1e-9, $y, $z), 1e-8);
        }
    }

    public function testLayersAddUpAndStayInBounds(): void
    {
        $noise = GradientNoise::seeded(4, 'layers');
        $other = GradientNoise::seeded(5, 'layers');
        $stream = RandomStream::named(1, 'bounds');
        $differs = 0;
        $sum = 0.0;
        for ($i = 0; $i < 4000; $i++) {
            [$x, $y, $z] = [$stream->between(-90.0, 90.0), $stream->between(-90.0, 90.0), $stream->between(-90.0, 90.0)];
            $one = $noise->at($x, $y, $z);
            $sum += $one;
            // The length of the twelve directions times the farthest corner bounds it; published bound of the noise: about 1.04.
            self::assertLessThan(1.04, abs($one));
            self::assertEqualsWithDelta($one + 0.5 * $noise->at(2.0 * $x, 2.0 * $y, 2.0 * $z) + 0.25 * $noise->at(4.0 * $x, 4.0 * $y, 4.0 * $z), $noise->layered($x, $y, $z, 3), 1e-12);
            $differs += $one === $other->at($x, $y, $z) ? 0 : 1;
        }
        self::assertEqualsWithDelta(0.0, $sum / 4000.0, 0.03);
        self::assertGreaterThan(3900, $differs, 'seeds give other noise');
    }

    /** npm three: the same turns from the same angles, products and turned vectors. Ours turns about fixed x, then y, then z: its order ZYX. */
    public function testTurnsAreThoseOfThree(): void
    {
        $stream = RandomStream::named(9, 'turns');
        $cases = [];
        for ($i = 0; $i < 200; $i++) {
            $cases[] = array_map(static fn (): float => $stream->between(-400.0, 400.0), range(1, 9));
        }
        $theirs = Node::run('three', <<<'JS'
            const {Euler, MathUtils, Quaternion, Vector3} = await import('three');
            return input.map((c) => {
                const [a, b, d, e, f, g, x, y, z] = c;
                const turn = (...degrees) => new Quaternion().setFromEuler(new Euler(...degrees.map(MathUtils.degToRad), 'ZYX'));
                const [p, q] = [turn(a, b, d), turn(e, f, g)];
                const axis = new Vector3(x, y, z).normalize();
                return [p.clone().multiply(q).toArray(), new Vector3(x, y, z).applyQuaternion(p).toArray(), new Quaternion().setFromAxisAngle(axis, a / 100).toArray(), axis.toArray()];
            });
            JS, $cases);
        foreach ($cases as $k => [$a, $b, $d, $e, $f, $g, $x, $y, $z]) {
            /** @var array{list<float>, list<float>, list<float>, array{float, float, float}} $their */
            $their = $theirs[$k];
            $p = Quaternion::fromDegrees($a, $b, $d);
            self::assertSameTurn($their[0], Quaternion::multiply($p, Quaternion::fromDegrees($e, $f, $g)));
            self::assertEqualsWithDelta($their[1], Quaternion::rotate($p, [$x, $y, $z]), 1e-10);
            self::assertSameTurn($their[2], Quaternion::aboutAxis($their[3], $a / 100.0));
            $back = Quaternion::multiply(Quaternion::conjugate($p), $p);
            self::assertSameTurn([0.0, 0.0, 0.0, 1.0], $back);
        }
        self::assertEqualsWithDelta([0.6, 0.0, 0.0, 0.8], Quaternion::normalized([3.0, 0.0, 0.0, 4.0]), 1e-15);
    }

    /**
     * A turn and its negative are the same.
     *
     * @param list<float> $expected x, y, z, w
     * @param array{float, float, float, float} $ours
     */
    private static function assertSameTurn(array $expected, array $ours): void
    {
        $dot = 0.0;
        foreach ([0, 1, 2, 3] as $k) {
            $dot += $expected[$k] * $ours[$k];
        }
        self::assertEqualsWithDelta(1.0, abs($dot), 1e-12);
    }
}
