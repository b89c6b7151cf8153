<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Cloth\Contacts;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Tests\Fixture\MovedThing;

final class PressedTest extends TestCase
{
    private const GAP = 0.004;

    /** A sheet 2 cm above the floor, inside a box that stands there. One that has fallen on it presses it to the floor, and does not throw it down; beside what stands for ever it is left for the frame's end. */
    #[TestWith([2.0, self::GAP, self::GAP])]
    #[TestWith([INF, 0.012, 0.021])]
    public function testWhatHasFallenOnItPressesItToTheFloor(float $mass, float $low, float $high): void
    {
        $sheet = Solids::sheet(1.0, 1.0, 20);
        $fabric = new Fabric(0.2, 2e4, 0.3, 1e-5, 0.1, 0.0, 0.4, self::GAP);
        $contacts = new Contacts(Weave::of($sheet, $fabric), $fabric, [new PlaneContact([0.0, 1.0, 0.0], self::GAP, 0.3)], 0.01);
        $box = new MovedThing(SurfaceTree::of(Solids::box(0.4, 0.2, 0.4), true), 0.5);
        [$box->position, $box->mass] = [[0.0, 0.1, 0.0], $mass];
        [$x, $z] = [$sheet->x, $sheet->z];
        $y = $was = array_fill(0, count($x), 0.02);
        [$px, $py, $pz] = [$x, $y, $z];
        $contacts->begin($x, $y, $z, array_fill(0, count($x), 0.0), [$box], 1.0 / 96.0, 1.0 / 576.0, false);
        $contacts->resolve($x, $y, $z, $px, $py, $pz, array_fill(0, count($x), 1.0));
        $under = array_filter(array_keys($x), static fn (int $v): bool => max(abs($sheet->x[$v]), abs($sheet->z[$v])) < 0.16);
        self::assertCount(49, $under);
        foreach ($under as $v) {
            self::assertEqualsWithDelta(0.5 * ($low + $high), $y[$v], 0.5 * ($high - $low) + 1e-9, "vertex {$v}");
            self::assertLessThan(0.005, abs($y[$v] - $py[$v]), 'not thrown down');
        }
        self::assertSame($was[0], $y[0], 'beside it nothing is moved');
    }
}
