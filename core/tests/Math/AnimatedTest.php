<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\BadDocument;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Easing;

/** Keys: what happens between, before and after them. */
final class AnimatedTest extends TestCase
{
    /** @return list<float> */
    private static function values(string $before, string $after, float ...$frames): array
    {
        // From 1 at frame 10 to 3 at 20, back half of it at 24.
        $number = Animated::keyed([[10.0, 1.0, 'linear'], [20.0, 3.0, 'linear'], [24.0, 2.0, 'linear']], $before, $after);

        return array_map($number->at(...), array_values($frames));
    }

    public function testBeforeAndAfterItsKeys(): void
    {
        self::assertSame([1.0, 2.0], self::values('hold', 'hold', -50.0, 90.0));
        // 14 frames long: 25 is as 11, 3 as 17; one that repeats is at its end where it is at its beginning.
        self::assertEqualsWithDelta([1.2, 2.4, 1.0], self::values('repeat', 'repeat', 25.0, 3.0, 38.0 + 1e-12), 1e-9);
        // Each time it begins where it has got to: one higher.
        self::assertEqualsWithDelta([2.2, 1.4, 3.2], self::values('add', 'add', 25.0, 3.0, 39.0), 1e-9);
        // Back from the end: 26 is as 22; before the first 8 is as 12.
        self::assertEqualsWithDelta([2.5, 1.4, 1.0], self::values('mirror', 'mirror', 26.0, 8.0, 38.0), 1e-9);
        // On as fast as it goes at its end: 0.2 a frame at first, -0.25 at last.
        self::assertEqualsWithDelta([0.0, 1.0], self::values('onward', 'onward', 5.0, 28.0), 1e-9);
        // Each end for itself.
        self::assertEqualsWithDelta([1.0, 1.2], self::values('hold', 'repeat', -50.0, 25.0), 1e-9);
        self::assertSame([5.0, 5.0], array_map(Animated::keyed([[10.0, 5.0, 'smooth']], 'repeat', 'onward')->at(...), [1.0, 40.0]));
    }

    /** A loop that closes: frame 49 of 48 is frame 1 again, and the step over the end is as even as any. */
    public function testALoopCloses(): void
    {
        $turn = Animated::keyed([[1.0, 0.0, 'linear'], [49.0, 360.0, 'linear']], 'hold', 'repeat');
        self::assertEqualsWithDelta(352.5, $turn->at(48.0), 1e-12);
        self::assertEqualsWithDelta($turn->at(2.0), $turn->at(50.0), 1e-9);
        self::assertEqualsWithDelta(367.5, Animated::keyed([[1.0, 0.0, 'linear'], [49.0, 360.0, 'linear']], 'hold', 'add')->at(50.0), 1e-9);
    }

    public function testItNeverLeavesItsLimits(): void
    {
        $size = Animated::keyed([[1.0, 1.0, 'linear'], [11.0, 0.2, 'linear']], 'hold', 'onward', 0.001, 1000.0);
        self::assertSame(0.001, $size->at(60.0));
        $over = Animated::keyed([[1.0, 0.0, 'overshoot'], [11.0, 1.0, 'linear']], 'hold', 'hold', 0.0, 1.0);
        self::assertSame(1.0, $over->at(8.0));
    }

    /** Past the end by a tenth at most, and back: a cubic Bezier like the others. */
    public function testOvershoot(): void
    {
        $most = max(array_map(static fn (int $k): float => Easing::at('overshoot', $k / 200), range(1, 199)));
        self::assertEqualsWithDelta(1.1, $most, 0.01);
        self::assertSame(1.0, Easing::at('overshoot', 1.0));
        self::assertSame(Easing::bezier(0.34, 1.56, 0.64, 1.0, 0.4), Easing::at('overshoot', 0.4));
    }

    /**
     * A ball dropped from 1 that keeps half its speed lands after T, then flies for T, T / 2 and T / 4 to heights of 1/4,
     * 1/16, 1/64 (h = v^2 / 2g): 2.75 T in all.
     */
    public function testBounce(): void
    {
        $fall = 1.0 / 2.75;
        self::assertEqualsWithDelta(0.25, Easing::at('bounce', 0.5 * $fall), 1e-12);
        foreach ([[1.0, 1.0], [1.5, 0.75], [2.0, 1.0], [2.25, 0.9375], [2.5, 1.0], [2.625, 1.0 - 1.0 / 64.0], [2.75, 1.0]] as [$time, $down]) {
            self::assertEqualsWithDelta($down, Easing::at('bounce', $time * $fall), 1e-9, "after {$time}");
        }
        $before = 0.0;
        for ($k = 1; $k <= 2750; $k++) {
            // It never jumps, and never falls through.
            $now = Easing::at('bounce', $k / 2750);
            self::assertLessThanOrEqual(1.0, $now);
            self::assertLessThan(0.003, abs($now - $before));
            $before = $now;
        }
    }

    /**
     * @param list<mixed> $keys
     * @param array<string, mixed> $more
     */
    private static function x(array $keys, array $more = [], float $frame = 6.0): float
    {
        return Shot::read(['version' => 2, 'cues' => [['id' => 'hit', 'name' => 'Hit', 'frame' => 21]], 'props' => [['id' => 'a', 'name' => 'A', 'position' => ['x' => ['keys' => $keys, ...$more]]]]])->props[0]->transform->positionAt($frame)[0];
    }

    public function testACurveOfItsOwnAndEndsFromTheDocument(): void
    {
        $keys = [['frame' => 1, 'value' => 0, 'ease' => 'curve', 'handles' => [[0.2, 0.8], [0.4, 1.4]]], ['frame' => 11, 'value' => 2]];
        self::assertEqualsWithDelta(2.0 * Easing::bezier(0.2, 0.8, 0.4, 1.4, 0.5), self::x($keys), 1e-12);
        // Without handles it goes smoothly.
        self::assertEqualsWithDelta(1.0, self::x([['frame' => 1, 'value' => 0, 'ease' => 'curve'], ['frame' => 11, 'value' => 2]]), 1e-12);
        $keys = [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['cue' => 'hit', 'offset' => -10, 'value' => 2]];
        self::assertEqualsWithDelta(0.4, self::x($keys, ['after' => 'repeat'], 13.0), 1e-9);
        self::assertEqualsWithDelta(2.4, self::x($keys, ['after' => 'add'], 13.0), 1e-9);
        self::assertEqualsWithDelta(1.6, self::x($keys, ['after' => 'mirror'], 13.0), 1e-9);
        self::assertEqualsWithDelta(2.4, self::x($keys, ['after' => 'onward'], 13.0), 1e-9);
        self::assertEqualsWithDelta(-0.4, self::x($keys, ['before' => 'onward'], -1.0), 1e-9);
    }

    public function testAHandleMustNotRunBackInTime(): void
    {
        $this->expectException(BadDocument::class);
        $this->expectExceptionMessage('time must be from 0 to 1');
        self::x([['frame' => 1, 'value' => 0, 'ease' => 'curve', 'handles' => [[-0.2, 0.8], [0.4, 1.4]]], ['frame' => 11, 'value' => 2]]);
    }
}
