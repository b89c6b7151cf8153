<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\PartsPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

final class PartsPatternTest extends TestCase
{
    public function testEachPartIsAPieceAndAHollowBelongsToWhatIsAround(): void
    {
        $at = static fn (TriangleMesh $mesh, float $x): TriangleMesh => $mesh->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [$x, 0.0, 0.0]);
        $hollow = Solids::ball(0.1, 4);
        $hollow = $hollow->turned(range(0, $hollow->triangleCount() - 1));
        $mesh = TriangleMesh::together([$at(Solids::box(0.4, 0.4, 0.4), 0.0), $at($hollow, 0.02), $at(Solids::box(0.2, 0.2, 0.2), 1.0), $at(Solids::ball(0.1, 4), 2.0), $at(Solids::sheet(0.2, 0.2, 2), 3.0)]);
        $pieces = iterator_to_array((new PartsPattern())->flakes($mesh, new Progress()), false);
        self::assertCount(4, $pieces);
        self::assertSame($mesh->triangleCount(), array_sum(array_map(static fn (TriangleMesh $piece): int => $piece->triangleCount(), $pieces)), 'no face is lost');
        $ball = MassProperties::of(Solids::ball(0.1, 4))->volume;
        self::assertEqualsWithDelta(0.064 - $ball, MassProperties::of($pieces[0])->volume, 1e-12, 'with the hollow taken out');
        self::assertEqualsWithDelta(0.008, MassProperties::of($pieces[1])->volume, 1e-12);
        self::assertFalse((new PartsPattern())->keepsCore());
    }

    public function testWhatStandsAboveEachOtherMayBeOne(): void
    {
        $at = static fn (float $x, float $y, float $width): TriangleMesh => Solids::box($width, 0.2, 0.2)->transformed(1.0, [0.0, 0.0, 0.0, 1.0], [$x, $y, 0.0]);
        // A stem and its dot, a letter beside it that hardly reaches over it, two dots over one letter.
        $mesh = TriangleMesh::together([$at(0.0, 0.0, 0.1), $at(0.01, 0.5, 0.12), $at(0.2, 0.0, 0.3), $at(1.0, 0.0, 0.5), $at(0.9, 0.5, 0.1), $at(1.1, 0.5, 0.1)]);
        $counts = static fn (bool $stacked): array => array_map(static fn (TriangleMesh $piece): int => intdiv($piece->triangleCount(), 12), iterator_to_array((new PartsPattern($stacked))->flakes($mesh, new Progress()), false));
        self::assertSame([1, 1, 1, 1, 1, 1], $counts(false));
        self::assertEqualsCanonicalizing([2, 1, 3], $counts(true));
    }
}
