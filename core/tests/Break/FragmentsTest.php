<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Tests\Fixture\HardMeshes;

/** Where a prop bends away within a cell, what is cut off there is no piece of its own unless it is worth one. */
final class FragmentsTest extends TestCase
{
    /** @return iterable<string, array{string, Pattern}> */
    public static function breaks(): iterable
    {
        foreach (['staircase', 'comb', 'gear', 'torus', 'rubble'] as $mesh) {
            foreach ([1, 2] as $seed) {
                yield "$mesh, cellular $seed" => [$mesh, new CellularPattern(60, $seed, 0.8)];
                yield "$mesh, grain $seed" => [$mesh, new GrainPattern(40, $seed, 0.8, [0.0, 1.0, 0.0], 4.0, 0.0)];
            }
        }
    }

    #[DataProvider('breaks')]
    #[Group('slow')]
    public function testNoCrumbsAreLeft(string $name, Pattern $pattern): void
    {
        $mesh = HardMeshes::all()[$name]();
        $broken = (new Breaker())->break($mesh, $pattern);
        $volume = array_map(static fn (Piece $piece): float => $piece->mass->volume, $broken->pieces);
        $whole = array_sum($volume);
        $crumbs = array_filter($volume, static fn (float $v): bool => $v < 0.01 * $whole / count($volume));
        // A cell at the rim may be that small as a whole.
        self::assertLessThanOrEqual(1, count($crumbs), sprintf('%d of %d', count($crumbs), count($volume)));
        self::assertEqualsWithDelta(MassProperties::of($mesh)->volume, $whole, 1e-9 * $whole);
    }
}
