<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Asset;
use App\Models\Bake;
use App\Models\Export;
use App\Models\Revision;
use App\Models\Shot;
use App\Remote\Board;
use App\Remote\Depot;
use App\Remote\RemoteBakes;
use App\Support\FileAssets;
use App\Support\FileStageStore;
use App\Support\ShotBook;
use App\Support\StoreFull;
use App\Support\StoreKeeper;
use Illuminate\Support\Carbon;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Storage;
use PDOException;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;

/** The store keeps what is needed and nothing else. */
final class RoomTest extends TestCase
{
    private function shot(string $name = 'Test'): Shot
    {
        return app(ShotBook::class)->create($name, self::smallDocument(), 'start');
    }

    /** A bake whose last use was so many minutes ago, with frames of 1,000 bytes. */
    private function bake(Shot $shot, string $status, int $ago, bool $pinned = false): Bake
    {
        /** @var Bake $bake */
        $bake = $shot->bakes()->create(['revision_id' => $shot->head_id, 'motion_hash' => bin2hex(random_bytes(8)), 'status' => $status, 'frames' => 20, 'frames_done' => 20, 'pinned' => $pinned]);
        Bake::whereKey($bake->id)->update(['updated_at' => now()->subMinutes($ago)]);
        $this->file("bakes/{$bake->id}.frames", 1000, 60 * $ago);

        return $bake->refresh();
    }

    private function file(string $name, int $bytes, int $age): string
    {
        $path = "{$this->folder}/store/{$name}";
        @mkdir(dirname($path), recursive: true);
        file_put_contents($path, str_repeat('x', $bytes));
        touch($path, time() - $age);

        return $path;
    }

    public function testOldBakesGoAndThoseThatMatterStay(): void
    {
        config(['yard.room.bakes' => 2]);
        $shot = $this->shot();
        $bakes = [
            'newest' => $this->bake($shot, 'done', 20), 'next' => $this->bake($shot, 'done', 30), 'old' => $this->bake($shot, 'done', 40), 'pinned' => $this->bake($shot, 'done', 50, true),
            'running' => $this->bake($shot, 'running', 60), 'queued' => $this->bake($shot, 'queued', 60), 'failed' => $this->bake($shot, 'failed', 15), 'cancelled' => $this->bake($shot, 'cancelled', 15),
            'just now cancelled' => $this->bake($shot, 'cancelled', 1), 'old, but handed off' => $this->bake($shot, 'done', 70),
        ];
        Export::create(['bake_id' => $bakes['old, but handed off']->id, 'format' => 'glb', 'frame' => 1, 'status' => 'running']);
        $this->file("bakes/{$bakes['old']->id}.frames.happened", 500, 2400);
        $other = $this->bake($this->shot('Another'), 'failed', 9999);
        self::assertSame(3500, StoreKeeper::ofTheYard()->sweep());
        foreach ($bakes as $what => $bake) {
            $stays = ! in_array($what, ['old', 'failed', 'cancelled'], true);
            self::assertSame($stays, Bake::whereKey($bake->id)->exists(), $what);
            self::assertSame($stays, is_file($bake->framesPath()), $what);
        }
        self::assertTrue(Bake::whereKey($other->id)->exists(), 'it is all that its shot has');
        self::assertSame(0, StoreKeeper::ofTheYard()->sweep(), 'once is enough');
    }

    public function testWhatWasUsedLongestAgoGoesFirst(): void
    {
        config(['yard.room.computed' => 2500]);
        $ago = static fn (int $minutes): int => 60 * $minutes;
        $hash = str_repeat('ab', 32);
        $old = $this->file('stages/aa/old', 1000, $ago(90));
        $used = $this->file("stages/ab/{$hash}", 1000, $ago(100));
        $new = $this->file('stages/ac/new', 1000, $ago(30));
        self::assertSame(str_repeat('x', 1000), (new FileStageStore("{$this->folder}/store/stages"))->get($hash), 'it was made first, and is used now');
        self::assertSame(1000, StoreKeeper::ofTheYard()->sweep());
        self::assertSame([false, true, true], array_map(is_file(...), [$old, $used, $new]));
        // What is in use stays, however little room there is.
        config(['yard.room.computed' => 0]);
        self::assertSame(1000, StoreKeeper::ofTheYard()->sweep());
        self::assertFileExists($used);
    }

    public function testWhatWasLeftBehindGoes(): void
    {
        $shot = $this->shot();
        $bake = $this->bake($shot, 'done', 20);
        $export = Export::create(['bake_id' => $bake->id, 'format' => 'glb', 'frame' => 1, 'status' => 'done']);
        Export::whereKey($export->id)->update(['updated_at' => now()->subDays(2)]);
        $gone = [$this->file("exports/{$export->id}", 10, 200_000), $this->file('assets/ab/cd.1f.part', 10, 7200), $this->file('stages/ab/x.lock', 10, 7200), $this->file('bakes/01aaaaaaaaaaaaaaaaaaaaaaaa.frames', 10, 7200)];
        $stay = [$this->file('assets/ab/cd', 10, 9_000_000), $this->file('stages/ab/y.2e.part', 10, 60), $this->file('bakes/01bbbbbbbbbbbbbbbbbbbbbbbb.frames', 10, 60), $bake->framesPath()];
        StoreKeeper::ofTheYard()->sweep();
        self::assertSame([], array_filter($gone, is_file(...)));
        self::assertSame($stay, array_filter($stay, is_file(...)));
    }

    public function testUploadedFilesThatNoShotNamesGoAfterAMonth(): void
    {
        [$used, $undone, $unused, $new] = array_map(static fn (string $name): string => hash('sha256', $name), ['used', 'undone', 'unused', 'new']);
        $document = self::smallDocument();
        $shot = $this->shot();
        foreach ([$undone, $used] as $sha) {
            $document['props'][0]['source'] = ['kind' => 'file', 'file' => ['asset' => $sha, 'fileName' => 'a.obj']];
            $shot = app(ShotBook::class)->save($shot, $document, (string) $shot->head_id);
        }
        $month = 31 * 86_400;
        $files = array_map(fn (string $sha): string => $this->file("assets/{$sha}", 10, $sha === $new ? 60 : $month), [$used, $undone, $unused, $new]);
        Asset::create(['sha256' => $unused, 'name' => 'a.obj', 'bytes' => 10]);
        self::assertSame(10, StoreKeeper::ofTheYard()->sweep());
        self::assertSame([true, true, false, true], array_map(is_file(...), $files), 'what an undone state names can be gone back to');
        self::assertFalse(Asset::whereKey($unused)->exists());
        // What is brought in again is as new as any.
        $bytes = 'unused';
        $assets = app(FileAssets::class);
        touch((string) $assets->path($assets->keep($bytes)), time() - $month);
        $assets->keep($bytes);
        self::assertSame(0, StoreKeeper::ofTheYard()->sweep());
        // A depot for workers elsewhere keeps what the yard keeps.
        $disk = Storage::fake('depot');
        $depot = new Depot($disk);
        $depot->offerAsset($used, $files[0]);
        $depot->offerAsset($undone, $files[1]);
        unlink($files[1]);
        (new RemoteBakes(app(Board::class), $depot, $assets))->tidy();
        self::assertSame(["assets/{$used}"], $disk->allFiles());
    }

    public function testAShotDeletedLongAgoIsGoneWithAllThatIsItsOwn(): void
    {
        $shot = $this->shot();
        $bake = $this->bake($shot, 'done', 20, true);
        $picture = $this->file("pictures/{$shot->id}.jpg", 10, 0);
        $shot->delete();
        StoreKeeper::ofTheYard()->sweep();
        $this->postJson("/api/shots/{$shot->id}/restore")->assertOk();
        $shot->refresh()->delete();
        Carbon::setTestNow(now()->addDays(31));
        StoreKeeper::ofTheYard()->sweep();
        Carbon::setTestNow();
        self::assertSame([0, 0, 0], [Shot::withTrashed()->count(), Revision::count(), Bake::count()]);
        self::assertSame([], array_filter([$bake->framesPath(), $picture], is_file(...)));
    }

    public function testABakeIsKeptShownAgainAndGoneBackTo(): void
    {
        $shot = $this->shot();
        $first = $this->bake($shot, 'done', 20);
        $document = $shot->head->document ?? [];
        $document['frames'] = 30;
        $shot = app(ShotBook::class)->save($shot, $document, (string) $shot->head_id);
        $second = $this->bake($shot, 'done', 5);
        $this->patchJson("/api/bakes/{$first->id}", ['pinned' => 'yes'])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/pinned');
        $this->patchJson("/api/bakes/{$first->id}", ['pinned' => true])->assertOk()->assertJsonPath('pinned', true);
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake.id', $second->id);
        $this->getJson("/api/shots/{$shot->id}/bakes")->assertOk()->assertJsonPath('bakes.1.id', $first->id)->assertJsonPath('bakes.1.bytes', 1000)->assertJsonPath('bakes.1.revision', 1);
        $this->postJson("/api/bakes/{$first->id}/bring-up")->assertOk()->assertJsonPath('stale', true)->assertJsonPath('differences.0', 'Length 20 to 30 f');
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake.id', $first->id);
        $this->postJson("/api/bakes/{$first->id}/go-back", [], ['If-Match' => "\"{$first->revision_id}\""])->assertStatus(412);
        $this->postJson("/api/bakes/{$first->id}/go-back", [], ['If-Match' => "\"{$shot->head_id}\""])->assertOk()->assertJsonPath('document.frames', 20)->assertJsonPath('head.number', 3)->assertJsonPath('canUndo', true);
    }

    public function testWhatTakesRoomIsSaidAndTakenOut(): void
    {
        $shot = $this->shot();
        $bake = $this->bake($shot, 'done', 20);
        $running = $this->bake($shot, 'running', 0);
        $this->file('stages/ab/cd', 300, 0);
        $this->file('checkpoints/ef', 50, 0);
        $told = $this->getJson('/api/store')->assertOk()->assertJsonPath('parts.bakes', 2000)->assertJsonPath('parts.stages', 300)->assertJsonPath('parts.checkpoints', 50)
            ->assertJsonPath('shots.0.name', 'Test')->assertJsonCount(2, 'shots.0.bakes')->json();
        self::assertGreaterThan(0, $told['free']);
        self::assertGreaterThan(0, $told['parts']['database']);
        $this->postJson('/api/store/empty')->assertOk()->assertJsonPath('freed', 350);
        $this->deleteJson("/api/bakes/{$running->id}")->assertStatus(409);
        $this->deleteJson("/api/bakes/{$bake->id}")->assertOk()->assertJsonPath('freed', 1000);
        $this->getJson("/api/bakes/{$bake->id}")->assertNotFound();
        self::assertFileDoesNotExist($bake->framesPath());
    }

    /** A database that may not grow is what a full disk is to it. */
    public function testAFullDiskIsSaidAndLosesNothing(): void
    {
        $shot = $this->shot();
        $document = self::smallDocument();
        $document['props'][0]['name'] = str_repeat('long ', 16);
        $document['cues'] = array_map(static fn (int $k): array => ['id' => "c{$k}", 'name' => "Cue {$k} " . str_repeat('x', 40), 'frame' => 1], range(1, 100));
        $save = fn () => $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => "\"{$shot->head_id}\""]);
        DB::statement('PRAGMA max_page_count = 1');
        $save()->assertStatus(507)->assertJsonPath('title', 'The store is full')->assertSee('Make room on the disk that holds the store');
        $this->getJson("/api/shots/{$shot->id}")->assertOk()->assertJsonPath('head.id', $shot->head_id);
        DB::statement('PRAGMA max_page_count = 1000000');
        $save()->assertOk();
    }

    /** A worker that cannot tell the database how far it is goes on as soon as there is room, and gives up for nothing but that. */
    #[Group('slow')]
    public function testAWorkerWaitsForRoomInTheDatabase(): void
    {
        $tries = 0;
        $full = new PDOException('database or disk is full');
        $full->errorInfo = ['HY000', 13, 'database or disk is full'];
        self::assertSame('written', StoreFull::waiting(static function () use (&$tries, $full): string {
            if (++$tries < 3) {
                throw $full;
            }

            return 'written';
        }));
        self::assertSame(3, $tries);
        $this->expectExceptionMessage('something else');
        StoreFull::waiting(static fn (): never => throw new PDOException('something else'));
    }

    public function testWorkersSweepNowAndThen(): void
    {
        $part = $this->file('stages/ab/x.part', 10, 7200);
        StoreKeeper::nowAndThen();
        self::assertFileDoesNotExist($part);
        $part = $this->file('stages/ab/x.part', 10, 7200);
        StoreKeeper::nowAndThen();
        self::assertFileExists($part, 'it has just been done');
    }
}
