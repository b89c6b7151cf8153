<?php

declare(strict_types=1);

namespace Tests\Process;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Shot;
use App\Remote\Board;
use App\Remote\Depot;
use App\Remote\RemoteBakes;
use App\Remote\RunBakeElsewhere;
use App\Support\FileAssets;
use App\Support\ShotBook;
use Illuminate\Support\Facades\Redis;
use PHPUnit\Framework\Attributes\Group;
use Tests\Processes;
use Tests\TestCase;
use YardBreak\Core\Bake\Baker;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Shot as ShotDocument;
use YardBreak\Core\Stage\Pipeline;

/**
 * Workers on other machines: processes that share nothing with the yard or each other but a Redis and a store of objects (each has
 * a database and a folder of its own, empty at first).
 */
#[Group('slow')]
final class ElsewhereTest extends TestCase
{
    use Awaits;

    /** A worker that is not heard of for so long has lost its bake, s. */
    private const LEASE = 2;

    /** @var list<resource> */
    private array $services = [];

    /** @var array<string, resource> by name */
    private array $workers = [];

    /** @var array<string, string> what tells a worker where Redis and the store are */
    private array $where;

    protected function setUp(): void
    {
        parent::setUp();
        [$redis, $objects] = [Processes::freePort(), Processes::freePort()];
        mkdir("{$this->folder}/objects");
        $this->services[] = $this->process(['redis-server', '--port', (string) $redis, '--bind', '127.0.0.1', '--save', '', '--dir', $this->folder, '--daemonize', 'no'], []);
        $this->services[] = $this->process([PHP_BINARY, '-S', "127.0.0.1:{$objects}", __DIR__ . '/object-store.php'], ['OBJECTS' => "{$this->folder}/objects"]);
        $this->where = [
            'YARD_REMOTE' => '1', 'YARD_LEASE' => (string) self::LEASE, 'REDIS_HOST' => '127.0.0.1', 'REDIS_PORT' => (string) $redis, 'YARD_DEPOT' => 's3', 'AWS_ACCESS_KEY_ID' => 'key',
            'AWS_SECRET_ACCESS_KEY' => 'secret', 'AWS_BUCKET' => 'yard', 'AWS_ENDPOINT' => "http://127.0.0.1:{$objects}", 'AWS_USE_PATH_STYLE_ENDPOINT' => '1',
        ];
        config([
            'yard.remote' => true, 'yard.lease_seconds' => self::LEASE, 'database.redis.default.port' => $redis,
            'filesystems.disks.s3' => ['endpoint' => $this->where['AWS_ENDPOINT'], 'key' => 'key', 'secret' => 'secret', 'bucket' => 'yard'] + (array) config('filesystems.disks.s3'),
        ]);
        foreach ([$redis, $objects] as $port) {
            $this->until(static fn (): bool => @fsockopen('127.0.0.1', $port) !== false, "something on port {$port}", 10.0);
        }
    }

    protected function tearDown(): void
    {
        foreach ([...$this->workers, ...$this->services] as $process) {
            Processes::kill($process);
        }
        Redis::purge();
        parent::tearDown();
    }

    #[Group('long')]
    public function testABakeSurvivesTheDeathOfTheWorkerThatHasIt(): void
    {
        $shot = $this->shot(40);
        $expected = $this->computedHere($shot);
        $bake = $this->bake($shot);
        $this->worker('one');
        $this->worker('two');
        $this->until(static fn (): bool => app(Board::class)->workers() === 2, 'both to say that they are there');
        // Frames come while it bakes, and states to go on from.
        $this->until(fn (): bool => $this->collected($bake)->frames_done >= 12 && app(Depot::class)->state($bake->id) !== null, 'frames');
        self::assertSame('running', $bake->status);
        self::assertLessThan(40, $bake->frames_done);
        self::assertGreaterThanOrEqual($bake->frames_done, BakeReader::open($bake->framesPath())->frames(), 'what is said to be done can be shown');
        $this->getJson("/api/bakes/{$bake->id}/index?from=1")->assertOk();
        $has = $this->holder($bake);
        $reached = $bake->frames_done;
        $this->kill($has);
        $this->until(fn (): bool => $this->collected($bake)->status === 'done', 'the other worker to end it');
        self::assertGreaterThan(0, $bake->kept, 'it went on from where the first one was');
        self::assertGreaterThanOrEqual($reached, $bake->frames_done);
        self::assertSame($expected, [hash_file('sha256', $bake->framesPath()), hash_file('sha256', BakeReader::indexOf($bake->framesPath()))], 'the same bytes as here');
        self::assertSame([], app(Board::class)->seen($bake->id), 'nothing is left on the board');
        $left = array_map(static fn (string $file): string => (string) hex2bin(basename($file)), glob("{$this->folder}/objects/*") ?: []);
        self::assertCount(1, $left, 'the file that was uploaded stays: ' . implode(', ', $left));
        self::assertStringStartsWith('assets/', $left[0]);
    }

    public function testACancelledBakeStopsAndAnotherVersionIsRefusedInWords(): void
    {
        $this->worker('one');
        $bake = $this->bake($this->shot(2000));
        $this->until(fn (): bool => $this->collected($bake)->frames_done >= 3, 'frames');
        $this->postJson("/api/bakes/{$bake->id}/cancel")->assertOk();
        $this->until(fn (): bool => $this->collected($bake)->status === 'cancelled', 'it to stop', 10.0);
        self::assertSame([], app(Board::class)->seen($bake->id));

        $other = $this->bake($this->shot(20), offer: false);
        app(Board::class)->open($other->id);
        RunBakeElsewhere::dispatch($other->id, str_repeat('0', 64), $other->revision->document)->onConnection('redis')->onQueue(RunBakeElsewhere::QUEUE);
        $this->until(fn (): bool => $this->collected($other)->status === 'failed', 'the refusal');
        self::assertStringContainsString('another version', (string) $other->error);

        // The board is emptied while it bakes: it begins again, and ends.
        $emptied = $this->bake($this->shot(40));
        $this->until(fn (): bool => $this->collected($emptied)->frames_done >= 3, 'frames');
        Redis::connection()->command('flushdb');
        $this->until(fn (): bool => $this->collected($emptied)->status === 'done', 'the bake that nobody knew any more');
        self::assertSame(40, BakeReader::open($emptied->framesPath())->frames());

        // What was lost on the way is handed out again.
        $lost = $this->bake($this->shot(21), offer: false);
        $this->until(fn (): bool => $this->collected($lost)->status === 'done', 'a bake whose job nobody had');
    }

    /** A ball as a file of the artist's, so that it has to be fetched, that breaks and falls beside cloth. */
    private function shot(int $frames): Shot
    {
        $document = self::smallDocument();
        $document['frames'] = $frames;
        $document['props'][0]['break'] = ['cellular' => ['pieces' => 30, 'seed' => 4]];
        $bytes = "v 0 0 0\nv 0.3 0 0\nv 0 0.3 0\nv 0 0 0.3\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 3 1 4\n";
        $asset = app(FileAssets::class)->keep($bytes);
        Asset::firstOrCreate(['sha256' => $asset], ['name' => 'chip.obj', 'bytes' => strlen($bytes)]);
        $document['props'][] = ['id' => 'chip', 'name' => 'Chip', 'source' => ['kind' => 'file', 'file' => ['asset' => $asset]], 'position' => ['y' => 1.0], 'break' => ['cellular' => ['pieces' => 12]],
            // What begins at a frame leaves a state there to go on from.
            'release' => ['trigger' => 'frame', 'frame' => ['frame' => 10]]];
        $document['props'][] = ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 12]], 'position' => ['y' => 1.5], 'break' => ['pattern' => 'whole'],
            'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['side' => 'low-x']]]]]];

        return app(ShotBook::class)->create("Shot of {$frames}", $document, 'start');
    }

    /** @return array{string, string} SHA-256 of frames and index */
    private function computedHere(Shot $shot): array
    {
        $path = "{$this->folder}/here.frames";
        Baker::bake(app(Pipeline::class), ShotDocument::read($shot->head->document ?? []), $path);

        return [(string) hash_file('sha256', $path), (string) hash_file('sha256', BakeReader::indexOf($path))];
    }

    private function bake(Shot $shot, bool $offer = true): Bake
    {
        if (! $offer) {
            $hash = app(Pipeline::class)->motionHash(ShotDocument::read($shot->head->document ?? []));

            return Bake::findOrFail($shot->bakes()->create(['revision_id' => $shot->head_id, 'motion_hash' => $hash, 'status' => 'queued', 'frames' => ($shot->head->document ?? [])['frames']])->getKey());
        }

        return Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id'));
    }

    /** What the yard knows of a bake once it has looked. */
    private function collected(Bake $bake): Bake
    {
        app(RemoteBakes::class)->collect();

        return $bake->refresh();
    }

    /** The name of the worker that has a bake. */
    private function holder(Bake $bake): string
    {
        $pid = (int) explode('|', app(Board::class)->seen($bake->id)['owner'] ?? '|0')[1];
        foreach ($this->workers as $name => $worker) {
            if (proc_get_status($worker)['pid'] === $pid) {
                return $name;
            }
        }
        self::fail('Nobody has it.');
    }

    private function worker(string $name): void
    {
        $own = "{$this->folder}/{$name}";
        mkdir($own);
        touch("{$own}/yard.sqlite");
        $environment = Processes::environment($own) + $this->where;
        $migration = $this->process([PHP_BINARY, 'artisan', 'migrate', '--force', '--quiet'], $environment);
        proc_close($migration);
        $this->workers[$name] = $this->process([PHP_BINARY, 'artisan', 'queue:work', 'redis', '--queue=bakes', '--sleep=0.2', '--timeout=0', '--quiet'], $environment);
    }

    private function kill(string $name): void
    {
        Processes::kill($this->workers[$name]);
        unset($this->workers[$name]);
    }

    /**
     * @param list<string> $command
     * @param array<string, string> $environment
     *
     * @return resource
     */
    private function process(array $command, array $environment)
    {
        return Processes::start($command, "{$this->folder}/processes.log", $environment);
    }
}
