<?php

declare(strict_types=1);

namespace Tests\Process;

use App\Models\Bake;
use App\Models\Shot;
use App\Support\ShotBook;
use App\Support\WorkerId;
use PHPUnit\Framework\Attributes\Group;
use Tests\Processes;
use Tests\TestCase;

/** Real worker processes on one queue: killed without warning, side by side, and told to stop. */
#[Group('slow')]
final class WorkersTest extends TestCase
{
    use Awaits;

    /** How soon a worker must heed a cancelled bake, s: the goal is one second; twice that on a busy machine. */
    private const HEED = 2.0;

    /** @var list<resource> */
    private array $workers = [];

    protected function tearDown(): void
    {
        foreach ($this->workers as $worker) {
            Processes::kill($worker);
        }
        parent::tearDown();
    }

    /** Whatever moment it is killed at, nobody has time to say so; the next worker goes on from where it was, and the bytes are the same. */
    public function testABakeSurvivesManyKills(): void
    {
        [$frames, $patience] = getenv('YARD_BREAK_LONG') ? [120, 300.0] : [20, 60.0];
        $reference = $this->bake($this->shot(seed: 3, frames: $frames));
        $this->worker();
        $this->until(fn (): bool => $reference->refresh()->status === 'done', 'the undisturbed bake', $patience);
        $expected = hash_file('sha256', $reference->framesPath());
        $this->kill(0);

        $this->forgetWhatWasBaked();
        $bake = $this->bake($this->shot(seed: 3, frames: $frames));
        self::assertNotSame($reference->id, $bake->id);
        $this->worker();
        $this->until(fn (): bool => $bake->refresh()->frames_done >= 5, 'five frames');
        $this->kill(0);
        self::assertSame('running', $bake->refresh()->status, 'nobody had time to say that it stopped');
        mt_srand(4);
        for ($k = 0; $k < (getenv('YARD_BREAK_LONG') ? 20 : 2) && $bake->refresh()->status !== 'done'; $k++) {
            $this->worker();
            $this->until(fn (): bool => $bake->refresh()->status === 'done' || WorkerId::lives((string) $bake->owner) === true, 'another worker to take it', 5.0);
            usleep(mt_rand(50_000, 600_000));
            $this->kill(0);
        }
        $this->worker();
        $this->until(fn (): bool => ! $bake->refresh()->isLive(), 'the end', $patience);
        self::assertSame('done', $bake->status, (string) $bake->error);
        self::assertSame($expected, hash_file('sha256', $bake->framesPath()));
    }

    /** What is computed again after a worker's death took at most ten seconds to compute. */
    #[Group('long')]
    public function testLittleIsLost(): void
    {
        $bake = $this->bake($this->shot(seed: 6, frames: 2000));
        $this->worker();
        $seen = [];
        $end = microtime(true) + 11.0;
        while (microtime(true) < $end) {
            $seen[$bake->refresh()->frames_done] ??= microtime(true);
            usleep(50_000);
        }
        $this->kill(0);
        $killed = microtime(true);
        $done = $bake->refresh()->frames_done;
        self::assertSame('running', $bake->status, 'it is a long bake');
        $this->worker();
        $this->until(fn (): bool => $bake->refresh()->status === 'running' && WorkerId::lives((string) $bake->owner) === true && $bake->frames_done > $bake->kept, 'another worker going on');
        self::assertGreaterThan(0, $bake->kept);
        self::assertLessThanOrEqual($done, $bake->kept);
        $reached = min(array_filter($seen, static fn (int $frame): bool => $frame >= $bake->kept, ARRAY_FILTER_USE_KEY) ?: [$killed]);
        self::assertLessThan(10.0, $killed - $reached);
    }

    public function testTwoBakesRunAtOnceOnTwoWorkersAndACancelledOneStopsAtOnce(): void
    {
        $one = $this->bake($this->shot(seed: 4, frames: 2000));
        $two = $this->bake($this->shot(seed: 5, frames: 2000));
        $this->worker();
        $this->worker();
        $this->until(fn (): bool => $one->refresh()->frames_done >= 3 && $two->refresh()->frames_done >= 3, 'frames of both');
        self::assertNotSame($one->owner, $two->owner);
        $asked = microtime(true);
        $this->postJson("/api/bakes/{$one->id}/cancel")->assertOk();
        $this->until(fn (): bool => $one->refresh()->status === 'cancelled', 'the bake to stop');
        self::assertLessThan(self::HEED, microtime(true) - $asked);
        $before = $two->refresh()->frames_done;
        $this->until(fn (): bool => $two->refresh()->frames_done > $before, 'the other one going on');
    }

    /** PHP only ends then. */
    public function testABakeForWhichThereIsTooLittleMemorySaysSo(): void
    {
        $document = ['frames' => 20, 'props' => [['id' => 'ball', 'name' => 'Ball', 'source' => ['kind' => 'ball', 'ball' => ['divisions' => 30]], 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 4000]], 'motion' => ['mover' => 'light']]]];
        $bake = $this->bake(app(ShotBook::class)->create('Large', [...self::smallDocument(), ...$document], 'start'));
        $this->worker(memory: '40M');
        $this->until(fn (): bool => ! $bake->refresh()->isLive(), 'the bake to end');
        self::assertSame('failed', $bake->status);
        self::assertStringContainsString('more memory than a worker may have (40M)', (string) $bake->error);
    }

    /** Or the same shot would be there at once. */
    private function forgetWhatWasBaked(): void
    {
        exec('rm -rf ' . escapeshellarg("{$this->folder}/store/checkpoints"));
    }

    private function shot(int $seed, int $frames): Shot
    {
        $document = self::smallDocument();
        $document['frames'] = $frames;
        $document['props'][0]['break'] = ['cellular' => ['pieces' => 40, 'seed' => $seed]];
        // One of each mover, so that all of them are killed and go on.
        $document['forces'] = [['id' => 'g', 'name' => 'Gravity'], ['id' => 'w', 'name' => 'Wind', 'force' => 'wind']];
        $ball = ['source' => ['kind' => 'ball', 'ball' => ['width' => 0.4, 'divisions' => 4]], 'position' => ['y' => 1.0], 'release' => ['trigger' => 'frame', 'frame' => ['frame' => 20]]];
        $document['props'][] = ['id' => 'flakes', 'name' => 'Flakes', ...$ball, 'break' => ['pattern' => 'flakes', 'flakes' => ['count' => 150]], 'motion' => ['mover' => 'light', 'light' => ['life' => 150]]];
        $document['props'][] = ['id' => 'parts', 'name' => 'Parts', ...$ball, 'break' => ['cellular' => ['pieces' => 9]], 'motion' => ['mover' => 'staged', 'staged' => ['takes' => 200, 'outward' => 0.5]]];
        $document['props'][] = ['id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 12]], 'position' => ['y' => 1.5], 'break' => ['pattern' => 'whole'],
            'weight' => ['stack' => [['source' => 'sweep', 'sweep' => ['axis' => 'x', 'from' => 10, 'to' => 60]]]], 'release' => ['trigger' => 'weight'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim']]]]];

        $document['props'][] = ['id' => 'loaf', 'name' => 'Loaf', ...$ball, 'break' => ['pattern' => 'whole'], 'motion' => ['mover' => 'soft', 'soft' => ['fineness' => 4]]];

        return app(ShotBook::class)->create("Shot {$seed}", $document, 'start');
    }

    private function bake(Shot $shot): Bake
    {
        return Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id'));
    }

    private function worker(string $memory = '2G'): void
    {
        $this->workers[] = Processes::start([PHP_BINARY, '-d', "memory_limit={$memory}", 'artisan', 'queue:work', '--sleep=0.2', '--timeout=0', '--quiet'], "{$this->folder}/worker.log", Processes::environment($this->folder));
    }

    private function kill(int $which): void
    {
        Processes::kill($this->workers[$which]);
        array_splice($this->workers, $which, 1);
    }
}
