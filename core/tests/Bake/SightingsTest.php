<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Bake;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use RuntimeException;
use YardBreak\Core\Bake\BakedSightings;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Bake\Checkpoints;
use YardBreak\Core\Break\Progress;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Weights that go by where the bake has other props: while it is made, when it goes on, and when it is shown. */
final class SightingsTest extends TestCase
{
    private string $folder;

    private Pipeline $pipeline;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-sightings-' . getmypid();
        mkdir($this->folder);
        $this->pipeline = new Pipeline(new MemoryStore(), new NoAssets());
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    /**
     * A ball of 0.2 m falls beside a board of 1 m that stands upright; near it the board comes apart.
     *
     * @param array<string, mixed> $source
     * @param array<string, mixed> $weight
     * @param array<string, mixed> $board
     *
     * @return array<string, mixed>
     */
    private static function document(array $source = [], array $weight = [], array $board = [], float $x = 0.16): array
    {
        return ['version' => 2, 'frames' => 30, 'forces' => [['id' => 'g', 'name' => 'Gravity', 'force' => 'gravity']], 'props' => [
            ['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.2, 'divisions' => 24]], 'position' => ['x' => $x, 'y' => 2.0], 'break' => ['pattern' => 'whole'], 'motion' => ['rigid' => ['before' => 'falls']]],
            ['id' => 'board', 'name' => 'Board', 'source' => ['kind' => 'box', 'box' => ['width' => 0.02, 'height' => 1.0, 'depth' => 0.4, 'divisions' => 1]], 'position' => ['y' => 0.6],
                'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 30, 'seed' => 2]],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['ball'], 'where' => 'motion', 'full' => 0.05, 'none' => 0.4, 'edge' => 'linear', ...$source]]], ...$weight],
                'release' => ['trigger' => 'weight', 'weight' => ['threshold' => 0.5]], ...$board],
        ]];
    }

    /** @param array<string, mixed> $document */
    private function bake(array $document, string $name, ?Checkpoints $checkpoints = null, ?int $until = null): string
    {
        $path = "{$this->folder}/{$name}";
        try {
            Baker::bake($this->pipeline, Shot::read($document), $path, stored: static function (Frame $frame) use ($until): void {
                if ($frame->number === $until) {
                    throw new RuntimeException('killed');
                }
            }, checkpoints: $checkpoints);
        } catch (RuntimeException $end) {
            self::assertSame('killed', $end->getMessage());
        }

        return $path;
    }

    /** @return array<int, float|int> */
    private static function track(string $path, string $prop, string $kind, int $frame): array
    {
        return BakeReader::open($path)->frame($frame)?->of($prop, $kind) ?? [];
    }

    #[Group('slow')]
    public function testItIsWhereTheBallIsNow(): void
    {
        $document = self::document();
        // Nothing falls off, so that all stay where they are read.
        $document['props'][1]['release'] = ['trigger' => 'never'];
        $path = $this->bake($document, 'b');
        $broken = $this->pipeline->broken(Shot::read($document)->props[1]);
        $most = 0.0;
        for ($n = 1; $n <= 15; $n++) {
            [$x, $y, $z] = self::track($path, 'ball', Track::POSE, $n);
            // Closed form of the fall; it may have gone half a substep more, and no further than that.
            $fallen = 0.5 * 9.81 * (($n - 1) / 24) ** 2;
            self::assertEqualsWithDelta(max(0.1, 2.0 - $fallen), $y, 0.01, "frame {$n}");
            foreach (self::track($path, 'board', Track::WEIGHT, $n) as $piece => $weight) {
                [$cx, $cy, $cz] = $broken->mass[$piece]->centre;
                $far = max(0.0, sqrt(($cx - $x) ** 2 + ($cy + 0.6 - $y) ** 2 + ($cz - $z) ** 2) - 0.1);
                // The ball has 24 sides: its faces lie up to 1.3 mm within it.
                $most = max($most, abs(max(0.0, min(1.0, (0.4 - $far) / 0.35)) - $weight));
            }
        }
        self::assertLessThan(0.01, $most);
        self::assertGreaterThan(0.9, max(self::track($path, 'board', Track::WEIGHT, 14)), 'it has been felt');
    }

    /** Pieces come off from the top to the bottom as it falls past, none of them before it is there. */
    #[Group('slow')]
    public function testWhatIsNearLetsGo(): void
    {
        $path = $this->bake(self::document(), 'b');
        $broken = $this->pipeline->broken(Shot::read(self::document())->props[1]);
        $heights = [];
        for ($n = 1; $n <= 24; $n++) {
            $y = self::track($path, 'ball', Track::POSE, $n)[1];
            foreach (self::track($path, 'board', Track::FLAGS, $n) as $piece => $flags) {
                if (($flags & Frame::RELEASED) !== 0 && ! isset($heights[$piece])) {
                    $heights[$piece] = $broken->mass[$piece]->centre[1] + 0.6;
                    self::assertLessThan(0.4, abs($heights[$piece] - $y), "piece {$piece} at frame {$n}");
                }
            }
        }
        self::assertCount(30, $heights);
        $keys = self::document(['where' => 'keys']);
        self::assertSame(0, max(self::track($this->bake($keys, 'keys'), 'board', Track::FLAGS, 30)) & Frame::RELEASED, 'by its keys it stays above');
    }

    /** @return iterable<string, array{array<string, mixed>}> */
    public static function remembering(): iterable
    {
        $spread = ['source' => 'spread', 'spread' => ['begins' => 'touch', 'props' => ['ball'], 'where' => 'motion', 'near' => 0.12, 'speed' => 2.0, 'softness' => 0.05]];
        yield 'near' => [self::document()];
        yield 'never falls back, late' => [self::document([], ['keeps' => true, 'follows' => 'late', 'lag' => 0.1])];
        if (getenv('YARD_BREAK_LONG')) {
            yield 'springs' => [self::document([], ['follows' => 'spring', 'frequency' => 2, 'damping' => 0.3])];
        }
        yield 'spreads from a touch, by another weight' => [self::document([], ['stack' => [['source' => 'other', 'other' => ['weight' => 'hit']]]], ['weights' => [['id' => 'hit', 'name' => 'Hit', 'stack' => [$spread], 'follows' => 'late', 'lag' => 0.1]]])];
        if (getenv('YARD_BREAK_LONG')) {
            yield 'cloth' => [self::document([], ['keeps' => true], ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.5, 'depth' => 0.5, 'divisions' => 9]], 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'cloth', 'cloth' => []]])];
            yield 'light pieces' => [self::document([], [], ['motion' => ['mover' => 'light']])];
        }
        yield 'staged pieces, and the ball goes by them' => [self::document(['edge' => 'smooth'], ['keeps' => true], ['motion' => ['mover' => 'staged', 'staged' => ['offset' => ['x' => -0.5]]]])];
    }

    /** @param array<string, mixed> $document */
    #[DataProvider('remembering')]
    #[Group('slow')]
    public function testWhatGoesOnSeesTheSame(array $document): void
    {
        if (isset($document['props'][1]['break']['cellular'])) {
            $document['props'][1]['break']['cellular']['pieces'] = 14;
        }
        $whole = $this->bake($document, 'whole');
        self::assertNotSame(self::track($whole, 'board', Track::WEIGHT, 1), self::track($whole, 'board', Track::WEIGHT, 20), 'the weight changes');
        $frame = 13;
        $kept = new class () implements Checkpoints {
            /** @var array<string, array{string, string}> */
            public array $states = [];

            public function find(string $hash): ?array
            {
                return $this->states[$hash] ?? null;
            }

            public function keep(string $hash, string $state, string $path): void
            {
                $this->states[$hash] = [$state, $path];
            }
        };
        // Kept where something begins to act: a force on a prop that is not there.
        $document['forces'][1] = ['id' => 'mark', 'name' => 'Mark', 'props' => ['nobody'], 'force' => 'gravity', 'gravity' => ['strength' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'hold'], ['frame' => $frame, 'value' => 1, 'ease' => 'hold']]]]];
        $this->bake($document, 'cut', $kept, $frame + 3);
        self::assertNotSame([], $kept->states);
        $resumed = $this->bake($document, 'cut', $kept);
        foreach ([$frame, $frame + 1, 30] as $n) {
            foreach (BakeReader::open($whole)->manifest->tracks as $k => $track) {
                self::assertSame(BakeReader::open($whole)->track($n, $k), BakeReader::open($resumed)->track($n, $k), "{$track->prop}: {$track->kind} at {$n}, cut off behind {$frame}");
            }
        }
    }

    /** After the bake the same weights are seen as it had. */
    #[Group('slow')]
    public function testItIsShownAsItWas(): void
    {
        $document = self::document([], ['keeps' => true, 'follows' => 'late', 'lag' => 0.1]);
        $path = $this->bake($document, 'b');
        $shot = Shot::read($document);
        $seen = $this->pipeline->seeing($shot, BakedSightings::in($path));
        $broken = $this->pipeline->broken($shot->props[1]);
        $counts = array_map(static fn (int $n): int => array_sum(array_map(static fn (int $flags): int => $flags & Frame::RELEASED, array_map(intval(...), self::track($path, 'board', Track::FLAGS, $n)))), range(1, 30));
        $due = $this->pipeline->runner->result($this->pipeline->releases($shot->props[1], 30, $seen));
        $sum = 0;
        foreach ($due as $k => $count) {
            $sum += $count;
            self::assertSame($counts[$k], $sum, 'frame ' . ($k + 1));
        }
        self::assertGreaterThan(10, $sum);
        $bytes = $this->pipeline->weightTrack($shot->props[1], 'release', null, 17, 1, $seen)->run(new Progress())->bytes;
        $keyed = $this->pipeline->weightTrack($shot->props[1], 'release', null, 17, 1)->run(new Progress())->bytes;
        self::assertGreaterThan(100, max(unpack('C*', $bytes) ?: []));
        self::assertSame(0, max(unpack('C*', $keyed) ?: []), 'by its keys the ball is above');
        self::assertSame(count($broken->pieces), 30);
    }

    /** Who goes by the middle of what fell to pieces goes by the centre of all its mass, wherever that is. */
    #[Group('slow')]
    public function testTheMiddleOfPieces(): void
    {
        $document = self::document(['measure' => 'middle', 'none' => 1.0]);
        $document['props'][0]['break'] = ['pattern' => 'cellular', 'cellular' => ['pieces' => 12]];
        $document['props'][1]['release'] = ['trigger' => 'never'];
        $path = $this->bake($document, 'b');
        $shot = Shot::read($document);
        $masses = $this->pipeline->broken($shot->props[0])->mass;
        $board = $this->pipeline->broken($shot->props[1])->mass;
        foreach ([8, 16] as $n) {
            $poses = self::track($path, 'ball', Track::POSE, $n);
            $sum = [0.0, 0.0, 0.0];
            $all = 0.0;
            foreach ($masses as $k => $mass) {
                $all += $mass->volume;
                foreach ($sum as $axis => $value) {
                    $sum[$axis] = $value + $mass->volume * $poses[7 * $k + $axis];
                }
            }
            foreach (self::track($path, 'board', Track::WEIGHT, $n) as $piece => $weight) {
                [$cx, $cy, $cz] = $board[$piece]->centre;
                $far = sqrt(($cx - $sum[0] / $all) ** 2 + ($cy + 0.6 - $sum[1] / $all) ** 2 + ($cz - $sum[2] / $all) ** 2);
                self::assertEqualsWithDelta(max(0.0, min(1.0, (1.0 - $far) / 0.95)), $weight, 0.5 / 255 + 1e-6);
            }
        }
    }
}
