<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Check\Checks;
use YardBreak\Core\Check\Finding;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cloth as an artist sets it: held somewhere, let go by something, in the way of something. */
final class ClothShotTest extends TestCase
{
    /**
     * @param array<string, mixed> $cloth settings of the fabric
     * @param array<string, mixed> $sail more of the prop
     * @param list<array<string, mixed>> $more props
     * @param array<string, mixed> $shot
     */
    private static function shot(array $cloth, array $sail, array $more = [], array $shot = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 24, ...$shot, 'props' => [[
            'id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => 12]], 'position' => ['y' => 1.5],
            'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], ...$sail, 'motion' => ['mover' => 'cloth', 'cloth' => $cloth],
        ], ...$more]]);
    }

    /** @return array<int, Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
    }

    /** @return list<array{float, float, float}> */
    private static function places(Frame $frame): array
    {
        /** @var list<array{float, float, float}> $places */
        $places = array_chunk($frame->of('sail', Track::VERTICES), 3);

        return $places;
    }

    public function testHeldByItsRimItSagsInTheMiddle(): void
    {
        $frames = self::frames(self::shot(['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]], 'stretch' => 5], []));
        $last = self::places($frames[24]);
        foreach ([0, 6, 12, 13 * 6, 13 * 12 + 6] as $rim) {
            self::assertEqualsWithDelta(self::places($frames[1])[$rim], $last[$rim], 1e-12, "vertex {$rim}");
        }
        self::assertLessThan(1.495, $last[13 * 6 + 6][1]);
        self::assertGreaterThan(1.2, $last[13 * 6 + 6][1]);
        self::assertSame(0, $frames[24]->released());
    }

    /** A sweep lets go of the rim bit by bit; what it has not reached stays where it is. */
    public function testASweepLetsGoBitByBit(): void
    {
        $frames = self::frames(self::shot(
            ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]]],
            ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 2, 'to' => 20, 'softness' => 0.1]]]], 'release' => ['trigger' => 'weight']],
        ));
        $released = array_map(static fn (Frame $frame): int => $frame->released(), $frames);
        self::assertSame(0, $released[1]);
        self::assertSame(48, $released[24], 'all of the rim');
        self::assertGreaterThan(5, count(array_unique($released)), 'bit by bit');
        $middle = self::places($frames[10]);
        self::assertLessThan(1.45, $middle[13 * 6][1], 'the side it came from has fallen');
        self::assertEqualsWithDelta(1.5, $middle[13 * 6 + 12][1], 1e-12, 'the far side is held');
    }

    /** A flat sheet that is dropped on its edge finds a side to fall to; it does not slide into itself. */
    /** Its folds fall flat if they go through each other; else they lie on each other, each as thick as its coarse mesh asks for. */
    #[TestWith([false, 0.3])]
    #[TestWith([true, 0.6])]
    #[Group('slow')]
    public function testASheetThatLandsOnItsEdgeBuckles(bool $feelsItself, float $high): void
    {
        $frames = self::frames(self::shot(['feelsItself' => $feelsItself], ['position' => ['y' => 0.6], 'rotation' => ['x' => 90], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]], [], ['frames' => 30]));
        $last = self::places($frames[30]);
        self::assertGreaterThan(0.05, max(array_column($last, 2)) - min(array_column($last, 2)));
        self::assertLessThan($high, max(array_column($last, 1)));
    }

    public function testPinnedAtTwoPlacesItHangsFromThem(): void
    {
        $pin = static fn (float $x): array => ['source' => 'zone', 'zone' => ['at' => ['x' => $x, 'y' => 0, 'z' => -0.5], 'within' => 0.05, 'softness' => 0], 'mix' => 'larger'];
        $frames = self::frames(self::shot(['hold' => [$pin(-0.5), $pin(0.5)], 'damping' => 3], [], [], ['frames' => 60]));
        $last = self::places($frames[60]);
        self::assertEqualsWithDelta([-0.5, 1.5, -0.5], $last[0], 1e-12);
        self::assertEqualsWithDelta([0.5, 1.5, -0.5], $last[12], 1e-12);
        self::assertLessThan(0.75, min(array_column($last, 1)));
        self::assertLessThan(1.5, $last[6][1], 'its upper edge sags between them');
    }

    public function testHeldPartsGoWhereTheirPropGoesAndStartWithItsSpeed(): void
    {
        $frames = self::frames(self::shot([], [
            'position' => ['x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 25, 'value' => 2]]], 'y' => 1.5], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 13]],
        ], [], ['forces' => []]));
        self::assertEqualsWithDelta(1.0 - 0.5, self::places($frames[13])[0][0], 1e-9, 'half way');
        self::assertEqualsWithDelta(self::places($frames[13])[0][0] + 8.0 / 12.0, self::places($frames[21])[0][0], 0.15, 'it goes on as it was let go, but for the air');
    }

    #[Group('slow')]
    public function testStruckItLetsGo(): void
    {
        $stone = ['id' => 'stone', 'name' => 'Stone', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 5]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'velocity' => ['y' => -2]]]];
        $frames = self::frames(self::shot(['damping' => 1], ['release' => ['trigger' => 'contact', 'contact' => ['speed' => 1]]], [$stone]));
        self::assertSame(0, $frames[3]->released());
        self::assertSame(169, $frames[24]->released());
        self::assertLessThan(1.45, self::places($frames[24])[0][1]);
        // Of 30 kg at 4 m/s.
        $frames = self::frames(self::shot(['damping' => 1], ['release' => ['trigger' => 'contact', 'contact' => ['speed' => 1, 'impulse' => 300]]], [$stone]));
        self::assertSame(0, $frames[24]->released());
        $hardest = max(array_map(static fn (Frame $frame): float => $frame->readout['impulse'], $frames));
        self::assertGreaterThan(50.0, $hardest);
        self::assertLessThan(300.0, $hardest, 'it says how hard');
    }

    /** Solid pieces fall as cloth and lie still. Their fresh faces were a few long triangles, and they tumbled about for ever. */
    #[Group('slow')]
    public function testPiecesOfABallComeToRest(): void
    {
        $ball = ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 6]], 'position' => ['y' => 0.4], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 3]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]];
        $frames = self::frames(self::shot([], $ball, [], ['frames' => 110, 'forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'Floor']]]));
        self::assertSame($frames[109]->of('sail', Track::VERTICES), $frames[110]->of('sail', Track::VERTICES));
        self::assertLessThan(0.45, max(array_column(self::places($frames[110]), 1)), 'on the floor');
    }

    /** A ball that falls into a held sheet is caught, and the sheet feels it: it lies lower than without. */
    #[Group('slow')]
    public function testAHeldSheetCatchesABall(): void
    {
        $held = ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]], 'mass' => 500, 'stretch' => 4, 'damping' => 1];
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.4, 'divisions' => 6]], 'position' => ['y' => 1.9], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 30]]];
        $without = self::places(self::frames(self::shot($held, [], [], ['frames' => 60]))[60]);
        $frames = self::frames(self::shot($held, [], [$ball], ['frames' => 60]));
        $with = self::places($frames[60]);
        $height = $frames[60]->of('ball', Track::POSE)[1];
        self::assertGreaterThan($with[13 * 6 + 6][1] + 0.19, $height, 'on the sheet, not through it');
        self::assertGreaterThan(1.2, $height);
        self::assertLessThan($without[13 * 6 + 6][1] - 0.02, $with[13 * 6 + 6][1]);
    }

    /** What is a hundred times as heavy as a held sheet, small beside its edges, or fast, is stopped by it all the same, stays on it and comes to rest to the bit. */
    #[Group('slow')]
    #[TestWith([3000, 0.2, 0.0])]
    #[TestWith([1000, 0.1, 5.0])]
    #[TestWith([300, 0.2, 30.0])]
    #[TestWith([1585, 0.16, 0.0])]
    public function testNothingComesThroughAHeldSheet(int $density, float $width, float $speed): void
    {
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => $width, 'divisions' => 6]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'motion' => ['rigid' => ['before' => 'falls', 'density' => $density, 'velocity' => ['y' => -$speed]]]];
        $gravity = ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'frames' => 80];
        $frames = self::frames(self::shot(['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]]], [], [$ball], $gravity));
        foreach ($frames as $n => $frame) {
            [$x, $y, $z] = $frame->of('ball', Track::POSE);
            self::assertLessThan(0.4, max(abs($x), abs($z)), "frame {$n}");
            self::assertGreaterThan(1.4, $y, "frame {$n}");
        }
        self::assertSame($frames[70]->of('ball', Track::POSE), $frames[80]->of('ball', Track::POSE));
    }

    /** Lifted at three metres a second a sheet takes what lies on it along, and catches it again. */
    #[Group('slow')]
    public function testAHeldSheetThatIsLiftedTakesABallAlong(): void
    {
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 6]], 'position' => ['y' => 1.7], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 300]]];
        $lifted = ['y' => ['keys' => [['frame' => 8, 'value' => 1.5, 'ease' => 'linear'], ['frame' => 20, 'value' => 3.0, 'ease' => 'linear'], ['frame' => 21, 'value' => 3.0]]]];
        $frames = self::frames(self::shot(['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]]], ['position' => $lifted], [$ball], ['frames' => 44]));
        foreach ($frames as $n => $frame) {
            $rim = self::places($frame)[0][1];
            self::assertGreaterThan($rim - 0.1, $frame->of('ball', Track::POSE)[1], "frame {$n}");
        }
        self::assertLessThan(3.15, $frames[44]->of('ball', Track::POSE)[1]);
    }

    /** A curtain is pushed aside by what weighs a hundred times as much, and hardly slows it. */
    #[Group('slow')]
    public function testWhatHangsLooseIsPushedAside(): void
    {
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.4, 'divisions' => 6]], 'position' => ['y' => 1.2, 'z' => -0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 600, 'velocity' => ['z' => 3]]]];
        $frames = self::frames(self::shot(['hold' => [['source' => 'rim', 'rim' => ['side' => 'low-z', 'within' => 0.001, 'softness' => 0]]]], ['rotation' => ['x' => 90]], [$ball], ['frames' => 20]));
        self::assertGreaterThan(0.15, max(array_column(self::places($frames[12]), 2)), 'it meets it');
        $way = $frames[10]->of('ball', Track::POSE)[2] - $frames[9]->of('ball', Track::POSE)[2];
        self::assertEqualsWithDelta(3.0 / 24.0, $way, 0.1 * 3.0 / 24.0);
    }

    /** Cloth that falls on rubble about as coarse as itself trembles on it, but is not thrown about, and comes to rest. */
    #[Group('slow')]
    #[Group('long')]
    public function testOverRubbleItStaysWhereItFell(): void
    {
        $frames = getenv('YARD_BREAK_LONG') ? 84 : 32;
        $block = ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.4], 'break' => ['cellular' => ['pieces' => 30, 'seed' => 4]], 'motion' => ['rigid' => ['before' => 'falls']]];
        $gravity = ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'frames' => $frames];
        $bake = self::frames(self::shot([], ['position' => ['y' => 0.8], 'release' => ['trigger' => 'frame']], [$block], $gravity));
        for ($n = 20; $n <= $frames; $n++) {
            $most = max(array_map(static fn (array $is, array $was): float => abs($is[1] - $was[1]), self::places($bake[$n]), self::places($bake[$n - 1])));
            self::assertLessThan(0.15, $most, "frame {$n}");
            self::assertLessThan(0.4, max(array_column(self::places($bake[$n]), 1)), "frame {$n}");
            self::assertGreaterThan(-1e-6, min(array_column(self::places($bake[$n]), 1)), "frame {$n}: the floor");
        }
        if ($frames > 32) {
            self::assertSame($bake[$frames - 1]->of('sail', Track::VERTICES), $bake[$frames]->of('sail', Track::VERTICES));
        }
    }

    /** A block that bursts on it presses it onto the floor between thirty shards: where it finds no way out of them it stays. */
    #[TestWith([20, 76])]
    #[TestWith([40, 60])]
    #[TestWith([60, 60])]
    #[Group('long')]
    public function testShardsThatBurstOnItLeaveItWhereItLies(int $divisions, int $last): void
    {
        $block = ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.4], 'break' => ['cellular' => ['pieces' => 30, 'seed' => 3]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]], 'motion' => ['rigid' => ['density' => 2400]]];
        $gravity = ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'frames' => $last];
        $frames = self::frames(self::shot([], ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => $divisions]], 'position' => ['y' => 0.05], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]], [$block], $gravity));
        for ($n = 10; $n <= $last; $n++) {
            self::assertLessThan(0.06, max(array_column(self::places($frames[$n]), 1)), "frame {$n}");
            self::assertGreaterThan(-1e-6, min(array_column(self::places($frames[$n]), 1)), "frame {$n}: the floor");
        }
        self::assertSame($frames[$last - 1]->of('sail', Track::VERTICES), $frames[$last]->of('sail', Track::VERTICES));
    }

    /** What falls on cloth that lies on a floor lies on it then: it has no room to be pushed to, and is not thrown up. */
    #[Group('slow')]
    public function testWhatFallsOnClothOnAFloorLiesThere(): void
    {
        $block = ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['y' => 0.4], 'break' => ['cellular' => ['pieces' => 6, 'seed' => 3]], 'release' => ['trigger' => 'frame']];
        $gravity = ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']], 'planes' => [['id' => 'f', 'name' => 'Floor']], 'frames' => 40];
        $frames = self::frames(self::shot([], ['position' => ['y' => 0.05], 'release' => ['trigger' => 'frame']], [$block], $gravity));
        foreach ([12, 20, 40] as $n) {
            self::assertLessThan(0.02, max(array_column(self::places($frames[$n]), 1)), "frame {$n}");
        }
        self::assertLessThan(0.12, min(array_column(array_chunk($frames[40]->of('block', Track::POSE), 7), 1)));
    }

    public function testWindFillsIt(): void
    {
        $wind = ['forces' => [['id' => 'w', 'name' => 'W', 'force' => 'wind', 'wind' => ['velocity' => ['x' => 0, 'y' => 6, 'z' => 0], 'turbulence' => 0]]]];
        $hold = ['hold' => [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0]]], 'stretch' => 4];
        self::assertGreaterThan(1.53, self::places(self::frames(self::shot($hold, [], [], $wind))[24])[13 * 6 + 6][1]);
        self::assertEqualsWithDelta(1.5, self::places(self::frames(self::shot([...$hold, 'drag' => 0], [], [], $wind))[24])[13 * 6 + 6][1], 1e-9, 'without drag it feels no wind');
    }

    /** Every setting of the fabric changes what is seen, and another hash of the motion. */
    #[Group('thorough')]
    public function testEverySettingOfTheFabricIsSeen(): void
    {
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.4, 'divisions' => 5]], 'position' => ['y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']];
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $see = static function (array $cloth) use ($ball, $pipeline): array {
            $shot = self::shot($cloth, ['rotation' => ['z' => 25], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]]], [$ball], ['frames' => 15]);

            return [$pipeline->motionHash($shot), serialize(iterator_to_array($pipeline->frames($shot))[15]->of('sail', Track::VERTICES))];
        };
        $plain = $see([]);
        foreach (['mass' => 50, 'stretch' => 3, 'shear' => 0.9, 'overhang' => 0.3, 'damping' => 3, 'drag' => 2, 'friction' => 0.1, 'gap' => 0.01] as $name => $value) {
            $other = $see([$name => $value]);
            self::assertNotSame($plain[0], $other[0], "{$name}: hash");
            self::assertNotSame($plain[1], $other[1], "{$name}: frames");
        }
        self::assertSame($plain, $see([]));
    }

    #[Group('slow')]
    public function testWhatRunsAwayIsSaidWithItsFrame(): void
    {
        $shot = self::shot(['damping' => 0, 'drag' => 0], ['release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]], [], ['frames' => 60, 'planes' => [], 'forces' => [['id' => 'g', 'name' => 'G', 'gravity' => ['strength' => 100.0]]]]);
        self::assertCount(60, self::frames($shot), 'falling fast is no running away');
        $this->expectException(RanAway::class);
        $this->expectExceptionMessageMatches('/^Sail ran away at frame \d+: /');
        self::frames(self::shot(['damping' => 0, 'drag' => 0], ['position' => ['y' => 1.5, 'x' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 2, 'value' => 10000]]]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]]], [], ['fps' => 240, 'frames' => 100]));
    }

    #[Group('slow')]
    public function testChecksNameWhatKeepsClothFromFolding(): void
    {
        $say = static fn (Shot $shot): array => array_map(static fn (Finding $finding): string => $finding->text, Checks::of($shot, new Pipeline(new MemoryStore(), new NoAssets())));
        self::assertSame([], $say(self::shot(['hold' => [['source' => 'rim']]], [])));
        self::assertStringContainsString('floats', implode(' ', $say(self::shot(['gap' => 0.3, 'hold' => [['source' => 'rim']]], []))));
        self::assertStringContainsString('too coarse to fold', implode(' ', $say(self::shot([], ['source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 4]], 'release' => ['trigger' => 'frame']]))));
        self::assertStringContainsString('closed and has none', implode(' ', $say(self::shot(['hold' => [['source' => 'rim']]], ['source' => ['kind' => 'ball', 'ball' => ['divisions' => 12]]]))));
        self::assertStringContainsString('no inside', implode(' ', $say(self::shot(['keepsVolume' => true, 'hold' => [['source' => 'rim']]], []))));
        self::assertStringNotContainsString('no inside', implode(' ', $say(self::shot(['keepsVolume' => true], ['source' => ['kind' => 'ball', 'ball' => ['divisions' => 12]]]))));
        // Pieces of 14 cm: edges of 8 cm are too long for them, of 3 cm not; nor beside it, or as one.
        $block = static fn (float $x, int $pieces): array => ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 1]], 'position' => ['x' => $x, 'y' => 2.0], 'break' => ['cellular' => ['pieces' => $pieces]], 'release' => ['trigger' => 'frame']];
        $rim = ['hold' => [['source' => 'rim']]];
        $coarse = Checks::of(self::shot($rim, [], [$block(0.0, 10)]), new Pipeline(new MemoryStore(), new NoAssets()));
        self::assertStringContainsString('some 0.139 m across', $coarse[0]->text);
        self::assertSame([], $say(self::shot($rim, ['prepare' => ['even' => $coarse[0]->remedy['value'] ?? 0]], [$block(0.0, 10)])), 'the remedy helps');
        self::assertSame([], $say(self::shot($rim, ['source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 32]]], [$block(0.0, 10)])));
        self::assertSame([], $say(self::shot($rim, [], [$block(1.0, 10)])));
        self::assertCount(1, $say(self::shot($rim, ['source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 4]]], [$block(0.0, 10)])), 'too coarse to fold is said alone');
        self::assertSame([], $say(self::shot($rim, [], [['break' => ['pattern' => 'whole']] + $block(0.0, 10)])));
        $open = Checks::of(self::shot(['hold' => [['source' => 'rim']]], ['break' => ['pattern' => 'cellular']]), new Pipeline(new MemoryStore(), new NoAssets()))[0];
        self::assertSame(['stop', 'Keep it whole', ['pattern' => 'whole']], [$open->severity, $open->remedy['label'] ?? '', $open->remedy['value'] ?? null]);
        self::assertStringContainsString('Nothing will move', implode(' ', $say(self::shot([], []))));
    }
}
