<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\Attributes\TestWith;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Cloth that is fastened to hard pieces goes with them, and they feel it. */
final class FasteningTest extends TestCase
{
    /** kg, of a bar of a density of 600 */
    private const BAR = 1.1 * 0.05 * 0.05 * 600;

    /** A square metre of cloth that stands upright, from y 1 to 2. */
    private const SHEET = ['id' => 'sheet', 'name' => 'Sheet', 'position' => ['y' => 1.5], 'rotation' => ['x' => 90], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]];

    private const GRAVITY = [['id' => 'g', 'name' => 'G', 'force' => 'gravity']];

    /**
     * @param array<string, mixed> $cloth
     *
     * @return array<string, mixed>
     */
    private static function sheet(array $cloth = [], int $divisions = 12): array
    {
        return [...self::SHEET, 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1.0, 'depth' => 1.0, 'divisions' => $divisions]], 'motion' => ['mover' => 'cloth', 'cloth' => ['mass' => 200, ...$cloth]]];
    }

    /**
     * A bar as wide as the sheet.
     *
     * @param array<string, mixed> $rigid
     *
     * @return array<string, mixed>
     */
    private static function bar(float $y, array $rigid = [], string $id = 'bar'): array
    {
        return ['id' => $id, 'name' => ucfirst($id), 'source' => ['box' => ['width' => 1.1, 'height' => 0.05, 'depth' => 0.05, 'divisions' => 1]], 'position' => ['y' => $y], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'density' => 600, ...$rigid]]];
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function fastening(array $more = [], string $other = 'bar'): array
    {
        return ['id' => "f-{$other}", 'name' => 'Fastening', 'joint' => 'fastening', 'prop' => 'sheet', 'other' => $other, ...$more, 'fastening' => ['within' => 0.02]];
    }

    /**
     * @param list<array<string, mixed>> $props
     * @param list<array<string, mixed>> $joints
     * @param array<string, mixed> $more
     */
    private static function shot(array $props, array $joints, array $more = []): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 36, 'planes' => [], 'forces' => self::GRAVITY, ...$more, 'joints' => $joints, 'props' => $props]);
    }

    /** @return array<int, Frame> */
    private static function frames(Shot $shot): array
    {
        return iterator_to_array((new Pipeline(new MemoryStore(), new NoAssets()))->frames($shot));
    }

    /** @return list<float> heights of the sheet's vertices */
    private static function heights(Frame $frame): array
    {
        return array_column(array_chunk($frame->of('sheet', Track::VERTICES), 3), 1);
    }

    /** The sheet hangs at its upper edge, and the bar on the sheet. */
    private static function hung(float $density): Shot
    {
        $hold = [['source' => 'rim', 'rim' => ['within' => 0.001, 'softness' => 0, 'side' => 'low-z']]];

        return self::shot([['release' => ['trigger' => 'never']] + self::sheet(['hold' => $hold]), self::bar(0.975, ['density' => $density])], [self::fastening()], ['frames' => 120]);
    }

    /** A strip gets longer by F L / E A (any handbook on strength of materials), and what hangs on it comes to rest. */
    #[Group('slow')]
    public function testWhatHangsOnClothStretchesItAsAStrip(): void
    {
        $frames = self::frames(self::hung(8000.0));
        $mass = self::BAR / 600 * 8000;
        // Gives 0.5 % under 100 N for each metre of its width: 20,000 N/m.
        self::assertEqualsWithDelta($mass * 9.81 / 20_000, 0.975 - $frames[120]->of('bar', Track::POSE)[1], 0.12 * $mass * 9.81 / 20_000);
        self::assertSame($frames[119]->of('bar', Track::POSE), $frames[120]->of('bar', Track::POSE), 'at rest');
        self::assertSame($frames[119]->of('sheet', Track::VERTICES), $frames[120]->of('sheet', Track::VERTICES));
        self::assertLessThan(0.02, max(self::heights($frames[120])) - 2.0);
    }

    /**
     * A column of what is soft hangs on a held bar, and a block on it: it gets longer by F L / E A and half its own weight (any handbook on strength of materials), a little less where its ends cannot
     * get narrower, and all comes to rest.
     */
    #[Group('slow')]
    public function testWhatHangsOnSoftThingsDrawsThemOut(): void
    {
        $column = ['id' => 'sheet', 'name' => 'Column', 'source' => ['box' => ['width' => 0.2, 'height' => 0.4, 'depth' => 0.2, 'divisions' => 4]], 'position' => ['y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'motion' => ['mover' => 'soft', 'soft' => ['before' => 'falls', 'stiffness' => 50, 'poisson' => 0.3, 'density' => 300, 'fineness' => 8]]];
        $block = ['source' => ['box' => ['width' => 0.2, 'height' => 0.05, 'depth' => 0.2, 'divisions' => 1]]] + self::bar(0.974, ['density' => 1000], 'block');
        $frames = self::frames(self::shot([$column, self::bar(1.426, ['before' => 'held']), $block], [self::fastening(), self::fastening(other: 'block')], ['frames' => 120]));
        $long = 0.974 - $frames[120]->of('block', Track::POSE)[1];
        $mass = 0.2 * 0.2 * 0.05 * 1000;
        self::assertEqualsWithDelta(($mass + 0.5 * 0.016 * 300) * 9.81 * 0.4 / (50_000 * 0.04), $long, 0.12 * $long);
        self::assertSame($frames[119]->of('block', Track::POSE), $frames[120]->of('block', Track::POSE), 'at rest');
        self::assertSame($frames[119]->of('sheet', Track::VERTICES), $frames[120]->of('sheet', Track::VERTICES));
        self::assertEqualsWithDelta(1.4, max(self::heights($frames[120])), 1e-3, 'it hangs where it was fastened');
    }

    /** A pad goes with the lever that it is fastened to, wherever that is keyed. */
    #[Group('slow')]
    public function testSoftThingsGoWithWhatMoves(): void
    {
        $pad = ['id' => 'sheet', 'name' => 'Pad', 'source' => ['box' => ['width' => 0.2, 'height' => 0.1, 'depth' => 0.2, 'divisions' => 2]], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'],
            'motion' => ['mover' => 'soft', 'soft' => ['before' => 'falls', 'stiffness' => 20, 'fineness' => 4]]];
        $lever = ['position' => ['y' => 1.076, 'x' => ['keys' => [['frame' => 1, 'value' => 0], ['frame' => 12, 'value' => 0.5]]]]] + self::bar(1.076, ['before' => 'held']);
        $frames = self::frames(self::shot([$pad, $lever], [self::fastening(['cut' => 'frame', 'frame' => 20])], ['frames' => 24]));
        $middle = static fn (int $frame, int $axis): float => array_sum(array_column(array_chunk($frames[$frame]->of('sheet', Track::VERTICES), 3), $axis)) / (count($frames[$frame]->of('sheet', Track::VERTICES)) / 3);
        self::assertEqualsWithDelta(0.5, $middle(19, 0), 0.03);
        self::assertEqualsWithDelta(1.0, $middle(19, 1), 0.03);
        self::assertLessThan(0.95, $middle(24, 1), 'cut, it falls');
        self::assertGreaterThan(0, $frames[24]->released());
    }

    /** Without gravity and air, two bars with the sheet between them keep their momentum, however heavy each is (Newton). */
    #[TestWith([600.0])]
    #[TestWith([100.0])]
    #[Group('slow')]
    public function testBothTogetherKeepTheirMomentum(float $density): void
    {
        $frames = self::frames(self::shot(
            [self::sheet(['drag' => 0, 'damping' => 0]), self::bar(2.025, ['velocity' => ['x' => 0, 'y' => 1, 'z' => 0.5]], 'top'), self::bar(0.975, ['density' => $density], 'low')],
            [self::fastening(other: 'top'), self::fastening(other: 'low')],
            ['forces' => []],
        ));
        $masses = ['top' => self::BAR, 'low' => self::BAR / 600 * $density];
        $momentum = static function (int $frame) use ($frames, $masses): array {
            $sum = [0.0, 0.0, 0.0];
            foreach ($masses as $id => $mass) {
                foreach ([0, 1, 2] as $axis) {
                    $sum[$axis] += 24.0 * $mass * ($frames[$frame]->of($id, Track::POSE)[$axis] - $frames[$frame - 1]->of($id, Track::POSE)[$axis]);
                }
            }
            // Each vertex as heavy as each other is near enough.
            $was = $frames[$frame - 1]->of('sheet', Track::VERTICES);
            foreach ($frames[$frame]->of('sheet', Track::VERTICES) as $k => $at) {
                $sum[$k % 3] += 24.0 * 0.2 / 169 * ($at - $was[$k]);
            }

            return $sum;
        };
        foreach ([2, 12, 36] as $frame) {
            self::assertEqualsWithDelta([0.0, self::BAR, 0.5 * self::BAR], $momentum($frame), 0.06 * self::BAR, "frame {$frame}");
        }
        // And it is the other one that has it in the end.
        self::assertGreaterThan(1.2, $frames[36]->of('low', Track::POSE)[1]);
    }

    /** Much lighter than the cloth, or much heavier, nothing shudders or flies off. */
    #[TestWith([5.0, 1000.0])]
    #[TestWith([20_000.0, 50.0])]
    #[Group('slow')]
    public function testLightThingsHoldHeavyCloth(float $density, float $cloth): void
    {
        $frames = self::frames(self::shot(
            [self::sheet(['mass' => $cloth]), self::bar(2.025, ['density' => $density])],
            [self::fastening(), ['id' => 'rope', 'name' => 'Rope', 'prop' => 'bar', 'rope' => ['from' => ['x' => 0, 'y' => 2.05, 'z' => 0], 'to' => ['x' => 0, 'y' => 2.6, 'z' => 0]]]],
        ));
        foreach ($frames as $number => $frame) {
            self::assertEqualsWithDelta(2.025, $frame->of('bar', Track::POSE)[1], 0.25, "frame {$number}");
            self::assertLessThan(2.7, max(self::heights($frame)));
            self::assertLessThan(0.02 + 5.0 * $cloth / 1000, $frame->kinetic());
        }
    }

    /** It weighs 1.96 N. What bears a half of that comes off, what bears twice that does not. */
    #[Group('slow')]
    public function testItComesOffWhereItBearsTooLittle(): void
    {
        $held = ['before' => 'held'];
        foreach ([[1.0, true], [4.0, false]] as [$strength, $falls]) {
            $frames = self::frames(self::shot([self::sheet(), self::bar(2.025, $held)], [self::fastening(['strength' => $strength])], ['frames' => 16]));
            self::assertSame($falls, max(self::heights($frames[16])) < 1.9, "{$strength} N");
            self::assertSame($falls ? 169 : 156, $frames[16]->released(), 'what is fastened is not let go, what has come off is');
        }
    }

    /** Each of two fastenings bears what it says, however the other is. */
    #[Group('slow')]
    public function testEachBearsItsOwn(): void
    {
        $bars = [self::bar(2.025, ['before' => 'held'], 'top'), self::bar(0.975, ['density' => 600], 'low')];
        foreach ([['top', 'low'], ['low', 'top']] as [$weak, $strong]) {
            $frames = self::frames(self::shot([self::sheet(), ...$bars], [self::fastening(['strength' => 4], $weak), self::fastening(other: $strong)], ['frames' => 12]));
            self::assertLessThan(0.5, $frames[12]->of('low', Track::POSE)[1], "{$weak} comes off");
            self::assertSame($weak === 'top', max(self::heights($frames[12])) < 1.9, 'the other one holds');
        }
    }

    public function testItIsCutAtAFrame(): void
    {
        $frames = self::frames(self::shot([self::sheet(), self::bar(2.025, ['before' => 'held'])], [self::fastening(['cut' => 'frame', 'frame' => 10])], ['frames' => 16]));
        self::assertEqualsWithDelta(2.0, max(self::heights($frames[10])), 0.01);
        // g t2 / 2 over six frames, less a little for the air.
        self::assertEqualsWithDelta(2.0 - 0.5 * 9.81 * 0.25 ** 2, max(self::heights($frames[16])), 0.05);
    }

    /** Each place goes on with the piece that it is nearest to, when the prop breaks under it. */
    #[Group('slow')]
    public function testItGoesWithThePieces(): void
    {
        $bar = ['break' => ['pattern' => 'halving', 'halving' => ['rounds' => 2]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 4]]] + self::bar(2.025);
        $bar['motion'] = ['rigid' => ['before' => 'held', 'density' => 600, 'velocity' => ['x' => 0, 'y' => 1, 'z' => 1]]];
        $frames = self::frames(self::shot([self::sheet(), $bar], [self::fastening()], ['frames' => 12]));
        $poses = static fn (int $frame): array => array_chunk($frames[$frame]->of('bar', Track::POSE), 7);
        self::assertCount(4, $poses(1));
        $places = static fn (int $frame): array => array_chunk($frames[$frame]->of('sheet', Track::VERTICES), 3);
        $fastened = array_keys(array_filter(array_column($places(1), 1), static fn (float $y): bool => $y > 1.99));
        self::assertCount(13, $fastened);
        $local = static function (int $frame, int $vertex, int $piece) use ($poses, $places): array {
            $pose = $poses($frame)[$piece];
            $turn = [$pose[3], $pose[4], $pose[5], $pose[6]];

            return Quaternion::rotate(Quaternion::conjugate($turn), array_map(static fn (float $a, float $b): float => $a - $b, $places($frame)[$vertex], array_slice($pose, 0, 3)));
        };
        $with = [];
        foreach ($fastened as $vertex) {
            foreach (array_keys($poses(1)) as $piece) {
                if (max(array_map(static fn (float $a, float $b): float => abs($a - $b), $local(1, $vertex, $piece), $local(12, $vertex, $piece))) < 2e-3) {
                    $with[$vertex] = $piece;
                }
            }
        }
        self::assertCount(13, $with, 'each is where it was on one of them');
        self::assertGreaterThan(1, count(array_unique($with)));
        self::assertGreaterThan(0.05, $places(12)[$fastened[0]][2] - $places(1)[$fastened[0]][2], 'they have gone somewhere');
    }

    /**
     * Saved and restored, on its way, at rest, or torn and partly come off, it goes on with the same bits.
     *
     * @param list<int> $after frames
     */
    #[TestWith([false, [3, 60]])]
    #[TestWith([true, [8, 20]])]
    #[Group('slow')]
    public function testItGoesOnWithTheSameBits(bool $torn, array $after): void
    {
        // A ball flies through it and tears it, and some of it comes off.
        $ball = ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 5]], 'position' => ['y' => 1.6, 'z' => 0.3], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['rigid' => ['before' => 'falls', 'velocity' => ['x' => 0, 'y' => 1, 'z' => -6]]]];
        $patches = ['break' => ['pattern' => 'patches', 'patches' => ['count' => 20]]] + self::sheet(['tears' => 3]);
        $shot = $torn ? self::shot([$patches, self::bar(2.025, ['before' => 'held']), $ball], [self::fastening(['strength' => 25])]) : self::hung(600.0);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $simulation = $pipeline->motion($shot);
        $whole = $saved = [];
        foreach ($simulation->frames() as $number => $frame) {
            $whole[$number] = md5(serialize($frame));
            if (in_array($number, $after, true)) {
                $saved[$number] = $simulation->save();
            }
            if ($number === max($after) + 8) {
                self::assertGreaterThan($torn ? 169 : -1, $frame->released());
                break;
            }
        }
        foreach ($saved as $from => $state) {
            $again = $pipeline->motion($shot);
            $again->restore($state);
            foreach ($again->frames() as $number => $frame) {
                self::assertSame($whole[$number], md5(serialize($frame)), "frame {$number}, restored after {$from}");
                if ($number === $from + 8) {
                    break;
                }
            }
        }
    }

    /** What a picture shows of it. */
    public function testItIsSeenWhereItHolds(): void
    {
        $shot = self::shot([self::sheet(), self::bar(2.025)], [self::fastening()]);
        $seen = (new Fastenings($shot, (new Pipeline(new MemoryStore(), new NoAssets()))->surfaces))->seen($shot->joints[0]);
        self::assertSame(13, $seen['count']);
        self::assertEqualsWithDelta([2.0], array_values(array_unique(array_map(static fn (array $place): float => round($place[1], 9), $seen['places']))), 1e-9);
    }
}
