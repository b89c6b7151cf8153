<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Surface\PlaneContact;
use YardBreak\Core\Motion\Surface\RidgeContact;
use YardBreak\Core\Motion\Surface\SurfaceContact;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** Cloth between a floor and something hard. */
final class PinchedTest extends TestCase
{
    public function testWhereAPlaneIs(): void
    {
        $floor = [new PlaneContact([0.0, 1.0, 0.0], 0.004, 0.5)];
        self::assertTrue(PlaneContact::isBelow($floor, 3.0, 0.0, 1.0));
        self::assertFalse(PlaneContact::isBelow($floor, 3.0, 0.004, 1.0));
        self::assertFalse(PlaneContact::isBelow([], 0.0, -9.0, 0.0));
        self::assertTrue(PlaneContact::keeps($floor, 0.0, 0.004, 0.0, 1.0, 0.0, 0.0), 'pushed along it');
        self::assertTrue(PlaneContact::keeps($floor, 0.0, 0.004, 0.0, 0.0, -1.0, 0.0));
        self::assertFalse(PlaneContact::keeps($floor, 0.0, 0.004, 0.0, 0.0, 1.0, 0.0), 'lifted');
        self::assertFalse(PlaneContact::keeps($floor, 0.0, 0.01, 0.0, 1.0, 0.0, 0.0), 'not on it');
    }

    /** A vertex under a box that stands on the floor stays there, by friction; above the floor it is pushed out below the box. */
    #[TestWith([0.0, true])]
    #[TestWith([0.05, false])]
    public function testNoRoomToGo(float $height, bool $stays): void
    {
        $box = new MovedThing(SurfaceTree::of(Solids::box(0.2, 0.2, 0.2), true), 1.0, 0.2, 0.0);
        $box->position = [0.0, 0.1 + $height, 0.0];
        [$x, $y, $z] = [[0.0], [$height + 0.002], [0.0]];
        $floor = [new PlaneContact([0.0, 1.0, 0.0], 0.002, 0.5)];
        $contact = new SurfaceContact($box, [0], 0.004, 0.1, 0.5, false, $floor, $x, $y, $z);
        // It would slide along.
        $contact->resolve($x, $y, $z, [-0.001], $y, $z, [1.0], true);
        self::assertEqualsWithDelta($stays ? $height + 0.002 : $height - 0.004, $y[0], 1e-9);
        self::assertLessThan(0.0, $x[0], 'it is held back');
    }

    /** Cloth that a slanted block lies on is on the other side of its upper edges, not sunk below them. */
    public function testAnEdgeDoesNotPullUpWhatItLiesOn(): void
    {
        $block = new MovedThing(SurfaceTree::of(Solids::box(0.4, 0.02, 0.4), true), 0.5, 0.4, 0.0);
        $block->position = [0.0, 0.011, 0.0];
        $block->rotation = Quaternion::IDENTITY;
        $sheet = Solids::sheet(0.8, 0.8, 8);
        [$x, $y, $z] = [$sheet->x, array_fill(0, $sheet->vertexCount(), -0.006), $sheet->z];
        $around = array_fill(0, $sheet->vertexCount(), []);
        foreach ($sheet->triangles as $c => $v) {
            $around[$v][] = $c - $c % 3;
        }
        $contact = RidgeContact::of($block, $x, $y, $z, $sheet->triangles, $around, range(0, $sheet->vertexCount() - 1), 0.05, 0.004, array_fill(0, count($x), 0.005), 8, 0.001, 0.5, [], []);
        self::assertNotNull($contact);
        [$px, $py, $pz] = [$x, $y, $z];
        $contact->resolve($x, $y, $z, $px, $py, $pz, array_fill(0, count($x), 1.0), $sheet->triangles, true);
        self::assertLessThan(-0.005, max($y));
    }

    /**
     * A vertex inside a box just above the floor: that it is in there when the step begins tells that it was pinched, and there it stays, only slowed;
     * what comes in from the side in the step, or is in there too high up, goes out at the side.
     *
     * @param float $from where it is when the step begins; the side of the box is at 0.1
     */
    #[TestWith([0.095, 0.01, true])]
    #[TestWith([0.11, 0.01, false])]
    #[TestWith([0.095, 0.02, false])]
    public function testDownIsAWayOutToo(float $from, float $height, bool $stays): void
    {
        $box = new MovedThing(SurfaceTree::of(Solids::box(0.2, 0.2, 0.2), true), 1.0, 0.2, 0.0);
        $box->position = [0.0, 0.1, 0.0];
        [$y, $z] = [[$height], [0.0]];
        $floor = [new PlaneContact([0.0, 1.0, 0.0], 0.004, 0.5)];
        $contact = new SurfaceContact($box, [0], 0.004, 0.1, 0.5, false, $floor, [$from], $y, $z);
        self::assertSame($stays ? [0 => true] : [], $contact->pinned());
        $x = [0.095];
        $contact->resolve($x, $y, $z, [$from], $y, $z, [1.0], true);
        self::assertEqualsWithDelta($stays ? 0.095 : 0.104, $x[0], 1e-9);
    }

    /**
     * Cloth that has sunk below an edge is drawn back over it, unless it is just inside a face beside it, or just above a floor: then that is its way out.
     *
     * @param float $above a floor, m
     */
    #[TestWith([45.0, 0.0, 0.05, true])]
    #[TestWith([45.0, 0.0, 0.01, false])]
    #[TestWith([0.0, -0.003, 0.05, false])]
    public function testAnEdgeDrawsBackOnlyWhatHasNoNearerWayOut(float $degrees, float $beside, float $above, bool $drawn): void
    {
        $block = new MovedThing(SurfaceTree::of(Solids::box(0.4, 0.4, 0.4), true), 0.5, 0.4, 0.0);
        $block->rotation = Quaternion::fromDegrees(0.0, 0.0, $degrees);
        [$right, $top] = Quaternion::rotate($block->rotation, [0.2, 0.2, 0.0]);
        // A small level triangle, its middle 15 mm below the edge.
        $middle = $right + $beside;
        [$x, $y, $z] = [[$middle - 0.001, $middle + 0.001, $middle], array_fill(0, 3, $top - 0.015), [0.001, 0.001, -0.002]];
        $contact = RidgeContact::of($block, $x, $y, $z, [0, 1, 2], [[0], [0], [0]], [0, 1, 2], 0.05, 0.004, [0.005, 0.005, 0.005], 8, 0.001, 0.5, [new PlaneContact([0.0, 1.0, 0.0], $top - 0.015 - $above, 0.5)], []);
        self::assertNotNull($contact);
        [$was, $px, $py, $pz] = [$y, $x, $y, $z];
        $contact->resolve($x, $y, $z, $px, $py, $pz, [1.0, 1.0, 1.0], [0, 1, 2], true);
        self::assertSame($drawn, $y !== $was);
        if ($drawn) {
            self::assertGreaterThan($top, max($y));
        }
    }
}
