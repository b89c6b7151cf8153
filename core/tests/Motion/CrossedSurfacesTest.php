<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\CrossedSurfaces;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Surfaces that have come through each other. */
final class CrossedSurfacesTest extends TestCase
{
    private const EDGE = 0.05;

    /** @param array{float, float, float} $at */
    private static function sheet(float $side, array $at, float $w, bool $onItsTip = false): Bending
    {
        $mesh = Solids::sheet($side, $side, (int) round($side / self::EDGE));
        $turned = static fn (float $sign): array => array_map(static fn (float $x, float $z): float => M_SQRT1_2 * ($x + $sign * $z), $mesh->x, $mesh->z);
        [$x, $y, $z] = $onItsTip ? [$turned(1.0), $turned(-1.0), $mesh->y] : [$mesh->x, $mesh->y, $mesh->z];
        [$x, $y, $z] = array_map(static fn (array $places, float $by): array => array_map(static fn (float $place): float => $place + $by, $places), [$x, $y, $z], $at);

        return new Bending($x, $y, $z, $x, $y, $z, array_fill(0, count($x), $w), $mesh->triangles, false, 0.004, 0.4, 0.003);
    }

    private static function crossings(Bending $one, Bending $other): int
    {
        $points = static fn (Bending $of): array => array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], array_values($of->x), array_values($of->y), array_values($of->z));

        return Crossings::count($points($one), array_values($one->triangles), $points($other), array_values($other->triangles));
    }

    /** The corner of an upright sheet has come a little through a flat one: it is drawn out, the lighter one goes farther, and neither gets faster. */
    public function testATipIsDrawnOut(): void
    {
        foreach ([[1.0, 1.0], [1.0, 8.0]] as [$heavy, $light]) {
            $flat = self::sheet(1.0, [0.0, 0.0, 0.0], $heavy);
            // Its tip is below the other.
            $upright = self::sheet(0.4, [0.012, 0.263, 0.017], $light, true);
            [$before, $was] = [clone $flat, clone $upright];
            self::assertGreaterThan(0, self::crossings($flat, $upright));
            self::assertTrue(CrossedSurfaces::part($flat, $upright, self::EDGE));
            self::assertSame(0, self::crossings($flat, $upright));
            $far = static fn (Bending $now, Bending $then): float => max(array_map(static fn (float ...$at): float => sqrt(($at[0] - $at[3]) ** 2 + ($at[1] - $at[4]) ** 2 + ($at[2] - $at[5]) ** 2), $now->x, $now->y, $now->z, $then->x, $then->y, $then->z));
            self::assertEqualsWithDelta($light / $heavy, $far($upright, $was) / $far($flat, $before), 0.02 * $light / $heavy);
            foreach ([$flat, $upright] as $of) {
                foreach ($of->x as $i => $x) {
                    self::assertEqualsWithDelta([0.0, 0.0, 0.0], [$x - $of->px[$i], $of->y[$i] - $of->py[$i], $of->z[$i] - $of->pz[$i]], 1e-12);
                }
            }
        }
    }

    public function testWhatIsHeldStaysAndWhatDoesNotCrossIsLetBe(): void
    {
        $flat = self::sheet(1.0, [0.0, 0.0, 0.0], 0.0);
        $upright = self::sheet(0.4, [0.012, 0.263, 0.017], 1.0, true);
        $before = clone $flat;
        self::assertTrue(CrossedSurfaces::part($flat, $upright, self::EDGE));
        self::assertSame($before->y, $flat->y);
        self::assertSame(0, self::crossings($flat, $upright));
        $was = clone $upright;
        self::assertFalse(CrossedSurfaces::part($flat, $upright, self::EDGE));
        self::assertFalse(CrossedSurfaces::part($flat, self::sheet(0.4, [3.0, 0.0, 0.0], 1.0), self::EDGE));
        self::assertSame([$was->x, $was->y, $was->z], [$upright->x, $upright->y, $upright->z]);
    }

    /** *Curd in the muslin*: soft on cloth, at no frame through it, nor the cloth through itself or the floor. */
    #[Group('long')]
    public function testNothingIsThroughTheMuslin(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets(DemoShot::assets()));
        $shot = Shot::read(DemoShot::all()['Curd in the muslin']);
        foreach ($pipeline->frames($shot) as $number => $frame) {
            $surfaces = [];
            foreach ($shot->props as $prop) {
                $mesh = TriangleMesh::together(iterator_to_array(PosedPieces::at($prop, $pipeline->broken($prop), $frame), false));
                self::assertGreaterThan(0.0, min($mesh->y), "{$prop->name}, frame {$number}");
                $surfaces[$prop->id] = [array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), array_values($mesh->triangles)];
            }
            self::assertSame(0, Crossings::count(...$surfaces['curd'], ...$surfaces['muslin']), "frame {$number}");
            self::assertSame(0, Crossings::within(...$surfaces['muslin']), "frame {$number}");
        }
    }
}
