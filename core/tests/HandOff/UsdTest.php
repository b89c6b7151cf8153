<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\UsdText;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\HandOff\PosedPieces;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Assets;
use YardBreak\Core\Stage\ListedAssets;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** USD text, and packed with pictures, read by three's own reader: each vertex of each piece is where the frames file has it. */
#[Group('thorough')]
final class UsdTest extends TestCase
{
    private string $file;

    protected function setUp(): void
    {
        $this->file = sys_get_temp_dir() . '/yard-usd-' . getmypid();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->file}*") ?: []);
    }

    /**
     * @param list<array<string, mixed>> $props
     * @param array<string, mixed> $more
     *
     * @return array{Pipeline, Shot, BakeReader, array<mixed>} and what three has read, at frames 1, 9, 9.5 and 14
     */
    private function read(array $props, array $more = [], string $format = 'usda', Assets $assets = new NoAssets()): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => 14, 'props' => $props] + $more);
        $pipeline = new Pipeline(new MemoryStore(), $assets);
        Baker::bake($pipeline, $shot, $this->file);
        $bake = BakeReader::open($this->file);
        $out = fopen("{$this->file}.{$format}", 'wb');
        self::assertNotFalse($out);
        $told = [];
        Exporters::of($format, $pipeline)->write($shot, $bake, $out, 'A "shot"', [], static function (int $done, int $of) use (&$told): void {
            $told[] = [$done, $of];
        });
        fclose($out);
        self::assertSame([1, end($told)[1] ?? 0], $told[0] ?? null);
        self::assertSame($told[0][1], end($told)[0], 'it is told to its end');
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-usd.mjs') . ' ' . escapeshellarg("{$this->file}.{$format}") . ' 1 9 9.5 14 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $read = json_decode((string) end($lines), true);
        self::assertIsArray($read);

        return [$pipeline, $shot, $bake, $read];
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array<string, mixed>
     */
    private static function prop(string $id, string $mover, array $more): array
    {
        return $more + ['id' => $id, 'name' => ucfirst($id), 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => $mover]];
    }

    public function testPiecesThatFallTurnGrowAndGoAreWhereTheBakeHasThem(): void
    {
        [$pipeline, $shot, $bake, $read] = $this->read([
            self::prop('old-jar', 'rigid', ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'divisions' => 1]], 'position' => ['y' => 0.8], 'rotation' => ['z' => 30.0], 'break' => ['prefix' => 'j', 'pattern' => 'cellular', 'cellular' => ['pieces' => 6]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]]),
            self::prop('bits', 'light', ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.5, 'divisions' => 3]], 'position' => ['x' => 2.0, 'y' => 1.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 12]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'light', 'light' => ['life' => 8]]]),
            self::prop('post', 'rigid', ['position' => ['x' => -3.0], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'rigid', 'rigid' => ['before' => 'held']]]),
        ], ['camera' => ['on' => true]]);
        self::assertSame(['upAxis' => 'Y', 'defaultPrim' => 'shot', 'metersPerUnit' => 1, 'framesPerSecond' => 24], array_intersect_key($read['file'], ['upAxis' => 1, 'defaultPrim' => 1, 'metersPerUnit' => 1, 'framesPerSecond' => 1]));
        $gone = 0;
        foreach ([1, 9, 14] as $number) {
            $frame = $bake->frame($number);
            self::assertNotNull($frame);
            foreach ($shot->props as $prop) {
                $broken = $pipeline->broken($prop);
                $posed = iterator_to_array(PosedPieces::at($prop, $broken, $frame));
                foreach (array_keys(iterator_to_array($broken->pieces)) as $p) {
                    $path = sprintf('/shot/props/%s/%s_%03d', UsdText::name($prop->id), $prop->prefix(), $p + 1);
                    self::assertSame(isset($posed[$p]), $read['visible'][$path][$number], "{$path} at frame {$number}");
                    $gone += isset($posed[$p]) ? 0 : 1;
                    if (isset($posed[$p])) {
                        self::assertPlaces($posed[$p], $read['meshes'][$path][$number], "{$path} at frame {$number}");
                    }
                }
            }
        }
        self::assertGreaterThan(0, $gone, 'some are at the end of their life');
        self::assertContains('xformOp:orient', $read['sampled']['/shot/props/old_jar/j_001']);
        self::assertSame([], $read['sampled']['/shot/props/post/piece_001'], 'what does not move has no samples');
        // As three makes a scene of it: two looks where there are fresh faces, and the camera.
        $piece = $read['composed'][0];
        self::assertCount(2, $piece['materials']);
        self::assertSame($pipeline->broken($shot->props[0])->pieces->mesh(0)->triangleCount(), (int) array_sum($piece['groups']));
        self::assertEqualsWithDelta($shot->camera?->heightAt(1.0), deg2rad($read['camera']['fov']), 1e-6);
        self::assertEqualsWithDelta(array_slice($shot->camera?->poseAt(1.0) ?? [], 0, 3), $read['camera']['position'], 1e-6);
    }

    /** A sign that shows a picture, beside a box of one colour: the same places as in the text, the picture on the sign's outside alone, all of it at multiples of 64 bytes. */
    public function testPackedThePicturesAreWithIt(): void
    {
        $asset = str_repeat('c', 64);
        file_put_contents("{$this->file}.svg", '<svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h40v20h-40z" fill="#2468ac"/><path d="M5 5h10v10h-10z" fill="#f00"/></svg>');
        $props = [
            self::prop('sign-1', 'rigid', ['source' => ['kind' => 'art', 'art' => ['asset' => $asset, 'fileName' => 'a.svg']], 'position' => ['y' => 1.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 5]], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 1]]]),
            self::prop('post', 'rigid', ['position' => ['x' => -3.0], 'release' => ['trigger' => 'never']]),
        ];
        $assets = new ListedAssets([$asset => "{$this->file}.svg"]);
        [, , , $text] = $this->read($props, assets: $assets);
        [$pipeline, $shot, , $read] = $this->read($props, format: 'usdz', assets: $assets);
        self::assertSame($text['meshes'], $read['meshes']);
        self::assertSame(['scene.usda', 'pictures/sign_1.png'], array_keys($read['files']));
        self::assertSame(strlen((string) $pipeline->facePicture($shot->props[0])), $read['files']['pictures/sign_1.png']);
        self::assertCount(6, $read['composed']);
        foreach ($read['composed'] as $k => $mesh) {
            self::assertSame($k < 5 ? 'srgb' : null, $mesh['pictures'][0]);
            self::assertSame([], array_filter(array_slice($mesh['pictures'], 1)));
            self::assertSame([], array_filter($text['composed'][$k]['pictures']), 'the text has none');
        }
    }

    public function testClothIsSampledByItsPointsAndColoursGoWithTheWeight(): void
    {
        $sweep = ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 2, 'to' => 12, 'softness' => 0.3]]]], 'look' => ['outer' => '#ff0000', 'changes' => true, 'changed' => '#0000ff']];
        [, $shot, $bake, $read] = $this->read([
            self::prop('sail', 'cloth', $sweep + ['source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 4]], 'position' => ['y' => 0.5], 'release' => ['trigger' => 'weight']]),
            self::prop('rock', 'staged', $sweep + ['source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'never']]),
        ], ['placing' => ['on' => true, 'position' => ['x' => 3.0], 'rotation' => ['x' => 90.0], 'scale' => 2.0]]);
        $sail = '/shot/props/sail/surface';
        $at = static fn (int $number): Frame => $bake->frame($number) ?? self::fail("frame {$number}");
        foreach ([1, 9, 14] as $number) {
            foreach (array_chunk($at($number)->of('sail', Track::VERTICES), 3) as $v => [$x, $y, $z]) {
                // Turned by 90 degrees about x what was up comes to the front.
                self::assertEqualsWithDelta([2.0 * $x + 3.0, -2.0 * $z, 2.0 * $y], $read['meshes'][$sail][$number][$v], 1e-6);
            }
            $weights = $at($number)->of('sail', Track::WEIGHT);
            self::assertEqualsWithDelta($weights, $read['weights'][$sail][$number], 1e-4);
            foreach ($weights as $v => $weight) {
                self::assertEqualsWithDelta([1.0 - $weight, 0.0, $weight], array_slice($read['colours'][$sail][$number], 3 * $v, 3), 2e-4);
            }
            self::assertEqualsWithDelta($at($number)->of('rock', Track::WEIGHT)[2], $read['weights']['/shot/props/rock/piece_003'][$number][0], 1e-4);
        }
        $one = $read['meshes'][$sail][9][24];
        $between = $read['meshes'][$sail]['9.5'][24];
        self::assertNotEqualsWithDelta($one, $between, 1e-4, 'it moves');
        self::assertSame(count($shot->props), count(array_unique(array_map(static fn (string $path): string => explode('/', $path)[3], array_keys($read['meshes'])))));
    }

    /** @param array<mixed> $read */
    private static function assertPlaces(TriangleMesh $mesh, array $read, string $what): void
    {
        self::assertCount($mesh->vertexCount(), $read, $what);
        foreach ($mesh->x as $v => $x) {
            self::assertEqualsWithDelta([$x, $mesh->y[$v], $mesh->z[$v]], $read[$v], 2e-6, "{$what}, vertex {$v}");
        }
    }

    /** What stays is said once; of a time in which nothing changes, its beginning and its end: between two samples it is even. */
    public function testWhatDoesNotChangeIsSaidOnce(): void
    {
        $said = static function (string ...$values): string {
            $out = fopen('php://memory', 'w+b') ?: self::fail('no memory');
            (new UsdText($out))->over('float a', array_combine(range(1, count($values)), $values));
            rewind($out);

            return (string) preg_replace('/\s+/', ' ', trim((string) stream_get_contents($out)));
        };
        self::assertSame('float a = 3', $said('3', '3', '3'));
        self::assertSame('float a.timeSamples = { 1: 3, 2: 4, }', $said('3', '4', '4', '4'));
        self::assertSame('float a.timeSamples = { 1: 3, 3: 3, 4: 5, 5: 3, }', $said('3', '3', '3', '5', '3'));
        self::assertSame('"say \\"a\\\\\\""', UsdText::text('say "a\\"'));
        self::assertSame('_1_a_b', UsdText::name('1-a b'));
        self::assertSame('(1.0E-7, -0.5, 3)', UsdText::vector([1.04e-7, -0.5, 3], 8));
    }
}
