<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\RunBake;
use App\Models\Bake;
use App\Models\Shot;
use App\Remote\Collecting;
use App\Support\BakeLease;
use App\Support\BakeRescue;
use App\Support\ShotBook;
use App\Support\WorkerId;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Queue;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;
use YardBreak\Core\Bake\BakeReader;

final class BakeTest extends TestCase
{
    private function shot(): Shot
    {
        return app(ShotBook::class)->create('Test', self::smallDocument(), 'start');
    }

    private function work(): void
    {
        Artisan::call('queue:work', ['--stop-when-empty' => true, '--sleep' => 0]);
    }

    #[Group('slow')]
    public function testABakeRunsInTheQueueAndItsFramesAreServedByRange(): void
    {
        $shot = $this->shot();
        $id = $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->assertJsonPath('status', 'queued')->json('id');
        $this->get("/api/bakes/{$id}/frames")->assertNotFound();
        $this->work();
        $state = $this->getJson("/api/bakes/{$id}")->assertOk()->assertJsonPath('status', 'done')->assertJsonPath('done', 20)->assertJsonPath('stale', false);
        self::assertCount(20, (array) $state->json('readout'));
        $pieces = (int) $state->json('pieces');
        $path = Bake::findOrFail($id)->framesPath();
        $whole = (string) $this->get("/api/bakes/{$id}/frames")->assertOk()->streamedContent();
        self::assertSame(file_get_contents($path), $whole);
        $reader = BakeReader::open($path);
        [$from] = $reader->endOf(4);
        [$to] = $reader->endOf(5);
        $record = $to - $from;
        self::assertSame(pack('PV', $from, $record), substr((string) $this->get("/api/bakes/{$id}/index?from=5")->assertOk()->getContent(), 0, 12));
        $part = $this->get("/api/bakes/{$id}/frames", ['Range' => "bytes={$from}-" . ($from + $record - 1)])->assertStatus(206);
        self::assertSame(substr($whole, $from, $record), $part->streamedContent());
        $part->assertHeader('Content-Range', "bytes {$from}-" . ($from + $record - 1) . '/' . strlen($whole));
        $this->get("/api/bakes/{$id}/frames", ['Range' => 'bytes=99999999-'])->assertStatus(416);
        $glb = $this->get("/api/bakes/{$id}/pieces.glb")->assertOk()->streamedContent();
        self::assertStringStartsWith('glTF', $glb);
        self::assertSame($pieces, substr_count($this->get("/api/bakes/{$id}/pieces.obj?frame=20")->assertOk()->streamedContent(), "\no "));
        $this->get("/api/bakes/{$id}/pieces.obj?frame=21")->assertStatus(422);
    }

    /** A cue that waits for what is baked is found when the shot is stored after the bake; what hangs on it follows. */
    #[Group('slow')]
    public function testACueIsFoundInTheNewestBake(): void
    {
        $document = ['frames' => 60, 'cues' => [['id' => 'still', 'name' => 'Still', 'frame' => 50, 'at' => ['moment' => 'baked', 'baked' => ['what' => 'rest']]]]] + self::smallDocument();
        $shot = app(ShotBook::class)->create('Test', $document, 'start');
        $save = function () use ($shot): array {
            $now = $this->getJson("/api/shots/{$shot->id}")->assertOk()->json();

            return (array) $this->putJson("/api/shots/{$shot->id}/document", ['document' => $now['document']], ['If-Match' => "\"{$now['head']['id']}\""])->assertOk()->json();
        };
        self::assertSame(50, $save()['document']['cues'][0]['frame'], 'nothing is baked yet');
        $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated();
        $this->work();
        $stored = $save();
        self::assertSame(2, $stored['head']['number']);
        self::assertGreaterThan(5, $stored['document']['cues'][0]['frame']);
        self::assertLessThan(40, $stored['document']['cues'][0]['frame']);
        self::assertFalse($stored['bake']['stale'], 'nothing hangs on it that acts');
        self::assertSame(2, $save()['head']['number'], 'found once, it stays');
    }

    #[Group('slow')]
    public function testTheSameFramesAreNotBakedTwiceAndAChangeMakesABakeStale(): void
    {
        $shot = $this->shot();
        $id = $this->postJson("/api/shots/{$shot->id}/bakes")->json('id');
        $this->work();
        $this->postJson("/api/shots/{$shot->id}/bakes")->assertJsonPath('id', $id)->assertJsonPath('status', 'done');
        $document = $shot->head->document;
        $document['props'][0]['motion']['rigid']['friction'] = 0.2;
        $document['props'][0]['name'] = 'Brick';
        $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => (string) $shot->head_id])->assertOk()
            ->assertJsonPath('bake.stale', true)->assertJsonPath('bake.differences', ['Brick: name Block to Brick', 'Brick: friction 0.6 to 0.2']);
        self::assertNotSame($id, $this->postJson("/api/shots/{$shot->id}/bakes")->json('id'));
    }

    /** Frames before the first are told apart, from the moment at which none of them is there. */
    public function testAPreRollIsCounted(): void
    {
        $shot = app(ShotBook::class)->create('Test', ['preRoll' => 8] + self::smallDocument(), 'start');
        $state = $this->postJson("/api/shots/{$shot->id}/bakes")->assertJsonPath('preRoll', 8)->assertJsonPath('rolled', 0)->assertJsonPath('done', 0);
        $bake = Bake::findOrFail($state->json('id'));
        $lease = BakeLease::take($bake);
        self::assertNotNull($lease);
        $told = fn (): array => array_intersect_key((array) $this->getJson("/api/bakes/{$bake->id}")->json(), ['rolled' => 0, 'done' => 0]);
        self::assertEquals(['rolled' => 0, 'done' => 0], $told());
        $lease->started(3, 0, -8);
        self::assertEquals(['rolled' => 0, 'done' => 0], $told());
        $lease->progress(-3);
        self::assertEquals(['rolled' => 5, 'done' => 0], $told());
        $lease->progress(2);
        self::assertEquals(['rolled' => 8, 'done' => 2], $told());
        $lease->end('cancelled');
        $this->postJson("/api/shots/{$shot->id}/bakes");
        $this->work();
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake.status', 'done')->assertJsonPath('bake.rolled', 8)->assertJsonPath('bake.done', 20);
    }

    public function testACancelledBakeStops(): void
    {
        $shot = $this->shot();
        $queued = $this->postJson("/api/shots/{$shot->id}/bakes")->json('id');
        $this->postJson("/api/bakes/{$queued}/cancel")->assertJsonPath('status', 'cancelled');
        $this->work();
        self::assertSame('cancelled', Bake::findOrFail($queued)->status);
        self::assertFileDoesNotExist(Bake::findOrFail($queued)->framesPath());
        // A running one notices at its next look.
        $running = $this->postJson("/api/shots/{$shot->id}/bakes")->json('id');
        $lease = BakeLease::take(Bake::findOrFail($running));
        self::assertNotNull($lease);
        $this->postJson("/api/bakes/{$running}/cancel");
        $this->expectException(\App\Jobs\BakeStopped::class);
        $lease->check();
    }

    public function testABakeHasOneOwner(): void
    {
        Queue::fake();
        $shot = $this->shot();
        $bake = Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->json('id'));
        $first = BakeLease::take($bake);
        self::assertNotNull($first);
        self::assertNull(BakeLease::take($bake->refresh()), 'nobody else may write');
        $bake->update(['lease_until' => microtime(true) - 60]);
        self::assertNull(BakeLease::take($bake->refresh()), 'a worker that lives keeps its bake, though a step took longer than the lease');
        // A worker of another machine can only be known by its lease.
        $bake->update(['owner' => 'elsewhere|1|1|x', 'lease_until' => microtime(true) + 60]);
        self::assertNull(BakeLease::take($bake->refresh()));
        $bake->update(['lease_until' => microtime(true) - 1]);
        self::assertNotNull(BakeLease::take($bake->refresh()), 'one that gives no sign loses it');
        $this->expectException(\App\Jobs\LeaseLost::class);
        $first->progress(3);
    }

    public function testABakeWhoseWorkerIsGoneIsQueuedAgainWhateverStateItIsIn(): void
    {
        $child = proc_open(['true'], [], $pipes);
        self::assertIsResource($child);
        $pid = proc_get_status($child)['pid'];
        proc_close($child);
        $gone = (string) preg_replace('/^([^|]+)\|.*/', "$1|{$pid}|1|x", WorkerId::own());
        self::assertFalse(WorkerId::lives($gone));
        self::assertTrue(WorkerId::lives(WorkerId::own()));
        $shot = $this->shot();
        $bake = Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->json('id'));
        DB::table('jobs')->delete();
        // Its lease would still run for a minute.
        $bake->update(['status' => 'running', 'owner' => $gone, 'lease_until' => microtime(true) + 60, 'frames_done' => 1]);
        BakeRescue::run();
        self::assertSame(1, DB::table('jobs')->count());
        BakeRescue::run();
        self::assertSame(1, DB::table('jobs')->count(), 'once is enough');
        // Queued, but the job is lost.
        DB::table('jobs')->delete();
        DB::table('bakes')->update(['updated_at' => now()->subMinute()]);
        BakeRescue::run();
        $this->work();
        self::assertSame('done', $bake->refresh()->status);
    }

    public function testABakeThatTakesItsWorkersAlongIsGivenUp(): void
    {
        Queue::fake();
        $shot = $this->shot();
        $bake = Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->json('id'));
        $loses = function (int $after, float $lived) use ($bake): Bake {
            $bake->update(['status' => 'running', 'owner' => 'elsewhere|1|1|x', 'lease_until' => microtime(true) - 1.0, 'started_at' => microtime(true) - $lived, 'frames_done' => $after]);
            BakeRescue::run();

            return $bake->refresh();
        };
        self::assertSame('queued', $loses(4, 60.0)->status);
        self::assertSame('queued', $loses(4, 60.0)->status);
        self::assertSame('queued', $loses(5, 60.0)->status, 'it got on');
        self::assertSame('queued', $loses(5, 60.0)->status);
        self::assertSame('queued', $loses(5, 0.5)->status, 'somebody may have stopped that one');
        self::assertSame('failed', $loses(5, 60.0)->status);
        $this->getJson("/api/bakes/{$bake->id}")->assertJsonPath('done', 5)->assertJsonPath('error', fn (string $words): bool => str_contains($words, 'after frame 5') && str_contains($words, 'memory'));
    }

    public function testABakeThatWaitsSaysWhy(): void
    {
        Queue::fake();
        $shot = $this->shot();
        $bake = Bake::findOrFail($this->postJson("/api/shots/{$shot->id}/bakes")->json('id'));
        $waiting = fn (): ?string => $this->getJson("/api/bakes/{$bake->id}")->assertOk()->json('waiting');
        self::assertNull($waiting(), 'it has only just been asked for');
        Bake::whereKey($bake->id)->update(['created_at' => now()->subMinute()]);
        self::assertStringContainsString('No worker has taken it yet', (string) $waiting());
        $shot->bakes()->create(['revision_id' => $shot->head_id, 'motion_hash' => 'other', 'status' => 'running', 'frames' => 20]);
        self::assertSame('It waits for another bake.', $waiting());
        Bake::where('motion_hash', 'other')->delete();

        // By workers elsewhere: what yard:collect has seen of them.
        config(['yard.remote' => true]);
        self::assertStringContainsString('yard:collect does not run', (string) $waiting());
        Collecting::note(0);
        self::assertStringContainsString('bin/work', (string) $waiting());
        Collecting::note(0, 'Connection refused');
        self::assertStringContainsString('Redis or the depot cannot be reached', (string) $waiting());
        Collecting::note(2);
        self::assertStringContainsString('No worker has taken it yet', (string) $waiting());
    }

    public function testAfterTheDiskWasFullTheDatabaseGoesOn(): void
    {
        $pages = DB::selectOne('PRAGMA page_count');
        DB::statement('PRAGMA max_page_count = ' . (array_values((array) $pages)[0] + 2));
        try {
            DB::transaction(fn () => DB::table('failed_jobs')->insert(['uuid' => 'x', 'connection' => '', 'queue' => '', 'payload' => str_repeat('x', 200_000), 'exception' => '']));
            self::fail('It should have been full.');
        } catch (\Illuminate\Database\QueryException $error) {
            self::assertStringContainsString('full', $error->getMessage());
        }
        DB::statement('PRAGMA max_page_count = 100000');
        self::assertSame(1, DB::transaction(fn (): int => DB::table('failed_jobs')->insert(['uuid' => 'y', 'connection' => '', 'queue' => '', 'payload' => '', 'exception' => '']) ? 1 : 0));
    }

    public function testAKilledWorkersBakeIsTakenUpAgainWithTheSameBytes(): void
    {
        $shot = $this->shot();
        $id = $this->postJson("/api/shots/{$shot->id}/bakes")->json('id');
        $this->work();
        $bake = Bake::findOrFail($id);
        $expected = hash_file('sha256', $bake->framesPath());
        // As a worker leaves it that was killed after a frame and a half.
        [$end] = BakeReader::open($bake->framesPath())->endOf(1);
        file_put_contents($bake->framesPath(), substr((string) file_get_contents($bake->framesPath()), 0, $end + 40));
        $bake->update(['status' => 'running', 'owner' => 'dead', 'lease_until' => microtime(true) - 1, 'frames_done' => 1]);
        RunBake::dispatch($id);
        $this->work();
        self::assertSame('done', Bake::findOrFail($id)->status);
        self::assertSame($expected, hash_file('sha256', $bake->framesPath()));
    }

    public function testWhatCannotBeBakedIsRefusedBeforehand(): void
    {
        $document = self::smallDocument();
        $document['props'][0]['source']['kind'] = 'sheet';
        $shot = app(ShotBook::class)->create('Test', $document, 'start');
        $this->postJson("/api/shots/{$shot->id}/bakes")->assertStatus(422)->assertJsonPath('errors.0.pointer', '/props/0/source');
        self::assertSame(0, Bake::count());
    }
}
