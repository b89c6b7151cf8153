<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BitsPattern;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\BrokenProp;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Bits are where they are said to be, closed, as large as asked, and the same for the same seed. */
final class BitsTest extends TestCase
{
    private static function pattern(string $from, string $shape = 'chip', int $count = 200, int $seed = 1, float $variety = 0.5): BitsPattern
    {
        return new BitsPattern($count, $seed, $from, $shape, '', null, 0.02, $variety, true);
    }

    /** @return list<TriangleMesh> */
    private static function bits(BitsPattern $pattern, TriangleMesh $mesh): array
    {
        return iterator_to_array($pattern->flakes($mesh, new Progress()), false);
    }

    /** @return list<array{string}> */
    public static function shapes(): array
    {
        return [['chip'], ['cube'], ['tetrahedron'], ['splinter']];
    }

    #[DataProvider('shapes')]
    public function testEachIsClosedAndAsLargeAsAsked(string $shape): void
    {
        $bits = self::bits(self::pattern('surface', $shape), Solids::ball(0.3, 8));
        self::assertCount(200, $bits);
        $volumes = [];
        foreach ($bits as $bit) {
            self::assertTrue(Topology::of($bit)->isWatertight());
            $mass = MassProperties::of($bit);
            self::assertGreaterThan(0.0, $mass->volume, 'outside out');
            self::assertNotNull($bit->normals);
            self::assertSame(TriangleMesh::LOOK_INNER, $bit->looks[0] ?? null);
            $far = 0.0;
            foreach ($bit->x as $i => $x) {
                $far = max($far, sqrt(($x - $mass->centre[0]) ** 2 + ($bit->y[$i] - $mass->centre[1]) ** 2 + ($bit->z[$i] - $mass->centre[2]) ** 2));
            }
            // A cube's corner is 0.87 of its side away from its middle; all is at most so far, and at least half a small one.
            self::assertLessThan(0.87 * 0.03 + 1e-9, $far);
            self::assertGreaterThan(0.3 * 0.01, $far);
            $volumes[] = $mass->volume;
        }
        self::assertGreaterThan(2.0 * min($volumes), max($volumes), 'they vary');
    }

    /** A cube of side a: a3; a tetrahedron of edge a: a3 / (6 sqrt 2) (any handbook). */
    public function testStockShapesHaveTheirVolumes(): void
    {
        foreach (['cube' => 1.0, 'tetrahedron' => 1.0 / (6.0 * M_SQRT2)] as $shape => $volume) {
            foreach (self::bits(self::pattern('surface', $shape, 5, variety: 0.0), Solids::ball(0.3, 8)) as $bit) {
                self::assertEqualsWithDelta($volume * 0.02 ** 3, MassProperties::of($bit)->volume, 1e-12, $shape);
            }
        }
    }

    public function testTheyLieOnTheSurface(): void
    {
        $ball = Solids::box(0.6, 0.4, 0.5, 2);
        $tree = SurfaceTree::of($ball, true);
        foreach (self::bits(self::pattern('surface'), $ball) as $bit) {
            $nearest = INF;
            foreach ($bit->x as $i => $x) {
                $tree->look($tree->nearest($x, $bit->y[$i], $bit->z[$i], INF), $x, $bit->y[$i], $bit->z[$i]);
                $nearest = min($nearest, $tree->distance);
            }
            self::assertEqualsWithDelta(0.0, $nearest, 1e-9);
        }
    }

    public function testTheyAreInsideOrAlongTheEdges(): void
    {
        $box = Solids::box(0.6, 0.4, 0.5, 2);
        $sum = [0.0, 0.0, 0.0];
        foreach (self::bits(self::pattern('inside', count: 600), $box) as $bit) {
            $centre = MassProperties::of($bit)->centre;
            foreach ([0.3, 0.2, 0.25] as $axis => $half) {
                self::assertLessThan($half + 0.02, abs($centre[$axis]));
                $sum[$axis] += $centre[$axis] / $half / 600;
            }
        }
        // Evenly: the mean of 600 numbers from -1 to 1 is off by 0.024 as a rule.
        self::assertEqualsWithDelta([0.0, 0.0, 0.0], $sum, 0.1);
        foreach (self::bits(self::pattern('edges'), $box) as $bit) {
            [$x, $y, $z] = array_map(abs(...), MassProperties::of($bit)->centre);
            $on = (int) (abs($x - 0.3) < 0.03) + (int) (abs($y - 0.2) < 0.03) + (int) (abs($z - 0.25) < 0.03);
            self::assertGreaterThanOrEqual(2, $on, 'two faces meet there');
        }
    }

    #[Group('slow')]
    public function testTheSameSeedTheSameBits(): void
    {
        $ball = Solids::ball(0.3, 8);
        self::assertEquals(self::bits(self::pattern('surface'), $ball), self::bits(self::pattern('surface'), $ball));
        self::assertNotEquals(self::bits(self::pattern('surface'), $ball), self::bits(self::pattern('surface', seed: 2), $ball));
    }

    #[Group('slow')]
    public function testWhatCannotBeIsSaid(): void
    {
        foreach ([['inside', Solids::sheet(1.0, 1.0, 2), 'no inside'], ['edges', Solids::sheet(1.0, 1.0, 2), 'closed'], ['edges', Solids::ball(0.3, 12), 'no sharp edges']] as [$from, $mesh, $words]) {
            try {
                self::bits(self::pattern($from), $mesh);
                self::fail($from);
            } catch (BreakFailed $failed) {
                self::assertStringContainsString($words, $failed->getMessage());
            }
        }
        $many = new BitsPattern(4_000, 1, 'surface', 'own', 'x', static fn (): TriangleMesh => Solids::ball(0.1, 40), 0.02, 0.0, true);
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessage('Take fewer, or a simpler shape');
        self::bits($many, Solids::ball(0.3, 8));
    }

    /** @param array<string, mixed> $bits */
    private static function broken(array $bits): BrokenProp
    {
        $shot = Shot::read(['version' => 2, 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 5]], 'break' => ['pattern' => 'bits', 'bits' => $bits + ['count' => 40]]],
            ['id' => 'ring', 'name' => 'Ring', 'on' => false, 'source' => ['kind' => 'torus'], 'break' => ['pattern' => 'whole']],
            ['id' => 'nail', 'name' => 'Nail', 'on' => false, 'source' => ['kind' => 'cone', 'cone' => ['width' => 0.1, 'height' => 0.4]], 'break' => ['pattern' => 'whole']],
        ]]);

        return (new Pipeline(new MemoryStore(), new NoAssets()))->broken($shot->props[0]);
    }

    public function testAPropIsABitOfAnother(): void
    {
        $nails = self::broken(['shape' => 'own', 'of' => 'nail', 'size' => 0.05, 'variety' => 0]);
        self::assertTrue($nails->hasCore);
        self::assertCount(41, $nails->pieces);
        // A cone of a quarter of the height in width, 5 cm long.
        $volume = M_PI / 12.0 * 0.0125 ** 2 * 0.05;
        self::assertEqualsWithDelta($volume, $nails->mass[7]->volume, 0.02 * $volume);
        $alone = self::broken(['core' => false]);
        self::assertFalse($alone->hasCore);
        self::assertCount(40, $alone->pieces);
        foreach (['' => 'No prop is chosen', 'gone' => 'not in the shot any more'] as $of => $words) {
            try {
                self::broken(['shape' => 'own', 'of' => $of]);
                self::fail($of);
            } catch (BreakFailed $failed) {
                self::assertStringContainsString($words, $failed->getMessage());
            }
        }
    }

    public function testEveryControlWorks(): void
    {
        $bytes = static fn (array $bits): string => sha1(implode('', self::broken($bits)->encode()));
        $plain = $bytes([]);
        foreach (['count' => 41, 'shape' => 'cube', 'from' => 'inside', 'size' => 0.03, 'variety' => 0.1, 'core' => false, 'seed' => 2] as $name => $value) {
            self::assertNotSame($plain, $bytes([$name => $value]), $name);
        }
        self::assertSame($plain, $bytes(['of' => 'nail']), 'which prop it is like does not matter before it is like one');
        self::assertNotSame($bytes(['shape' => 'own', 'of' => 'nail']), $bytes(['shape' => 'own', 'of' => 'ring']));
    }
}
