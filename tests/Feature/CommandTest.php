<?php

declare(strict_types=1);

namespace Tests\Feature;

use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;

/** The command line as a render farm uses it: real processes, their output streams and exit codes. */
#[Group('thorough')]
final class CommandTest extends TestCase
{
    private string $folder;

    protected function setUp(): void
    {
        $this->folder = sys_get_temp_dir() . '/yard-command-' . bin2hex(random_bytes(6));
        mkdir($this->folder);
    }

    protected function tearDown(): void
    {
        exec('rm -rf ' . escapeshellarg($this->folder));
    }

    /** @return array{int, string, string} exit code, standard output, standard error */
    private function artisan(string ...$words): array
    {
        $process = proc_open([__DIR__ . '/../../artisan', ...$words], [1 => ['pipe', 'w'], 2 => ['pipe', 'w']], $pipes);
        self::assertIsResource($process);
        $out = (string) stream_get_contents($pipes[1]);
        $error = (string) stream_get_contents($pipes[2]);

        return [proc_close($process), $out, $error];
    }

    public function testInspectBreakBakeAndExport(): void
    {
        $obj = "{$this->folder}/tetra.obj";
        file_put_contents($obj, "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n");
        [$code, $out] = $this->artisan('yard:inspect', $obj);
        self::assertSame(0, $code);
        $health = json_decode($out, true);
        self::assertTrue($health['watertight']);
        self::assertEqualsWithDelta(1 / 6, $health['volume'], 1e-12);

        file_put_contents("{$this->folder}/break.json", '{"pieces": 12, "seed": 4}');
        [$code, $out, $error] = $this->artisan('yard:break', $obj, "{$this->folder}/pieces", "--settings={$this->folder}/break.json", '--seed=5');
        self::assertSame(0, $code, $error);
        $report = json_decode($out, true);
        self::assertSame(5, (int) $report['settings']['seed'], 'options win over the file');
        self::assertLessThan(1e-9, abs($report['volume_error']));
        self::assertCount($report['pieces'], glob("{$this->folder}/pieces/*.obj") ?: []);
        self::assertNotSame('', $error, 'progress goes to standard error');

        // A sheet has no volume, but a skin.
        file_put_contents("{$this->folder}/sheet.obj", "v 0 0 0\nv 1 0 0\nv 1 1 0\nv 0 1 0\nf 1 2 3 4\n");
        [$code, $out, $error] = $this->artisan('yard:break', "{$this->folder}/sheet.obj", "{$this->folder}/flakes.glb", '--pattern=flakes', '--set=count=20');
        self::assertSame(0, $code, $error);
        self::assertNull(json_decode($out, true)['volume_error']);

        // A file in millimetres without its last face: a tetrahedron of a millimetre when it is mended.
        file_put_contents("{$this->folder}/small.obj", "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\n");
        [$code, $out, $error] = $this->artisan('yard:break', "{$this->folder}/small.obj", "{$this->folder}/small.glb", '--units=mm', '--repair', '--pieces=6');
        self::assertSame(0, $code, $error);
        self::assertEqualsWithDelta(1e-9 / 6.0, json_decode($out, true)['volume'], 1e-18);
        self::assertStringContainsString('1 hole filled', $error);
        [$code, $out] = $this->artisan('yard:break', $obj, "{$this->folder}/large.glb", '--size=8', '--pieces=6');
        self::assertSame(0, $code);
        self::assertEqualsWithDelta(512.0 / 6.0, json_decode($out, true)['volume'], 1e-9);
        [$code, , $error] = $this->artisan('yard:break', $obj, "{$this->folder}/none.glb", '--units=miles');
        self::assertSame(2, $code);
        self::assertStringContainsString('one of: m, cm, mm, in, ft', $error);

        $document = ['version' => 1, 'frames' => 8, 'props' => [[
            'id' => 't', 'name' => 'T', 'source' => ['kind' => 'file', 'asset' => hash_file('sha256', $obj), 'fileName' => 'tetra.obj'],
            'place' => ['y' => 0.2], 'break' => ['pieces' => 4], 'timing' => ['release' => 'frame', 'frame' => 2],
        ]]];
        file_put_contents("{$this->folder}/shot.json", (string) json_encode($document));
        [$code, $out, $error] = $this->artisan('yard:bake', "{$this->folder}/shot.json", "{$this->folder}/bake");
        self::assertSame(0, $code, $error);
        self::assertSame(8, json_decode($out, true)['frames']);
        // The asset lies beside the first document, not in the bake folder: stage results are enough to export.
        copy($obj, "{$this->folder}/bake/tetra.obj");
        foreach (['out.glb', 'out.obj'] as $name) {
            [$code, , $error] = $this->artisan('yard:export', "{$this->folder}/bake", "{$this->folder}/{$name}");
            self::assertSame(0, $code, $error);
            self::assertFileExists("{$this->folder}/{$name}");
        }
    }

    public function testArtIsFoundByItsContentWhateverItIsCalled(): void
    {
        $svg = '<svg xmlns="http://www.w3.org/2000/svg"><rect width="20" height="10" fill="#248"/></svg>';
        mkdir("{$this->folder}/art");
        file_put_contents("{$this->folder}/art/renamed.svg", $svg);
        $document = ['version' => 1, 'frames' => 3, 'props' => [[
            'id' => 's', 'name' => 'S', 'source' => ['kind' => 'art', 'asset' => hash('sha256', $svg), 'fileName' => 'sign.svg', 'painted' => true], 'break' => ['pieces' => 3],
        ]]];
        file_put_contents("{$this->folder}/shot.json", (string) json_encode($document));
        [$code, , $error] = $this->artisan('yard:bake', "{$this->folder}/shot.json", "{$this->folder}/bake", "--assets={$this->folder}/art");
        self::assertSame(0, $code, $error);
        [$code, , $error] = $this->artisan('yard:export', "{$this->folder}/bake", "{$this->folder}/a.glb");
        self::assertNotSame(0, $code);
        self::assertStringContainsString('needs “sign.svg”', $error);
        self::assertFileDoesNotExist("{$this->folder}/a.glb");
        [$code, , $error] = $this->artisan('yard:export', "{$this->folder}/bake", "{$this->folder}/a.glb", "--assets={$this->folder}/art");
        self::assertSame(0, $code, $error);
        self::assertStringContainsString('image/png', (string) file_get_contents("{$this->folder}/a.glb"));
    }

    public function testBadInputGivesOneClearMessageAndAnExitCode(): void
    {
        file_put_contents("{$this->folder}/bad.json", '{"version": 1, "props": [{"id": "a", "name": "A", "motion": {"friction": 9}}]}');
        file_put_contents("{$this->folder}/page.obj", '<html></html>');
        $sha = str_repeat('ab', 32);
        file_put_contents("{$this->folder}/lost.json", (string) json_encode(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'file', 'asset' => $sha, 'fileName' => 'vase.obj']]]]));
        file_put_contents("{$this->folder}/dark.json", (string) json_encode(['version' => 1, 'props' => [['id' => 'a', 'name' => 'A', 'break' => ['pattern' => 'picture', 'picture' => ['asset' => $sha]]]]]));
        foreach ([
            [['yard:inspect', "{$this->folder}/none.obj"], 'cannot be opened'],
            [['yard:inspect', "{$this->folder}/page.obj"], 'web page'],
            [['yard:break', "{$this->folder}/page.obj", "{$this->folder}/x.glb", '--pieces=1'], 'from 2 to 2000'],
            [['yard:bake', "{$this->folder}/bad.json", "{$this->folder}/out"], '/props/0/motion/friction'],
            [['yard:bake', "{$this->folder}/page.obj", "{$this->folder}/out"], 'not JSON'],
            [['yard:bake', "{$this->folder}/lost.json", "{$this->folder}/out"], 'needs “vase.obj”'],
            [['yard:bake', "{$this->folder}/dark.json", "{$this->folder}/out", "--assets={$this->folder}"], 'a picture of the break'],
            [['yard:export', $this->folder, "{$this->folder}/x.glb"], 'cannot be opened'],
        ] as [$words, $reason]) {
            [$code, $out, $error] = $this->artisan(...$words);
            self::assertNotSame(0, $code, implode(' ', $words));
            self::assertSame('', trim($out));
            self::assertStringContainsString($reason, $error);
            self::assertSame(1, substr_count(trim($error), "\n") + 1, $error);
        }
    }
}
