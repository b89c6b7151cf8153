<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Weight;

use Closure;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Weight\Following;
use YardBreak\Core\Weight\Response;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** A weight that never falls back, comes late, or swings like a spring: beside the closed forms of textbooks. */
final class FollowingTest extends TestCase
{
    /** @param Closure(float): float $weight by frame */
    private static function source(Closure $weight): WeightSource
    {
        return new class ($weight) implements WeightSource {
            public int $asked = 0;

            /** @param Closure(float): float $weight */
            public function __construct(private readonly Closure $weight)
            {
            }

            public function evaluate(Samples $at, float $frame): array
            {
                $this->asked++;

                return array_fill(0, count($at->x), ($this->weight)($frame));
            }

            public function still(): array
            {
                return [];
            }

            public function sample(float $frame): array
            {
                return [($this->weight)($frame)];
            }
        };
    }

    private static function step(): WeightSource
    {
        return self::source(static fn (float $frame): float => $frame > 1.0 ? 1.0 : 0.0);
    }

    /**
     * A step of a spring with a damper overshoots by exp(-pi z / sqrt(1 - z^2)) at the time pi / (w sqrt(1 - z^2)), and
     * stays within exp(-z w t) / sqrt(1 - z^2) of its goal (Ogata, Modern Control Engineering, 5-3; formulas from memory, and
     * they follow from y'' = w^2 (u - y) - 2 z w y').
     */
    public function testASpringOvershootsAndSettlesAsTheClosedFormSays(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        foreach ([0.1, 0.3, 0.6] as $damping) {
            // A step within one frame of a thousandth of a second is as good as sudden.
            $fps = 1000.0;
            $w = 2.0 * M_PI * 2.0;
            $spring = new Following(self::step(), false, Response::spring(2.0, $damping), $fps);
            $root = sqrt(1.0 - $damping ** 2);
            $most = 0.0;
            $when = 0.0;
            for ($frame = 2; $frame < 1500; $frame++) {
                $value = $spring->evaluate($at, (float) $frame)[0];
                $seconds = ($frame - 1.5) / $fps;
                if ($value > $most) {
                    [$most, $when] = [$value, $seconds];
                }
                self::assertLessThanOrEqual(exp(-$damping * $w * $seconds) / $root + 1e-4, abs($value - 1.0));
            }
            self::assertEqualsWithDelta(1.0 + exp(-M_PI * $damping / $root), $most, 1e-4, "damping {$damping}");
            self::assertEqualsWithDelta(M_PI / ($w * $root), $when, 1.5 / $fps);
        }
    }

    /** The response to a ramp is a formula; the steps are exact, however long: the same at 12, 24 and 60 frames a second. */
    public function testTheSameAtEveryFrameRate(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        foreach ([[0.2, 2.0], [1.0, 2.0], [1.7, 1.0], [0.0, 3.0]] as [$damping, $frequency]) {
            $values = [];
            foreach ([12.0, 24.0, 60.0] as $fps) {
                // A quarter a second for 2 s, then level.
                $ramp = self::source(static fn (float $frame): float => 0.25 * min(2.0, ($frame - 1.0) / $fps));
                $spring = new Following($ramp, false, Response::spring($frequency, $damping), $fps);
                foreach ([0.5, 1.0, 2.0, 3.0, 4.5] as $seconds) {
                    $values[(string) $seconds][] = $spring->evaluate($at, 1.0 + $seconds * $fps)[0];
                }
            }
            foreach ($values as $seconds => $same) {
                self::assertEqualsWithDelta($same[0], $same[1], 1e-12, "damping {$damping} after {$seconds} s");
                self::assertEqualsWithDelta($same[0], $same[2], 1e-12);
            }
        }
        // Undamped after a ramp from rest: y = r (t - sin(w t) / w).
        $spring = new Following(self::source(static fn (float $frame): float => ($frame - 1.0) / 24.0), false, Response::spring(1.5, 0.0), 24.0);
        $w = 2.0 * M_PI * 1.5;
        self::assertEqualsWithDelta(1.25 - sin($w * 1.25) / $w, $spring->evaluate($at, 31.0)[0], 1e-12);
    }

    /** y' = (u - y) / T: a step is 1 - exp(-t / T), a steady rise is trailed by T. */
    public function testLag(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        $late = new Following(self::source(static fn (float $frame): float => ($frame - 1.0) / 24.0), false, Response::late(0.25), 24.0);
        self::assertEqualsWithDelta(1.0 - 0.25 * (1.0 - exp(-4.0)), $late->evaluate($at, 25.0)[0], 1e-12);
        $late = new Following(self::step(), false, Response::late(0.25), 2400.0);
        self::assertEqualsWithDelta(1.0 - exp(-1.0), $late->evaluate($at, 602.0)[0], 1e-3);
    }

    public function testWhatNeverFallsBackStaysWhereItGot(): void
    {
        $at = Samples::of([[0, 0, 0], [1, 0, 0]]);
        $bump = self::source(static fn (float $frame): float => max(0.0, 1.0 - abs($frame - 10.0) / 5.0));
        $keeps = new Following($bump, true, null, 24.0);
        self::assertSame([0.0, 0.0], $keeps->evaluate($at, 5.0));
        self::assertEqualsWithDelta([0.8, 0.8], $keeps->evaluate($at, 9.0), 1e-12);
        self::assertSame([1.0, 1.0], $keeps->evaluate($at, 40.0));
        // Then it follows late what stays.
        $late = new Following($bump, true, Response::late(0.25), 24.0);
        self::assertGreaterThan(0.99, $late->evaluate($at, 60.0)[0]);
    }

    /** Whichever frame is asked for first, between frames too, and from what was saved: the same bits. */
    public function testTheOrderOfAskingDoesNotMatter(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        $make = static fn (): Following => new Following(self::source(static fn (float $frame): float => 0.5 + 0.5 * sin($frame)), false, Response::spring(2.0, 0.2), 24.0);
        $inOrder = $make();
        $values = [];
        for ($frame = 1.0; $frame <= 40.0; $frame += 0.25) {
            $values[(string) $frame] = $inOrder->evaluate($at, $frame);
        }
        $mixed = $make();
        foreach (['33.25', '7', '39', '38', '1', '20.75'] as $frame) {
            self::assertSame($values[$frame], $mixed->evaluate($at, (float) $frame), $frame);
        }
        $saving = $make();
        $saving->evaluate($at, 16.0);
        $other = Samples::of([[0, 0, 0]]);
        $restored = $make();
        $restored->restore($other, $saving->saved($at));
        self::assertSame($values['17'], $restored->evaluate($other, 17.0));
    }

    /** One that looks back by a frame, as pieces do, asks for nothing twice. */
    public function testLookingBackByAFrameCostsNothing(): void
    {
        $source = self::step();
        $following = new Following($source, false, Response::late(0.5), 24.0);
        $at = Samples::of([[0, 0, 0]]);
        for ($frame = 2; $frame <= 50; $frame++) {
            $following->evaluate($at, (float) $frame);
            $following->evaluate($at, $frame - 1.0);
        }
        self::assertSame(50, $source->asked ?? 0);
    }

    /** Long steps, stiff springs and heavy damping stay finite and come to rest. */
    public function testNothingBlowsUp(): void
    {
        $at = Samples::of([[0, 0, 0]]);
        foreach ([[50.0, 0.0], [50.0, 4.0], [0.05, 4.0], [2.0, 1.0], [2.0, 0.9999999], [2.0, 1.0000001]] as [$frequency, $damping]) {
            $spring = new Following(self::step(), false, Response::spring($frequency, $damping), 1.0);
            foreach ([2.0, 3.0, 100.0] as $frame) {
                $value = $spring->evaluate($at, $frame)[0];
                self::assertGreaterThan(-1.01, $value);
                self::assertLessThan(2.01, $value);
            }
            if ($damping > 0.0) {
                self::assertEqualsWithDelta(1.0, $spring->evaluate($at, 3000.0)[0], 1e-6);
            }
        }
    }
}
