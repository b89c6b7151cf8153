<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\MeshReader;
use YardBreak\Core\Format\ZipStream;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\HandOff\PieceTable;
use YardBreak\Core\HandOff\StandingPieces;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Tests\Fixture\Node;
use ZipArchive;

/** Meshes at a frame, at each frame, and the table of pieces. */
final class MeshFilesTest extends TestCase
{
    private string $file;

    protected function setUp(): void
    {
        $this->file = sys_get_temp_dir() . '/yard-mesh-files-' . getmypid();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->file}*") ?: []);
    }

    /**
     * @param array<string, mixed> $more
     *
     * @return array{Pipeline, Shot, BakeReader} a box of six pieces that let go at frame 3 and a ball of light ones that are gone after 6 frames
     */
    private function bake(array $more = []): array
    {
        $shot = Shot::read($more + ['version' => 2, 'frames' => 30, 'props' => [
            ['id' => 'box', 'name' => 'Box, large', 'source' => ['kind' => 'box', 'box' => ['width' => 0.6, 'height' => 0.6, 'depth' => 0.6, 'divisions' => 1]], 'position' => ['y' => 1.5], 'break' => ['prefix' => 'b', 'pattern' => 'cellular', 'cellular' => ['pieces' => 6]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]], 'motion' => ['mover' => 'rigid', 'rigid' => ['density' => 2000, 'before' => 'held']]],
            ['id' => 'puff', 'name' => 'Puff', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 3]], 'position' => ['x' => 2.0, 'y' => 1.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 4]],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 2]], 'motion' => ['mover' => 'light', 'light' => ['life' => 6]]],
            ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 3]], 'position' => ['x' => -2.0, 'y' => 1.0], 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'cloth']],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($pipeline, $shot, $this->file);

        return [$pipeline, $shot, BakeReader::open($this->file)];
    }

    private function written(string $ending, Pipeline $pipeline, Shot $shot, BakeReader $bake, int $frame = 1): string
    {
        $path = "{$this->file}.{$ending}";
        $out = fopen($path, 'wb') ?: self::fail('nothing can be written');
        $told = [];
        Exporters::of($ending, $pipeline)->write($shot, $bake, $out, 'Out 1', ['frame' => $frame], static function (int $done, int $of) use (&$told): void {
            $told[] = [$done, $of];
        });
        fclose($out);
        self::assertNotSame([], $told);

        return (string) file_get_contents($path);
    }

    /** By our readers the same mesh; by three's the same corners. */
    #[DataProvider('formats')]
    #[Group('slow')]
    public function testAFrameIsReadBackAsItStands(string $ending, string $loader, bool $keepsVertices): void
    {
        [$pipeline, $shot, $bake] = $this->bake(['placing' => ['on' => true, 'position' => ['z' => 4.0], 'rotation' => ['y' => 90.0], 'scale' => 2.0]]);
        $this->written($ending, $pipeline, $shot, $bake, 12);
        $all = TriangleMesh::together(array_column(iterator_to_array(StandingPieces::at($pipeline, $shot, $bake, 12), false), 1));
        $read = MeshReader::read("{$this->file}.{$ending}", "out.{$ending}");
        self::assertSame($all->triangleCount(), $read->triangleCount());
        self::assertEqualsWithDelta(MassProperties::of($all)->volume, MassProperties::of($read)->volume, 1e-5);
        if ($keepsVertices) {
            self::assertSame(array_values($all->triangles), $read->triangles);
            self::assertEqualsWithDelta(array_values($all->z), $read->z, 1e-6);
        }
        $corners = Node::run('three', <<<JS
            const { {$loader} } = await import('three/examples/jsm/loaders/{$loader}.js');
            const bytes = readFileSync(input);
            const geometry = new {$loader}().parse(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength));
            const flat = geometry.index ? geometry.toNonIndexed() : geometry;
            return Array.from(flat.getAttribute('position').array);
            JS, "{$this->file}.{$ending}");
        self::assertCount(3 * count($all->triangles), $corners);
        foreach (array_values($all->triangles) as $k => $v) {
            self::assertEqualsWithDelta([$all->x[$v], $all->y[$v], $all->z[$v]], array_slice($corners, 3 * $k, 3), 1e-6, "corner {$k}");
        }
    }

    /** @return iterable<string, array{string, string, bool}> */
    public static function formats(): iterable
    {
        yield 'PLY' => ['ply', 'PLYLoader', true];
        yield 'STL' => ['stl', 'STLLoader', false];
    }

    #[Group('slow')]
    public function testAPlySaysOfEachFaceWhichPieceItIsOf(): void
    {
        [$pipeline, $shot, $bake] = $this->bake();
        $data = $this->written('ply', $pipeline, $shot, $bake, 4);
        self::assertStringContainsString("comment piece 0 box-b-001\n", $data);
        self::assertStringContainsString("comment piece 10 Sail\n", $data);
        preg_match('/element vertex (\d+)\n.*element face (\d+)\n.*end_header\n/s', $data, $head);
        $at = strlen(explode("end_header\n", $data, 2)[0]) + 11 + 12 * (int) ($head[1] ?? 0);
        self::assertSame(strlen($data), $at + 18 * (int) ($head[2] ?? 0));
        $pieces = $looks = [];
        for ($f = 0; $f < (int) ($head[2] ?? 0); $f++) {
            /** @var array{look: int, piece: int} $face */
            $face = unpack('Clook/Vpiece', $data, $at + 18 * $f + 13);
            $pieces[] = $face['piece'];
            $looks[$face['piece']][$face['look']] = true;
        }
        self::assertSame(range(0, 10), array_values(array_unique($pieces)));
        self::assertSame([0, 1], array_keys($looks[0]), 'its outside and its fresh faces');
        self::assertSame([0], array_keys($looks[10]));
    }

    /** By libzip: whole, in order, each the same as the frame by itself; the same files are the same bytes. */
    #[Group('slow')]
    public function testEachFrameIsAFileInAZip(): void
    {
        [$pipeline, $shot, $bake] = $this->bake();
        $bytes = $this->written('obj.zip', $pipeline, $shot, $bake);
        self::assertSame($bytes, $this->written('obj.zip', $pipeline, $shot, $bake));
        $zip = new ZipArchive();
        self::assertTrue($zip->open("{$this->file}.obj.zip", ZipArchive::CHECKCONS));
        self::assertSame(30, $zip->count());
        foreach ([1, 9, 30] as $number) {
            self::assertSame(sprintf('Out_1.%04d.obj', $number), $zip->getNameIndex($number - 1));
            self::assertSame($this->written('obj', $pipeline, $shot, $bake, $number), $zip->getFromIndex($number - 1));
        }
        $zip->close();
        self::assertSame('obj.zip', Exporters::ending('a/b.OBJ.zip', $pipeline));
        self::assertSame('obj', Exporters::ending('b.zip.obj', $pipeline));
        $this->expectException(BadFile::class);
        $this->expectExceptionMessage('Write to a file that ends in .glb, .usda, .usdz, .csv, .obj.zip, .obj, .ply.zip, .ply, .stl.zip, .stl.');
        Exporters::of(Exporters::ending('b.zip', $pipeline), $pipeline);
    }

    /** The same files with other numbers: 1001 is where plates often begin (common practice, no source). */
    #[Group('slow')]
    public function testTheFirstFrameIsCalledAsTheShotSays(): void
    {
        [$pipeline, $shot, $bake] = $this->bake();
        [, $called, $again] = $this->bake(['firstFrame' => 1001]);
        self::assertSame($bake->manifest->hash, $again->manifest->hash, 'it is the same motion');
        $this->written('ply.zip', $pipeline, $called, $bake);
        $zip = new ZipArchive();
        self::assertTrue($zip->open("{$this->file}.ply.zip"));
        self::assertSame(['Out_1.1001.ply', 'Out_1.1030.ply'], [$zip->getNameIndex(0), $zip->getNameIndex(29)]);
        self::assertSame($this->written('ply', $pipeline, $shot, $bake, 30), $zip->getFromIndex(29));
        $zip->close();
        $usd = $this->written('usda', $pipeline, $called, $bake);
        self::assertStringContainsString("endTimeCode = 1030\n", $usd);
        self::assertStringContainsString("startTimeCode = 1001\n", $usd);
        $back = preg_replace_callback('/^(\s+)(\d+): /m', static fn (array $m): string => $m[1] . ((int) $m[2] - 1000) . ': ', $usd);
        self::assertSame($this->written('usda', $pipeline, $shot, $bake), str_replace(['TimeCode = 1030', 'TimeCode = 1001'], ['TimeCode = 30', 'TimeCode = 1'], (string) $back));
        $frames = function (Shot $of) use ($pipeline, $bake): array {
            $lines = array_map(static fn (string $line): array => str_getcsv($line, escape: ''), explode("\r\n", trim($this->written('csv', $pipeline, $of, $bake))));

            return array_map(static fn (array $line): array => [$line[11], $line[12], $line[13], $line[15]], array_slice($lines, 1));
        };
        self::assertSame(array_map(static fn (array $row): array => array_map(static fn (?string $n): string => $n === '' ? '' : (string) ((int) $n + 1000), $row), $frames($shot)), $frames($called));
    }

    /** More files than 16 bits count. */
    #[Group('slow')]
    public function testAZipMayHaveManyFiles(): void
    {
        $path = "{$this->file}.zip";
        $out = fopen($path, 'w+b') ?: self::fail('nothing can be written');
        $zip = new ZipStream($out);
        for ($k = 0; $k < 66_000; $k++) {
            $zip->add("f{$k}", "{$k}");
        }
        $zip->close();
        fclose($out);
        $read = new ZipArchive();
        self::assertTrue($read->open($path));
        self::assertSame(66_000, $read->count());
        self::assertSame('65999', $read->getFromName('f65999'));
        $read->close();
    }

    /** Whatever a file is called, what it holds begins where it is to begin, and PHP's own reader gets it back. */
    public function testWhatIsStoredIsAligned(): void
    {
        $path = "{$this->file}.zip";
        $out = fopen($path, 'w+b') ?: self::fail('nothing can be written');
        $zip = new ZipStream($out);
        $content = fopen('php://memory', 'w+b') ?: self::fail('nothing can be written');
        for ($k = 1; $k <= 130; $k++) {
            fwrite($content, chr($k));
            $zip->store(str_repeat('n', $k), $content, 64);
        }
        $zip->close();
        fclose($out);
        $bytes = (string) file_get_contents($path);
        $read = new ZipArchive();
        self::assertTrue($read->open($path, ZipArchive::CHECKCONS));
        $whole = '';
        for ($k = 1, $at = 0; $k <= 130; $k++) {
            $whole .= chr($k);
            self::assertSame($whole, $read->getFromName(str_repeat('n', $k)));
            self::assertSame(ZipArchive::CM_STORE, $read->statIndex($k - 1)['comp_method'] ?? -1);
            $at = (int) strpos($bytes, pack('V', 0x04034B50), $at);
            /** @var array{name: int, extra: int} $lengths */
            $lengths = unpack('vname/vextra', $bytes, $at + 26);
            $at += 30 + $lengths['name'] + $lengths['extra'];
            self::assertSame(0, $at % 64);
            self::assertSame($whole, substr($bytes, $at, $k));
        }
        $read->close();
    }

    public function testTheTableSaysWhatBecomesOfEachPiece(): void
    {
        [$pipeline, $shot, $bake] = $this->bake();
        $lines = array_map(static fn (string $line): array => str_getcsv($line, escape: ''), explode("\r\n", trim($this->written('csv', $pipeline, $shot, $bake))));
        self::assertSame(PieceTable::COLUMNS, array_shift($lines));
        self::assertCount(11, $lines);
        $rows = array_map(static fn (array $line): array => array_combine(PieceTable::COLUMNS, $line), $lines);
        self::assertSame(['Box, large', '1', 'box-b-001'], array_slice($lines[0], 0, 3));
        self::assertEqualsWithDelta(0.6 ** 3, array_sum(array_map(floatval(...), array_column(array_slice($rows, 0, 6), 'volume_m3'))), 1e-8);
        $piece = $rows[0];
        self::assertEqualsWithDelta(2000.0 * (float) $piece['volume_m3'], (float) $piece['mass_kg'], 1e-5);
        self::assertSame('3', $piece['lets_go_frame']);
        self::assertSame('', $piece['gone_frame']);
        // Falling freely for a frame less than half a second its speed is g t; the fastest of all is as fast as a fall from so high at most.
        $fastest = max(array_map(floatval(...), array_column(array_slice($rows, 0, 6), 'fastest_m_per_s')));
        self::assertLessThan(sqrt(2.0 * 9.81 * 1.8), $fastest);
        self::assertGreaterThan(sqrt(2.0 * 9.81 * 0.8), $fastest);
        self::assertGreaterThan(3, (int) $piece['fastest_frame']);
        self::assertGreaterThan(1.0, (float) $piece['y_m'] - (float) $piece['end_y_m']);
        self::assertGreaterThanOrEqual((float) $piece['y_m'] - (float) $piece['end_y_m'], (float) $piece['way_m']);
        $gone = array_map(intval(...), array_column(array_slice($rows, 6, 4), 'gone_frame'));
        self::assertGreaterThan(2, min($gone));
        self::assertLessThanOrEqual(30, max($gone));
        self::assertSame(array_fill(0, 12, ''), array_slice($lines[10], 8), 'cloth has no one place');
    }
}
