<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What grows, shrinks and goes away does so in the files that other departments get, too. */
#[Group('thorough')]
final class SizesTest extends TestCase
{
    private string $folder;

    private Pipeline $pipeline;

    private Shot $shot;

    private BakeReader $bake;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-sizes-' . getmypid();
        mkdir($this->folder);
        $prop = ['source' => ['box' => ['divisions' => 1]], 'position' => ['y' => 1.0], 'break' => ['cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]]];
        $this->shot = Shot::read(['version' => 2, 'frames' => 24, 'props' => [
            ['id' => 'sign', 'name' => 'Sign', ...$prop, 'motion' => ['mover' => 'staged', 'staged' => ['takes' => 12, 'scale' => 0.4, 'outward' => 0.2, 'rotation' => ['x' => 50]]]],
            ['id' => 'dust', 'name' => 'Dust', ...$prop, 'motion' => ['mover' => 'light', 'light' => ['life' => 12, 'fade' => 5, 'variety' => 0.0]]],
            ['id' => 'rock', 'name' => 'Rock', ...$prop, 'position' => ['x' => 4.0, 'y' => 1.0], 'rotation' => ['z' => 30], 'scale' => ['x' => 2.0, 'y' => ['keys' => [['frame' => 1, 'value' => 1.0], ['frame' => 3, 'value' => 1.5]]]]],
        ]]);
        $this->pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($this->pipeline, $this->shot, "{$this->folder}/frames");
        $this->bake = BakeReader::open("{$this->folder}/frames");
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    /** @param array<string, int> $options */
    private function export(string $format, array $options = []): string
    {
        $out = fopen("{$this->folder}/out.{$format}", 'w+b');
        self::assertNotFalse($out);
        Exporters::of($format, $this->pipeline)->write($this->shot, $this->bake, $out, 'out', $options, static function (): void {
        });
        fclose($out);

        return "{$this->folder}/out.{$format}";
    }

    /** By the Khronos validator and three's own loader: no error, and the same places and sizes as in the frames file. */
    public function testGlbSaysHowLargeEachPieceIs(): void
    {
        $file = $this->export('glb');
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg($file) . ' 24 1 8 13 24 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $report = json_decode((string) end($lines), true);
        self::assertIsArray($report);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        foreach ([1, 8, 13, 24] as $number) {
            $frame = $this->bake->frame($number);
            self::assertNotNull($frame);
            $sizes = $places = [];
            foreach (['sign', 'dust', 'rock'] as $prop) {
                for ($k = 0; $k < 4; $k++) {
                    $places[] = array_slice($frame->of($prop, Track::POSE), 7 * $k, 3);
                    $life = (float) ($frame->find($prop, Track::LIFE)[$k] ?? 1.0);
                    $sizes[] = array_map(static fn (int|float $size): float => $life * (float) $size, array_slice($frame->find($prop, Track::SCALE) ?? array_fill(0, 12, 1.0), 3 * $k, 3));
                }
            }
            foreach ($sizes as $k => $size) {
                self::assertEqualsWithDelta($places[$k], $report['positions'][$number][$k], 1e-6, "node {$k} at frame {$number}");
                self::assertEqualsWithDelta($size, $report['scales'][$number][$k], 1e-6, "node {$k} at frame {$number}");
            }
        }
        self::assertEqualsWithDelta([2.0, 1.5, 1.0], $report['scales'][24][8], 1e-6, 'along its own axes');
        self::assertSame([0.0, 0.0, 0.0], array_map(floatval(...), $report['scales'][24][5]), 'gone');
    }

    /** Bounds of the staged piece shrink as its scale says; what is gone is not written. */
    public function testObjIsAsLargeAsTheFrameAndLeavesOutWhatIsGone(): void
    {
        $size = static function (string $obj, string $name): ?float {
            if (preg_match("/^o {$name}\n(.*?)(?=^o |\z)/ms", $obj, $object) !== 1) {
                return null;
            }
            preg_match_all('/^v (\S+) (\S+) (\S+)/m', $object[1], $points);
            $far = 0.0;
            foreach ($points[1] as $a => $x) {
                foreach ($points[1] as $b => $other) {
                    $far = max($far, sqrt(((float) $x - (float) $other) ** 2 + ((float) $points[2][$a] - (float) $points[2][$b]) ** 2 + ((float) $points[3][$a] - (float) $points[3][$b]) ** 2));
                }
            }

            return $far;
        };
        $first = (string) file_get_contents($this->export('obj', ['frame' => 1]));
        $last = (string) file_get_contents($this->export('obj', ['frame' => 24]));
        self::assertNotNull($size($first, 'sign-piece-001'));
        self::assertEqualsWithDelta(0.4 * $size($first, 'sign-piece-001'), $size($last, 'sign-piece-001'), 1e-5);
        $third = (string) file_get_contents($this->export('obj', ['frame' => 3]));
        self::assertGreaterThan(1.01 * $size($first, 'rock-piece-002'), $size($third, 'rock-piece-002'), 'it has grown along one axis until it let go');
        self::assertEqualsWithDelta($size($third, 'rock-piece-002'), $size($last, 'rock-piece-002'), 1e-5, 'and keeps that size');
        self::assertNotNull($size($first, 'dust-piece-003'));
        self::assertNull($size($last, 'dust-piece-003'));
    }
}
