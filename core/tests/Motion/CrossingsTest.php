<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Tests\Fixture\Crossings;

/** What other tests count crossings with. */
final class CrossingsTest extends TestCase
{
    /** Sorted into cubes it finds what each looked at with each finds, large among small. */
    public function testNoneIsMissedAndNoneCountsTwice(): void
    {
        mt_srand(4);
        $triangles = static function (int $count, float $size): array {
            $points = [];
            for ($t = 0; $t < $count; $t++) {
                $at = [mt_rand() / mt_getrandmax(), mt_rand() / mt_getrandmax(), mt_rand() / mt_getrandmax()];
                for ($c = 0; $c < 3; $c++) {
                    $points[] = array_map(static fn (float $of): float => $of + ($t % 20 === 0 ? 20.0 : 1.0) * $size * (mt_rand() / mt_getrandmax() - 0.5), $at);
                }
            }

            return [$points, range(0, 3 * $count - 1)];
        };
        [[$a, $first], [$b, $second]] = [$triangles(120, 0.1), $triangles(90, 0.15)];
        $each = 0;
        foreach (array_chunk($a, 3) as $one) {
            foreach (array_chunk($b, 3) as $other) {
                $each += Crossings::count($one, [0, 1, 2], $other, [0, 1, 2]);
            }
        }
        self::assertGreaterThan(20, $each);
        self::assertSame($each, Crossings::count($a, $first, $b, $second));
        self::assertSame($each, Crossings::count($b, $second, $a, $first));
        self::assertSame($each + Crossings::within($a, $first) + Crossings::within($b, $second), Crossings::within([...$a, ...$b], range(0, count($a) + count($b) - 1)));
    }

    /** A corner that stands through a face, and two that cross beside their edges: nearest is sideways. */
    public function testHowDeep(): void
    {
        $face = [[0.0, 0.0, 0.0], [1.0, 0.0, 0.0], [0.0, 1.0, 0.0]];
        $through = [[0.2, 0.2, -0.03], [0.2, 0.3, 1.0], [0.3, 0.2, 1.0]];
        self::assertEqualsWithDelta(0.03, Crossings::deepestWithin([...$face, ...$through], range(0, 5)), 1e-12);
        $beside = [[0.5, 0.002, -1.0], [0.5, 0.002, 1.0], [0.5, -1.0, 0.0]];
        self::assertEqualsWithDelta(0.002, Crossings::deepestWithin([...$face, ...$beside], range(0, 5)), 1e-12);
        self::assertSame(0.0, Crossings::deepestWithin($face, [0, 1, 2]));
    }
}
