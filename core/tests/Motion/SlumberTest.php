<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Connected;
use YardBreak\Core\Motion\Surface\Settling;
use YardBreak\Core\Motion\Surface\Slumber;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\MovedThing;

/** What bends and keeps to its place comes to rest, and is woken by what matters. */
final class SlumberTest extends TestCase
{
    /** Nodes along a side of a sheet, 10 mm apart. */
    private const SIDE = 12;

    /** Frames a second. */
    private const FPS = 24.0;

    /** m/s; within 7.5 mm of a place it keeps to it. */
    private const SPEED = 0.05;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} */
    private array $places;

    /** Two sheets side by side, so far apart; how far they may tremble. */
    private function sheets(float $apart = 1.0, float $trembles = 0.0): Slumber
    {
        [$x, $y, $z, $first, $other] = [[], [], [], [0], []];
        foreach ([0, 1] as $sheet) {
            for ($i = 0; $i < self::SIDE ** 2; $i++) {
                $x[] = 0.01 * ($i % self::SIDE) + $sheet * (0.01 * self::SIDE + $apart);
                $y[] = 0.0;
                $z[] = 0.01 * intdiv($i, self::SIDE);
                $n = $sheet * self::SIDE ** 2 + $i;
                array_push($other, ...($i % self::SIDE < self::SIDE - 1 ? [$n + 1] : []), ...($i < self::SIDE * (self::SIDE - 1) ? [$n + self::SIDE] : []));
                $first[] = count($other);
            }
        }
        $this->places = [$x, $y, $z];
        $this->sleeps = [];

        return new Slumber(new Connected($first, $other), Settling::below(self::SPEED, self::FPS), 0.002, $trembles);
    }

    /**
     * @param callable(int, int): float $rise of a node in a frame, m
     *
     * @return list<bool> whether each sheet sleeps at the end
     */
    private function pass(Slumber $slumber, int $frames, callable $rise, ?Pushes $pushes = null, ?float $hold = null, Collider ...$colliders): array
    {
        $n = 2 * self::SIDE ** 2;
        for ($frame = 1; $frame <= $frames; $frame++) {
            $slumber->begin($pushes ?? new Pushes($n), array_fill(0, $n, $hold ?? 0.0), [], array_values($colliders), 1.0 / self::FPS);
            [$x, $y, $z] = [$px, $py, $pz] = $this->places;
            $sleeps = $slumber->changes() ?? $this->sleeps;
            foreach ($y as $i => $_) {
                $y[$i] += $sleeps[$i] ?? false ? 0.0 : $rise($frame, $i);
            }
            $slumber->rest($x, $y, $z, $px, $py, $pz);
            $slumber->end($x, $y, $z);
            $this->places = [$x, $y, $z];
            $this->sleeps = $sleeps;
        }
        $this->sleeps = $slumber->changes() ?? $this->sleeps;

        return [$this->sleeps[0] ?? false, $this->sleeps[self::SIDE ** 2] ?? false];
    }

    /** @var list<bool> */
    private array $sleeps = [];

    /** What moves by little moves by less and less, and then not at all. */
    public function testMotionDiesOut(): void
    {
        $slumber = $this->sheets();
        $ways = [];
        for ($frame = 1; $frame <= 24; $frame++) {
            $before = $this->places[1][0];
            $this->pass($slumber, 1, static fn (): float => 0.0005);
            $ways[] = $this->places[1][0] - $before;
        }
        self::assertEqualsWithDelta(array_fill(0, 6, 0.0005), array_slice($ways, 0, 6), 1e-12, 'for a third of a second it goes as it goes');
        for ($k = 7; $k < 18; $k++) {
            self::assertLessThan($ways[$k - 1], $ways[$k], "frame {$k}");
        }
        self::assertSame([0.0, 0.0, 0.0], array_slice($ways, -3));
        self::assertTrue($slumber->isWhole());
    }

    /** A few that twitch keep nobody awake; a corner that moves does. */
    public function testWhoKeepsItAwake(): void
    {
        $slumber = $this->sheets();
        $twitch = static fn (int $frame, int $i): float => $i === 40 ? ($frame % 2 === 0 ? 0.03 : -0.03) : 0.0;
        self::assertSame([true, true], $this->pass($slumber, 30, $twitch));
        $slumber = $this->sheets();
        $corner = static fn (int $frame, int $i): float => $i < self::SIDE ** 2 && $i % self::SIDE < 4 && $i < 4 * self::SIDE ? 0.003 : 0.0;
        self::assertSame([false, true], $this->pass($slumber, 30, $corner), 'the other sheet does not care');
        self::assertFalse($slumber->isWhole());
        $lively = 0;
        for ($frame = 0; $frame < 6; $frame++) {
            $this->pass($slumber, 1, $corner);
            $lively += $slumber->isLively() ? 1 : 0;
        }
        self::assertGreaterThan(0, $lively, 'it leaves its place again and again');
    }

    /** Coarse cloth on rubble trembles for ever about one place: it comes to rest, unless it goes somewhere by that, hangs, or air moves about it. */
    public function testWhatTremblesAboutAPlaceKeepsToIt(): void
    {
        $to = static fn (int $frame, int $i): float => 0.03 * sin(0.4 * M_PI * $frame + $i);
        $tremble = static fn (int $frame, int $i): float => $to($frame, $i) - $to($frame - 1, $i);
        self::assertSame([true, true], $this->pass($this->sheets(1.0, 0.01), 40, $tremble));
        self::assertSame([false, false], $this->pass($this->sheets(), 40, $tremble), 'a soft thing that wobbles');
        self::assertSame([false, false], $this->pass($this->sheets(1.0, 0.01), 40, static fn (int $frame, int $i): float => $tremble($frame, $i) + 0.01), 'it goes somewhere');
        self::assertSame([false, false], $this->pass($this->sheets(1.0, 0.01), 60, $tremble, null, 0.5), 'it hangs');
        $wind = new Pushes(2 * self::SIDE ** 2);
        $wind->v = array_map(static fn (): float => -0.2, $wind->v);
        self::assertSame([false, false], $this->pass($this->sheets(1.0, 0.01), 40, $tremble, $wind), 'it flutters');
        // The coarser it is the farther it may, but no farther than so.
        $far = static fn (int $frame, int $i): float => 2.5 * $tremble($frame, $i);
        self::assertSame([false, false], $this->pass($this->sheets(1.0, 0.01), 40, $far));
        self::assertSame([true, true], $this->pass($this->sheets(1.0, 0.02), 40, $far));
        self::assertSame([false, false], $this->pass($this->sheets(1.0, 1.0), 40, static fn (int $frame, int $i): float => 8.0 * $tremble($frame, $i)));
    }

    /** Coarse cloth that has begun to settle and is lifted goes at once: where it is on average lags behind. */
    public function testWhatSetsOutIsNotHeldBack(): void
    {
        $slumber = $this->sheets(1.0, 0.025);
        $this->pass($slumber, 15, static fn (): float => 0.0);
        $this->pass($slumber, 4, static fn (): float => 0.04, null, null, self::below(0.04));
        self::assertGreaterThan(0.08, $this->places[1][0], 'it is lifted from below');
        self::assertFalse($slumber->isWhole());
    }

    /** What hangs is slow where its swing turns round, and has to be so for five times as long. */
    public function testWhatHangsRestsLater(): void
    {
        $slumber = $this->sheets();
        $still = static fn (): float => 0.0;
        self::assertSame([false, false], $this->pass($slumber, 40, $still, null, 0.5));
        self::assertSame([true, true], $this->pass($slumber, 10, $still, null, 0.5));
    }

    /** What flies by wakes what it comes near to. */
    #[TestWith([-0.008, false])]
    #[TestWith([0.5, true])]
    public function testANeighbourWakesIt(float $apart, bool $sleeps): void
    {
        $slumber = $this->sheets($apart);
        $this->pass($slumber, 30, static fn (): float => 0.0);
        self::assertTrue($slumber->isWhole());
        $slumber->wakeNodes([0]);
        // It has to have been woken once more while the other moves beside it.
        self::assertSame([false, $sleeps], $this->pass($slumber, 12, static fn (int $frame, int $i): float => 2 * $i < self::SIDE ** 2 ? 0.001 * $frame : 0.0), 'half of it rises');
    }

    public function testOthersThatComeNearWakeIt(): void
    {
        $slumber = $this->sheets();
        $this->pass($slumber, 30, static fn (): float => 0.0);
        $slumber->stir([-1.0, 0.02, -1.0, 0.0, 0.03, 1.0], 0.005);
        self::assertTrue($slumber->isWhole(), 'not near enough');
        $slumber->stir([-1.0, 0.02, -1.0, 0.0, 0.03, 1.0], 0.025);
        self::assertSame([false, true], $this->pass($slumber, 1, static fn (): float => 0.0));
    }

    #[TestWith([0.0, 0.3, false])]
    #[TestWith([0.0, 0.1, true])]
    #[TestWith([0.9, 0.3, true])]
    #[TestWith([0.9, 3.0, false])]
    public function testWhatPushesItOtherwiseWakesIt(float $hold, float $by, bool $sleeps): void
    {
        $slumber = $this->sheets();
        $still = static fn (): float => 0.0;
        $this->pass($slumber, 60, $still, null, $hold);
        $pushes = new Pushes(2 * self::SIDE ** 2);
        $pushes->ay[7] = $by;
        self::assertSame([$sleeps, true], $this->pass($slumber, 1, $still, $pushes, $hold));
    }

    /** A hold that loosens by and by wakes it once it has by so much, however slowly. */
    public function testALooserHoldWakesIt(): void
    {
        $slumber = $this->sheets();
        $still = static fn (): float => 0.0;
        self::assertSame([true, true], $this->pass($slumber, 30, $still, null, 1.0));
        self::assertSame([true, true], $this->pass($slumber, 1, $still, null, 0.997));
        self::assertSame([false, false], $this->pass($slumber, 1, $still, null, 0.994));
    }

    /** @param float $travel m in a step */
    private static function below(float $travel): MovedThing
    {
        $thing = new MovedThing(SurfaceTree::of(Solids::ball(0.04, 3), true), 0.5, 0.04, $travel);
        $thing->position = [0.05, -0.045, 0.05];

        return $thing;
    }

    /** It lies on something: that may lie there still, but neither move nor go. */
    public function testWhatItLiesOnWakesIt(): void
    {
        $slumber = $this->sheets();
        $still = static fn (): float => 0.0;
        $below = self::below(0.0);
        self::assertSame([true, true], $this->pass($slumber, 30, $still, null, null, $below));
        self::assertSame([false, true], $this->pass($slumber, 1, $still), 'it is gone');
        self::assertSame([true, true], $this->pass($slumber, 30, $still, null, null, $below));
        self::assertSame([false, true], $this->pass($slumber, 1, $still, null, null, self::below(0.001)), 'it moves');
    }

    public function testItSleepsOnAfterItWasSaved(): void
    {
        $slumber = $this->sheets();
        $below = self::below(0.0);
        $still = static fn (): float => 0.0;
        $this->pass($slumber, 60, $still, null, 0.5, $below);
        $again = $this->sheets();
        $again->restore(State::read(State::pack($slumber->save())));
        self::assertSame($slumber->save(), $again->save());
        self::assertSame([true, true], $this->pass($again, 3, $still, null, 0.5, $below));
        self::assertSame([false, true], $this->pass($again, 1, $still, null, 0.5), 'it knows what it lay on');
    }

    /**
     * @param list<array<string, mixed>> $props
     * @param array<string, mixed> $shot
     *
     * @return array<int, Frame>
     */
    private static function frames(int $count, array $props, array $shot = []): array
    {
        $floor = [['id' => 'f', 'name' => 'Floor']];

        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames(Shot::read(['version' => 2, 'frames' => $count, 'planes' => $floor, 'props' => $props, ...$shot])));
    }

    /**
     * @param array<int, Frame> $frames
     *
     * @return list<int> frames at which nothing of a prop has moved since the one before
     */
    private static function quiet(string $prop, array $frames): array
    {
        $quiet = [];
        for ($n = 2; $n <= count($frames); $n++) {
            if ($frames[$n]->of($prop, Track::VERTICES) === $frames[$n - 1]->of($prop, Track::VERTICES)) {
                $quiet[] = $n;
            }
        }

        return $quiet;
    }

    /** A cloth that has fallen lies still to the bit until something comes from below, and again after that. */
    #[Group('slow')]
    public function testAClothThatHasFallenLiesStillUntilItIsLifted(): void
    {
        $frames = self::frames(110, [
            ['id' => 'rag', 'name' => 'Rag', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.5, 'depth' => 0.5, 'divisions' => 8]], 'position' => ['y' => 0.1], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'cloth']],
            ['id' => 'foot', 'name' => 'Foot', 'source' => ['box' => ['width' => 0.1, 'height' => 0.2, 'depth' => 0.6, 'divisions' => 1]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
                'position' => ['y' => ['keys' => [['frame' => 55, 'value' => -0.3], ['frame' => 70, 'value' => 0.1]]]]],
        ], ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']]]);
        $quiet = self::quiet('rag', $frames);
        self::assertSame(range(45, 55), array_values(array_intersect($quiet, range(45, 55))), 'it has come to rest');
        self::assertSame([], array_intersect($quiet, range(66, 75)), 'it is lifted');
        self::assertSame(range(105, 110), array_values(array_intersect($quiet, range(105, 110))), 'and rests again');
        self::assertEqualsWithDelta(0.2, max(array_column(array_chunk($frames[110]->of('rag', Track::VERTICES), 3), 1)), 0.02);
        self::assertSame(0.0, $frames[50]->kinetic());
    }

    /** A ball that held cloth has caught rests on it with it; it is taken along when the cloth is lifted, and falls when that is let go. */
    #[Group('slow')]
    public function testWhatLiesOnClothRestsWithItAndIsLifted(): void
    {
        self::assertRests('lifted');
    }

    #[Group('long')]
    public function testWhatLiesOnClothRestsWithItAndFalls(): void
    {
        self::assertRests('let go');
    }

    private static function assertRests(string $then): void
    {
        $keys = static fn (float $was, float $is): array => ['keys' => [['frame' => 80, 'value' => $was], ['frame' => 104, 'value' => $is]]];
        $rim = ['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0], ...$then === 'let go' ? ['amount' => $keys(1.0, 0.0)] : []];
        $frames = self::frames(122, [
            ['id' => 'sheet', 'name' => 'Sheet', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.6, 'depth' => 0.6, 'divisions' => 12]], 'position' => ['y' => $then === 'lifted' ? $keys(0.5, 0.7) : 0.5], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [$rim]]]],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 5]], 'position' => ['y' => 0.7], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls']]],
        ], ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']]]);
        $height = static fn (int $n): float => $frames[$n]->of('ball', Track::POSE)[1];
        self::assertSame(range(70, 80), array_values(array_intersect(self::quiet('sheet', $frames), range(70, 80))));
        self::assertSame($frames[50]->of('ball', Track::POSE), $frames[80]->of('ball', Track::POSE));
        self::assertSame(Frame::ASLEEP, $frames[80]->of('ball', Track::FLAGS)[0] & Frame::ASLEEP);
        self::assertEqualsWithDelta($then === 'lifted' ? $height(80) + 0.2 : 0.1, $height(122), 0.02);
        // It is let go wholly at frame 104, and falls from then on at the latest.
        self::assertLessThan($then === 'lifted' ? 1.0 : $height(80) - 0.5 * 9.81 * (6.0 / 24.0) ** 2, $height(111));
    }

    /** A ball on jelly rests where it fell, and rolls nowhere. */
    #[Group('slow')]
    public function testWhatLiesOnSoftThingsRestsToo(): void
    {
        $frames = self::frames(72, [
            ['id' => 'cube', 'name' => 'Cube', 'source' => ['kind' => 'box', 'box' => ['width' => 0.4, 'height' => 0.3, 'depth' => 0.4, 'divisions' => 6]], 'position' => ['y' => 0.16], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 4, 'stiffness' => 60, 'damping' => 2]]],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.15, 'divisions' => 5]], 'position' => ['x' => 0.02, 'y' => 0.6], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls']]],
        ], ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity']]]);
        [$x, $y, $z] = $frames[72]->of('ball', Track::POSE);
        self::assertEqualsWithDelta([0.02, 0.36, 0.0], [$x, $y, $z], 0.05);
        self::assertSame($frames[66]->of('ball', Track::POSE), $frames[72]->of('ball', Track::POSE));
    }

    /** A soft cube and what lies on it rest; when gravity turns they fall up. */
    #[Group('slow')]
    public function testSoftThingsRestUntilSomethingElseActs(): void
    {
        $frames = self::frames(100, [
            ['id' => 'cube', 'name' => 'Cube', 'source' => ['kind' => 'box', 'box' => ['width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 2]], 'position' => ['y' => 0.2], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 4, 'stiffness' => 100, 'damping' => 2]]],
        ], ['forces' => [['id' => 'g', 'name' => 'G', 'force' => 'gravity', 'gravity' => ['strength' => ['keys' => [['frame' => 80, 'value' => 9.81, 'ease' => 'hold'], ['frame' => 81, 'value' => -9.81]]]]]]]);
        $quiet = self::quiet('cube', $frames);
        self::assertSame(range(60, 80), array_values(array_intersect($quiet, range(60, 80))));
        self::assertGreaterThan(0.5, min(array_column(array_chunk($frames[100]->of('cube', Track::VERTICES), 3), 1)));
    }
}
