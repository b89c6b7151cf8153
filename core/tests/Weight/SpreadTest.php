<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\Spread;
use YardBreak\Core\Weight\WeightSource;

final class SpreadTest extends TestCase
{
    private static function about(float $from, float $to, float $reach, float $softness, float $hole = 0.0): Spread
    {
        return new Spread(static fn (float $x, float $y, float $z): float => sqrt($x * $x + $y * $y + $z * $z) - $hole, $from, $to, $reach, $softness);
    }

    public function testItGrowsFromNothingToAllWithinReachAndNeverShrinks(): void
    {
        foreach ([0.0, 0.2] as $softness) {
            $front = self::about(10.0, 40.0, 1.0, $softness);
            foreach ([0.01, 0.4, 0.99] as $x) {
                self::assertSame(0.0, self::at($front, $x, 0.0, 0.0, 9.9));
                self::assertSame(0.0, self::at($front, $x, 0.0, 0.0, 10.0));
                $before = 0.0;
                for ($f = 10; $f <= 50; $f++) {
                    $now = self::at($front, 0.0, $x, 0.0, $f);
                    self::assertGreaterThanOrEqual($before, $now);
                    $before = $now;
                }
                self::assertSame(1.0, $before);
            }
            self::assertGreaterThan(self::at($front, 0.0, 0.0, 0.7, 25.0), self::at($front, 0.0, 0.0, 0.3, 25.0));
            self::assertSame(0.0, self::at($front, 0.0, 0.0, 1.01 + $softness, 100.0));
        }
    }

    public function testTheFrontTravelsEvenly(): void
    {
        // Half-way the edge reaches from 0.4 (fully changed) to 0.6; smoothstep (Hermite) is a half in its middle.
        $front = self::about(0.0, 20.0, 1.0, 0.2);
        self::assertSame(1.0, self::at($front, 0.399, 0.0, 0.0, 10.0));
        self::assertEqualsWithDelta(0.5, self::at($front, 0.5, 0.0, 0.0, 10.0), 1e-12);
        self::assertSame(0.0, self::at($front, 0.601, 0.0, 0.0, 10.0));
    }

    public function testWhatLiesInTheOpeningGoesFirst(): void
    {
        $front = self::about(5.0, 25.0, 1.0, 0.1, 0.5);
        self::assertSame(0.0, self::at($front, 0.1, 0.0, 0.0, 5.0));
        self::assertSame(1.0, self::at($front, 0.1, 0.0, 0.0, 5.1));
        self::assertSame(0.0, self::at($front, 0.7, 0.0, 0.0, 5.1));
    }

    public function testFromOneFrameToTheSameItIsAStep(): void
    {
        $front = self::about(12.0, 12.0, 0.5, 0.0);
        self::assertSame(0.0, self::at($front, 0.2, 0.0, 0.0, 11.0));
        self::assertSame(1.0, self::at($front, 0.2, 0.0, 0.0, 12.0));
    }

    private static function at(WeightSource $source, float $x, float $y, float $z, float $frame): float
    {
        return $source->evaluate(new Samples([$x], [$y], [$z]), $frame)[0];
    }
}
