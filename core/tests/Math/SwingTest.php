<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Swing;

final class SwingTest extends TestCase
{
    /**
     * @param array{float, float, float} $way
     * @param list<array{float, float, float}> $ropes
     */
    #[TestWith([[0.0, -1.0, 0.0], [], 1.0])]
    #[TestWith([[0.0, 0.0, 1.0], [[0.0, 1.0, 0.0]], 1.0])] // across the rope
    #[TestWith([[0.0, -1.0, 0.0], [[0.0, 1.0, 0.0]], 0.0])] // away from where it hangs
    #[TestWith([[0.0, -1.0, 0.0], [[0.6, 0.8, 0.0]], 0.6])] // it swings in under it
    #[TestWith([[0.0, -1.0, 0.0], [[0.6, 0.8, 0.0], [-0.6, 0.8, 0.0]], 0.0])] // from both sides
    #[TestWith([[0.0, -0.6, 0.8], [[0.6, 0.8, 0.0], [-0.6, 0.8, 0.0]], 0.8])] // it swings out between both
    #[TestWith([[0.0, -1.0, 0.0], [[0.9950371902099892, 0.0995037190209989, 0.0], [-0.9950371902099892, 0.0995037190209989, 0.0], [0.0, 0.0995037190209989, 0.9950371902099892], [0.0, 0.0995037190209989, -0.9950371902099892]], 0.0])] // a drum
    public function testHowFarItCanGo(array $way, array $ropes, float $far): void
    {
        self::assertEqualsWithDelta($far, Swing::along($way, $ropes), 1e-12);
    }

    /** No step of many tried goes farther without going against a rope. */
    public function testNoOtherStepGoesFarther(): void
    {
        mt_srand(5);
        $any = static function (): array {
            do {
                $v = [mt_rand(-1000, 1000) / 1000.0, mt_rand(-1000, 1000) / 1000.0, mt_rand(-1000, 1000) / 1000.0];
                $l = sqrt($v[0] ** 2 + $v[1] ** 2 + $v[2] ** 2);
            } while ($l < 0.1 || $l > 1.0);

            return [$v[0] / $l, $v[1] / $l, $v[2] / $l];
        };
        for ($case = 0; $case < 30; $case++) {
            [$way, $ropes] = [$any(), [$any(), $any(), $any()]];
            $far = Swing::along($way, $ropes);
            $best = 0.0;
            for ($k = 0; $k < 2000; $k++) {
                $step = $any();
                $free = array_filter($ropes, static fn (array $rope): bool => $step[0] * $rope[0] + $step[1] * $rope[1] + $step[2] * $rope[2] < 0.0) === [];
                $best = $free ? max($best, $step[0] * $way[0] + $step[1] * $way[1] + $step[2] * $way[2]) : $best;
            }
            self::assertGreaterThan($best - 1e-9, $far);
            self::assertLessThan(max(0.05, $best) + 0.15, $far, "case {$case}");
        }
    }
}
