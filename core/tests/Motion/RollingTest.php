<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Soft\Lattice;
use YardBreak\Core\Motion\Soft\Rolling;

/** What is soft loses its spin where it touches something, and only there. */
final class RollingTest extends TestCase
{
    /** Spin of each of two boxes before, radians a substep: about an axis that is none of theirs, so that their inertia is not a number. */
    private const SPIN = [0.01, -0.02, 0.015];

    /** Way of both in a substep, m. */
    private const WAY = [0.003, -0.001, 0.002];

    /** A second at 1.5/s leaves 1 / 2.5 of it, about the same axis; how fast it goes as a whole, and how it is bent, stay. */
    public function testSpinIsLostAsOneTurnsAndMotionIsKept(): void
    {
        [$rolling, $lattice, $mass] = self::twoBoxes();
        [$now, $was] = self::turning($lattice);
        $before = $was;
        $rolling->touch(range(0, 7));
        $rolling->slow(...$now, px: $was[0], py: $was[1], pz: $was[2], held: [], time: 1.0);
        foreach (self::nodesOf($lattice, 0) as $i) {
            $spin = [$now[0][$i] - $was[0][$i], $now[1][$i] - $was[1][$i], $now[2][$i] - $was[2][$i]];
            foreach ([0, 1, 2] as $axis) {
                self::assertEqualsWithDelta(self::WAY[$axis] + 0.4 * ($now[$axis][$i] - $before[$axis][$i] - self::WAY[$axis]), $spin[$axis], 1e-12);
            }
        }
        foreach (self::nodesOf($lattice, 1) as $i) {
            self::assertSame($before[0][$i], $was[0][$i], 'the other has touched nothing');
        }
        self::assertEqualsWithDelta(array_sum($mass) / 2, array_sum(array_map(static fn (int $i): float => $mass[$i], self::nodesOf($lattice, 0))), 1e-9);
    }

    public function testWhatIsHeldSwingsOn(): void
    {
        [$rolling, $lattice] = self::twoBoxes();
        [$now, $was] = self::turning($lattice);
        $before = $was;
        $rolling->touch([0]);
        $rolling->slow(...$now, px: $was[0], py: $was[1], pz: $was[2], held: [self::nodesOf($lattice, 0)[3] => true], time: 1.0);
        self::assertSame($before, $was);
    }

    public function testATouchCountsOnce(): void
    {
        [$rolling, $lattice] = self::twoBoxes();
        [$now, $was] = self::turning($lattice);
        $rolling->touch([0]);
        $rolling->slow(...$now, px: $was[0], py: $was[1], pz: $was[2], held: [], time: 0.04);
        $before = $was;
        $rolling->slow(...$now, px: $was[0], py: $was[1], pz: $was[2], held: [], time: 0.04);
        self::assertSame($before, $was);
    }

    /** @return array{Rolling, Lattice, list<float>} */
    private static function twoBoxes(): array
    {
        $box = Solids::box(0.4, 0.2, 0.3, 1);
        $lattice = Lattice::of([$box, new TriangleMesh(array_map(static fn (float $x): float => $x + 1.0, $box->x), $box->y, $box->z, $box->triangles)], 0.1);
        $mass = array_map(static fn (float $volume): float => 1000.0 * $volume, $lattice->volume);

        return [new Rolling($lattice, $mass), $lattice, $mass];
    }

    /** @return list<int> */
    private static function nodesOf(Lattice $lattice, int $piece): array
    {
        return array_keys($lattice->piece, $piece, true);
    }

    /** @return array{array{list<float>, list<float>, list<float>}, array{list<float>, list<float>, list<float>}} places of the nodes, and a substep before: each box turns about its middle and goes on */
    private static function turning(Lattice $lattice): array
    {
        $now = [$lattice->x, $lattice->y, $lattice->z];
        $was = [[], [], []];
        [$a, $b, $c] = self::SPIN;
        foreach ($lattice->x as $i => $x) {
            [$x, $y, $z] = [$x - ($lattice->piece[$i] === 1 ? 1.0 : 0.0), $lattice->y[$i], $lattice->z[$i]];
            foreach ([$b * $z - $c * $y, $c * $x - $a * $z, $a * $y - $b * $x] as $axis => $turned) {
                $was[$axis][] = $now[$axis][$i] - self::WAY[$axis] - $turned;
            }
        }

        return [$now, $was];
    }
}
