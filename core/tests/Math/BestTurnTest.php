<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\BestTurn;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Math\Vector;

final class BestTurnTest extends TestCase
{
    /** @return list<array{float, float, float}> */
    private static function places(RandomStream $stream, bool $flat, int $count = 12): array
    {
        return array_map(static fn (): array => [$stream->between(-1.0, 1.0), $stream->between(-0.6, 0.6), $flat ? 0.0 : $stream->between(-0.3, 0.3)], range(1, $count));
    }

    /** A turn of any size, half a turn too, of something solid or flat, is found again. */
    public function testATurnIsFound(): void
    {
        $stream = RandomStream::named(5, 'best turn');
        for ($case = 0; $case < 60; $case++) {
            $axis = Vector::unit([$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)]) ?? [1.0, 0.0, 0.0];
            $turn = Quaternion::aboutAxis($axis, $case % 5 === 0 ? M_PI : $stream->between(-M_PI, M_PI));
            $from = self::places($stream, $case % 3 === 0);
            $to = array_map(static fn (array $place): array => Quaternion::carried([3.0, -2.0, 1.0], $turn, $place), $from);
            [$was, $is, $found] = BestTurn::of($from, $to);
            foreach ($from as $k => $place) {
                $now = Quaternion::carried($is, $found, Vector::minus($place, $was));
                self::assertLessThan(1e-6, Vector::distance($now, $to[$k]), "case {$case}");
            }
        }
    }

    /** Of what is bent and shaken no other turn comes nearer. */
    public function testNoOtherTurnComesNearer(): void
    {
        $stream = RandomStream::named(6, 'best turn');
        for ($case = 0; $case < 20; $case++) {
            $from = self::places($stream, false);
            $to = array_map(static fn (array $place): array => Vector::plus([-$place[1], $place[0], $place[2]], [$stream->between(-0.4, 0.4), $stream->between(-0.4, 0.4), $stream->between(-0.4, 0.4)]), $from);
            [$was, $is, $found] = BestTurn::of($from, $to);
            $off = static fn (array $turn): float => array_sum(array_map(static fn (array $a, array $b): float => Vector::distance(Quaternion::rotate($turn, Vector::minus($a, $was)), Vector::minus($b, $is)) ** 2, $from, $to));
            $least = $off($found);
            for ($k = 0; $k < 200; $k++) {
                $axis = Vector::unit([$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)]) ?? [1.0, 0.0, 0.0];
                self::assertGreaterThan($least - 1e-9, $off(Quaternion::multiply(Quaternion::aboutAxis($axis, 10.0 ** $stream->between(-3.0, 0.4)), $found)));
            }
        }
    }

    /** What is in one place is not turned; what lies in a line lies right. */
    public function testWhatHasNoAxes(): void
    {
        self::assertSame(Quaternion::IDENTITY, BestTurn::of([[1.0, 2.0, 3.0]], [[0.0, 0.0, 0.0]])[2]);
        self::assertSame(Quaternion::IDENTITY, BestTurn::of([], [])[2]);
        [$was, $is, $turn] = BestTurn::of([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [3.0, 0.0, 0.0]], [[0.0, 2.0, 0.0], [0.0, 1.0, 0.0], [0.0, -1.0, 0.0]]);
        self::assertLessThan(1e-9, Vector::distance([0.0, -1.0, 0.0], Quaternion::carried($is, $turn, Vector::minus([3.0, 0.0, 0.0], $was))));
    }
}
