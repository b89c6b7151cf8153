<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\WeightSource;

final class SweepTest extends TestCase
{
    public function testNothingBeforeEverythingAfterAndNeverBackInBetween(): void
    {
        foreach ([0.0, 0.3] as $softness) {
            foreach ([false, true] as $backwards) {
                $sweep = self::sweep(1, $backwards, -1.0, 2.0, 10.0, 40.0, $softness);
                foreach ([-1.0, 0.1, 2.0] as $y) {
                    self::assertSame(0.0, self::at($sweep, 9.0, $y, 9.0, 10.0));
                    self::assertSame(1.0, self::at($sweep, 9.0, $y, 9.0, 40.0));
                    $before = 0.0;
                    for ($f = 1; $f <= 50; $f++) {
                        $now = self::at($sweep, 0.0, $y, 0.0, $f);
                        self::assertGreaterThanOrEqual($before, $now);
                        $before = $now;
                    }
                }
                // The side it enters changes first.
                [$first, $last] = $backwards ? [2.0, -1.0] : [-1.0, 2.0];
                self::assertGreaterThan(self::at($sweep, 0.0, $last, 0.0, 20.0), self::at($sweep, 0.0, $first, 0.0, 20.0));
            }
        }
    }

    public function testTheFrontTravelsEvenly(): void
    {
        $sweep = self::sweep(0, false, 0.0, 3.0, 0.0, 40.0, 1.0);
        self::assertSame(2.0, $sweep->front(20.0));
        // Smoothstep (Hermite): half the edge is at a half.
        self::assertSame(0.5, self::at($sweep, 1.5, 0.0, 0.0, 20.0));
    }

    public function testAnInstantSweepIsAStep(): void
    {
        $sweep = self::sweep(2, false, 0.0, 1.0, 12.0, 12.0, 0.2);
        self::assertSame(0.0, self::at($sweep, 0.0, 0.0, 0.5, 11.0));
        self::assertSame(1.0, self::at($sweep, 0.0, 0.0, 1.0, 12.0));
    }

    private static function sweep(int $axis, bool $backwards, float $low, float $high, float $from, float $to, float $softness): Sweep
    {
        $way = static fn (Samples $at): array => array_map(static fn (float $place): float => $backwards ? $high - $place : $place - $low, [$at->x, $at->y, $at->z][$axis]);

        return new Sweep($way, $high - $low, $from, $to, 'linear', $softness, []);
    }

    private static function at(WeightSource $source, float $x, float $y, float $z, float $frame): float
    {
        return $source->evaluate(new Samples([$x], [$y], [$z]), $frame)[0];
    }
}
