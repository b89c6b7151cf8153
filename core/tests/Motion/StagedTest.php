<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\SmoothPath;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\Pipeline;

/** Staged motion: where it goes, and that it comes back. */
final class StagedTest extends TestCase
{
    /**
     * @param array<string, mixed> $staged
     * @param array<string, mixed> $prop
     *
     * @return array<int, Frame> by number
     */
    private static function frames(array $staged, array $prop = []): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 30, 'props' => [[
            'id' => 'a', 'name' => 'A', 'source' => ['box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['x' => 2.0], 'rotation' => ['y' => 90.0],
            'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 10]],
            ...$prop, 'motion' => ['mover' => 'staged', 'staged' => ['variety' => 0.0, 'ease' => 'linear', 'takes' => 10, ...$staged]],
        ]]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new ListedAssets([])))->frames($shot));
    }

    public function testItGoesTheWayThatIsSetInThePropsOwnAxes(): void
    {
        $frames = self::frames(['offset' => ['x' => 0.4], 'rotation' => ['z' => 540.0], 'scale' => 0.5]);
        foreach ([1 => 0.0, 10 => 0.0, 13 => 0.3, 15 => 0.5, 20 => 1.0, 30 => 1.0] as $number => $share) {
            $pose = array_map(floatval(...), $frames[$number]->of('a', Track::POSE));
            self::assertEqualsWithDelta([2.0, 0.0, -0.4 * $share], array_slice($pose, 0, 3), 1e-9, "frame {$number}: x of the prop lies along -z");
            $turn = Quaternion::multiply(Quaternion::fromDegrees(0.0, 90.0, 0.0), Quaternion::aboutAxis([0.0, 0.0, 1.0], $share * deg2rad(540.0)));
            self::assertEqualsWithDelta($turn, array_slice($pose, 3), 1e-9, 'one and a half turns, all the way round');
            self::assertEqualsWithDelta(1.0 - 0.5 * $share, $frames[$number]->of('a', Track::SCALE)[0], 1e-9);
            self::assertSame($share > 0.0 ? 1 : 0, $frames[$number]->released());
            self::assertSame($share > 0.0 && $number <= 20 ? 1 : 0, $frames[$number]->moving());
        }
    }

    public function testItFollowsItsWeightAboveTheThresholdThereAndBack(): void
    {
        $sweep = static fn (int $from, int $to): array => ['source' => 'sweep', 'mix' => 'subtract', 'sweep' => ['from' => $from, 'to' => $to, 'softness' => 1.0]];
        $frames = self::frames(['offset' => ['y' => 1.0]], ['weight' => ['stack' => [$sweep(2, 12), $sweep(16, 26)]], 'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.2]]]);
        foreach ($frames as $frame) {
            $weight = (float) $frame->of('a', Track::WEIGHT)[0];
            self::assertEqualsWithDelta(max(0.0, ($weight - 0.2) / 0.8), $frame->of('a', Track::POSE)[1], 1e-9, "frame {$frame->number}");
        }
        self::assertSame(1.0, $frames[14]->of('a', Track::WEIGHT)[0]);
        self::assertSame($frames[1]->of('a', Track::POSE), $frames[28]->of('a', Track::POSE), 'home to the bit');
    }

    public function testVarietyIsTheShareThatWasSetAndTheSeedsDoing(): void
    {
        $way = static function (float $variety, int $seed): array {
            $frames = self::frames(['offset' => ['y' => 1.0], 'variety' => $variety, 'seed' => $seed], ['rotation' => [], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 40]]]);
            [$from, $to] = [$frames[1]->of('a', Track::POSE), $frames[30]->of('a', Track::POSE)];
            $ways = [];
            for ($k = 1; $k < count($from); $k += 7) {
                $ways[] = (float) $to[$k] - (float) $from[$k];
            }

            return $ways;
        };
        $ways = $way(0.4, 1);
        self::assertGreaterThanOrEqual(0.6, min($ways));
        self::assertLessThanOrEqual(1.4, max($ways));
        self::assertGreaterThan(0.5, max($ways) - min($ways));
        self::assertNotEquals($ways, $way(0.4, 2));
        self::assertEqualsWithDelta(array_fill(0, 40, 1.0), $way(0.0, 1), 1e-9);
    }

    /** The demo closes: its last frame is its first. */
    public function testSignboardLoopCloses(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new ListedAssets(DemoShot::assets()));
        $frames = iterator_to_array($pipeline->frames(Shot::read(DemoShot::all()['Signboard loop'])));
        self::assertCount(48, $frames, 'two seconds');
        self::assertSame($frames[1]->poses(), $frames[48]->poses());
        self::assertSame(25, $frames[24]->released(), 'all of it is away in between');
    }

    /**
     * A staged platform goes up by a metre, with something above it.
     *
     * @param array<string, mixed> $above
     * @param array<string, mixed> $staged
     *
     * @return array<int, Frame> by number
     */
    private static function lift(array $above, array $staged = []): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 72, 'props' => [
            ['id' => 'lift', 'name' => 'Lift', 'source' => ['box' => ['width' => 1.0, 'height' => 0.2, 'depth' => 1.0, 'divisions' => 1]], 'position' => ['y' => 0.1], 'break' => ['cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 20]],
                'motion' => ['mover' => 'staged', 'staged' => ['takes' => 24, 'offset' => ['y' => 1.0], 'variety' => 0.0, ...$staged]]],
            ['id' => 'above', 'name' => 'Above', 'break' => ['pattern' => 'whole'], ...$above],
        ]]);

        return iterator_to_array((new Pipeline(new MemoryStore(), new ListedAssets([])))->frames($shot));
    }

    /** @return array<string, mixed> a block that falls */
    private static function block(): array
    {
        return ['source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['y' => 0.4], 'motion' => ['rigid' => ['before' => 'falls']]];
    }

    /** Hard pieces lie on staged ones and are carried by them; what carries them goes its way as if they were not there. */
    public function testHardPiecesMeetStagedOnes(): void
    {
        $frames = self::lift(self::block());
        self::assertEqualsWithDelta(0.3, $frames[19]->of('above', Track::POSE)[1], 0.002, 'it lies on them');
        foreach (range(20, 72) as $number) {
            $top = $frames[$number]->of('lift', Track::POSE)[1] - $frames[1]->of('lift', Track::POSE)[1] + 0.2;
            self::assertGreaterThan($top + 0.1 - 0.004, $frames[$number]->of('above', Track::POSE)[1], "frame {$number}");
        }
        self::assertEqualsWithDelta(1.3, $frames[72]->of('above', Track::POSE)[1], 0.002, 'it is carried up');
        self::assertEqualsWithDelta($frames[1]->of('lift', Track::POSE)[1] + 1.0, $frames[72]->of('lift', Track::POSE)[1], 1e-12);
        $through = self::lift(self::block(), ['felt' => false]);
        self::assertEqualsWithDelta(0.1, $through[72]->of('above', Track::POSE)[1], 0.002, 'on the floor, in the middle of what is not felt');
    }

    /** What shrinks to nothing lets what lay on it down. */
    public function testWhatShrinksAwayLetsDown(): void
    {
        $frames = self::lift(self::block(), ['offset' => ['y' => 0.0], 'scale' => 0.0]);
        self::assertEqualsWithDelta(0.3, $frames[19]->of('above', Track::POSE)[1], 0.002);
        self::assertEqualsWithDelta(0.1, $frames[72]->of('above', Track::POSE)[1], 0.01);
    }

    /** Cloth lies on staged pieces and is lifted by them. */
    #[Group('thorough')]
    public function testClothMeetsStagedPieces(): void
    {
        $sheet = ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 10]], 'position' => ['y' => 0.3], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['mover' => 'cloth']];
        $frames = self::lift($sheet);
        $heights = array_column(array_chunk($frames[72]->of('above', Track::VERTICES), 3), 1);
        self::assertGreaterThan(1.2, min($heights));
        self::assertLessThan(1.25, max($heights));
    }

    /** @return list<float> place of the piece */
    private static function at(Frame $frame): array
    {
        return array_map(floatval(...), array_slice($frame->of('a', Track::POSE), 0, 3));
    }

    public function testItComesHomeOrComesAndLeaves(): void
    {
        $plain = ['position' => [], 'rotation' => []];
        $from = self::frames(['course' => 'from', 'offset' => ['y' => 0.8], 'scale' => 0.0], $plain);
        $through = self::frames(['course' => 'through', 'offset' => ['y' => 0.8], 'scale' => 0.5], $plain);
        foreach ([1 => 0.0, 10 => 0.0, 12 => 0.2, 15 => 0.5, 18 => 0.8, 20 => 1.0, 30 => 1.0] as $number => $share) {
            self::assertEqualsWithDelta(0.8 * (1.0 - $share), self::at($from[$number])[1], 1e-9);
            self::assertEqualsWithDelta($share, $from[$number]->of('a', Track::SCALE)[0], 1e-9, 'out of nothing');
            self::assertEqualsWithDelta(0.8 * (1.0 - 2.0 * $share), self::at($through[$number])[1], 1e-9, 'and on to the opposite side');
            self::assertEqualsWithDelta(1.0 - 0.5 * abs(1.0 - 2.0 * $share), $through[$number]->of('a', Track::SCALE)[0], 1e-9, 'as large as it is at home only');
        }
    }

    /** A helix: r (cos t, sin t), and a rise that grows with the angle. */
    public function testItGoesRoundTheAxisAlongAHelix(): void
    {
        $moved = ['source' => ['box' => ['width' => 1.0, 'height' => 1.0, 'depth' => 1.0, 'divisions' => 1]], 'position' => [], 'rotation' => []];
        $frames = self::frames(['offset' => ['x' => 0.6, 'y' => 0.5], 'round' => 360.0], $moved);
        foreach ([10 => 0.0, 13 => 0.3, 15 => 0.5, 20 => 1.0] as $number => $share) {
            [$x, $y, $z] = self::at($frames[$number]);
            self::assertEqualsWithDelta([0.6 * $share * cos(2.0 * M_PI * $share), 0.5 * $share, -0.6 * $share * sin(2.0 * M_PI * $share)], [$x, $y, $z], 1e-9, "frame {$number}");
            $turn = array_map(floatval(...), array_slice($frames[$number]->of('a', Track::POSE), 3));
            self::assertEqualsWithDelta(Quaternion::aboutAxis([0.0, 1.0, 0.0], 2.0 * M_PI * $share), $turn, 1e-9, 'it faces the axis all the way');
        }
    }

    public function testItGoesAlongTheShotsAxesOrOffTheSurface(): void
    {
        $frames = self::frames(['offset' => ['x' => 0.4], 'axes' => 'shot']);
        self::assertEqualsWithDelta([2.4, 0.0, 0.0], self::at($frames[20]), 1e-9, 'though the prop is turned');
        $faces = self::frames(['normal' => 0.3], ['position' => [], 'rotation' => [], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 30, 'lift' => 0.001]]]);
        [$home, $gone] = [$faces[1]->of('a', Track::POSE), $faces[20]->of('a', Track::POSE)];
        for ($k = 1; 7 * $k < count($home); $k++) {
            $way = array_map(static fn (float|int $b, float|int $a): float => $b - $a, array_slice($gone, 7 * $k, 3), array_slice($home, 7 * $k, 3));
            self::assertEqualsWithDelta(0.3, sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2), 1e-9);
            self::assertEqualsWithDelta(0.3, max(array_map(abs(...), $way)), 0.02, 'straight off the side of the box that it lies on');
        }
    }

    public function testItTurnsAboutASideAsOnAHinge(): void
    {
        $frames = self::frames(['rotation' => ['z' => 90.0], 'about' => 'bottom', 'scale' => 0.5], ['position' => [], 'rotation' => []]);
        foreach ([15 => 0.5, 20 => 1.0] as $number => $share) {
            $pose = array_map(floatval(...), $frames[$number]->of('a', Track::POSE));
            $size = (float) $frames[$number]->of('a', Track::SCALE)[0];
            [$x, $y, $z] = Quaternion::carried([$pose[0], $pose[1], $pose[2]], [$pose[3], $pose[4], $pose[5], $pose[6]], [0.0, -0.5 * $size, 0.0]);
            self::assertEqualsWithDelta([0.0, -0.5, 0.0], [$x, $y, $z], 1e-9, 'the middle of its bottom stays');
            self::assertEqualsWithDelta(-0.5 + 0.5 * $size * cos($share * M_PI / 2.0), $pose[1], 1e-9);
        }
    }

    public function testItsPaceMayOvershoot(): void
    {
        $frames = self::frames(['offset' => ['y' => 1.0], 'ease' => 'overshoot', 'takes' => 18], ['position' => [], 'rotation' => []]);
        $heights = array_map(static fn (Frame $frame): float => self::at($frame)[1], $frames);
        // CSS Easing Level 1, cubic-bezier(0.34, 1.56, 0.64, 1): a tenth past the end on its way.
        self::assertEqualsWithDelta(1.1, max($heights), 0.01);
        self::assertEqualsWithDelta(1.0, $heights[30], 1e-9);
    }

    /** Along a line in the shot, however the prop is turned: as far as its length says, and from its end home when it comes. */
    public function testItGoesAlongALine(): void
    {
        $line = [['x' => 1.0, 'y' => 0.0, 'z' => 0.0], ['x' => 1.0, 'y' => 1.0, 'z' => 0.0], ['x' => 2.0, 'y' => 1.5, 'z' => 0.5]];
        $path = new SmoothPath(array_map(static fn (array $p): array => [$p['x'], $p['y'], $p['z']], $line));
        foreach (['to', 'from'] as $course) {
            $frames = self::frames(['line' => $line, 'course' => $course]);
            foreach ([10 => 0.0, 14 => 0.4, 20 => 1.0, 30 => 1.0] as $n => $share) {
                [$x, $y, $z] = $path->at(($course === 'to' ? $share : 1.0 - $share) * $path->length());
                self::assertEqualsWithDelta([2.0 + $x - 1.0, $y, $z], array_map(floatval(...), array_slice($frames[$n]->of('a', Track::POSE), 0, 3)), 1e-9, "{$course}, frame {$n}");
            }
        }
        self::assertEqualsWithDelta([2.0, 0.0, 0.0], array_map(floatval(...), array_slice(self::frames(['line' => array_slice($line, 0, 1)])[30]->of('a', Track::POSE), 0, 3)), 1e-9, 'one place is no line');
    }

    public function testItChangesItsSizeAlongEachAxis(): void
    {
        $frames = self::frames(['scale' => 2.0, 'scaleAxes' => ['x' => 0.25, 'y' => 0.0], 'about' => 'bottom']);
        foreach ([10 => 0.0, 15 => 0.5, 20 => 1.0] as $n => $share) {
            self::assertEqualsWithDelta([1.0 - 0.5 * $share, 1.0 - $share, 1.0 + $share], array_map(floatval(...), $frames[$n]->of('a', Track::SCALE)), 1e-9);
            // Its lower side stays where it is.
            self::assertEqualsWithDelta(-0.5, (float) $frames[$n]->of('a', Track::POSE)[1] - 0.5 * (1.0 - $share), 1e-9);
        }
    }
}
