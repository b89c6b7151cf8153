<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Mesh;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Mesh\OpenRim;
use YardBreak\Core\Mesh\Primitive\Solids;

/** The open edges of a mesh, and those on one side of it. */
final class OpenRimTest extends TestCase
{
    public function testDistancesAreThoseFromTheSidesOfASheet(): void
    {
        $sheet = Solids::sheet(2.0, 1.0, 40);
        $x = [0.0, 0.9, -1.0, 0.25];
        $z = [0.0, 0.1, 0.5, -0.45];
        $zero = array_fill(0, 4, 0.0);
        $rim = OpenRim::of($sheet);
        self::assertEqualsWithDelta([0.5, 0.1, 0.0, 0.05], $rim->distances($x, $zero, $z), 1e-12);
        self::assertEqualsWithDelta([1.0, 0.1, 2.0, 0.75], $rim->on(0, 1)->distances($x, $zero, $z), 1e-12);
        self::assertEqualsWithDelta([0.5, 0.6, 1.0, 0.05], $rim->on(2, -1)->distances($x, $zero, $z), 1e-12);
        // Above the sheet.
        self::assertEqualsWithDelta([sqrt(0.25 + 0.09)], $rim->distances([0.0], [0.3], [0.0]), 1e-12);
    }

    public function testACornerIsNotHeldDownItsSide(): void
    {
        // Of a fine sheet, several edges around the corner are near the side, too.
        $side = OpenRim::of(Solids::sheet(1.0, 1.0, 100))->on(2, -1);
        self::assertEqualsWithDelta([0.01, 0.02], $side->distances([0.5, 0.5], [0.0, 0.0], [-0.49, -0.48]), 1e-12);
    }

    public function testAClosedMeshHasNone(): void
    {
        self::assertTrue(OpenRim::of(Solids::box(1.0, 1.0, 1.0, 2))->isEmpty());
        self::assertSame([INF], OpenRim::of(Solids::ball(1.0, 4))->distances([0.0], [0.0], [0.0]));
    }
}
