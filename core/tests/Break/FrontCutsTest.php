<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use Closure;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\Fracture;
use YardBreak\Core\Break\Front;
use YardBreak\Core\Break\FrontCuts;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** Pieces cut where a front stands, with fronts whose places geometry tells. */
final class FrontCutsTest extends TestCase
{
    /** A straight front, ten frames a metre: a bar of two metres, cut every four frames, falls into five of 0.4 m. */
    public function testAStraightFrontCutsABarIntoEqualLengths(): void
    {
        $broken = self::cut(Solids::box(2.0, 0.3, 0.2), static fn (float $x): float => 1.0 + 10.0 * ($x + 1.0), 4.0);
        $middles = array_map(static fn (Piece $piece): float => $piece->mass->centre[0], $broken->pieces);
        sort($middles);
        self::assertCount(5, $middles);
        foreach ($middles as $k => $x) {
            self::assertEqualsWithDelta(-0.8 + 0.4 * $k, $x, 1e-9);
        }
        self::assertSound($broken, 2.0 * 0.3 * 0.2);
        self::assertStringStartsWith('4 more pieces', $broken->notes[0] ?? '');
    }

    /** It may go any way, as here along the diagonal of a cube. */
    public function testItMayGoAnyWay(): void
    {
        $way = 1.0 / sqrt(3.0);
        $along = static fn (float $x, float $y, float $z): float => $way * ($x + $y + $z);
        $broken = self::cut(Solids::box(1.0, 1.0, 1.0), static fn (float ...$at): float => 20.0 + 20.0 * $along(...$at), 5.0);
        self::assertSound($broken, 1.0);
        foreach ($broken->pieces as $piece) {
            self::assertLessThan(1.6 * 5.0 / 20.0, self::reach($piece->mesh, $along));
        }
    }

    /** A circle that grows over a plate: no part takes much longer to pass than the frames between two cuts. */
    public function testABentFrontIsFollowed(): void
    {
        $frame = static fn (float $x, float $y, float $z): float => 1.0 + 30.0 * hypot($x, $z);
        $broken = self::cut(Solids::box(2.0, 0.1, 2.0), $frame, 6.0);
        self::assertSound($broken, 2.0 * 0.1 * 2.0);
        $long = array_map(static fn (Piece $piece): float => self::reach($piece->mesh, $frame), $broken->pieces);
        sort($long);
        self::assertLessThan(9.0, $long[intdiv(count($long), 2)]);
        self::assertLessThan(15.0, max($long));
        self::assertGreaterThan(40, count($broken->pieces));
    }

    /** It stops in the middle of a wall: what it never gets to stays whole, and is parted from the rest there. */
    public function testWhatItNeverGetsToStaysWhole(): void
    {
        $broken = self::cut(Solids::box(2.0, 1.0, 0.1), static fn (float $x): float => $x < 0.0 ? 10.0 * ($x + 1.0) : INF, 5.0);
        $right = array_values(array_filter($broken->pieces, static fn (Piece $piece): bool => $piece->mass->centre[0] > 0.0));
        self::assertCount(1, $right);
        self::assertEqualsWithDelta(1.0 * 0.1, $right[0]->mass->volume, 0.01, 'within what lies between two places it is looked for at');
        self::assertCount(3, $broken->pieces);
    }

    public function testAFrontThatNeverComesAndOneThatIsThereAtOnceCutNothing(): void
    {
        self::assertCount(1, self::cut(Solids::box(1.0, 1.0, 1.0), static fn (): float => INF, 2.0)->pieces);
        self::assertCount(1, self::cut(Solids::box(1.0, 1.0, 1.0), static fn (): float => 1.0, 2.0)->pieces);
    }

    /** Neighbours are cut at the same frames: the cuts go on from brick to brick, and a brick keeps its number. */
    public function testNeighboursAreCutAlongOneLine(): void
    {
        $bricks = new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 1.0, 0.5, 0.0, 0.0, 0.0, 0.0);
        $frame = static fn (float $x): float => 1.0 + 10.0 * ($x + 1.0);
        $before = (new Breaker())->break(Solids::box(2.0, 1.0, 0.2), $bricks);
        $broken = (new Breaker(edits: [new FrontCuts(self::front($frame), 3.0)]))->break(Solids::box(2.0, 1.0, 0.2), $bricks);
        self::assertSound($broken, 2.0 * 1.0 * 0.2);
        self::assertGreaterThan(2 * count($before->pieces), count($broken->pieces));
        $ends = [];
        foreach ($broken->pieces as $piece) {
            foreach ($piece->mesh->x as $x) {
                $ends[] = round($frame($x), 3);
            }
        }
        // The bar's ends, the cuts, and the joints of the bricks, which masons lay a little out of line.
        foreach ([1.0, 4.0, 7.0, 10.0, 13.0, 16.0, 19.0, 21.0] as $at) {
            self::assertNotSame([], array_filter($ends, static fn (float $end): bool => abs($end - $at) < 1e-6), "nothing is cut at frame {$at}");
        }
    }

    public function testTheSameFrontCutsTheSameBytes(): void
    {
        $frame = static fn (float $x, float $y, float $z): float => 1.0 + 30.0 * hypot($x - 0.2, $z);
        $bytes = array_map(static fn (): string => serialize(self::cut(Solids::box(1.0, 0.2, 1.0), $frame, 4.0)), [0, 1]);
        self::assertSame($bytes[0], $bytes[1]);
    }

    /** @param Closure(float, float, float): float $frame */
    private static function cut(TriangleMesh $mesh, Closure $frame, float $every): Broken
    {
        $whole = new class () implements Pattern {
            public function cut(Fracture $fracture, int $piece, TriangleMesh $mesh, Progress $progress): void
            {
            }
        };

        return (new Breaker(edits: [new FrontCuts(self::front($frame), $every)]))->break($mesh, $whole);
    }

    /** @param Closure(float, float, float): float $frame */
    private static function front(Closure $frame): Front
    {
        return new class ($frame) implements Front {
            /** @param Closure(float, float, float): float $frame */
            public function __construct(private readonly Closure $frame)
            {
            }

            public function arrivals(array $x, array $y, array $z, Progress $progress): array
            {
                return array_map($this->frame, $x, $y, $z);
            }
        };
    }

    private static function assertSound(Broken $broken, float $volume): void
    {
        $sum = 0.0;
        foreach ($broken->pieces as $piece) {
            self::assertTrue(Topology::of($piece->mesh)->isWatertight());
            self::assertGreaterThan(0.0, $piece->mass->volume);
            $sum += $piece->mass->volume;
        }
        self::assertEqualsWithDelta($volume, $sum, 1e-9 * $volume);
    }

    /** @param Closure(float, float, float): float $of how far its largest and smallest values at a piece's vertices lie apart */
    private static function reach(TriangleMesh $mesh, Closure $of): float
    {
        $values = array_map($of, $mesh->x, $mesh->y, $mesh->z);

        return max($values) - min($values);
    }
}
