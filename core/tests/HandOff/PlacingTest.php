<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Format\ObjReader;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What is placed as a whole stands otherwise in the files; nothing is computed anew for it. */
#[Group('thorough')]
final class PlacingTest extends TestCase
{
    private const PLACING = ['on' => true, 'position' => ['x' => 3.0, 'y' => 1.0, 'z' => -2.0], 'rotation' => ['x' => 90.0, 'y' => 0.0, 'z' => 30.0], 'scale' => 2.0];

    private string $file;

    protected function setUp(): void
    {
        $this->file = sys_get_temp_dir() . '/yard-placing-' . getmypid();
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->file}*") ?: []);
    }

    /** @param array<string, mixed> $placing */
    private static function shot(array $placing): Shot
    {
        return Shot::read(['version' => 2, 'frames' => 4, 'placing' => $placing, 'camera' => ['on' => true], 'props' => [
            ['id' => 'box', 'name' => 'Box', 'source' => ['box' => ['divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['cellular' => ['pieces' => 5]]],
        ]]);
    }

    /** @return array{string, string} GLB, OBJ of the first frame */
    private function files(Shot $shot, Pipeline $pipeline): array
    {
        $bake = BakeReader::open($this->file);
        $written = [];
        foreach (['glb', 'obj'] as $format) {
            $out = fopen("{$this->file}.{$format}", 'w+b');
            self::assertNotFalse($out);
            Exporters::of($format, $pipeline)->write($shot, $bake, $out, 'out', ['frame' => 1], static function (): void {
            });
            fclose($out);
            $written[] = (string) file_get_contents("{$this->file}.{$format}");
        }

        return [$written[0], $written[1]];
    }

    private static function assertPlaced(TriangleMesh $plain, TriangleMesh $placed, float $within): void
    {
        self::assertSame($plain->vertexCount(), $placed->vertexCount());
        $turn = Quaternion::fromDegrees(90.0, 0.0, 30.0);
        foreach ($plain->x as $v => $x) {
            [$px, $py, $pz] = Quaternion::rotate($turn, [2.0 * $x, 2.0 * $plain->y[$v], 2.0 * $plain->z[$v]]);
            self::assertEqualsWithDelta([$px + 3.0, $py + 1.0, $pz - 2.0], [$placed->x[$v], $placed->y[$v], $placed->z[$v]], $within);
        }
    }

    public function testFilesShowItPlacedAndTheCameraWhereItIs(): void
    {
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        [$shot, $whole] = [self::shot([]), self::shot(self::PLACING)];
        self::assertSame($pipeline->motionHash($shot), $pipeline->motionHash($whole), 'the bake is the same');
        Baker::bake($pipeline, $shot, $this->file);
        [$glb, $obj] = $this->files($shot, $pipeline);
        [$placedGlb, $placedObj] = $this->files($whole, $pipeline);
        self::assertPlaced(GlbReader::read($glb), GlbReader::read($placedGlb), 1e-5);
        self::assertPlaced(ObjReader::read($obj), ObjReader::read($placedObj), 1e-5);

        $json = json_decode(substr($placedGlb, 20, (int) (unpack('V', $placedGlb, 12)[1] ?? 0)), true);
        self::assertIsArray($json);
        $roots = array_map(static fn (int $node): array => $json['nodes'][$node], $json['scenes'][0]['nodes']);
        self::assertSame(['placed', 'camera', 'sun', 'fill'], array_column($roots, 'name'));
        self::assertCount(5, $roots[0]['children']);
        self::assertEqualsWithDelta([1.6, 1.1, 2.2], $roots[1]['translation'], 1e-6, 'the camera is not placed with it');
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg("{$this->file}.glb") . ' 24 1 4 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        self::assertSame(0, json_decode((string) end($lines), true)['errors'] ?? null, implode("\n", $lines));
    }
}
