<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Surface\NearTriangles;
use YardBreak\Core\Motion\Surface\RidgeContact;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** What is round or comes to a point does not show through coarse cloth and soft things, triangle by triangle. */
final class RoundTest extends TestCase
{
    private const SHEET = ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.8, 'depth' => 1.8, 'divisions' => 20]], 'motion' => ['mover' => 'cloth']];

    private const CUSHION = ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'height' => 0.3, 'depth' => 1.0]], 'prepare' => ['even' => 3000], 'motion' => ['mover' => 'soft']];

    /**
     * Without what is kept for roundness and at tips, the sheet is crossed in 292 and 116 places, and the cushion in 228.
     *
     * @param array<string, mixed> $bends
     * @param array<string, mixed> $source
     */
    #[TestWith([self::SHEET, ['kind' => 'ball', 'ball' => ['width' => 0.6]], 0.3], 'cloth on a ball')]
    #[TestWith([self::SHEET, ['kind' => 'cone', 'cone' => ['width' => 0.3, 'height' => 0.8]], 0.4], 'cloth on a spike')]
    #[TestWith([self::CUSHION, ['kind' => 'ball', 'ball' => ['width' => 0.6]], 0.3], 'soft on a ball')]
    #[Group('slow')]
    public function testItDoesNotShowThrough(array $bends, array $source, float $height): void
    {
        foreach (self::surfaces($bends, $source, $height, 30) as $k => [$pairs]) {
            self::assertSame(0, $pairs, "frame {$k}");
        }
    }

    /**
     * Without that in 750 and 118.
     *
     * @param array<string, mixed> $source
     */
    #[TestWith([['kind' => 'torus', 'torus' => ['width' => 1.0]], 0.2], 'a ring')]
    #[TestWith([['kind' => 'cone', 'cone' => ['width' => 0.6, 'height' => 0.6]], 0.3], 'a cone')]
    #[Group('long')]
    public function testNorDoOthers(array $source, float $height): void
    {
        $this->testItDoesNotShowThrough(self::SHEET, $source, $height);
    }

    /** What lies nearer than it should when the shot begins is put off without speed: the sheet is not thrown off the ball. */
    public function testWhatBeginsTooNearIsNotThrownOff(): void
    {
        $ball = ['kind' => 'ball', 'ball' => ['width' => 0.6]];
        $highest = [];
        foreach (self::surfaces(self::SHEET, $ball, 0.3, 6, 0.606) as [, $top]) {
            $highest[] = $top;
        }
        // Edges of 10 cm keep the middle 1.1 cm off, 5 mm more than it begins with.
        self::assertLessThan(0.6145, max($highest));
        self::assertGreaterThan(0.609, min(array_slice($highest, 1)));
    }

    /**
     * @param array<string, mixed> $bends
     * @param array<string, mixed> $source
     *
     * @return \Generator<int, array{int, float}> of each sixth frame and the first six, how many triangles cross; and how high the highest of what bends is, m
     */
    private static function surfaces(array $bends, array $source, float $height, int $frames, float $from = 1.2): \Generator
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'props' => [
            ['id' => 'thing', 'name' => 'Thing', 'source' => $source, 'position' => ['y' => $height], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
            ['id' => 'bends', 'name' => 'Bends', 'position' => ['y' => $from], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]] + $bends,
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        foreach ($pipeline->frames($shot) as $k => $frame) {
            if ($k % 6 !== 5 && $frames > 6) {
                continue;
            }
            $surfaces = [];
            foreach ($shot->props as $prop) {
                $mesh = TriangleMesh::together(iterator_to_array(PosedPieces::at($prop, $pipeline->broken($prop), $frame), false));
                array_push($surfaces, array_map(null, array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)), array_values($mesh->triangles));
            }
            yield $k => [Crossings::count(...$surfaces), max(array_column(array_chunk($frame->of('bends', Track::VERTICES), 3), 1))];
        }
    }

    /** A box and a cone that go through all of a fine sheet in a step: points along the edges are thinned out until what may meet fits into memory, and all of the sheet is still watched. */
    public function testWhatIsVeryFastTakesNoMoreMemory(): void
    {
        $sheet = Solids::sheet(1.0, 1.0, 60);
        [$x, $y, $z] = [$sheet->x, $sheet->y, $sheet->z];
        $around = array_fill(0, count($x), []);
        foreach ($sheet->triangles as $c => $v) {
            $around[$v][] = $c - $c % 3;
        }
        foreach ([Solids::box(1.0, 1.0, 1.0, 1), Solids::cone(0.4, 1.0)] as $mesh) {
            $thing = new MovedThing(SurfaceTree::of($mesh, true), 0.5);
            $before = memory_get_usage();
            memory_reset_peak_usage();
            $contact = RidgeContact::of($thing, $x, $y, $z, $sheet->triangles, $around, array_keys($x), 0.005, 0.004, array_fill(0, count($x), 0.0), 8, 2.0, 0.5, [], []);
            self::assertCount(7200, $contact?->triangles() ?? []);
            self::assertLessThan(150e6, memory_get_peak_usage() - $before);
        }
    }

    /** Two triangles above one another, pierced from below: the one that is farther from the tip is told; and none beside them, or beyond the needle. */
    public function testWhereANeedleComesThrough(): void
    {
        $x = [0.0, 1.0, 0.0, 0.0, 1.0, 0.0];
        $y = [0.5, 0.5, 0.5, 0.2, 0.2, 0.2];
        $z = [0.0, 0.0, 1.0, 0.0, 0.0, 1.0];
        $triangles = [0, 1, 2, 3, 4, 5];
        self::assertEqualsWithDelta([3, 0.25, 0.5, 0.8], NearTriangles::pierced([0, 3], 0.25, 1.0, 0.5, 0.0, -1.0, 0.0, $x, $y, $z, $triangles, 2.0), 1e-12);
        self::assertEqualsWithDelta([0, 0.25, 0.5, 0.5], NearTriangles::pierced([0, 3], 0.25, 1.0, 0.5, 0.0, -1.0, 0.0, $x, $y, $z, $triangles, 0.6), 1e-12);
        self::assertSame(-1, NearTriangles::pierced([0, 3], 0.75, 1.0, 0.5, 0.0, -1.0, 0.0, $x, $y, $z, $triangles, 2.0)[0]);
        self::assertSame(-1, NearTriangles::pierced([0, 3], 0.25, 0.1, 0.5, 0.0, -1.0, 0.0, $x, $y, $z, $triangles, 2.0)[0], 'behind it');
    }
}
