<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Cloth\ClothTuning;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\RestShape;
use YardBreak\Core\Motion\Cloth\SelfContact;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Tangles;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Cloth that lies on itself. */
final class SelfContactTest extends TestCase
{
    private const EDGE = 0.1;

    /** Vertices of the folded sheet: one that hangs through, and the one beneath it. */
    private const HANGS = 17 * 12 + 8;

    private const LOWER = 17 * 4 + 8;

    /** A sheet of so many squares a side, each 10 cm. */
    private static function weave(int $squares, float $friction = 0.0): Weave
    {
        $x = $y = $z = $triangles = [];
        for ($j = 0; $j <= $squares; $j++) {
            for ($i = 0; $i <= $squares; $i++) {
                [$x[], $y[], $z[]] = [$i * self::EDGE, 0.0, $j * self::EDGE];
                if ($i < $squares && $j < $squares) {
                    $k = $j * ($squares + 1) + $i;
                    array_push($triangles, $k, $k + $squares + 1, $k + 1, $k + 1, $k + $squares + 1, $k + $squares + 2);
                }
            }
        }

        return Weave::of(new TriangleMesh($x, $y, $z, $triangles), new Fabric(0.2, 1e4, 0.3, 1e-5, 0.5, 0.0, $friction, 0.004));
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     */
    private static function crossings(array $x, array $y, array $z, array $triangles): int
    {
        return Crossings::within(array_map(static fn (float $x, float $y, float $z): array => [$x, $y, $z], array_values($x), array_values($y), array_values($z)), $triangles);
    }

    /** @return array{list<float>, list<float>, list<float>} a sheet of 16 squares folded over itself, of whose upper half a dip goes through the lower one */
    private static function hangingThrough(): array
    {
        $x = $y = $z = [];
        for ($j = 0; $j <= 16; $j++) {
            for ($i = 0; $i <= 16; $i++) {
                $upper = $j > 8;
                $dip = $upper ? 0.3 * exp(-(($i - 8) ** 2 + ($j - 12) ** 2) / 1.5) : 0.0;
                [$x[], $y[], $z[]] = [$i * self::EDGE, $upper ? 0.1 - $dip : 0.0, ($upper ? 16.05 - $j : $j) * self::EDGE];
            }
        }

        return [$x, $y, $z];
    }

    /** All pairs that overlap are pushed apart, none else: by going through every pair. */
    public function testItFindsThePairsThatOverlap(): void
    {
        $weave = self::weave(9);
        $random = RandomStream::named(5, 'crumpled');
        foreach ([1.0, 0.4, 0.15] as $size) {
            $x = $y = $z = [];
            for ($i = 0; $i < $weave->count(); $i++) {
                [$x[], $y[], $z[]] = [$random->between(0.0, $size), $random->between(0.0, $size), $random->between(0.0, $size)];
            }
            $contact = new SelfContact($weave, 0.0);
            $contact->watch($x, $y, $z, $x, $y, $z);
            $w = array_fill(0, $weave->count(), 1.0);
            $expected = self::touchedByBruteForce($weave, $x, $y, $z);
            [$u, $v, $o, $p, $q, $r] = [$x, $y, $z, $x, $y, $z];
            // One sweep moves each that overlaps, and those that it then overlaps with: never one that is far from all.
            $contact->resolve($u, $v, $o, $p, $q, $r, $w, true);
            foreach ($expected as $i => $touched) {
                $moved = $u[$i] !== $x[$i] || $v[$i] !== $y[$i] || $o[$i] !== $z[$i];
                self::assertTrue(! $touched || $moved, "vertex {$i} in {$size} m");
            }
            self::assertNotContains(NAN, $u);
            for ($n = 0; $n < 400; $n++) {
                $contact->watch($u, $v, $o, $u, $v, $o);
                $contact->resolve($u, $v, $o, $p, $q, $r, $w, false);
            }
            self::assertNotContains(true, array_map(static fn (float $deep): bool => $deep > 0.02 * self::EDGE, self::depths($weave, $u, $v, $o)), 'pushed apart, in the end');
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return list<bool>
     */
    private static function touchedByBruteForce(Weave $weave, array $x, array $y, array $z): array
    {
        return array_map(static fn (float $deep): bool => $deep > 1e-9, self::depths($weave, $x, $y, $z));
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return list<float> how deep each vertex's ball is in another, m
     */
    private static function depths(Weave $weave, array $x, array $y, array $z): array
    {
        $deep = array_fill(0, count($x), 0.0);
        for ($a = 0; $a < count($x); $a++) {
            for ($b = $a + 1; $b < count($x); $b++) {
                $rest = sqrt(($weave->x[$a] - $weave->x[$b]) ** 2 + ($weave->z[$a] - $weave->z[$b]) ** 2);
                $apart = min(ClothTuning::BALL * self::EDGE, $rest < ClothTuning::BALL * self::EDGE ? ClothTuning::CLOSE * $rest : INF);
                $far = sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2);
                $deep[$a] = max($deep[$a], $apart - $far);
                $deep[$b] = max($deep[$b], $apart - $far);
            }
        }

        return array_values($deep);
    }

    /**
     * @param float $size of the sheet, as a share of how it was woven
     *
     * @return bool whether anything of it is pushed away from the rest
     */
    private static function pushes(SelfContact $contact, Weave $weave, float $size): bool
    {
        [$x, $y, $z] = $is = array_map(static fn (array $along): array => array_map(static fn (float $at): float => $size * $at, $along), [$weave->x, $weave->y, $weave->z]);
        [$px, $py, $pz] = $is;
        $contact->watch($x, $y, $z, $x, $y, $z);
        $contact->resolve($x, $y, $z, $px, $py, $pz, array_fill(0, $weave->count(), 1.0), true);

        return [$x, $y, $z] !== $is;
    }

    /** What is soft may be pressed together, and comes no nearer to itself for it: all of it, not only what lies closer than its balls. */
    public function testWhatIsSoftMayBePressedTogether(): void
    {
        $weave = self::weave(9);
        self::assertTrue(self::pushes(new SelfContact($weave, 0.0, 0.35), $weave, 0.7), 'neighbours lie a little farther apart than their balls');
        self::assertFalse(self::pushes(new SelfContact($weave, 0.0, 0.35, 1.4), $weave, 0.7));
        self::assertTrue(self::pushes(new SelfContact($weave, 0.0, 0.35, 1.4), $weave, 0.3));
    }

    /** Hundreds of copies in one place cannot be kept apart; before memory ends it is said of what, when and what to do. */
    #[Group('slow')]
    public function testWhatIsAllInOnePlaceIsRefusedInWords(): void
    {
        foreach (['cloth' => [['kind' => 'sheet', 'sheet' => ['divisions' => 2]], []], 'soft' => [['kind' => 'box', 'box' => ['divisions' => 1]], ['fineness' => 2, 'feelsItself' => true]]] as $mover => [$source, $settings]) {
            $frames = static fn (int $copies): iterable => (new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => 2, 'props' => [['id' => 'a', 'name' => 'Leaves', 'source' => $source, 'position' => ['y' => 2.0],
                'break' => ['pattern' => 'copies', 'copies' => ['count' => $copies]], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => $mover, $mover => $settings]]]]));
            self::assertCount(2, iterator_to_array($frames(4)), $mover);
            try {
                iterator_to_array($frames(400));
                self::fail("{$mover} is not refused");
            } catch (RanAway $error) {
                self::assertMatchesRegularExpression('/^Leaves cannot be kept apart from itself at frame 1: .* fewer/', $error->getMessage());
            }
        }
    }

    /** Drawn into another shape it lies as near to itself as it does there. */
    public function testItLiesAsInTheOtherShape(): void
    {
        $weave = self::weave(9);
        $contact = new SelfContact($weave, 0.0);
        self::assertFalse(self::pushes($contact, $weave, 1.0));
        self::assertTrue(self::pushes($contact, $weave, 0.5));
        $half = static fn (array $along): array => array_map(static fn (float $at): float => 0.5 * $at, $along);
        $contact->lieAs(RestShape::drawn($weave, $half($weave->x), $half($weave->y), $half($weave->z)));
        self::assertFalse(self::pushes($contact, $weave, 0.5));
        self::assertTrue(self::pushes($contact, $weave, 0.25));
    }

    /** Two that come towards each other stop; the push is no speed of its own; momentum stays whatever their masses. */
    public function testAMeetingKeepsMomentumAndMakesNoSpeed(): void
    {
        $weave = self::weave(6);
        [$x, $y, $z] = [$weave->x, $weave->y, $weave->z];
        // A corner is folded over to lie above the far side, and comes down.
        $far = 24;
        [$x[0], $y[0], $z[0]] = [$x[$far], 0.08, $z[$far]];
        foreach ([1.0, 3.0] as $mass) {
            $contact = new SelfContact($weave, 0.0);
            [$u, $v, $o, $p, $q, $r] = [$x, $y, $z, $x, $y, $z];
            $q[0] = $v[0] + 0.01;
            $w = array_fill(0, $weave->count(), 1.0);
            $w[0] = 1.0 / $mass;
            $contact->watch($u, $v, $o, $u, $v, $o);
            $contact->resolve($u, $v, $o, $p, $q, $r, $w, true);
            $momentum = 0.0;
            foreach ($v as $i => $now) {
                $momentum += ($now - $q[$i]) / $w[$i];
            }
            self::assertEqualsWithDelta(-0.01 * $mass, $momentum, 1e-12);
            self::assertGreaterThan(-0.01, $v[0] - $q[0], 'slower');
            self::assertLessThanOrEqual(1e-12, $v[0] - $q[0], 'but not back');
            self::assertGreaterThan($y[0], $v[0]);
        }
    }

    /** Coulomb: of the way along, no more than the friction times the push is taken. */
    public function testItRubs(): void
    {
        foreach ([[0.0, 0.004, 0.004], [0.5, 0.004, 0.0], [0.2, 0.02, 0.02 - 2.0 * 0.5 * 0.2 * 0.01]] as [$friction, $along, $left]) {
            $weave = self::weave(6);
            [$x, $y, $z] = [$weave->x, $weave->y, $weave->z];
            [$x[0], $y[0], $z[0]] = [$x[24], ClothTuning::BALL * self::EDGE - 0.01, $z[24]];
            [$p, $q, $r] = [$x, $y, $z];
            $p[0] -= $along;
            $w = array_fill(0, $weave->count(), 0.0);
            $w[0] = $w[24] = 1.0;
            $contact = new SelfContact($weave, $friction);
            $contact->watch($x, $y, $z, $x, $y, $z);
            $contact->resolve($x, $y, $z, $p, $q, $r, $w, true);
            self::assertEqualsWithDelta($left, ($x[0] - $p[0]) - ($x[24] - $p[24]), 1e-9, "friction {$friction}");
        }
    }

    public function testPairsComeInTheSameOrderAgain(): void
    {
        $weave = self::weave(8);
        $random = RandomStream::named(7, 'crumpled');
        $places = array_map(static fn (): array => array_map(static fn (): float => $random->between(0.0, 0.4), $weave->x), [0, 1, 2]);
        $contact = new SelfContact($weave, 0.3);
        $contact->watch(...$places, ...$places);
        $again = new SelfContact($weave, 0.3);
        $again->restore(new State($contact->save()));
        $w = array_fill(0, $weave->count(), 1.0);
        $after = static function (SelfContact $of) use ($places, $w): array {
            [$x, $y, $z] = $places;
            [$p, $q, $r] = $places;
            $of->resolve($x, $y, $z, $p, $q, $r, $w, true);

            return [$x, $y, $z, $p, $q, $r];
        };
        self::assertSame($after($contact), $after($again));
        // Grown, it lists them anew where it is then, and so does one that is read back.
        $contact->grow(array_fill(0, $weave->count(), 1.1));
        self::assertSame([], $contact->save()['x']);
    }

    /** A sheet over another whose middle hangs through it: drawn back over some frames, and what is let be meanwhile is the same after it is read back. */
    public function testWhatHangsThroughIsDrawnBack(): void
    {
        $weave = self::weave(16);
        [$x, $y, $z] = self::hangingThrough();
        $triangles = $weave->triangles;
        self::assertGreaterThan(5, self::crossings($x, $y, $z, $triangles));
        [$p, $q, $r] = [$x, $y, $z];
        $w = array_fill(0, $weave->count(), 1.0);
        $contact = new SelfContact($weave, 0.0);
        $contact->watch($x, $y, $z, $x, $y, $z);
        $contact->untangle($x, $y, $z, $p, $q, $r, $w);
        self::assertNotEmpty($contact->save()['let'], 'not all of it is out yet');
        $again = new SelfContact($weave, 0.0);
        $again->restore(new State($contact->save()));
        [$u, $v, $o, $d, $e, $f] = [$x, $y, $z, $p, $q, $r];
        $again->resolve($u, $v, $o, $d, $e, $f, $w, true);
        $contact->resolve($x, $y, $z, $p, $q, $r, $w, true);
        self::assertSame([$x, $y, $z, $p], [$u, $v, $o, $d]);
        for ($step = 0; $step < 20 && self::crossings($x, $y, $z, $triangles) > 0; $step++) {
            $contact->untangle($x, $y, $z, $p, $q, $r, $w);
            $contact->resolve($x, $y, $z, $p, $q, $r, $w, true);
        }
        self::assertSame(0, self::crossings($x, $y, $z, $triangles));
        self::assertGreaterThan($y[self::LOWER], $y[self::HANGS], 'back on its own side');
        self::assertEqualsWithDelta([$x, $y, $z], [$p, $q, $r], 1e-12, 'without a speed');
    }

    /** Triangles whose boxes are apart are left out, and all that pierces is found all the same. */
    public function testWhatPiercesIsNeverLeftOut(): void
    {
        $random = RandomStream::named(4, 'pierced');
        $left = $found = 0;
        for ($round = 0; $round < 20; $round++) {
            $x = $y = $z = $triangles = $around = [];
            for ($t = 0; $t < 40; $t++) {
                $middle = [$random->between(-1.0, 1.0), $random->between(-1.0, 1.0), $random->between(-1.0, 1.0)];
                for ($c = 0; $c < 3; $c++) {
                    [$x[], $y[], $z[]] = [$middle[0] + $random->between(-0.4, 0.4), $middle[1] + $random->between(-0.4, 0.4), $middle[2] + $random->between(-0.4, 0.4)];
                    $triangles[] = 3 * $t + $c;
                    $around[] = [3 * $t];
                }
            }
            $pairs = $all = [];
            for ($s = 0; $s < 40; $s++) {
                for ($t = $s + 1; $t < 40; $t++) {
                    $pairs[] = [3 * $s, 3 * $t];
                    $all[] = 3 * $s * 120 + 3 * $t;
                }
            }
            $facing = Tangles::facing($pairs, $x, $y, $z, $triangles, $around);
            $left += count($all) - count($facing);
            $pierced = Tangles::pierced($all, $x, $y, $z, $triangles);
            $found += count($pierced);
            self::assertSame($pierced, Tangles::pierced($facing, $x, $y, $z, $triangles));
        }
        self::assertGreaterThan(10_000, $left);
        self::assertGreaterThan(200, $found);
    }

    /** By moving it a little: the line in which both cross gets shorter as fast as the ways out say, and no way shortens it faster than along them. */
    public function testTheWayOutIsTheSteepestOne(): void
    {
        // A tent of four faces whose tip goes through one large triangle.
        $random = RandomStream::named(3, 'tents');
        for ($k = 0; $k < 20; $k++) {
            $at = static fn (float $x, float $y, float $z): array => [$x + $random->between(-0.1, 0.1), $y + $random->between(-0.05, 0.05), $z + $random->between(-0.1, 0.1)];
            $places = [[-9.0, 0.0, -9.0], [9.0, 0.0, -9.0], [0.0, 0.0, 12.0], $at(0.0, 0.3, 0.0), $at(0.5, -0.5, 0.0), $at(0.0, -0.5, 0.5), $at(-0.5, -0.5, 0.0), $at(0.0, -0.5, -0.5)];
            $triangles = [0, 1, 2, 3, 4, 5, 3, 5, 6, 3, 6, 7, 3, 7, 4];
            $around = array_fill(0, 8, []);
            foreach ($triangles as $c => $v) {
                $around[$v][] = $c - $c % 3;
            }
            [$x, $y, $z] = array_map(static fn (int $axis): array => array_column($places, $axis), [0, 1, 2]);
            $ways = Tangles::waysOut(Tangles::facing([[0, 3]], $x, $y, $z, $triangles, $around), $x, $y, $z, $triangles, $around);
            // All of the tent moves as one: the sum of what its corners are told, the tip's share being cut to 1, points the way of the others'.
            $tip = $ways[3];
            self::assertLessThan(0.0, $tip[1], 'down, where it came from');
            self::assertGreaterThan(0.0, $ways[0][1], 'and the triangle up');
            self::assertEqualsWithDelta(1.0, sqrt($tip[0] ** 2 + $tip[1] ** 2 + $tip[2] ** 2), 1e-9);
            $length = static fn (array $by): float => self::crossed(array_map(static fn (int $v, array $place): array => $v < 3 ? $place : [$place[0] + $by[0], $place[1] + $by[1], $place[2] + $by[2]], array_keys($places), $places));
            $step = 1e-6;
            $slope = static fn (array $way): float => ($length(array_map(static fn (float $part): float => $step * $part, $way)) - $length(array_map(static fn (float $part): float => -$step * $part, $way))) / (2.0 * $step);
            $steepest = [$slope([1.0, 0.0, 0.0]), $slope([0.0, 1.0, 0.0]), $slope([0.0, 0.0, 1.0])];
            $norm = sqrt($steepest[0] ** 2 + $steepest[1] ** 2 + $steepest[2] ** 2);
            foreach ([0, 1, 2] as $axis) {
                self::assertEqualsWithDelta(-$steepest[$axis] / $norm, $tip[$axis], 1e-5, "tent {$k}, axis {$axis}");
            }
        }
    }

    /**
     * @param list<array{float, float, float}> $places a triangle in the plane y = 0, then a tip and the four corners around it
     *
     * @return float length of the line in which the tent crosses the plane
     */
    private static function crossed(array $places): float
    {
        $through = [];
        foreach ([4, 5, 6, 7] as $v) {
            $share = $places[3][1] / ($places[3][1] - $places[$v][1]);
            $through[] = [$places[3][0] + $share * ($places[$v][0] - $places[3][0]), $places[3][2] + $share * ($places[$v][2] - $places[3][2])];
        }
        $length = 0.0;
        foreach ($through as $k => [$x, $z]) {
            $length += hypot($x - $through[($k + 1) % 4][0], $z - $through[($k + 1) % 4][1]);
        }

        return $length;
    }

    /** Crumpled at random, faces of a fold go through each other though no vertices have come near: that is found and drawn back only where it is looked for. */
    #[Group('slow')]
    public function testASharpFoldThroughItselfIsDrawnBack(): void
    {
        $weave = self::weave(6);
        $left = [0, 0];
        for ($seed = 1; $seed <= 60; $seed++) {
            $random = RandomStream::named($seed, 'fold');
            $x = $y = $z = [];
            foreach ($weave->x as $v => $at) {
                $x[] = 1.15 * $at + $random->between(-0.06, 0.06);
                $y[] = $random->between(-0.09, 0.09);
                $z[] = 1.15 * $weave->z[$v] + $random->between(-0.06, 0.06);
            }
            foreach ([false, true] as $folds) {
                [$a, $b, $c, $p, $q, $r] = [$x, $y, $z, $x, $y, $z];
                $contact = new SelfContact($weave, 0.0);
                $contact->watch($a, $b, $c, $a, $b, $c);
                $contact->untangle($a, $b, $c, $p, $q, $r, array_fill(0, $weave->count(), 1.0), folds: $folds);
                $left[(int) $folds] += self::crossings($a, $b, $c, $weave->triangles);
                self::assertSame([$a, $b, $c], [$p, $q, $r], 'without a change of speed');
            }
        }
        self::assertGreaterThan(3, $left[0]);
        self::assertSame(0, $left[1]);
    }

    /** Dropped on its edge a sheet falls into folds. Without the contact thousands of its triangles pass through each other; with it none does. */
    #[Group('slow')]
    public function testFoldsLieOnEachOther(): void
    {
        $counts = [];
        foreach ([false, true] as $feels) {
            $shot = Shot::read(['version' => 2, 'frames' => 40, 'props' => [[
                'id' => 'cloth', 'name' => 'Cloth', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 30]], 'position' => ['y' => 0.9], 'rotation' => ['x' => 80, 'z' => 5], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth', 'cloth' => ['feelsItself' => $feels]],
            ]]]);
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            $triangles = $pipeline->broken($shot->props[0])->pieces->mesh(0)->triangles;
            foreach ($pipeline->frames($shot) as $number => $frame) {
                if ($number % 10 === 0) {
                    /** @var list<array{float, float, float}> $places */
                    $places = array_chunk($frame->of('cloth', Track::VERTICES), 3);
                    $counts[(int) $feels][] = Crossings::within($places, array_values($triangles));
                }
            }
        }
        self::assertGreaterThan(2000, max($counts[0]));
        self::assertSame([0, 0, 0, 0], $counts[1]);
    }
}
