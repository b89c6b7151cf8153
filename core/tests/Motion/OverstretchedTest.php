<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Motion;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Motion\Cloth\Fabric;
use YardBreak\Core\Motion\Cloth\Overstretched;
use YardBreak\Core\Motion\Cloth\SelfContact;
use YardBreak\Core\Motion\Cloth\Weave;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Crossings;

/** Edges that have become far too long. */
final class OverstretchedTest extends TestCase
{
    private const SQUARES = 24;

    private static function fabric(): Fabric
    {
        return new Fabric(0.2, 2e4, 0.3, 1e-5, 0.1, 0.0, 0.4, 0.004);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private static function longest(Weave $weave, array $x, array $y, array $z, bool $diagonals): float
    {
        $most = 0.0;
        for ($a = 0; $a < $weave->count(); $a++) {
            for ($c = $weave->first[$a]; $c < $weave->first[$a + 1]; $c++) {
                $b = $weave->other[$c];
                if ($diagonals || $weave->diagonal[$c] < 0.5) {
                    $most = max($most, sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2) / $weave->length[$c]);
                }
            }
        }

        return $most;
    }

    /** A vertex is torn two edges out of a sheet: all edges get short enough again, layers stay apart, what is held and what is farther away stays where it is. */
    public function testTheyAreTakenBackThereAlone(): void
    {
        $weave = Weave::of(Solids::sheet(1.0, 1.0, self::SQUARES), self::fabric());
        $most = array_map(static fn (float $length): float => 1.05 * $length, $weave->length);
        [$x, $y, $z] = [$weave->x, $weave->y, $weave->z];
        $middle = intdiv($weave->count(), 2);
        $y[$middle] = 2.0 / self::SQUARES;
        $w = array_fill(0, $weave->count(), 1.0);
        $w[$middle + 1] = 0.0;
        $itself = new SelfContact($weave, 0.0);
        $itself->watch($x, $y, $z, $x, $y, $z);
        self::assertGreaterThan(2.0, self::longest($weave, $x, $y, $z, true));
        self::assertTrue(Overstretched::takeBack($x, $y, $z, $w, $weave, $most, $itself));
        self::assertLessThan(1.05 * 1.09, self::longest($weave, $x, $y, $z, true));
        self::assertSame($weave->x[$middle + 1], $x[$middle + 1]);
        self::assertSame(0.0, $y[$middle + 1]);
        foreach ($weave->x as $i => $was) {
            // Seven edges around each end, diagonals too.
            if (max(abs($was), abs($weave->z[$i])) > 8.5 / self::SQUARES) {
                self::assertSame([$was, $weave->y[$i], $weave->z[$i]], [$x[$i], $y[$i], $z[$i]], "vertex {$i}");
            }
        }
        [$one, $other, $apart] = $itself->pairs(array_fill_keys(array_keys($x), true));
        self::assertNotSame([], $one);
        foreach ($one as $k => $a) {
            $b = $other[$k];
            self::assertGreaterThan(0.93 * $apart[$k], sqrt(($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2));
        }
    }

    public function testWhatIsNotTooLongStays(): void
    {
        $weave = Weave::of(Solids::sheet(1.0, 1.0, self::SQUARES), self::fabric());
        [$x, $y, $z] = [array_map(static fn (float $x): float => 1.04 * $x, $weave->x), $weave->y, $weave->z];
        $before = [$x, $y, $z];
        self::assertFalse(Overstretched::takeBack($x, $y, $z, array_fill(0, $weave->count(), 1.0), $weave, $weave->length, null));
        self::assertSame($before, [$x, $y, $z]);
    }

    /** 10,201 vertices fall over a ball, and feel themselves: edges along the threads get no longer than 15 % at the impact, and nothing comes through. */
    #[Group('long')]
    public function testASheetStrikesABall(): void
    {
        $shot = Shot::read(['version' => 2, 'frames' => 13, 'props' => [
            ['id' => 'c', 'name' => 'C', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 1, 'depth' => 1, 'divisions' => 100]], 'position' => ['y' => 1.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'frame'], 'motion' => ['mover' => 'cloth', 'cloth' => ['damping' => 0.1, 'drag' => 0.1]]],
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 12]], 'position' => ['y' => 1.2], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        $weave = Weave::of($pipeline->broken($shot->props[0])->pieces->mesh(0), self::fabric());
        foreach ($pipeline->motion($shot)->frames() as $number => $frame) {
            /** @var list<array{float, float, float}> $places */
            $places = array_chunk(array_map(floatval(...), $frame->of('c', Track::VERTICES)), 3);
            self::assertLessThan(1.15, self::longest($weave, array_column($places, 0), array_column($places, 1), array_column($places, 2), false), "frame {$number}");
            self::assertSame(0, Crossings::within($places, array_values($weave->triangles)), "frame {$number}");
        }
    }
}
