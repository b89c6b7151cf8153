<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\MeanTurn;
use YardBreak\Core\Math\RandomStream;

final class MeanTurnTest extends TestCase
{
    /** What turns and goes on is found to turn so; what each does besides is left. */
    public function testATurnIsFound(): void
    {
        $stream = RandomStream::named(7, 'turn');
        [$p, $q, $r] = [0.3, -0.2, 0.5];
        $x = $y = $z = $dx = $dy = $dz = [];
        for ($k = 0; $k < 50; $k++) {
            // Flat, and far from the middle of the world.
            [$a, $b, $c] = [40.0 + $stream->between(-1.0, 1.0), -7.0, $stream->between(-2.0, 2.0)];
            [$x[], $y[], $z[]] = [$a, $b, $c];
            [$dx[], $dy[], $dz[]] = [0.1 + $q * $c - $r * $b, 0.2 + $r * $a - $p * $c, 0.3 + $p * $b - $q * $a];
        }
        $turn = MeanTurn::of($x, $y, $z, $dx, $dy, $dz);
        foreach ([$p, $q, $r] as $axis => $of) {
            self::assertEqualsWithDelta($of, $turn[$axis], 1e-9);
        }
        $squares = static function (float $w) use ($turn, $x, $y, $z, $dx, $dy, $dz): float {
            [$p, $q, $r] = [$turn[0] + $w, $turn[1], $turn[2] - $w];
            $left = [];
            foreach ($x as $k => $a) {
                $left[] = [$dx[$k] - $q * $z[$k] + $r * $y[$k], $dy[$k] - $r * $a + $p * $z[$k], $dz[$k] - $p * $y[$k] + $q * $a];
            }
            $sum = 0.0;
            foreach ([0, 1, 2] as $axis) {
                $of = array_column($left, $axis);
                $mean = array_sum($of) / count($of);
                $sum += array_sum(array_map(static fn (float $l): float => ($l - $mean) ** 2, $of));
            }

            return $sum;
        };
        $dy = array_map(static fn (float $way): float => $way + $stream->between(-0.1, 0.1), $dy);
        $turn = MeanTurn::of($x, $y, $z, $dx, $dy, $dz);
        self::assertLessThan(min($squares(1e-3), $squares(-1e-3)), $squares(0.0), 'no other turn leaves less');
    }

    /** In a line, in one place and of nothing there is none. */
    public function testWhatHasNoTurn(): void
    {
        self::assertSame([0.0, 0.0, 0.0], MeanTurn::of([0.0, 1.0, 2.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.0, 0.0], [0.0, 0.1, 0.2], [0.0, 0.0, 0.0]));
        self::assertSame([0.0, 0.0, 0.0], MeanTurn::of([1.0, 1.0], [1.0, 1.0], [1.0, 1.0], [0.0, 1.0], [0.0, 0.0], [0.0, 0.0]));
        self::assertSame([0.0, 0.0, 0.0], MeanTurn::of([], [], [], [], [], []));
    }
}
