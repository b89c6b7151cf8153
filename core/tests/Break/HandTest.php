<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreakAgain;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Join;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\Lock;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

/** What is measured of pieces, and what is done to them by hand, on breaks whose measures geometry tells. */
final class HandTest extends TestCase
{
    /** Planes between bricks lie up to this far out of line, in parts of a brick, as masons lay them. */
    private const HAIR = 0.012;

    private const BRICK = 0.5 * 0.5 * 0.1;

    /** A wall of 2.5 x 1.5 x 0.1 m in five columns and three rows of equal bricks, without offset: everything can be counted. */
    public function testAWallOfBricksCanBeCounted(): void
    {
        $broken = (new Breaker())->break(self::wall(), self::bricks(0.0));
        self::assertCount(15, $broken->pieces);
        foreach ($broken->pieces as $piece) {
            self::assertEqualsWithDelta(self::BRICK, $piece->mass->volume, 3.0 * self::HAIR * self::BRICK);
        }
        // Twelve upright joints of 0.5 x 0.1 and ten level ones of 0.5 x 0.1, each counted from both sides.
        $touching = array_merge(...array_map(array_values(...), $broken->shared));
        self::assertCount(44, array_filter($touching, static fn (float $area): bool => $area > 0.01));
        foreach ($broken->shared as $piece => $neighbours) {
            foreach ($neighbours as $other => $area) {
                // Corners out of line touch by a hair.
                $area > 0.01 ? self::assertEqualsWithDelta(0.05, $area, 2.5 * self::HAIR * 0.05) : self::assertLessThan(self::HAIR * 0.05, $area);
                self::assertSame($area, $broken->shared[$other][$piece]);
            }
        }
    }

    /** Half a brick aside: each brick of a row lies on two, and shares half of its bed with each. */
    public function testBricksInRunningBondLieOnTwo(): void
    {
        $broken = (new Breaker())->break(self::wall(), self::bricks(0.5));
        self::assertCount(16, $broken->pieces);
        self::assertCount(2, array_filter($broken->pieces, static fn (Piece $p): bool => $p->mass->volume < 0.7 * self::BRICK), 'half ones at the ends of the row between');
        $beds = [];
        foreach ($broken->shared as $piece => $neighbours) {
            foreach ($neighbours as $other => $area) {
                if (abs($broken->pieces[$piece]->mass->centre[1] - $broken->pieces[$other]->mass->centre[1]) > 0.1) {
                    $beds[] = $area;
                }
            }
        }
        self::assertCount(40, $beds);
        self::assertEqualsWithDelta(array_fill(0, 40, 0.25 * 0.1), $beds, self::HAIR * 0.05);
    }

    /** Rows are laid from the bottom, and no row or brick is a sliver, whatever the size of the wall. */
    public function testThereAreNoSliversAtTheEnds(): void
    {
        foreach ([[2.0, 1.0], [2.03, 1.02], [2.2, 1.05], [1.97, 0.99], [2.26, 1.24], [0.6, 0.55], [0.3, 0.3]] as [$width, $height]) {
            foreach ([0.0, 0.5, 0.25, 0.9] as $offset) {
                $broken = (new Breaker())->break(Normals::computed(Solids::box($width, $height, 0.1, 1)), self::bricks($offset));
                $bottom = array_filter($broken->pieces, static fn (Piece $p): bool => $p->mesh->bounds()[0][1] < -0.5 * $height + 1e-9);
                foreach ($broken->pieces as $piece) {
                    [$low, $high] = $piece->mesh->bounds();
                    self::assertGreaterThan(0.19 * 0.5, $high[0] - $low[0], "wall of {$width} x {$height}");
                    self::assertGreaterThan(0.19 * 0.5, $high[1] - $low[1]);
                    self::assertLessThan(1.3 * 0.5, $high[1] - $low[1]);
                }
                foreach ($bottom as $piece) {
                    [$low, $high] = $piece->mesh->bounds();
                    self::assertEqualsWithDelta($height < 0.6 ? $height : 0.5, $high[1] - $low[1], self::HAIR * 0.5, 'a whole row at the bottom');
                }
            }
        }
    }

    public function testTooManyBricksAreRefusedAtOnce(): void
    {
        foreach ([[CoursesPattern::BRICK, 0.02, 0.02, 0.0, '9,375'], [CoursesPattern::BRICK, 0.1, 0.1, 0.005, '7,500'], [CoursesPattern::HEXAGON, 0.01, 0.05, 0.0, '86,603'], [CoursesPattern::ROUND, 0.01, 0.05, 0.0, '23,562']] as [$kind, $length, $height, $depth, $count]) {
            try {
                (new Breaker())->break(self::wall(), new CoursesPattern($kind, 1, [0.0, 1.0, 0.0], $length, $height, $depth, 0.5, 0.0, 0.0));
                self::fail('It was broken.');
            } catch (BreakFailed $refused) {
                self::assertStringContainsString("about {$count} bricks", $refused->getMessage());
            }
        }
    }

    /** A joint of 20 mm takes its part of the volume away, and bricks no longer touch. */
    public function testJointsAreDiscarded(): void
    {
        $pattern = new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.5, 0.5, 0.0, 0.0, 0.02, 0.0);
        $broken = (new Breaker())->break(self::wall(), $pattern);
        $volume = array_sum(array_map(static fn (Piece $p): float => $p->mass->volume, $broken->pieces));
        self::assertEqualsWithDelta(0.375, $volume + $broken->discarded, 1e-12);
        // Four upright joints over the whole height and two level ones over the whole length; where they cross counts once.
        self::assertEqualsWithDelta(0.1 * (4 * 0.02 * 1.5 + 2 * 0.02 * 2.5 - 8 * 0.02 ** 2), $broken->discarded, 1e-12);
        self::assertSame([], array_merge(...$broken->shared));
    }

    public function testJoinedPiecesAreOne(): void
    {
        $plain = (new Breaker())->break(self::wall(), self::bricks(0.0));
        $other = (int) array_key_first($plain->shared[0]);
        [$a, $b] = [$plain->pieces[0]->mass->centre, $plain->pieces[$other]->mass->centre];
        $joined = (new Breaker(edits: [new Join($a, $b)]))->break(self::wall(), self::bricks(0.0));
        self::assertCount(14, $joined->pieces);
        self::assertEqualsWithDelta($plain->pieces[0]->mass->volume + $plain->pieces[$other]->mass->volume, max(self::volumes($joined)), 1e-12);
        foreach ($joined->pieces as $piece) {
            self::assertTrue(Topology::of($piece->mesh)->isWatertight());
            self::assertSame(1, Topology::of($piece->mesh)->parts);
        }
        // Joined to a third: the places are those of the pieces as they were before each edit.
        $middle = array_map(static fn (float $p, float $q): float => 0.5 * ($p + $q), $a, $b);
        $far = $plain->pieces[14]->mass->centre;
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/do not touch/');
        (new Breaker(edits: [new Join($a, $b), new Join([$middle[0], $middle[1], $middle[2]], $far)]))->break(self::wall(), self::bricks(0.0));
    }

    public function testOnePieceIsBrokenAgainAndTheOthersStay(): void
    {
        $plain = (new Breaker())->break(self::wall(), self::bricks(0.0));
        $again = (new Breaker(edits: [new BreakAgain($plain->pieces[3]->mass->centre, new HalvingPattern(3, 0, 1, 0.0))]))->break(self::wall(), self::bricks(0.0));
        self::assertCount(14 + 8, $again->pieces);
        $whole = array_filter(self::volumes($again), static fn (float $v): bool => $v > 0.9 * self::BRICK);
        self::assertCount(14, $whole);
        self::assertEqualsWithDelta(0.375, array_sum(self::volumes($again)), 1e-12);
        // Again in one of those.
        $small = $again->pieces[(int) array_search(max(array_diff_key(self::volumes($again), $whole)), self::volumes($again), true)]->mass->centre;
        $twice = (new Breaker(edits: [
            new BreakAgain($plain->pieces[3]->mass->centre, new HalvingPattern(3, 0, 1, 0.0)),
            new BreakAgain($small, new CellularPattern(5, 1, 0.5)),
        ]))->break(self::wall(), self::bricks(0.0));
        self::assertCount(14 + 7 + 5, $twice->pieces);
    }

    /** A locked piece is the same to the last bit's breadth, whatever the rest is broken into. */
    public function testALockedPieceStaysWhileTheRestIsBrokenOtherwise(): void
    {
        $before = (new Breaker())->break(self::wall(), self::bricks(0.0));
        $kept = $before->pieces[2];
        $after = (new Breaker(locks: [new Lock($kept->mass->centre, self::bricks(0.0))]))->break(self::wall(), new CellularPattern(15, 4, 0.3));
        self::assertEqualsWithDelta(0.375, array_sum(self::volumes($after)), 1e-12);
        $same = array_filter($after->pieces, static fn (Piece $p): bool => abs($p->mass->volume - $kept->mass->volume) < 1e-12 && abs($p->mass->centre[0] - $kept->mass->centre[0]) < 1e-9 && abs($p->mass->centre[1] - $kept->mass->centre[1]) < 1e-9);
        self::assertCount(1, $same);
        [$low, $high] = array_values($same)[0]->mesh->bounds();
        self::assertEqualsWithDelta($kept->mesh->bounds(), [$low, $high], 1e-9);
        self::assertGreaterThan(10, count($after->pieces));
    }

    /** A slice of 10 mm through the whole height: it goes to the one with which it shares more. */
    public function testASliverGoesToTheNeighbourItSharesMostWith(): void
    {
        $lines = [
            new Line([[-0.1, -1.0], [-0.1, 1.0]]),
            new Line([[-0.09, -1.0], [-0.09, 1.0]]),
            // On the right, only the upper half touches the slice in one piece: less than half of it.
            new Line([[-0.09, 0.1], [2.0, 0.1]]),
        ];
        $plain = (new Breaker())->break(self::wall(), new DrawnPattern($lines, 2));
        self::assertCount(4, $plain->pieces);
        $thin = (int) array_search(min(self::volumes($plain)), self::volumes($plain), true);
        self::assertEqualsWithDelta(0.01 * 1.5 * 0.1, $plain->pieces[$thin]->mass->volume, 1e-6);
        foreach (['by size' => new Breaker(smallest: 0.1), 'by thinness' => new Breaker(thinnest: 0.2)] as $rule => $breaker) {
            $joined = $breaker->break(self::wall(), new DrawnPattern($lines, 2));
            self::assertSame(1, $joined->joined, $rule);
            self::assertCount(3, $joined->pieces);
            self::assertEqualsWithDelta(1.16 * 1.5 * 0.1, max(array_map(static fn (Piece $p): float => $p->mass->centre[0] < -0.2 ? $p->mass->volume : 0.0, $joined->pieces)), 1e-6, 'to the left, which it touches all along');
        }
        self::assertSame(0, (new Breaker(smallest: 0.01))->break(self::wall(), new DrawnPattern($lines, 2))->joined);
    }

    /** Thinness by its definition, 6 sqrt(pi) V / A^1.5: 1 for a ball, sqrt(pi / 6) for a cube. */
    public function testThinnessIsThatOfHandbookShapes(): void
    {
        // A cube cut off a beam: 0.72 (all of it touches the rest along one face).
        $beam = Normals::computed(Solids::box(3.0, 0.2, 0.2, 1));
        $line = [new Line([[1.3, -1.0], [1.3, 1.0]])];
        $cube = sqrt(M_PI / 6.0);
        self::assertSame(0, (new Breaker(thinnest: min(0.9, $cube - 0.5)))->break($beam, new DrawnPattern($line, 2))->joined);
        self::assertCount(1, (new Breaker(thinnest: $cube + 0.01))->break($beam, new DrawnPattern($line, 2))->pieces, 'the cube is thinner than that by a hair');
        $rest = 6.0 * sqrt(M_PI) * 2.8 * 0.04 / (2.0 * 0.04 + 4.0 * 2.8 * 0.2) ** 1.5;
        $onlyRest = (new Breaker(thinnest: 0.5 * ($cube + $rest)))->break($beam, new DrawnPattern($line, 2));
        self::assertSame(1, $onlyRest->joined, 'the long rest is thin, the cube is not');
    }

    private static function wall(): TriangleMesh
    {
        return Normals::computed(Solids::box(2.5, 1.5, 0.1, 1));
    }

    private static function bricks(float $offset): CoursesPattern
    {
        return new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.5, 0.5, 0.0, $offset, 0.0, 0.0);
    }

    /** @return list<float> */
    private static function volumes(Broken $broken): array
    {
        return array_map(static fn (Piece $p): float => $p->mass->volume, $broken->pieces);
    }
}
