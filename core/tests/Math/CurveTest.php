<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Math;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Curve;
use YardBreak\Core\Math\Polyline;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Tests\Fixture\Node;

/** A curve through points, beside the same curve of npm d3-shape 3.2 (curveMonotoneX, Steffen 1990), which also draws it. */
final class CurveTest extends TestCase
{
    /** @return non-empty-list<array{float, float}> */
    private static function points(int $seed): array
    {
        $stream = RandomStream::named($seed, 'curve');
        $points = [];
        $x = 0.0;
        for ($k = 0, $n = 2 + $seed % 7; $k < $n; $k++) {
            $points[] = [$x, $stream->between(0.0, 1.0)];
            $x += $stream->between(0.05, 0.3);
        }

        return $points;
    }

    #[Group('slow')]
    public function testAsD3DrawsIt(): void
    {
        $all = array_map(self::points(...), range(1, 30));
        $drawn = Node::run('d3-shape', <<<'JS'
            const { curveMonotoneX } = await import('d3-shape');
            return input.map((points) => {
              const at = [];
              let x = 0, y = 0;
              const context = {
                moveTo: (a, b) => ([x, y] = [a, b]),
                lineTo: (a, b) => { for (let k = 0; k <= 8; k++) at.push([x + (a - x) * k / 8, y + (b - y) * k / 8]); [x, y] = [a, b]; },
                bezierCurveTo: (a, b, c, d, e, f) => {
                  for (let k = 0; k <= 8; k++) { const t = k / 8, s = 1 - t; at.push([s**3*x + 3*s*s*t*a + 3*s*t*t*c + t**3*e, s**3*y + 3*s*s*t*b + 3*s*t*t*d + t**3*f]); }
                  [x, y] = [e, f];
                },
                closePath: () => {},
              };
              const curve = curveMonotoneX(context);
              curve.lineStart();
              for (const [a, b] of points) curve.point(a, b);
              curve.lineEnd();
              return at;
            });
            JS, $all);
        $compared = 0;
        foreach ($drawn as $n => $places) {
            $curve = new Curve($all[$n]);
            self::assertIsArray($places);
            foreach ($places as $place) {
                self::assertIsArray($place);
                self::assertEqualsWithDelta($place[1], $curve->at($place[0]), 1e-9);
                $compared++;
            }
        }
        self::assertGreaterThan(800, $compared);
    }

    public function testItGoesThroughItsPointsAndNeverPastThem(): void
    {
        foreach (range(1, 40) as $seed) {
            $points = self::points($seed);
            $curve = new Curve($points);
            self::assertSame($points[0][1], $curve->at(-1.0));
            self::assertSame($points[count($points) - 1][1], $curve->at(9.0));
            for ($k = 0; $k + 1 < count($points); $k++) {
                [[$x0, $y0], [$x1, $y1]] = [$points[$k], $points[$k + 1]];
                self::assertSame($y0, $curve->at($x0));
                $before = $y0;
                for ($t = 1; $t <= 20; $t++) {
                    $now = $curve->at($x0 + ($x1 - $x0) * $t / 20);
                    // From one to the next it only rises, or only falls.
                    self::assertGreaterThanOrEqual(-1e-12, ($now - $before) * ($y1 <=> $y0));
                    $before = $now;
                }
            }
        }
        self::assertSame(0.4, (new Curve([[0.5, 0.4]]))->at(0.2));
        self::assertEqualsWithDelta(0.35, (new Curve([[0.0, 0.0], [1.0, 1.0]]))->at(0.35), 1e-15);
    }

    public function testWhereALineComesNearest(): void
    {
        $line = new Polyline([[0.0, 0.0, 0.0], [3.0, 0.0, 0.0], [3.0, 4.0, 0.0]]);
        self::assertSame(7.0, $line->length());
        self::assertSame(1.0, $line->nearest(1.0, -5.0, 2.0));
        self::assertSame(0.0, $line->nearest(-2.0, 0.5, 0.0));
        self::assertSame(5.0, $line->nearest(4.0, 2.0, 0.0));
        self::assertSame(7.0, $line->nearest(3.0, 9.0, 0.0));
        // As near to both: the first.
        self::assertSame(2.0, $line->nearest(2.0, 1.0, 0.0));
        self::assertSame(0.0, (new Polyline([[1.0, 1.0, 1.0]]))->nearest(2.0, 2.0, 2.0));
    }

    public function testAPlaceAlongALine(): void
    {
        $line = new Polyline([[0.0, 0.0, 0.0], [3.0, 0.0, 0.0], [3.0, 0.0, 0.0], [3.0, 4.0, 0.0]]);
        self::assertSame([[1.0, 0.0, 0.0], [1.0, 0.0, 0.0]], $line->at(1.0));
        self::assertSame([[3.0, 1.0, 0.0], [0.0, 1.0, 0.0]], $line->at(4.0), 'a place that is there twice has no length');
        self::assertSame([[0.0, 0.0, 0.0], [1.0, 0.0, 0.0]], $line->at(-2.0), 'it does not go on before it begins');
        self::assertSame([[3.0, 4.0, 0.0], [0.0, 1.0, 0.0]], $line->at(9.0), 'nor after its end');
        self::assertSame([[1.0, 2.0, 3.0], [0.0, 0.0, 0.0]], (new Polyline([[1.0, 2.0, 3.0]]))->at(1.0));
    }

    /** No place of the line, of a thousand, is nearer than the one that is found. */
    public function testTheNearestPlaceOfALineIsTheNearest(): void
    {
        $random = RandomStream::named(3, 'lines');
        for ($case = 0; $case < 20; $case++) {
            $places = [];
            for ($k = 0; $k < 4; $k++) {
                $places[] = [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
            }
            [$line, $from] = [new Polyline($places), [$random->between(-2.0, 2.0), $random->between(-2.0, 2.0), $random->between(-2.0, 2.0)]];
            $far = static fn (float $passed): float => sqrt(array_sum(array_map(static fn (float $a, float $b): float => ($a - $b) ** 2, $line->at($passed)[0], $from)));
            $found = $far($line->nearest(...$from));
            for ($k = 0; $k <= 1000; $k++) {
                self::assertGreaterThanOrEqual($found - 1e-12, $far($line->length() * $k / 1000));
            }
        }
    }
}
