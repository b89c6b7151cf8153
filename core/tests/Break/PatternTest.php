<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Break;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Break\BreachPattern;
use YardBreak\Core\Break\BreakAgain;
use YardBreak\Core\Break\Breaker;
use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\Broken;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\CoursesPattern;
use YardBreak\Core\Break\Cutter;
use YardBreak\Core\Break\DrawnPattern;
use YardBreak\Core\Break\GrainPattern;
use YardBreak\Core\Break\HalvingPattern;
use YardBreak\Core\Break\Join;
use YardBreak\Core\Break\Line;
use YardBreak\Core\Break\Pattern;
use YardBreak\Core\Break\PictureDensity;
use YardBreak\Core\Break\PicturePattern;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Break\ToneMap;
use YardBreak\Core\Break\WebPattern;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\InsideTest;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\GrainJar;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MeshCodec;
use YardBreak\Core\Tests\Fixture\Meshes;
use YardBreak\Core\Tests\Fixture\Soundness;

final class PatternTest extends TestCase
{
    use Soundness;

    /** @return iterable<string, Pattern> */
    private static function patterns(int $seed): iterable
    {
        yield 'cellular' => new CellularPattern(30, $seed, 0.3);
        yield 'cellular, varied, about a place' => new CellularPattern(30, $seed, 0.2, 0.7, [[0.2, 0.2, 0.1]], 0.3, 0.9);
        yield 'web, rest whole' => new WebPattern($seed, [[0.05, 0.1, 0.2]], [0.1, 0.2, 1.0], 11, 4, 0.3, 1.5, 0.6, true);
        yield 'web, rest coarse' => new WebPattern($seed, [[0.05, 0.1, 0.2]], [0.1, 1.0, 0.2], 9, 4, 0.25, 1.2, 0.3, false);
        yield 'bricks' => new CoursesPattern(CoursesPattern::BRICK, $seed, [0.0, 1.0, 0.0], 0.3, 0.22, 0.0, 0.5, 0.0, 0.2);
        yield 'bricks with joints, slanting' => new CoursesPattern(CoursesPattern::BRICK, $seed, [0.3, 1.0, 0.2], 0.4, 0.25, 0.5, 0.3, 0.02, 0.0);
        yield 'round courses' => new CoursesPattern(CoursesPattern::ROUND, $seed, [0.0, 1.0, 0.0], 0.4, 0.3, 0.0, 0.5, 0.02, 0.3);
        yield 'hexagons' => new CoursesPattern(CoursesPattern::HEXAGON, $seed, [0.0, 0.0, 1.0], 0.3, 0.4, 0.0, 0.0, 0.0, 0.3);
        yield 'halving' => new HalvingPattern(4, 0, $seed, 0.0);
        yield 'halving to a count' => new HalvingPattern(0, 11, $seed, 0.0);
        yield 'halving, wandering' => new HalvingPattern(0, 3, $seed, 0.05);
        yield 'halving, torn' => new HalvingPattern(0, 3, $seed, 0.08, 1.0);
        yield 'halving, in smooth curves' => new HalvingPattern(0, 3, $seed, 0.1, 0.0);
        yield 'breach' => new BreachPattern($seed, [Cutter::about(Cutter::BALL, [0.3, 0.3, 0.3], [0.0, 0.0, 1.0], 0.25)], 0.4, 0.1, 6, 1, 0.08);
        yield 'grain' => new GrainPattern(24, $seed, 0.3, [0.0, 1.0, 0.0], 5.0, 0.6);
        yield 'grain along a curve' => new GrainPattern(14, $seed, 0.3, [0.0, 1.0, 0.0], 4.0, 0.6, [[0.0, -1.0, 0.0], [0.12, 0.0, 0.05], [0.0, 1.0, 0.0]]);
        yield 'web, three blows' => new WebPattern($seed, [[0.1, 0.3, 0.4], [-0.2, -0.1, 0.4], [0.15, -0.3, 0.4]], [0.1, 0.2, 1.0], 7, 3, 0.3, 1.3, 0.5, $seed % 2 === 0);
        yield 'breach in two places, splinters' => new BreachPattern($seed, [Cutter::about(Cutter::ROUND, [0.4, 0.05, 0.0], [0.0, 0.0, 1.0], 0.2), Cutter::about(Cutter::SQUARE, [-0.4, -0.05, 0.0], [0.0, 0.0, 1.0], 0.15)], 0.4, 0.12, 5, 1, 0.1, [[1.0, 0.0, 0.0], 4.0]);
        yield 'breach, drawn' => new BreachPattern($seed, [Cutter::drawn([[0.1, -0.2], [0.55, -0.2], [0.5, 0.3], [0.2, 0.3]], 2)], 0.2, 0.1, 5, 0, 0.0);
        yield 'drawn' => new DrawnPattern(self::scribble($seed), $seed % 3);
        yield 'picture' => new PicturePattern(self::waves($seed), 3, 0.01, $seed % 3);
        yield 'cellular, finer by a picture' => new CellularPattern(30, $seed, 0.3, map: new PictureDensity(self::waves($seed), $seed % 3, true));
    }

    /** @return list<Line> that cross, touch, end in the open and come back on themselves */
    private static function scribble(int $seed): array
    {
        $stream = RandomStream::named($seed, 'scribble');
        $lines = [];
        for ($k = 0; $k < 8; $k++) {
            $points = [];
            for ($i = 0, $end = 2 + (int) ($stream->float() * 5.0); $i < $end; $i++) {
                $points[] = [$stream->between(-1.0, 1.0), $stream->between(-1.0, 1.0)];
            }
            // Every other line begins where the last one ended.
            if ($k % 2 === 1) {
                $points[0] = $lines[$k - 1]->points[count($lines[$k - 1]->points) - 1];
            }
            $lines[] = new Line($points, $stream->float() < 0.3);
        }

        return [...$lines, new Line([[-1.0, 0.05], [1.0, 0.05]])];
    }

    private static function waves(int $seed): ToneMap
    {
        $tones = [];
        for ($y = 0; $y < 48; $y++) {
            for ($x = 0; $x < 48; $x++) {
                $tones[] = 0.5 + 0.5 * sin(0.21 * $x + $seed) * cos(0.17 * $y + 0.05 * $x);
            }
        }

        return new ToneMap("waves {$seed}", 48, 48, $tones);
    }

    /** @return iterable<string, array{string, TriangleMesh, int}> */
    public static function cases(): iterable
    {
        // One seed; with --long three of the simple ones; YARD_SEEDS asks for more (20 take about five minutes).
        $seeds = max(1, (int) getenv('YARD_SEEDS'));
        $simple = getenv('YARD_BREAK_LONG') ? max(3, $seeds) : $seeds;
        $meshes = ['box' => Solids::box(1, 1, 1, 3), 'ball' => Solids::ball(0.5, 8), 'torus' => Solids::torus(0.5, 0.15, 24, 12)];
        $turn = 0;
        foreach ($meshes as $name => $mesh) {
            foreach (array_keys(iterator_to_array(self::patterns(1))) as $k => $pattern) {
                // Each on one of the three; with --long on all.
                if ($simple > 1 || $k % 3 === $turn) {
                    yield "{$pattern}: {$name}" => [$pattern, Normals::computed($mesh), $simple];
                }
            }
            $turn++;
        }
        // The breach's place lies in the solids above, not in the jar's wall.
        foreach (array_diff(array_keys(iterator_to_array(self::patterns(1))), ['breach', 'breach in two places, splinters', 'breach, drawn', 'grain along a curve']) as $pattern) {
            yield "{$pattern}: jar" => [$pattern, Normals::computed(GrainJar::mesh(segments: 48, rings: 40)), $seeds];
            if (getenv('YARD_BREAK_LONG')) {
                yield "{$pattern}: vase with a handle" => [$pattern, Normals::computed(Meshes::vase()), $seeds];
                yield "{$pattern}: bunny" => [$pattern, self::bunny(), $seeds];
            }
        }
    }

    #[Group('slow')]
    #[DataProvider('cases')]
    public function testPiecesAreClosedFitTogetherAndFillTheProp(string $pattern, TriangleMesh $mesh, int $seeds): void
    {
        for ($seed = 1; $seed <= $seeds; $seed++) {
            $broken = (new Breaker())->break($mesh, iterator_to_array(self::patterns($seed))[$pattern]);
            self::assertGreaterThan(1, count($broken->pieces), "seed {$seed}");
            self::assertSound($broken, $mesh, "seed {$seed}");
        }
    }

    #[Group('long')]
    public function testEveryPatternDoesSoOnASmallBox(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 2));
        foreach (self::patterns(7) as $name => $pattern) {
            self::assertSound((new Breaker())->break($box, $pattern), $box, $name);
        }
    }

    #[Group('slow')]
    public function testSameSeedSameBytesOtherSeedOtherBytes(): void
    {
        $mesh = Normals::computed(Solids::box(1, 1, 1, 1));
        $bytes = static fn (Pattern $pattern): string => sha1(implode('', array_map(static fn (Piece $p): string => MeshCodec::encode($p->mesh), (new Breaker())->break($mesh, $pattern)->pieces)));
        [$again, $others] = [iterator_to_array(self::patterns(3)), iterator_to_array(self::patterns(4))];
        $seen = [];
        foreach (self::patterns(3) as $name => $pattern) {
            // Variants of a pattern take their seeds alike.
            if (! isset($seen[$pattern::class]) || getenv('YARD_BREAK_LONG')) {
                $seen[$pattern::class] = true;
                $one = $bytes($pattern);
                self::assertSame($one, $bytes($again[$name]), $name);
                self::assertNotSame($one, $bytes($others[$name]), $name);
            }
        }
    }

    /** Common practice, no source: n rounds of halving give 2^n pieces (of a convex prop: nothing falls apart by itself). */
    public function testHalvingGivesTwoToTheRounds(): void
    {
        foreach ([1 => 2, 3 => 8, 5 => 32] as $rounds => $pieces) {
            self::assertCount($pieces, (new Breaker())->break(Solids::ball(0.5, 6), new HalvingPattern($rounds, 0, 5, 0.0))->pieces);
        }
        self::assertCount(13, (new Breaker())->break(Solids::box(2, 1, 1), new HalvingPattern(0, 13, 5, 0.0))->pieces);
    }

    public function testLargestFirstHalvingLeavesNoGiant(): void
    {
        $volumes = self::volumes((new Breaker())->break(Solids::box(2, 1, 1), new HalvingPattern(0, 40, 2, 0.0)));
        self::assertLessThan(4.0 * array_sum($volumes) / count($volumes), max($volumes));
    }

    /** A wall of 2 x 1 x 0.1 m of bricks of 0.25 x 0.1: most bricks have the volume one can work out by hand. */
    public function testBricksHaveTheSizeAskedFor(): void
    {
        $wall = Solids::box(2, 1, 0.1);
        $volumes = self::volumes((new Breaker())->break($wall, new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.25, 0.1, 0.0, 0.5, 0.0, 0.0)));
        sort($volumes);
        self::assertEqualsWithDelta(0.25 * 0.1 * 0.1, $volumes[intdiv(count($volumes), 2)], 1e-6);
        $broken = (new Breaker())->break($wall, new CoursesPattern(CoursesPattern::BRICK, 1, [0.0, 1.0, 0.0], 0.25, 0.1, 0.0, 0.5, 0.01, 0.0));
        $volumes = self::volumes($broken);
        sort($volumes);
        self::assertEqualsWithDelta(0.24 * 0.09 * 0.1, $volumes[intdiv(count($volumes), 2)], 1e-6, 'a joint takes its width from each brick');
        self::assertEqualsWithDelta(0.2, array_sum($volumes) + $broken->discarded, 1e-12);
        foreach ($broken->shared as $neighbours) {
            self::assertSame([], $neighbours, 'with joints no brick touches another');
        }
    }

    /** Rings grow outwards by the growth asked for, and the rest stays in one piece. */
    public function testAWebGrowsOutwards(): void
    {
        $pane = Solids::box(2, 2, 0.01);
        $pieces = (new Breaker())->break($pane, new WebPattern(1, [[0.0, 0.0, 0.0]], [0.0, 0.0, 1.0], 12, 5, 0.6, 1.5, 0.0, true))->pieces;
        self::assertCount(12 * 5 + 1, $pieces);
        $near = $far = [];
        foreach ($pieces as $piece) {
            $r = hypot($piece->mass->centre[0], $piece->mass->centre[1]);
            if ($piece->mass->volume > 0.01) {
                continue;
            }
            if ($r < 0.12) {
                $near[] = $piece->mass->volume;
            } elseif ($r > 0.4) {
                $far[] = $piece->mass->volume;
            }
        }
        self::assertGreaterThan(5.0 * array_sum($near) / count($near), array_sum($far) / count($far));
        // What is left outside a polygon of 12 corners through about 0.6 m.
        $largest = max(self::volumes(new Broken($pieces, [], 0, 0.0)));
        self::assertEqualsWithDelta(0.01 * (4.0 - M_PI * 0.36), $largest, 0.002);
    }

    public function testSplintersLieAlongTheGrain(): void
    {
        $along = $across = 0.0;
        foreach ((new Breaker())->break(Solids::box(1, 2, 1), new GrainPattern(60, 3, 0.4, [0.0, 1.0, 0.0], 8.0, 1.0))->pieces as $piece) {
            [$low, $high] = $piece->mesh->bounds();
            $along += $high[1] - $low[1];
            $across += 0.5 * ($high[0] - $low[0] + $high[2] - $low[2]);
        }
        self::assertGreaterThan(3.0, $along / $across);
    }

    /** An opening of radius 0.3 in a wall of 2 x 1.5 x 0.1 m, without stray: what falls out has about the cylinder's volume. */
    #[Group('slow')]
    public function testABreachTakesOutWhatTheCutterHolds(): void
    {
        $wall = Solids::box(2, 1.5, 0.1);
        $breach = static fn (float $ragged, int $pieces): BreachPattern => new BreachPattern(1, [Cutter::about(Cutter::ROUND, [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 0.3)], $ragged, 0.05, $pieces, 0, 0.0);
        $removed = (new Breaker())->break($wall, $breach(0.0, 0));
        self::assertCount(1, $removed->pieces);
        self::assertEqualsWithDelta(M_PI * 0.09 * 0.1, $removed->discarded, 0.05 * M_PI * 0.009);
        self::assertSound($removed, $wall, 'opening');
        $fallen = (new Breaker())->break($wall, $breach(0.4, 9));
        self::assertGreaterThanOrEqual(10, count($fallen->pieces));
        self::assertSound($fallen, $wall, 'pieces');
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/misses the prop/');
        (new Breaker())->break($wall, new BreachPattern(1, [Cutter::about(Cutter::BALL, [9.0, 0.0, 0.0], [0.0, 0.0, 1.0], 0.3)], 0.1, 0.03, 3, 0, 0.0));
    }

    /** Each layer along the rim has a look of its own on its skin, and lies farther out than the one before. */
    #[Group('slow')]
    public function testLayersAlongARimHaveLooksOfTheirOwn(): void
    {
        $wall = Normals::computed(Solids::box(2, 1.5, 0.1));
        $broken = (new Breaker())->break($wall, new BreachPattern(2, [Cutter::about(Cutter::ROUND, [0.0, 0.0, 0.0], [0.0, 0.0, 1.0], 0.25)], 0.2, 0.05, 6, 2, 0.12));
        self::assertSound($broken, $wall, 'layers');
        $reach = [];
        foreach ($broken->pieces as $piece) {
            foreach ($piece->mesh->looks ?? [] as $f => $look) {
                $v = $piece->mesh->triangles[3 * $f];
                $r = hypot($piece->mesh->x[$v], $piece->mesh->y[$v]);
                $reach[$look] = max($reach[$look] ?? 0.0, $r);
            }
        }
        self::assertArrayHasKey(TriangleMesh::LOOK_LAYER, $reach);
        self::assertArrayHasKey(TriangleMesh::LOOK_LAYER + 1, $reach);
        self::assertGreaterThan($reach[TriangleMesh::LOOK_LAYER] + 0.06, $reach[TriangleMesh::LOOK_LAYER + 1]);
        self::assertGreaterThan(0.9, $reach[TriangleMesh::LOOK_OUTER], 'the wall itself keeps its look');
    }

    public function testPiecesAreFinerAboutAPlace(): void
    {
        $near = 0;
        $pieces = (new Breaker())->break(Solids::box(1, 1, 1), new CellularPattern(80, 1, 0.2, 0.0, [[0.3, 0.3, 0.3]], 0.25, 0.95))->pieces;
        foreach ($pieces as $piece) {
            [$x, $y, $z] = $piece->mass->centre;
            $near += ($x - 0.3) ** 2 + ($y - 0.3) ** 2 + ($z - 0.3) ** 2 < 0.25 ** 2 ? 1 : 0;
        }
        // The ball holds 6.5 % of the box; evenly strewn it would have about 5 of 80.
        self::assertGreaterThan(20, $near);
    }

    public function testSliversAreJoinedAndCounted(): void
    {
        $box = Solids::box(1, 1, 1);
        $pattern = new CellularPattern(80, 2, 0.0);
        $before = self::volumes((new Breaker())->break($box, $pattern));
        $mean = array_sum($before) / count($before);
        $small = count(array_filter($before, static fn (float $v): bool => $v < 0.3 * $mean));
        self::assertGreaterThan(0, $small, 'else the test shows nothing');
        $broken = (new Breaker(smallest: 0.3))->break($box, $pattern);
        self::assertSound($broken, $box, 'joined');
        self::assertGreaterThan(0, $broken->joined);
        self::assertSame(count($before) - $broken->joined, count($broken->pieces));
        self::assertGreaterThanOrEqual(0.3 * $mean, min(self::volumes($broken)));
        $thick = (new Breaker(thinnest: 0.6))->break($box, $pattern);
        self::assertGreaterThan(0, $thick->joined);
        self::assertSound($thick, $box, 'thick');
    }

    public function testPiecesAreJoinedAndBrokenAgainByHand(): void
    {
        $box = Solids::box(1, 1, 1);
        $pattern = new CellularPattern(20, 4, 0.3);
        $plain = (new Breaker())->break($box, $pattern);
        $a = 3;
        $b = (int) array_key_first($plain->shared[$a]);
        $joined = (new Breaker(edits: [new Join($plain->pieces[$a]->mass->centre, $plain->pieces[$b]->mass->centre)]))->break($box, $pattern);
        self::assertCount(count($plain->pieces) - 1, $joined->pieces);
        self::assertSound($joined, $box, 'joined');
        self::assertContainsEquals(round($plain->pieces[$a]->mass->volume + $plain->pieces[$b]->mass->volume, 12), array_map(static fn (float $v): float => round($v, 12), self::volumes($joined)));

        $again = (new Breaker(edits: [new BreakAgain($plain->pieces[$a]->mass->centre, new CellularPattern(5, 1, 0.3))]))->break($box, $pattern);
        self::assertCount(count($plain->pieces) + 4, $again->pieces);
        self::assertSound($again, $box, 'again');

        $strangers = array_values(array_diff(array_keys($plain->pieces), [$a], array_keys($plain->shared[$a])));
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/do not touch/');
        (new Breaker(edits: [new Join($plain->pieces[$a]->mass->centre, $plain->pieces[$strangers[0]]->mass->centre)]))->break($box, $pattern);
    }

    /** Rough faces: the skin keeps its place, pieces stay closed, and every point inside belongs to one piece only. */
    public function testRoughFacesFitAndLeaveTheSkinAlone(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 2));
        $pattern = new CellularPattern(12, 3, 0.3);
        $flat = (new Breaker())->break($box, $pattern);
        $rough = (new Breaker(roughness: 0.6, fineness: 0.06))->break($box, $pattern);
        self::assertSound($rough, $box, 'rough');
        self::assertCount(count($flat->pieces), $rough->pieces);
        $moved = 0;
        foreach ($rough->pieces as $piece) {
            $m = $piece->mesh;
            foreach ($m->triangles as $k => $v) {
                $onSkin = max(abs($m->x[$v]), abs($m->y[$v]), abs($m->z[$v])) > 0.5 - 1e-12;
                if (($m->looks[intdiv($k, 3)] ?? 0) === TriangleMesh::LOOK_OUTER) {
                    self::assertTrue($onSkin);
                } elseif (! $onSkin) {
                    $moved++;
                }
            }
        }
        self::assertGreaterThan(1000, $moved);
        // Every place inside belongs to one piece: anywhere, and just beside fresh faces, where pieces could pierce each other.
        $inside = array_map(static fn (Piece $piece): InsideTest => new InsideTest($piece->mesh), $rough->pieces);
        $stream = RandomStream::named(1, 'rough test');
        $places = [];
        for ($k = 0; $k < 1500; $k++) {
            $places[] = [$stream->between(-0.5, 0.5), $stream->between(-0.5, 0.5), $stream->between(-0.5, 0.5)];
        }
        foreach ($rough->pieces as $piece) {
            $m = $piece->mesh;
            for ($f = 0, $end = $m->triangleCount(); $f < $end; $f += 3) {
                $n = $m->cross($f);
                $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
                if (($m->looks[$f] ?? 0) === TriangleMesh::LOOK_INNER && $l > 1e-9) {
                    [$a, $b, $c] = array_slice($m->triangles, 3 * $f, 3);
                    $at = static fn (array $x, int $axis): float => 0.31 * $x[$a] + 0.36 * $x[$b] + 0.33 * $x[$c] - 1e-6 / $l * $n[$axis];
                    $places[] = [$at($m->x, 0), $at($m->y, 1), $at($m->z, 2)];
                }
            }
        }
        $wrong = 0;
        foreach ($places as $place) {
            $wrong += count(array_filter($inside, static fn (InsideTest $test): bool => $test->contains(...$place))) === 1 ? 0 : 1;
        }
        self::assertGreaterThan(4000, count($places));
        self::assertSame(0, $wrong, 'places in no piece or in several');
        // The bumps are there: fresh faces do not all lie in one plane per neighbour any more.
        self::assertGreaterThan(self::innerArea($flat) * 1.01, self::innerArea($rough));
    }

    /** Along the fibres a fresh face changes far less than across them. */
    public function testFibresRunAlongTheGrain(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 2));
        $broken = (new Breaker(roughness: 0.8, fineness: 0.04, fibres: 1))->break($box, new HalvingPattern(1, 0, 3, 0.0));
        self::assertSound($broken, $box, 'fibres');
        $along = $across = [];
        $m = $broken->pieces[0]->mesh;
        foreach (array_chunk($m->triangles, 3) as $f => $t) {
            if (($m->looks[$f] ?? 0) !== TriangleMesh::LOOK_INNER) {
                continue;
            }
            $u = [$m->x[$t[1]] - $m->x[$t[0]], $m->y[$t[1]] - $m->y[$t[0]], $m->z[$t[1]] - $m->z[$t[0]]];
            $w = [$m->x[$t[2]] - $m->x[$t[0]], $m->y[$t[2]] - $m->y[$t[0]], $m->z[$t[2]] - $m->z[$t[0]]];
            $n = [$u[1] * $w[2] - $u[2] * $w[1], $u[2] * $w[0] - $u[0] * $w[2], $u[0] * $w[1] - $u[1] * $w[0]];
            $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2);
            $along[] = $n[1] / $l;
            $across[] = $n[0] / $l;
            $across[] = $n[2] / $l;
        }
        $spread = static function (array $v): float {
            $mean = array_sum($v) / count($v);

            return sqrt(array_sum(array_map(static fn (float $a): float => ($a - $mean) ** 2, $v)) / count($v));
        };
        self::assertGreaterThan(1.5 * $spread($along), $spread($across));
    }

    public function testAWanderingCutIsNotFlat(): void
    {
        $box = Normals::computed(Solids::box(1, 1, 1, 2));
        $straight = (new Breaker())->break($box, new HalvingPattern(1, 0, 3, 0.0));
        $area = self::innerArea($straight);
        // The more jagged, the more there is of it.
        foreach ([[0.0, 1.01], [0.5, 1.02], [1.0, 1.05]] as [$jagged, $more]) {
            $wandering = (new Breaker())->break($box, new HalvingPattern(1, 0, 3, 0.08, $jagged));
            self::assertSound($wandering, $box, "wandering, jagged {$jagged}");
            self::assertGreaterThan(self::innerArea($straight) * $more, self::innerArea($wandering));
            self::assertGreaterThan($area, self::innerArea($wandering));
            $area = self::innerArea($wandering);
        }
    }

    /** Stanford's bunny (npm package of its points and triangles), about a metre large. */
    private static function bunny(): TriangleMesh
    {
        $mesh = Meshes::fromPackage('bunny');
        $scale = 1.0 / $mesh->size();
        [$x, $y, $z] = MassProperties::of($mesh)->centre;

        return Normals::computed($mesh->transformed($scale, Quaternion::IDENTITY, [-$scale * $x, -$scale * $y, -$scale * $z]));
    }

    /** The bunny is closed as it is; the teapot of the same kind is open. */
    public function testATeapotIsRefused(): void
    {
        self::assertTrue(Topology::of(self::bunny())->isWatertight());
        $this->expectException(BreakFailed::class);
        $this->expectExceptionMessageMatches('/watertight/');
        (new Breaker())->break(Meshes::fromPackage('teapot'), new CellularPattern(20, 1, 0.0));
    }

    /** @return list<float> */
    private static function volumes(Broken $broken): array
    {
        return array_map(static fn (Piece $piece): float => $piece->mass->volume, $broken->pieces);
    }

    private static function innerArea(Broken $broken): float
    {
        return 0.5 * array_sum(array_map(array_sum(...), $broken->shared));
    }
}
