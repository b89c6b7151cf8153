<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Matrix;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\EdgeSplit;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Soft\Inwards;
use YardBreak\Core\Motion\Soft\Lattice;
use YardBreak\Core\Motion\Soft\Relief;
use YardBreak\Core\Motion\Soft\RestBoxes;

/** How what is known of a surface gets to what is inside, and what boxes become there. */
final class InwardsTest extends TestCase
{
    private const SIDE = 0.2;

    private static function block(): TriangleMesh
    {
        return EdgeSplit::of(Solids::box(1.0, 1.0, 1.0, 1), self::SIDE);
    }

    /**
     * @param callable(float, float, float): array{float, float, float} $way of a place of the surface
     * @param array{list<float>, list<float>, list<float>} $places
     *
     * @return list<array{float, float, float}>
     */
    private static function carried(callable $way, array $places): array
    {
        $mesh = self::block();

        return Inwards::carried($mesh, array_map($way, $mesh->x, $mesh->y, $mesh->z), $places, self::SIDE);
    }

    /** What is drawn out, sheared, turned and moved as a whole is so all through. */
    public function testWhatGoesAsOneGoesSoInside(): void
    {
        $way = static fn (float $x, float $y, float $z): array => [0.3 + 0.5 * $x - 0.2 * $y, 0.1 * $y + 0.7 * $z - 1.0, 0.4 * $x + 0.2 * $z];
        $random = RandomStream::named(3, 'inside');
        $places = [[], [], []];
        for ($n = 0; $n < 50; $n++) {
            foreach ([0, 1, 2] as $axis) {
                $places[$axis][] = $random->between(-0.5, 0.5);
            }
        }
        foreach (self::carried($way, $places) as $n => $is) {
            self::assertEqualsWithDelta($way($places[0][$n], $places[1][$n], $places[2][$n]), $is, 1e-6);
        }
    }

    /** A harmonic map: x y is one, so that it is known inside too; and nowhere is it more than at the surface. */
    public function testInsideItIsTheMeanOfWhatIsAround(): void
    {
        $saddle = static fn (float $x, float $y, float $z): array => [0.0, $x * $y, 0.0];
        foreach (self::carried($saddle, [[0.3, -0.3, 0.0, 0.1], [0.3, 0.1, 0.0, -0.3], [0.0, 0.1, 0.0, 0.3]]) as $n => $is) {
            self::assertEqualsWithDelta([0.0, [0.09, -0.03, 0.0, -0.03][$n], 0.0], $is, 4e-3);
        }
        // One side is drawn out alone: in the middle it is a sixth of that, as every side counts the same there.
        $top = static fn (float $x, float $y, float $z): array => [0.0, $y > 0.499 ? 1.0 : 0.0, 0.0];
        self::assertEqualsWithDelta(1.0 / 6.0, self::carried($top, [[0.0], [0.0], [0.0]])[0][1], 0.02);
    }

    /** The matrix of a box that is drawn out and turned, times the one kept of it, changes nothing; one turned inside out is left upright. */
    public function testABoxKnowsWhatItHasBecome(): void
    {
        $lattice = Lattice::of([Solids::box(0.2, 0.2, 0.2, 1)], 0.2);
        $drawn = [0.0, -3.0, 0.1, 2.0, 0.2, 0.0, 0.0, 0.0, 0.5];
        $by = static fn (array $m): array => array_map(static fn (int $axis): array => array_map(static fn (float $x, float $y, float $z): float => Matrix::times($m, [$x, $y, $z])[$axis], $lattice->x, $lattice->y, $lattice->z), [0, 1, 2]);
        $rest = RestBoxes::of($lattice, ...$by($drawn));
        self::assertEqualsWithDelta(Matrix::inverse($drawn), $rest->inverse, 1e-12);
        self::assertEqualsWithDelta([3.0], $rest->size, 1e-12);
        self::assertEqualsWithDelta(array_fill(0, 12, 0.0), $rest->warp, 1e-12);
        self::assertEqualsWithDelta([0.2 * hypot(3.0, 0.2)], $rest->longest, 1e-12);
        $inside = RestBoxes::of($lattice, ...$by([1.0, 0.0, 0.0, 0.0, -1.0, 0.0, 0.0, 0.0, 1.0]));
        self::assertGreaterThanOrEqual(0.05, $inside->size[0]);
    }

    /** What lies beside the boxes is turned with them. */
    public function testReliefIsTurned(): void
    {
        $lattice = Lattice::of([Solids::box(0.2, 0.2, 0.2, 1)], 0.2);
        $count = count($lattice->box);
        $relief = new Relief($lattice, $lattice->around(), array_fill(0, $count, 0.01), array_fill(0, $count, 0.0), array_fill(0, $count, 0.02));
        // A quarter turn about y, and twice as large.
        [$x, $y, $z] = $relief->turned([0.0, M_SQRT1_2, 0.0, M_SQRT1_2], [2.0]);
        self::assertEqualsWithDelta(array_fill(0, $count, 0.04), $x, 1e-12);
        self::assertEqualsWithDelta(array_fill(0, $count, 0.0), $y, 1e-12);
        self::assertEqualsWithDelta(array_fill(0, $count, -0.02), $z, 1e-12);
    }
}
