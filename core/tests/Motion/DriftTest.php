<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Cloth\Drift;

/** Which lists of pairs still hold: beside what looks at each pair. */
final class DriftTest extends TestCase
{
    private const REACH = 0.02;

    private const MARGIN = 0.008;

    private const SIDE = 0.084;

    /** @return array{list<float>, list<float>, list<float>} two sheets above each other, of 400 places each */
    private static function sheets(float $apart): array
    {
        $x = $y = $z = [];
        for ($k = 0; $k < 800; $k++) {
            $x[] = 0.02 * ($k % 20);
            $y[] = $k < 400 ? 0.0 : $apart;
            $z[] = 0.02 * (intdiv($k, 20) % 20);
        }

        return [$x, $y, $z];
    }

    /**
     * Whether the list is kept where all cubes have the same room.
     *
     * @param array{list<float>, list<float>, list<float>} $was
     * @param array{list<float>, list<float>, list<float>} $is
     */
    private static function isKept(array $was, array $is): bool
    {
        $drift = Drift::since(...[...$was, self::SIDE]);
        $room = $drift->foreseen(...[...$was, ...$was, 1.0, 0.5 * self::MARGIN, 0.5 * self::MARGIN]);

        return $drift->isWithin(...[...$is, $room, self::REACH]);
    }

    /**
     * @param array{list<float>, list<float>, list<float>} $was
     * @param array{list<float>, list<float>, list<float>} $is
     * @param array<int, float> $room of each
     */
    private static function someCameNear(array $was, array $is, array $room): bool
    {
        for ($a = 0, $n = count($was[0]); $a < $n; $a++) {
            for ($b = 0; $b < $a; $b++) {
                $before = ($was[0][$a] - $was[0][$b]) ** 2 + ($was[1][$a] - $was[1][$b]) ** 2 + ($was[2][$a] - $was[2][$b]) ** 2;
                $now = ($is[0][$a] - $is[0][$b]) ** 2 + ($is[1][$a] - $is[1][$b]) ** 2 + ($is[2][$a] - $is[2][$b]) ** 2;
                if ($before >= (self::REACH + $room[$a] + $room[$b]) ** 2 && $now < self::REACH ** 2) {
                    return true;
                }
            }
        }

        return false;
    }

    /** Waves, shears, shakes and blows of all sizes: no pair is missed, and most lists that hold are kept. */
    #[Group('slow')]
    public function testNoPairIsMissed(): void
    {
        $stream = RandomStream::named(3, 'drift');
        $kept = $near = 0;
        for ($round = 0; $round < (getenv('YARD_BREAK_LONG') ? 60 : 30); $round++) {
            $was = self::sheets($stream->between(0.02, 0.3));
            $size = 10.0 ** $stream->between(-3.5, -0.5);
            [$a, $b, $c, $shake, $blow] = [$stream->between(0.0, 9.0), $stream->between(0.0, 9.0), $stream->between(-1.0, 1.0), $stream->between(0.0, 0.1), $stream->between(-1.0, 0.5)];
            $is = $was;
            foreach ($was[0] as $v => $x) {
                $is[0][$v] += $size * ($c * $was[1][$v] + 3.0);
                $is[1][$v] += $size * (sin($a * $x) + cos($b * $was[2][$v]) + $shake * $stream->between(-1.0, 1.0) + ($v < 400 ? 0.0 : $blow));
                $is[2][$v] -= $size * $c * $x;
            }
            $drift = Drift::since(...[...$was, self::SIDE]);
            $room = $drift->foreseen(...[...$is, ...$was, $round % 2 * $stream->between(0.5, 1.5), 0.5 * self::MARGIN, 2.0 * self::MARGIN]);
            $within = $drift->isWithin(...[...$is, $room, self::REACH]);
            $came = self::someCameNear($was, $is, $drift->ofVertices($room));
            self::assertFalse($within && $came, "round {$round}");
            $kept += $within ? 1 : 0;
            $near += $came ? 1 : 0;
        }
        self::assertGreaterThan(8, $kept);
        self::assertGreaterThan(1, $near, 'else nothing is shown');
    }

    /** One that goes a long way as a whole, and one that swings, keep their lists; what is far may come until it could be there. */
    public function testWhatMovesTogetherKeepsItsList(): void
    {
        $was = self::sheets(0.5);
        $drift = Drift::since(...[...$was, self::SIDE]);
        self::assertTrue(self::isKept($was, $was));
        $moved = static fn (callable $by): array => [$was[0], array_map($by, $was[1], $was[0], array_keys($was[0])), $was[2]];
        self::assertTrue(self::isKept($was, $moved(static fn (float $y): float => $y + 7.0)));
        self::assertTrue(self::isKept($was, $moved(static fn (float $y, float $x): float => $y + 0.04 * $x)), 'a swing');
        $turned = [$was[0], $was[1], $was[2]];
        foreach ($was[0] as $v => $x) {
            [$turned[0][$v], $turned[1][$v]] = [cos(0.3) * $x - sin(0.3) * $was[1][$v], sin(0.3) * $x + cos(0.3) * $was[1][$v]];
        }
        self::assertTrue(self::isKept($was, $turned), 'seventeen degrees');
        self::assertTrue($drift->staysWithin(...[...$turned, ...$was, 1.0, self::MARGIN, self::REACH]), 'seventeen more');
        self::assertTrue(self::isKept($was, $moved(static fn (float $y, float $x, int $v): float => $y - ($v < 400 ? 0.0 : 0.06))), 'the upper comes down six centimetres');
        self::assertFalse(self::isKept($was, $moved(static fn (float $y, float $x, int $v): float => $y + ($v === 210 ? 0.01 : 0.0))), 'one alone');
        self::assertFalse(self::isKept($was, $moved(static fn (float $y, float $x, int $v): float => $y - ($v < 400 ? 0.0 : 0.49))));
        $falls = $moved(static fn (float $y, float $x, int $v): float => $y - ($v < 400 ? 0.0 : 0.02));
        self::assertTrue($drift->staysWithin(...[...$falls, ...$was, 1.0, self::MARGIN, self::REACH]));
        self::assertFalse($drift->staysWithin(...[...$falls, ...$was, 30.0, self::MARGIN, self::REACH]), 'it would be there');
    }

    /** What goes on as it went keeps a list for as long as was foreseen, and not much longer; what lies still far from it is given no more room than usual. */
    public function testWhatIsForeseenIsKept(): void
    {
        $was = self::sheets(0.5);
        $at = static fn (float $times): array => [$was[0], array_map(static fn (float $y, float $x, int $v): float => $y + ($v < 400 && $x < 0.15 ? 0.001 * $times * sin(60.0 * $x) : 0.0), $was[1], $was[0], array_keys($was[0])), $was[2]];
        $drift = Drift::since(...[...$was, self::SIDE]);
        $room = $drift->foreseen(...[...$was, ...$at(-1.0), 6.0, 1e-4, 1.0]);
        self::assertTrue($drift->isWithin(...[...$at(5.9), $room, self::REACH]));
        self::assertFalse($drift->isWithin(...[...$at(7.0), $room, self::REACH]));
        $each = $drift->ofVertices($room);
        self::assertGreaterThan(0.005, $each[3], 'where it waves');
        self::assertSame(1e-4, $each[410], 'the other sheet');
        self::assertSame(0.004, max($drift->foreseen(...[...$was, ...$at(-1.0), 6.0, 1e-4, 0.004])), 'no more than may be');
        self::assertSame(1e-4, max($drift->foreseen(...[...$was, ...$at(-1.0), 6.0, 1e-4, 0.001])), 'gone before it is of use');
    }

    /** What has run away is sorted all the same. */
    public function testWhatRanAway(): void
    {
        $was = self::sheets(0.1);
        $was[1][5] = 1e9;
        $drift = Drift::since(...[...$was, self::SIDE]);
        self::assertTrue(self::isKept($was, $was));
        $is = $was;
        $is[1][5] = 0.0;
        self::assertFalse(self::isKept($was, $is));
    }
}
