<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\HandOff;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Bake\BadBake;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\HandOff\Exporters;
use YardBreak\Core\HandOff\Frozen;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** What moves by its vertices does so in the files that other departments get. */
#[Group('thorough')]
final class BentTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-bent-' . getmypid();
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        array_map(unlink(...), glob("{$this->folder}/*") ?: []);
        rmdir($this->folder);
    }

    /** @return array{Pipeline, Shot, BakeReader} */
    private function bake(int $frames): array
    {
        $shot = Shot::read(['version' => 2, 'frames' => $frames, 'props' => [
            ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 5]], 'position' => ['y' => 0.5], 'break' => ['pattern' => 'whole'],
                'release' => ['trigger' => 'frame', 'frame' => ['frame' => 3]], 'motion' => ['mover' => 'cloth', 'cloth' => ['finer' => 1, 'hold' => [['source' => 'rim', 'rim' => ['side' => 'low-x']]]]]],
            ['id' => 'rock', 'name' => 'Rock', 'source' => ['kind' => 'ball', 'ball' => ['width' => 0.3, 'divisions' => 2]], 'position' => ['y' => 0.15], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($pipeline, $shot, "{$this->folder}/frames");

        return [$pipeline, $shot, BakeReader::open("{$this->folder}/frames")];
    }

    /** @param array<string, int> $options */
    private function export(Pipeline $pipeline, Shot $shot, BakeReader $bake, string $format, array $options = []): string
    {
        $out = fopen("{$this->folder}/out.{$format}", 'w+b');
        self::assertNotFalse($out);
        Exporters::of($format, $pipeline)->write($shot, $bake, $out, 'out', $options, static function (): void {
        });
        fclose($out);

        return "{$this->folder}/out.{$format}";
    }

    /** By the Khronos validator and three's own loader: no error, and each vertex where the frames file has it, also between two frames. */
    public function testGlbHasAMorphTargetForEachFrame(): void
    {
        [$pipeline, $shot, $bake] = $this->bake(16);
        $file = $this->export($pipeline, $shot, $bake, 'glb');
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg($file) . ' 24 1 2 9 9.5 16 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $report = json_decode((string) end($lines), true);
        self::assertIsArray($report);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        self::assertSame(2, $report['nodes']);
        self::assertStringContainsString('"doubleSided":true', (string) file_get_contents($file), 'a sheet is seen from below too');
        $order = $this->order($pipeline->broken($shot->props[0])->pieces->mesh(0)->triangles);
        foreach ([1, 2, 9, 16] as $number) {
            $places = array_chunk($bake->frame($number)?->of('sail', Track::VERTICES) ?? [], 3);
            self::assertCount(121, $report['bent'][$number][0]);
            foreach ($report['bent'][$number][0] as $k => $place) {
                self::assertEqualsWithDelta($places[$order[$k]], $place, 1e-6, "vertex {$order[$k]} at frame {$number}");
            }
        }
        $between = $report['bent']['9.5'][0][35][1];
        self::assertGreaterThan(min($report['bent'][9][0][35][1], $report['bent'][16][0][35][1]) - 1e-6, $between);
        self::assertNotEqualsWithDelta($report['bent'][9][0][35][1], $between, 1e-5);
    }

    /** What is drawn finer is frozen as coarse as it is computed, so that it has the triangles of its prop. */
    public function testItIsFrozenAsItIsComputed(): void
    {
        [$pipeline, $shot, $bake] = $this->bake(8);
        $frozen = Frozen::of($pipeline, $shot->props[0], $bake, 8);
        self::assertSame($pipeline->prepared($shot->props[0])->triangles, $frozen->mesh->triangles);
        $places = $bake->frame(8)?->of('sail', Track::VERTICES) ?? [];
        foreach (array_keys($frozen->mesh->x) as $v) {
            self::assertEqualsWithDelta($places[3 * $v + 1], $frozen->mesh->y[$v] + $frozen->middle[1], 1e-9);
        }
    }

    /**
     * @param array<int, int> $triangles
     *
     * @return list<int> vertices in the order in which corners come
     */
    private function order(array $triangles): array
    {
        return array_values(array_unique($triangles));
    }

    /**
     * An outside that turns to another colour with the weight: of cloth at each vertex, of a piece as a whole. Where it has turned half
     * way the colour lies half way in linear light, as glTF 2.0 adds targets up (3.7.2.2).
     */
    public function testColoursThatTurnAreInTheGlb(): void
    {
        $turning = ['weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 2, 'to' => 12, 'softness' => 0.3]]]], 'look' => ['outer' => '#ff0000', 'changes' => true, 'changed' => '#0000ff']];
        $shot = Shot::read(['version' => 2, 'frames' => 14, 'props' => [
            ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['width' => 0.8, 'depth' => 0.8, 'divisions' => 4]], 'position' => ['y' => 0.5], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth']] + $turning,
            ['id' => 'rock', 'name' => 'Rock', 'source' => ['kind' => 'box', 'box' => ['width' => 1.0, 'divisions' => 1]], 'position' => ['y' => 2.0], 'break' => ['pattern' => 'cellular', 'cellular' => ['pieces' => 4]], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'staged']] + $turning,
            ['id' => 'post', 'name' => 'Post', 'position' => ['y' => 4.0], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]]);
        $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
        Baker::bake($pipeline, $shot, "{$this->folder}/frames");
        $bake = BakeReader::open("{$this->folder}/frames");
        $file = $this->export($pipeline, $shot, $bake, 'glb');
        exec('node ' . escapeshellarg(__DIR__ . '/../../../tests/Browser/check-glb.mjs') . ' ' . escapeshellarg($file) . ' 24 1 5 8 14 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $report = json_decode((string) end($lines), true);
        self::assertIsArray($report);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        self::assertContains('Rock outside, changing', $report['materials']);
        self::assertNotContains('Post outside, changing', $report['materials']);
        $order = $this->order($pipeline->broken($shot->props[0])->pieces->mesh(0)->triangles);
        $seen = [];
        foreach ([1, 5, 8, 14] as $number) {
            self::assertCount(5, $report['colours'][$number], 'the sail and four pieces');
            $sail = $bake->frame($number)?->of('sail', Track::WEIGHT) ?? [];
            foreach ($report['colours'][$number][0] as $k => $colour) {
                $share = $sail[$order[$k]];
                self::assertEqualsWithDelta([1.0 - $share, 0.0, $share], $colour, 1e-5, "vertex {$order[$k]} at frame {$number}");
                $seen[(int) round(4 * $share)] = true;
            }
            $rock = $bake->frame($number)?->of('rock', Track::WEIGHT) ?? [];
            foreach (array_slice($report['colours'][$number], 1) as $piece => $colours) {
                foreach ($colours as $colour) {
                    self::assertEqualsWithDelta([1.0 - $rock[$piece], 0.0, $rock[$piece]], $colour, 1e-5, "piece {$piece} at frame {$number}");
                }
            }
        }
        self::assertGreaterThanOrEqual(3, count($seen), 'not only all or nothing');
    }

    public function testObjShowsOneFrame(): void
    {
        [$pipeline, $shot, $bake] = $this->bake(12);
        $text = (string) file_get_contents($this->export($pipeline, $shot, $bake, 'obj', ['frame' => 12]));
        preg_match_all('/^v (\S+) (\S+) (\S+)/m', substr($text, 0, (int) strpos($text, 'o Rock')), $points);
        $places = $bake->frame(12)?->of('sail', Track::VERTICES) ?? [];
        self::assertCount(121, $points[1]);
        foreach (array_chunk($places, 3) as $i => $place) {
            self::assertEqualsWithDelta($place, [(float) $points[1][$i], (float) $points[2][$i], (float) $points[3][$i]], 1e-6);
        }
        self::assertLessThan(0.4, min(array_map(floatval(...), $points[2])), 'it has fallen');
    }

    public function testTooManyFramesForMorphTargetsAreSaid(): void
    {
        [$pipeline, $shot, $bake] = $this->bake(1001);
        $this->expectException(BadBake::class);
        $this->expectExceptionMessage('a GLB takes 1000 at most');
        $this->export($pipeline, $shot, $bake, 'glb');
    }
}
