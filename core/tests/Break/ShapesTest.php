<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\Bend;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Break\Squeeze;
use YardBreak\Core\Break\StarterWeb;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** What patterns are made of. */
final class ShapesTest extends TestCase
{
    /** Bent and straight again is where one was; along a straight curve nothing bends; a quarter circle has its length. */
    public function testABendAndItsInverse(): void
    {
        $bend = new Bend([[0.0, 0.0, 0.0], [0.1, 0.5, 0.0], [0.0, 1.0, 0.2]]);
        $stream = RandomStream::named(1, 'bend');
        for ($k = 0; $k < 300; $k++) {
            $p = [$stream->between(-0.15, 0.15), $stream->between(-0.2, 1.3), $stream->between(-0.15, 0.15)];
            self::assertEqualsWithDelta($p, $bend->straight(...$bend->bent(...$p)), 0.012, 'pieces of the curve are straight, so corners differ a little');
        }
        $line = new Bend([[0.0, 0.0, 0.0], [0.0, 1.0, 0.0], [0.0, 2.0, 0.0]]);
        [$x, $y, $z] = $line->straight(0.3, 1.7, -0.2);
        self::assertEqualsWithDelta([hypot(0.3, 0.2), 1.7], [hypot($x, $z), $y], 1e-12);
        $arc = [];
        for ($k = 0; $k <= 8; $k++) {
            $arc[] = [cos($k * M_PI / 16.0), sin($k * M_PI / 16.0), 0.0];
        }
        [, $along] = (new Bend($arc))->straight(0.0, 1.0, 0.0);
        self::assertEqualsWithDelta(0.5 * M_PI, $along, 1e-3);
    }

    /** Handed the same way on both sides: a mesh does not turn inside out. */
    public function testABendKeepsTheInsideInside(): void
    {
        $bend = new Bend([[0.0, -1.0, 0.0], [0.2, 0.0, 0.1], [0.0, 1.0, 0.0]]);
        $log = Solids::cylinder(0.1, 1.0, 16, 10);
        [$x, $y, $z] = [$log->x, $log->y, $log->z];
        foreach ($x as $i => $px) {
            [$x[$i], $y[$i], $z[$i]] = $bend->straight($px, $y[$i], $z[$i]);
        }
        $volume = MassProperties::of($log)->volume;
        self::assertEqualsWithDelta($volume, MassProperties::of(new TriangleMesh($x, $y, $z, $log->triangles))->volume, 0.2 * $volume);
    }

    public function testACurveTighterThanThePropIsThickIsRefused(): void
    {
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/bends more tightly|crosses itself|volumes differ/');
        (new Breaker())->break(Normals::computed(Solids::ball(1.0, 8)), new GrainPattern(20, 1, 0.3, [0.0, 1.0, 0.0], 5.0, 0.5, [[0.0, 0.0, 0.0], [0.1, 0.2, 0.0], [0.0, 0.1, 0.1], [0.1, 0.0, -0.1], [0.0, 0.3, 0.0]]));
    }

    /** Splinters follow the curve: their longest sides turn with it. */
    public function testSplintersFollowTheCurve(): void
    {
        $board = Normals::computed(Solids::box(0.6, 2, 0.1, 4));
        // Leans to the right below, to the left above.
        $curve = [[-0.5, -1.0, 0.0], [0.0, 0.0, 0.0], [-0.5, 1.0, 0.0]];
        $lean = ['low' => 0.0, 'high' => 0.0];
        foreach ((new Breaker())->break($board, new GrainPattern(40, 2, 0.4, [0.0, 1.0, 0.0], 10.0, 0.8, $curve))->pieces as $piece) {
            // The sign of the product of inertia tells the way a slender piece leans.
            [, , , $xy] = $piece->mass->inertia;
            $lean[$piece->mass->centre[1] < 0.0 ? 'low' : 'high'] -= $xy;
        }
        self::assertGreaterThan(0.0, $lean['low']);
        self::assertLessThan(0.0, $lean['high']);
    }

    /** Distances of ball, cylinder and box by the formulas of geometry; of a drawn square, inside and out. */
    public function testCuttersKnowHowFarOneIsOutside(): void
    {
        $ball = Cutter::about(Cutter::BALL, [1.0, 0.0, 0.0], [0.0, 1.0, 0.0], 0.5);
        self::assertEqualsWithDelta([-0.5, 0.5], [$ball->distance(1.0, 0.0, 0.0), $ball->distance(1.0, 0.6, 0.8)], 1e-12);
        $round = Cutter::about(Cutter::ROUND, [0.0, 0.0, 0.0], [0.0, 0.0, 2.0], 0.5);
        self::assertEqualsWithDelta([4.5, -0.5], [$round->distance(3.0, 4.0, 99.0), $round->distance(0.0, 0.0, -7.0)], 1e-12);
        $square = Cutter::about(Cutter::SQUARE, [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 0.5);
        self::assertEqualsWithDelta(0.25, $square->distance(0.75, 0.1, 3.0), 1e-12);
        // Drawn along x: the drawing's axes are y and z.
        $drawn = Cutter::drawn([[0.0, 0.0], [2.0, 0.0], [2.0, 2.0], [0.0, 2.0]], 0);
        self::assertEqualsWithDelta([-1.0, -0.25, 1.0, sqrt(2.0)], [
            $drawn->distance(5.0, 1.0, 1.0), $drawn->distance(0.0, 0.25, 1.0), $drawn->distance(0.0, 3.0, 1.0), $drawn->distance(0.0, 3.0, 3.0),
        ], 1e-12);
    }

    public function testSqueezedSpaceAndBack(): void
    {
        $grain = new Squeeze(6.0, [0.6, 0.8, 0.0]);
        $box = Solids::box(1, 1, 1);
        $squeezed = $grain->squeezed($box);
        self::assertEqualsWithDelta(MassProperties::of($box)->volume / 6.0, MassProperties::of($squeezed)->volume, 1e-12);
        foreach ($squeezed->x as $i => $x) {
            self::assertEqualsWithDelta([$box->x[$i], $box->y[$i], $box->z[$i]], $grain->back($x, $squeezed->y[$i], $squeezed->z[$i]), 1e-12);
        }
    }

    public function testAStarterWebMeetsWhereRaysCrossRings(): void
    {
        $lines = StarterWeb::lines(Solids::box(2, 1, 0.1), 2, 7, 3, 1);
        self::assertCount(10, $lines);
        $rays = array_slice($lines, 0, 7);
        foreach (array_slice($lines, 7) as $ring => $line) {
            self::assertTrue($line->closed);
            foreach ($line->points as $k => $point) {
                self::assertSame($rays[$k]->points[$ring + 1], $point);
            }
        }
        foreach ($rays as $ray) {
            [$x, $y] = $ray->points[count($ray->points) - 1];
            self::assertTrue(abs($x) >= 1.0 || abs($y) >= 0.5, 'rays end beyond the rim');
        }
    }

    /** A later blow breaks only what it strikes: pieces of the first stay as they were. */
    public function testALaterBlowEndsAtEarlierCracks(): void
    {
        $pane = Normals::computed(Solids::box(1, 1, 0.01, 2));
        $web = static fn (array $points): WebPattern => new WebPattern(1, $points, [0.0, 0.0, 1.0], 10, 4, 0.22, 1.3, 0.4, true);
        $volumes = static fn (WebPattern $pattern): array => array_map(static fn ($piece): float => round($piece->mass->volume, 12), (new Breaker())->break($pane, $pattern)->pieces);
        $first = $volumes($web([[0.2, 0.2, 0.0]]));
        $both = $volumes($web([[0.2, 0.2, 0.0], [-0.2, -0.2, 0.0]]));
        sort($first);
        // The largest is the rest, which the second blow strikes.
        $rest = array_pop($first);
        self::assertSame([], array_diff($first, $both));
        self::assertGreaterThan(count($first) + 30, count($both));
        self::assertLessThan($rest, max($both));
    }

    public function testTonesAreReadFromTheTopLeft(): void
    {
        $map = new ToneMap('t', 2, 2, [0.1, 0.2, 0.3, 0.4]);
        self::assertSame([0.1, 0.2, 0.3, 0.4], [$map->at(0.1, 0.9), $map->at(0.9, 0.9), $map->at(0.1, 0.1), $map->at(0.9, 0.1)]);
        self::assertSame([0.3, 0.2], [$map->at(-5.0, -5.0), $map->at(5.0, 5.0)], 'beyond the picture its rim goes on');
        self::assertSame(serialize($map), serialize(new ToneMap('t', 2, 2, [9.0])), 'its name tells it from others');
    }

    /** What a long break tells of itself: parts of the work by name, with counts that rise to the whole. */
    #[Group('slow')]
    public function testABreakTellsHowFarItIs(): void
    {
        $told = [];
        $progress = new Progress(static function (string $what, int $done, int $of) use (&$told): void {
            $told[$what][] = [$done, $of];
        });
        (new Breaker(roughness: 0.3, fineness: 0.1))->break(Normals::computed(Solids::ball(0.5, 12)), new CellularPattern(600, 1, 0.0), $progress);
        self::assertSame(['cells', 'cutting faces', 'closing cuts', 'fresh faces'], array_keys($told));
        foreach ($told as $what => $steps) {
            foreach ($steps as $k => [$done, $of]) {
                self::assertLessThanOrEqual($of, $done, $what);
                self::assertGreaterThanOrEqual($steps[$k - 1][0] ?? 0, $done, $what);
            }
        }
    }
}
