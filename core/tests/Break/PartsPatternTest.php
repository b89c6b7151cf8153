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
}
