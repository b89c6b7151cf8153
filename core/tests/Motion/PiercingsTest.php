<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\CrossedSurfaces;
use YardBreak\Core\Motion\Surface\Piercings;
use YardBreak\Core\Motion\Surface\Tangles;

/** Looking again only at what has moved finds what looking at everything finds, in the same order. */
final class PiercingsTest extends TestCase
{
    public function testOnlyWhatHasMovedNeedsAnotherLook(): void
    {
        $random = RandomStream::named(7, 'piercings');
        $mesh = Solids::sheet(1.0, 1.0, 8);
        $crumpled = static fn (): array => [$mesh->x, array_map(static fn (): float => $random->between(-0.08, 0.08), $mesh->y), $mesh->z];
        $seen = [];
        for ($case = 0; $case < 12; $case++) {
            [$one, $other] = array_map(static fn (array $at): Bending => new Bending($at[0], $at[1], $at[2], [], [], [], [], $mesh->triangles, false, 0.0, 0.0, 1.0), [$crumpled(), $crumpled()]);
            $triangles = CrossedSurfaces::triangles($one, $other);
            $facing = CrossedSurfaces::facing($one, $other, 0.1);
            $places = [[...$one->x, ...$other->x], [...$one->y, ...$other->y], [...$one->z, ...$other->z]];
            $found = new Piercings($facing, $triangles);
            $found->look($places);
            self::assertSame($found->all() !== [], CrossedSurfaces::cross($one, $other, $triangles));
            for ($turn = 0; $turn < 8; $turn++) {
                self::assertSame(Tangles::pierced($facing, ...$places, triangles: $triangles), $found->all(), "case {$case}, turn {$turn}");
                $seen[] = count($found->all());
                $moved = [];
                for ($k = 0; $k < 9; $k++) {
                    $moved[] = $v = (int) $random->between(0.0, count($places[0]) - 1e-9);
                    $places[1][$v] += $random->between(-0.05, 0.05);
                }
                $found->look($places, $moved);
            }
        }
        self::assertGreaterThan(20, min($seen));
    }

    public function testWhatLiesOnAnotherIsNotThroughIt(): void
    {
        $mesh = Solids::sheet(1.0, 1.0, 4);
        $at = static fn (float $height): Bending => new Bending($mesh->x, array_map(static fn (float $y): float => $y + $height, $mesh->y), $mesh->z, [], [], [], [], $mesh->triangles, false, 0.0, 0.0, 1.0);
        $triangles = CrossedSurfaces::triangles($at(0.0), $at(0.01));
        self::assertFalse(CrossedSurfaces::cross($at(0.0), $at(0.01), $triangles));
        self::assertNotSame([], CrossedSurfaces::facing($at(0.0), $at(0.01), 0.25), 'though it may come so far');
    }
}
