<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Support\AtomicFile;
use App\Support\FileAssets;
use App\Support\FileCheckpoints;
use App\Support\FileStageStore;
use Illuminate\Http\UploadedFile;
use RuntimeException;
use Tests\TestCase;

/** Files are there in full or not at all, and what is asked for is named safely, whatever comes in. */
final class StoreTest extends TestCase
{
    public function testAFileAppearsWholeOrNotAtAll(): void
    {
        $path = "{$this->folder}/deep/er/file";
        AtomicFile::write($path, 'one', '', 'two');
        self::assertSame('onetwo', file_get_contents($path));
        AtomicFile::write($path, 'three');
        self::assertSame('three', file_get_contents($path));
        self::assertCount(1, glob("{$this->folder}/deep/er/*") ?: []);
        // Where a folder stands in the way nothing is left behind, and what was there stays.
        mkdir("{$this->folder}/taken/inside", recursive: true);
        foreach (["{$this->folder}/taken", "{$path}/below"] as $wrong) {
            try {
                AtomicFile::write($wrong, 'x');
                self::fail('It was written.');
            } catch (RuntimeException $error) {
                self::assertMatchesRegularExpression('/could not be stored/', $error->getMessage());
            }
        }
        self::assertSame([], glob("{$this->folder}/*.part") ?: []);
        self::assertDirectoryExists("{$this->folder}/taken/inside");
    }

    /** A damaged state is as good as none: the bake begins earlier, it does not fail. */
    public function testCheckpointsAreFoundWholeOrNotAtAll(): void
    {
        $store = new FileCheckpoints("{$this->folder}/checkpoints");
        $hash = hash('sha256', 'a');
        self::assertNull($store->find($hash));
        $state = random_bytes(5000) . "\n" . str_repeat('x', 5000);
        $store->keep($hash, $state, '/some/frames');
        self::assertSame([$state, '/some/frames'], $store->find($hash));
        self::assertNull($store->find(hash('sha256', 'b')));
        $file = "{$this->folder}/checkpoints/{$hash}";
        $bytes = (string) file_get_contents($file);
        foreach (['', '/some/frames', substr($bytes, 0, 14), substr($bytes, 0, -9), substr($bytes, 0, 3000) . ($bytes[3000] ^ 'y') . substr($bytes, 3001)] as $damaged) {
            file_put_contents($file, $damaged);
            self::assertNull($store->find($hash), strlen($damaged) . ' bytes');
        }
    }

    public function testStageResultsAreFoundByTheirHash(): void
    {
        $store = new FileStageStore("{$this->folder}/stages");
        $hash = hash('sha256', 'a');
        self::assertNull($store->get($hash));
        $store->put($hash, 'ab', 'cd');
        self::assertSame('abcd', $store->get($hash));
        self::assertNull($store->get(hash('sha256', 'b')));
        self::assertSame(7, $store->alone($hash, static fn (): int => 7));
        try {
            $store->alone($hash, static fn () => throw new RuntimeException('failed'));
            self::fail('The failure was swallowed.');
        } catch (RuntimeException $error) {
            self::assertSame('failed', $error->getMessage());
        }
        self::assertSame(8, $store->alone($hash, static fn (): int => 8), 'a failure does not keep the lock');
    }

    /** Four processes want the same result: one makes it, the others wait and find it. */
    public function testAResultIsMadeOnce(): void
    {
        $script = <<<'PHP'
            require $argv[1] . '/vendor/autoload.php';
            $store = new App\Support\FileStageStore($argv[2]);
            $hash = hash('sha256', 'result');
            $store->alone($hash, function () use ($store, $hash, $argv): void {
                if ($store->get($hash) === null) {
                    file_put_contents($argv[2] . '/made', 'x', FILE_APPEND);
                    usleep(200_000);
                    $store->put($hash, 'the result');
                }
            });
            echo $store->get($hash);
            PHP;
        mkdir("{$this->folder}/stages");
        file_put_contents("{$this->folder}/want.php", "<?php\n{$script}");
        $running = [];
        for ($k = 0; $k < 4; $k++) {
            $process = proc_open([PHP_BINARY, "{$this->folder}/want.php", base_path(), "{$this->folder}/stages"], [1 => ['pipe', 'w']], $pipes);
            self::assertIsResource($process);
            $running[] = [$process, $pipes[1]];
        }
        foreach ($running as [$process, $pipe]) {
            self::assertSame('the result', stream_get_contents($pipe));
            proc_close($process);
        }
        self::assertSame('x', file_get_contents("{$this->folder}/stages/made"));
    }

    public function testUploadsAreKeptByTheirContentOnce(): void
    {
        $assets = new FileAssets("{$this->folder}/store/assets");
        $sha = $assets->keep('content');
        self::assertSame(hash('sha256', 'content'), $sha);
        self::assertSame($sha, $assets->keep('content'));
        self::assertSame('content', file_get_contents((string) $assets->path($sha)));
        foreach (['', '../../etc/passwd', str_repeat('g', 64), strtoupper($sha), "{$sha}/x", str_repeat('0', 64)] as $none) {
            self::assertNull($assets->path($none), $none);
        }
    }

    public function testNamesOfUploadsAreOnlyNames(): void
    {
        $obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n";
        $names = ["b\xE4d\xFF.obj" => 'b?d?.obj', '../../up.obj' => 'up.obj', "new\nline.obj" => 'new?line.obj', '<b>x.obj' => '<b>x.obj', str_repeat('long', 55) . '.obj' => str_repeat('long', 49) . '.obj'];
        foreach ($names as $name => $kept) {
            $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $obj)], ['Accept' => 'application/json'])
                ->assertCreated()->assertJsonPath('name', $kept);
        }
        self::assertCount(1, glob("{$this->folder}/store/assets/*") ?: [], 'the same content is one file');
    }
}
