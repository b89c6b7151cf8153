<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Easing;
use YardBreak\Core\Math\Expansion;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;

final class MathTest extends TestCase
{
    public function testExpansionKeepsWhatDoublesLose(): void
    {
        $tiny = Expansion::of(1e-40);
        $sum = Expansion::of(1e20)->plus($tiny)->minus(Expansion::of(1e20));
        self::assertSame(1e-40, $sum->toFloat());
        // (a + b)(a - b) - (a^2 - b^2) is exactly 0, which doubles miss.
        $a = Expansion::of(0.1);
        $b = Expansion::of(1.0 / 3.0e7);
        $left = $a->plus($b)->times($a->minus($b));
        self::assertSame(0, $left->minus($a->times($a)->minus($b->times($b)))->sign());
    }

    public function testDeterminantOfDependentRowsIsExactlyZero(): void
    {
        $rows = [[0.1, 0.2, 0.7], [1.3, -0.4, 2.2], [0.0, 0.0, 0.0]];
        foreach ([0, 1, 2] as $c) {
            // Rows 0 and 1 added as exact numbers would not fit a double, so take a multiple that does.
            $rows[2][$c] = 4.0 * $rows[0][$c];
        }
        $exact = array_map(static fn (array $row): array => array_map(Expansion::of(...), $row), $rows);
        self::assertSame(0, Expansion::determinant($exact)->sign());
        $exact[2][2] = $exact[2][2]->plus(Expansion::of(1e-300));
        self::assertNotSame(0, Expansion::determinant($exact)->sign());
    }

    public function testStreamsDependOnTheirNameOnly(): void
    {
        $draw = static fn (RandomStream $s): array => [$s->float(), $s->float(), $s->float()];
        $first = $draw(RandomStream::named(7, 'sites'));
        RandomStream::named(7, 'other')->float();
        self::assertSame($first, $draw(RandomStream::named(7, 'sites')));
        self::assertNotSame($first, $draw(RandomStream::named(8, 'sites')));
        self::assertNotSame($first, $draw(RandomStream::named(7, 'sites', 1)));
        $stream = RandomStream::named(1, 'mean');
        $sum = 0.0;
        for ($i = 0; $i < 20000; $i++) {
            $value = $stream->float();
            self::assertTrue($value >= 0.0 && $value < 1.0);
            $sum += $value;
        }
        // Four standard deviations of the mean of 20,000 uniform numbers.
        self::assertEqualsWithDelta(0.5, $sum / 20000, 4.0 / sqrt(12.0 * 20000.0));
    }

    /**
     * Control points as CSS Easing Functions Level 1 (W3C) gives them; the values are the curves' own at the given
     * parameter, computed here by the Bernstein form, not by the code under test.
     *
     * @return iterable<string, array{string, float, float, float, float}>
     */
    public static function curves(): iterable
    {
        yield 'ease-in-out' => ['smooth', 0.42, 0.0, 0.58, 1.0];
        yield 'ease-in' => ['in', 0.42, 0.0, 1.0, 1.0];
        yield 'ease-out' => ['out', 0.0, 0.0, 0.58, 1.0];
    }

    #[DataProvider('curves')]
    public function testEasingFollowsTheCssCurves(string $name, float $x1, float $y1, float $x2, float $y2): void
    {
        for ($s = 0.05; $s < 1.0; $s += 0.05) {
            $x = 3 * $s * (1 - $s) ** 2 * $x1 + 3 * $s ** 2 * (1 - $s) * $x2 + $s ** 3;
            $y = 3 * $s * (1 - $s) ** 2 * $y1 + 3 * $s ** 2 * (1 - $s) * $y2 + $s ** 3;
            self::assertEqualsWithDelta($y, Easing::at($name, $x), 1e-12);
        }
        self::assertSame(0.0, Easing::at($name, -0.5));
        self::assertSame(1.0, Easing::at($name, 1.5));
    }

    public function testKeysHoldOutsideAndEaseBetween(): void
    {
        $track = Animated::keyed([[20.0, 5.0, 'hold'], [10.0, 1.0, 'linear'], [30.0, 9.0, 'smooth']]);
        self::assertSame(1.0, $track->at(1.0));
        self::assertSame(3.0, $track->at(15.0));
        self::assertSame(5.0, $track->at(29.9));
        self::assertSame(9.0, $track->at(30.0));
        self::assertSame(9.0, $track->at(99.0));
        self::assertFalse($track->isConstant());
    }

    public function testTurnsAboutFixedAxesInOrder(): void
    {
        // About x by 90: y to z. Then about z by 90: x to y; z stays.
        [$x, $y, $z] = Quaternion::rotate(Quaternion::fromDegrees(90.0, 0.0, 90.0), [0.0, 1.0, 0.0]);
        self::assertEqualsWithDelta([0.0, 0.0, 1.0], [$x, $y, $z], 1e-15);
        $q = Quaternion::fromDegrees(10.0, 20.0, 30.0);
        $m = Quaternion::matrix($q);
        [$x, $y, $z] = Quaternion::rotate($q, [0.3, -1.2, 2.0]);
        self::assertEqualsWithDelta($x, $m[0] * 0.3 - $m[1] * 1.2 + $m[2] * 2.0, 1e-15);
        self::assertEqualsWithDelta($z, $m[6] * 0.3 - $m[7] * 1.2 + $m[8] * 2.0, 1e-15);
    }

    /** Perlin's published reference code for improved noise (2002) gives this value; digits as quoted with it, from memory. */
    public function testGradientNoiseMatchesTheReference(): void
    {
        self::assertEqualsWithDelta(0.136919958784, GradientNoise::unshifted()->at(3.14, 42.0, 7.0), 5e-13);
        self::assertSame(0.0, GradientNoise::unshifted()->at(5.0, -3.0, 12.0), 'nothing at whole numbers');
        self::assertEqualsWithDelta(GradientNoise::unshifted()->at(0.3, 0.4, 0.5), GradientNoise::unshifted()->at(256.3, 0.4, -255.5), 1e-9, 'repeats after 256');
    }
}
