<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Bake;
use App\Models\Export;
use App\Models\Shot;
use App\Support\ShotBook;
use App\Support\WorkerId;
use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;

/** Files for others: at once if they are quick, else in the queue with progress, to be stopped, taken up again, and fetched. */
#[Group('thorough')]
final class ExportTest extends TestCase
{
    private function work(): void
    {
        Artisan::call('queue:work', ['--stop-when-empty' => true, '--sleep' => 0]);
    }

    /** @param array<string, mixed> $document */
    private function baked(array $document): Bake
    {
        $shot = app(ShotBook::class)->create('Long sail', $document, 'start');
        $id = $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id');
        $this->work();

        return Bake::findOrFail($id);
    }

    private function slow(): Bake
    {
        return $this->baked(['version' => 2, 'frames' => 900, 'planes' => [], 'forces' => [], 'props' => [[
            'id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 11]], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], 'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim']]]],
        ]]]);
    }

    public function testAQuickFileIsSentAtOnce(): void
    {
        $bake = $this->baked(self::smallDocument());
        $href = $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertOk()->assertJsonPath('status', 'done')->json('href');
        self::assertStringStartsWith('glTF', $this->get((string) $href)->assertOk()->streamedContent());
        foreach (['obj' => 'model/obj', 'ply' => 'model/ply', 'stl' => 'model/stl', 'usda' => 'model/vnd.usda', 'usdz' => 'model/vnd.usdz+zip', 'csv' => 'text/csv; charset=utf-8'] as $format => $type) {
            $href = $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => $format, 'frame' => 7])->assertOk()->json('href');
            $answer = $this->get((string) $href)->assertOk()->assertHeader('Content-Type', $type);
            self::assertStringEndsWith((in_array($format, ['usda', 'usdz', 'csv'], true) ? '' : '-0007') . ".{$format}\"", (string) $answer->headers->get('Content-Disposition'));
        }
        self::assertStringStartsWith('PK', $this->get("/api/bakes/{$bake->id}/pieces.ply.zip")->assertOk()->streamedContent());
        self::assertSame(0, Export::count());
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'obj', 'frame' => 21])->assertStatus(422)->assertJsonPath('detail', 'Choose a frame from 1 to 20.');
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'doc'])->assertStatus(422);
        $bake->update(['status' => 'running']);
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertStatus(409);
    }

    /** Names, colours and the camera do not make a bake stale, so its files have them as they are now. */
    public function testFilesShowTheShotAsItStandsWhileTheBakeFits(): void
    {
        $bake = $this->baked(self::smallDocument());
        $shot = Shot::findOrFail($bake->shot_id);
        $glb = fn (): string => $this->get("/api/bakes/{$bake->id}/pieces.glb")->assertOk()->streamedContent();
        self::assertStringNotContainsString('"cameras"', $glb());
        $save = function (callable $change) use ($shot): void {
            $document = $shot->refresh()->head->document ?? [];
            $change($document);
            $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => "\"{$shot->head_id}\""])->assertOk();
        };
        $save(static function (array &$document): void {
            $document['camera']['on'] = true;
            $document['props'][0]['name'] = 'Milestone';
        });
        self::assertStringContainsString('"cameras"', $glb());
        self::assertStringContainsString('Milestone', $glb());
        // What moves otherwise is another bake: this one shows what was baked.
        $save(static function (array &$document): void {
            $document['camera']['on'] = false;
            $document['frames']++;
        });
        self::assertStringNotContainsString('"cameras"', $glb(), 'as it was baked');
    }

    public function testALongFileIsWrittenInTheQueueAndIsTheSame(): void
    {
        $bake = $this->slow();
        $state = $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertCreated()->assertJsonPath('status', 'queued');
        $id = (string) $state->json('id');
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertJsonPath('id', $id);
        $this->get("/api/exports/{$id}/file")->assertNotFound();
        $this->work();
        $this->getJson("/api/exports/{$id}")->assertOk()->assertJsonPath('status', 'done')->assertJsonPath('href', "/api/exports/{$id}/file");
        $export = Export::findOrFail($id);
        self::assertGreaterThan(100, $export->total, 'it said how far it was');
        self::assertSame([$export->path()], glob("{$export->path()}*"), 'nothing half written is left');
        $file = $this->get("/api/exports/{$id}/file")->assertOk()->assertHeader('Content-Disposition', 'attachment; filename="Long-sail.glb"');
        self::assertSame($this->get("/api/bakes/{$bake->id}/pieces.glb")->streamedContent(), (string) file_get_contents($export->path()));
        $file->assertHeader('Content-Type', 'model/gltf-binary');
        // Written once; when it is gone, it is written again.
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertJsonPath('id', $id)->assertJsonPath('status', 'done');
        unlink($export->path());
        self::assertNotSame($id, $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->json('id'));
        $export->forceFill(['updated_at' => now()->subDays(2)])->saveQuietly();
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb']);
        self::assertNull(Export::find($id), 'after a day it is forgotten');
    }

    public function testAStoppedFileIsNotWrittenAndADeadWorkersIsTakenUpAgain(): void
    {
        $bake = $this->slow();
        $id = (string) $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->json('id');
        $this->postJson("/api/exports/{$id}/cancel")->assertJsonPath('status', 'cancelled');
        $this->work();
        self::assertSame('cancelled', Export::findOrFail($id)->status);
        self::assertFileDoesNotExist(Export::findOrFail($id)->path());

        $id = (string) $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->json('id');
        // As if a worker had begun and died: its number belongs to nobody.
        $parts = explode('|', WorkerId::own());
        $parts[1] = '999999999';
        Export::where('id', $id)->update(['status' => 'running', 'owner' => implode('|', $parts), 'done' => 7]);
        $this->work();
        self::assertSame('running', Export::findOrFail($id)->status, 'what another one writes is left alone');
        $this->getJson("/api/exports/{$id}")->assertJsonPath('status', 'queued')->assertJsonPath('done', 0);
        $this->work();
        $this->getJson("/api/exports/{$id}")->assertJsonPath('status', 'done');
    }

    /** As an older version left it. */
    public function testFramesOfAnotherFormatAreRefusedInWords(): void
    {
        $bake = $this->baked(self::smallDocument());
        $frames = (string) file_get_contents($bake->framesPath());
        file_put_contents($bake->framesPath(), substr_replace($frames, pack('V', 2), 8, 4));
        $this->getJson("/api/bakes/{$bake->id}")->assertOk()->assertJsonPath('status', 'done')->assertJsonPath('readout', []);
        $said = 'These frames were baked by an older Yard Break (format 2). Bake again to see them.';
        $this->getJson("/api/bakes/{$bake->id}/index")->assertStatus(422)->assertJsonPath('detail', $said);
        $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertStatus(422)->assertJsonPath('detail', $said);
    }

    public function testAFileThatCannotBeWrittenSaysWhy(): void
    {
        $bake = $this->slow();
        $id = (string) $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->json('id');
        $frames = (string) file_get_contents($bake->framesPath());
        file_put_contents($bake->framesPath(), 'no frames at all');
        $this->work();
        $state = $this->getJson("/api/exports/{$id}")->assertJsonPath('status', 'failed')->assertJsonPath('href', null);
        self::assertStringContainsString('no frames file', (string) $state->json('error'));
        self::assertSame([], glob(Export::findOrFail($id)->path() . '*'), 'nothing half written is left');
        // What failed is written anew when it is asked for again.
        file_put_contents($bake->framesPath(), $frames);
        $again = (string) $this->postJson("/api/bakes/{$bake->id}/exports", ['format' => 'glb'])->assertJsonPath('status', 'queued')->json('id');
        self::assertNotSame($id, $again);
    }
}
