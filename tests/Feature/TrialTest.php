<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Revision;
use App\Models\Shot;
use App\Support\ShotBook;
use App\Support\StoreKeeper;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Support\Facades\Queue;
use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;
use YardBreak\Core\Document\Trials;

/** One setting over several values: baked aside, looked at, taken or taken out. */
final class TrialTest extends TestCase
{
    private const SEED = '/props/0/break/cellular/seed';

    private function shot(): Shot
    {
        return app(ShotBook::class)->create('Test', ['frames' => 4] + self::smallDocument(), 'start');
    }

    /**
     * @param list<int|float> $values
     *
     * @return list<array<string, mixed>>
     */
    private function try(Shot $shot, array $values, string $pointer = self::SEED): array
    {
        return array_values((array) $this->postJson("/api/shots/{$shot->id}/trials", ['pointer' => $pointer, 'values' => $values])->assertCreated()->json('bakes'));
    }

    public function testTheShotStaysAsItIs(): void
    {
        Queue::fake();
        $shot = $this->shot();
        $own = $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id');
        $seed = (int) ($shot->head->document['props'][0]['break']['cellular']['seed'] ?? 1);
        $bakes = $this->try($shot, [$seed, $seed + 1, $seed + 2]);
        self::assertSame(["Seed {$seed}", 'Seed ' . $seed + 1, 'Seed ' . $seed + 2], array_column($bakes, 'trial'));
        self::assertSame([$own, [false, true, true]], [$bakes[0]['id'], array_column($bakes, 'aside')], 'what it is like already is not baked again');
        $now = $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake.id', $own)->assertJsonPath('bake.status', 'queued')->assertJsonPath('canRedo', false)->json();
        self::assertSame($shot->head_id, $now['head']['id']);
        self::assertSame("Block: seed {$seed} to " . $seed + 1, Bake::findOrFail((string) $bakes[1]['id'])->revision->summary);

        // Another edit and its bake leave them alone, and what is undone is not a trial.
        $document = $shot->head->document ?? [];
        $shot = app(ShotBook::class)->save($shot, ['frames' => 5] + $document, (string) $shot->head_id);
        $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated();
        self::assertSame(['cancelled', 'queued', 'queued'], array_map(static fn (array $bake): string => Bake::findOrFail((string) $bake['id'])->status, $bakes));
        $shot = app(ShotBook::class)->undo($shot, (string) $shot->head_id);
        self::assertSame(5, app(ShotBook::class)->redo($shot, (string) $shot->head_id)->head->document['frames'] ?? 0);
    }

    #[Group('slow')]
    public function testItIsBakedShownAndTaken(): void
    {
        $shot = $this->shot();
        [$three, $nine] = $this->try($shot, [3, 9], '/props/0/break/cellular/pieces');
        Artisan::call('queue:work', ['--stop-when-empty' => true, '--sleep' => 0, '--queue' => 'default,trials']);
        $this->getJson("/api/bakes/{$nine['id']}")->assertJsonPath('status', 'done')->assertJsonPath('done', 4)->assertJsonPath('trial', 'Pieces 9');
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake', null);
        $this->getJson("/api/bakes/{$nine['id']}/differences?from={$three['id']}")->assertOk()->assertExactJson(['differences' => ['Block: pieces 3 to 9']]);
        $this->getJson("/api/bakes/{$nine['id']}/differences?from=none")->assertNotFound();

        $this->postJson("/api/bakes/{$three['id']}/bring-up")->assertOk();
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('bake.id', $three['id'])->assertJsonPath('bake.stale', true);
        $this->postJson("/api/bakes/{$nine['id']}/take", [], ['If-Match' => "\"{$shot->head_id}\""])->assertOk()
            ->assertJsonPath('document.props.0.break.cellular.pieces', 9)->assertJsonPath('bake.id', $nine['id'])->assertJsonPath('bake.stale', false)->assertJsonPath('canUndo', true);
        // Baked as it stands: there already.
        $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->assertJsonPath('id', $nine['id'])->assertJsonPath('status', 'done');

        // What was changed since stays; then the trial is not what is shown.
        $shot = app(ShotBook::class)->save($shot->refresh(), ['frames' => 7] + ($shot->head->document ?? []), (string) $shot->head_id);
        $this->postJson("/api/bakes/{$three['id']}/take", [], ['If-Match' => "\"{$shot->head_id}\""])->assertOk()
            ->assertJsonPath('document.props.0.break.cellular.pieces', 3)->assertJsonPath('document.frames', 7)->assertJsonPath('bake.stale', true);
        // Gone back to it is all that it was.
        $this->postJson("/api/bakes/{$nine['id']}/go-back", [], ['If-Match' => '"' . $shot->refresh()->head_id . '"'])->assertOk()
            ->assertJsonPath('document.frames', 4)->assertJsonPath('bake.id', $nine['id'])->assertJsonPath('bake.stale', false);
    }

    /** @param array<string, mixed> $asked */
    #[DataProvider('wrong')]
    public function testWhatCannotBeTriedLeavesNothing(array $asked, string $words): void
    {
        $shot = $this->shot();
        $answer = $this->postJson("/api/shots/{$shot->id}/trials", $asked)->assertStatus(422);
        self::assertStringContainsString($words, json_encode($answer->json(), JSON_THROW_ON_ERROR | JSON_UNESCAPED_UNICODE | JSON_UNESCAPED_SLASHES));
        self::assertSame([0, 1], [Bake::count(), Revision::count()]);
    }

    /** @return array<string, array{array<string, mixed>, string}> */
    public static function wrong(): array
    {
        return [
            'no values' => [['pointer' => self::SEED], 'list of numbers'],
            'beyond the limits' => [['pointer' => '/props/0/break/cellular/pieces', 'values' => [5, 99_999_999]], 'Pieces 99999999 cannot be baked'],
            'not a number of the shot' => [['pointer' => '/props/7/name', 'values' => [1, 2]], 'a number of the shot'],
            'nothing that moves' => [['pointer' => '/camera/lens', 'values' => [20, 35, 50]], 'None of these values changes what moves'],
        ];
    }

    public function testThoseThatNobodyWantsGo(): void
    {
        Queue::fake();
        $shot = $this->shot();
        $ids = array_column($this->try($shot, range(101, 105)), 'id');
        Bake::whereKey($ids[0])->update(['status' => 'running']);
        Bake::whereKey($ids[1])->update(['status' => 'done', 'pinned' => true]);
        Bake::whereKey($ids[2])->update(['status' => 'done']);
        $this->postJson("/api/bakes/{$ids[3]}/bring-up")->assertStatus(409);
        Bake::whereKey($ids[4])->update(['status' => 'done']);
        $this->postJson("/api/bakes/{$ids[4]}/bring-up")->assertOk();
        $this->deleteJson("/api/shots/{$shot->id}/trials")->assertOk();
        self::assertSame([$ids[0], $ids[1], $ids[4]], Bake::orderBy('id')->pluck('id')->all(), 'under way, kept, shown');
        self::assertTrue(Bake::findOrFail($ids[0])->cancel);
    }

    public function testOldOnesMakeRoomForNewOnesOnly(): void
    {
        Queue::fake();
        config(['yard.room.bakes' => 1]);
        $shot = $this->shot();
        $own = $this->postJson("/api/shots/{$shot->id}/bakes")->json('id');
        $first = array_column($this->try($shot, range(101, 100 + Trials::MOST)), 'id');
        $later = array_column($this->try($shot, [301, 302]), 'id');
        Bake::query()->update(['status' => 'done', 'updated_at' => now()->subHours(2)]);
        Bake::whereKey($later)->update(['updated_at' => now()->subHour()]);
        StoreKeeper::ofTheYard()->sweep();
        $left = Bake::pluck('id')->all();
        self::assertCount(1 + Trials::MOST, $left);
        self::assertContains($own, $left, 'trials do not push out the bakes of the shot');
        self::assertSame([], array_diff($later, $left));
        self::assertCount(Trials::MOST - 2, array_intersect($first, $left));
    }
}
