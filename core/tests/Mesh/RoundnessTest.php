<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Roundness;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;

/** What is round keeps the corners of a flat triangle as far off as its middle needs, and not much more. */
final class RoundnessTest extends TestCase
{
    /**
     * Half a square's triangle with a mean edge e has its hypotenuse's middle 1.72 e / 2 from its corners, a third more than e/sqrt(3) of an even
     * one: on a ball it lies R - sqrt(R^2 - d^2) deep.
     */
    #[TestWith([0.3, 0.02])]
    #[TestWith([0.3, 0.09])]
    #[TestWith([2.0, 0.5])]
    public function testABall(float $radius, float $edge): void
    {
        $keeps = (new Roundness(Solids::ball($radius, 64)))->keeps($edge);
        $hypotenuse = $edge * 3.0 * M_SQRT2 / (2.0 + M_SQRT2);
        $sag = $radius - sqrt($radius ** 2 - 0.25 * $hypotenuse ** 2);
        self::assertGreaterThan(0.9 * $sag, min($keeps));
        self::assertLessThan(1.9 * $sag, max($keeps));
    }

    /** A pole is curved one way only, and counts as a ball of its width: a triangle may lie across it. */
    public function testAPole(): void
    {
        [$pole, $edge] = [Solids::cylinder(0.1, 2.0, 64, 60), 0.05];
        $keeps = (new Roundness($pole))->keeps($edge);
        $beside = [];
        foreach (array_chunk($pole->triangles, 3) as $t => $corners) {
            if (max(array_map(static fn (int $v): float => abs($pole->y[$v]), $corners)) < 0.7) {
                $beside[] = $keeps[$t];
            }
        }
        self::assertNotSame([], $beside);
        self::assertEqualsWithDelta(0.2 * $edge ** 2 / 0.1, min($beside), 0.0006);
        self::assertEqualsWithDelta(0.2 * $edge ** 2 / 0.1, max($beside), 0.0006);
    }

    /** Flat faces, sharp edges, and hollows ask for nothing. */
    public function testWhatIsNotRound(): void
    {
        self::assertSame(0.0, max((new Roundness(Solids::box(1.0, 1.0, 1.0, 8)))->keeps(0.1)));
        $ball = Solids::ball(0.3, 16);
        $hollow = new TriangleMesh($ball->x, $ball->y, $ball->z, array_reverse($ball->triangles));
        self::assertSame(0.0, max((new Roundness($hollow))->keeps(0.1)));
    }

    /** Bumps of a thousandth, each as round as a ball of 20 cm, are next to none for what is much larger: they undo each other. */
    public function testWhatIsRough(): void
    {
        $sheet = Solids::box(1.0, 1.0, 1.0, 40);
        $y = array_map(static fn (float $y, float $x, float $z): float => $y + 0.001 * sin(70.0 * $x) * sin(70.0 * $z), $sheet->y, $sheet->x, $sheet->z);
        $keeps = (new Roundness(new TriangleMesh($sheet->x, $y, $sheet->z, $sheet->triangles)))->keeps(0.2);
        self::assertLessThan(0.1 * 0.2 * 0.2 ** 2 / 0.2, array_sum($keeps) / count($keeps));
    }

    /** Twice as large a ball asks half as much of edges that stay as they are, within what is asked for at least and at most. */
    public function testSizeAndLimits(): void
    {
        $tree = SurfaceTree::of(Solids::ball(0.3, 48), true);
        $one = $tree->standoff(0.09, 0.0, 1.0);
        $two = $tree->grown(2.0)->standoff(0.09, 0.0, 1.0);
        self::assertEqualsWithDelta(0.5, array_sum($two) / array_sum($one), 0.06);
        self::assertSame([], $tree->standoff(0.09, 0.02, 0.03), 'less than what matters');
        self::assertSame([], $tree->standoff(0.09, 0.02, 0.01), 'no room');
        self::assertSame(0.005, max($tree->standoff(0.09, 0.004, 0.005)));
        self::assertSame([], SurfaceTree::of(Solids::ball(0.3, 48), false)->standoff(0.09, 0.0, 1.0), 'what has no inside');
    }
}
