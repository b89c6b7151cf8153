<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Revision;
use App\Models\Shot;
use App\Support\ShotBook;
use Database\Seeders\DatabaseSeeder;
use Illuminate\Http\UploadedFile;
use Tests\TestCase;
use YardBreak\Core\Document\DemoShot;

final class ShotTest extends TestCase
{
    public function testTheYardStartsWithTheDemoOnce(): void
    {
        app()->call([new DatabaseSeeder(), 'run']);
        app()->call([new DatabaseSeeder(), 'run']);
        $this->getJson('/api/shots')->assertOk()->assertJsonCount(count(DemoShot::all()), 'shots')->assertJsonPath('shots.0.name', 'Jar off the sill');
    }

    public function testAShotIsMadeRenamedCopiedDeletedAndBroughtBack(): void
    {
        $id = $this->postJson('/api/shots', ['name' => 'Bell'])->assertCreated()->json('id');
        $this->patchJson("/api/shots/{$id}", ['name' => 'Bronze bell'])->assertOk()->assertJsonPath('name', 'Bronze bell');
        $this->patchJson("/api/shots/{$id}", ['name' => '  '])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/name');
        $copy = $this->postJson("/api/shots/{$id}/duplicate")->assertCreated()->assertJsonPath('name', 'Bronze bell copy')->json('id');
        $this->deleteJson("/api/shots/{$id}")->assertNoContent();
        $this->getJson('/api/shots')->assertJsonCount(1, 'shots')->assertJsonPath('shots.0.id', $copy);
        $this->getJson("/api/shots/{$id}")->assertNotFound()->assertHeader('Content-Type', 'application/problem+json');
        $this->postJson("/api/shots/{$id}/restore")->assertOk();
        $this->getJson('/api/shots')->assertJsonCount(2, 'shots');
    }

    public function testEditsAreRevisionsThatUndoAndRedoWalk(): void
    {
        $shot = app(ShotBook::class)->create('Test', self::smallDocument(), 'start');
        $save = fn (array $document, string $base) => $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => "\"{$base}\""]);
        $document = $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('canUndo', false)->json('document');
        $document['props'][0]['motion']['rigid']['friction'] = 0.7;
        $second = $save($document, (string) $shot->head_id)->assertOk()->assertJsonPath('head.summary', 'Block: friction 0.6 to 0.7')->assertJsonPath('head.number', 2)->json('head.id');
        $save($document, $second)->assertJsonPath('head.number', 2);
        $this->postJson("/api/shots/{$shot->id}/undo", [], ['If-Match' => $second])->assertOk()->assertJsonPath('document.props.0.motion.rigid.friction', 0.6)->assertJsonPath('canRedo', true);
        $this->postJson("/api/shots/{$shot->id}/redo", [], ['If-Match' => (string) $shot->head_id])->assertOk()->assertJsonPath('document.props.0.motion.rigid.friction', 0.7);
        $this->postJson("/api/shots/{$shot->id}/redo", [], ['If-Match' => $second])->assertStatus(409);
        self::assertSame(2, Revision::where('shot_id', $shot->id)->count());
    }

    public function testAnEditBasedOnAnOldRevisionIsRefusedAndLosesNothing(): void
    {
        $shot = app(ShotBook::class)->create('Test', self::smallDocument(), 'start');
        $document = $shot->head->document;
        $document['frames'] = 30;
        $put = fn (array $headers) => $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], $headers);
        $put([])->assertStatus(428);
        $head = $put(['If-Match' => "\"{$shot->head_id}\""])->assertOk()->json('head.id');
        $document['frames'] = 40;
        $put(['If-Match' => "\"{$shot->head_id}\""])->assertStatus(412)->assertJsonPath('current', $head);
        $this->getJson("/api/shots/{$shot->id}")->assertJsonPath('document.frames', 30);
    }

    public function testBadDocumentsAreRefusedWithAPointer(): void
    {
        $shot = app(ShotBook::class)->create('Test', self::smallDocument(), 'start');
        $document = $shot->head->document;
        $document['props'][0]['break']['cellular']['pieces'] = 1e9;
        $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => (string) $shot->head_id])
            ->assertStatus(422)->assertHeader('Content-Type', 'application/problem+json')->assertJsonPath('errors.0.pointer', '/props/0/break/cellular/pieces');
        self::assertSame($shot->head_id, Shot::findOrFail($shot->id)->head_id);
    }

    public function testMeshReadoutWeightsAndChecks(): void
    {
        $document = self::smallDocument();
        $document['props'][0]['weight'] = ['stack' => [['source' => 'sweep', 'sweep' => ['from' => 1, 'to' => 11, 'axis' => 'y']]]];
        $document['props'][0]['release'] = ['trigger' => 'weight'];
        $shot = app(ShotBook::class)->create('Test', $document, 'start');
        $url = "/api/shots/{$shot->id}/props/block";
        $mesh = $this->get("{$url}/mesh?stage=break")->assertOk();
        self::assertStringStartsWith('YBMESH1', (string) $mesh->getContent());
        $counts = unpack('Vpieces/Vcorners', (string) $mesh->getContent(), 8);
        self::assertSame(6, $counts['pieces'] ?? 0);
        self::assertSame(16 + 24 * 6 + 20 * ($counts['corners'] ?? 0), strlen((string) $mesh->getContent()));
        $vertices = 1 + max(unpack('V*', substr((string) $mesh->getContent(), -4 * ($counts['corners'] ?? 0))) ?: [0]);
        $this->get("{$url}/mesh?stage=break", ['If-None-Match' => (string) $mesh->headers->get('ETag')])->assertStatus(304);
        $this->getJson("{$url}/readout")->assertOk()->assertJsonPath('health.watertight', true)->assertJsonPath('pieces.count', 6);
        foreach ([1 => 0, 6 => null, 11 => 255] as $frame => $expected) {
            // The framework's getContent() takes bytes that are all 0 for nothing; what is sent is the original.
            $weights = (string) $this->get("{$url}/weights?frame={$frame}")->assertOk()->baseResponse->original;
            self::assertSame($vertices, strlen($weights), "frame {$frame}");
            $single[$frame] = $weights;
            $distinct = array_unique(str_split($weights));
            self::assertSame($expected === null ? null : [chr($expected)], $expected === null && count($distinct) > 1 ? null : array_values($distinct));
        }
        $counts = $this->getJson("{$url}/releases")->assertOk()->json('counts');
        self::assertCount($shot->head->document['frames'] ?? 0, $counts);
        self::assertSame(6, array_sum($counts), 'all pieces, as the front passes');
        // A block has sixteen frames, and is not sent again.
        $block = $this->get("{$url}/weights?block=0")->assertOk();
        self::assertSame(16 * $vertices, strlen((string) $block->baseResponse->original));
        foreach ($single as $frame => $weights) {
            self::assertSame($weights, substr((string) $block->baseResponse->original, $vertices * ($frame - 1), $vertices), "frame {$frame} of the block");
        }
        $this->get("{$url}/weights?block=0", ['If-None-Match' => (string) $block->headers->get('ETag')])->assertStatus(304);
        $this->getJson("/api/shots/{$shot->id}/checks")->assertOk()->assertJsonPath('findings', []);
        $this->getJson('/api/shots/nothing/checks')->assertNotFound();
        $this->get("/api/shots/{$shot->id}/props/ghost/mesh")->assertNotFound();
    }

    /** What is told of a prop is told at the size it stands at. */
    public function testSizesAreToldAsTheyStand(): void
    {
        $shot = app(ShotBook::class)->create('Large', ['version' => 2, 'props' => [[
            'id' => 'box', 'name' => 'Box', 'source' => ['box' => ['width' => 1, 'height' => 1, 'depth' => 1, 'divisions' => 1]], 'scale' => ['x' => 2, 'y' => ['keys' => [['frame' => 1, 'value' => 3], ['frame' => 9, 'value' => 5]]]],
            'break' => ['cellular' => ['pieces' => 4]], 'motion' => ['rigid' => ['density' => 10]],
        ]]], 'start');
        $readout = $this->getJson("/api/shots/{$shot->id}/props/box/readout")->assertOk()->json();
        self::assertEqualsWithDelta([6.0, 60.0, [[-1, -1.5, -0.5], [1, 1.5, 0.5]]], [$readout['health']['volume'], $readout['health']['mass'], $readout['health']['bounds']], 1e-9);
        self::assertEqualsWithDelta(6.0, array_sum($readout['pieces']['volumes']), 1e-9);
        $track = $this->getJson("/api/shots/{$shot->id}/tracks")->assertOk()->json('box');
        self::assertEquals([2, 3, 1], array_slice($track[0], 7));
        self::assertEquals([2, 5, 1], array_slice($track[8], 7));
    }

    /** How far cloth is held is asked for in the same way; a sheet of one cell is held at its two corners on one side. */
    public function testHowFarAPropIsHeldIsSent(): void
    {
        $shot = app(ShotBook::class)->create('Held', ['version' => 2, 'props' => [[
            'id' => 'sail', 'name' => 'Sail', 'source' => ['kind' => 'sheet', 'sheet' => ['divisions' => 1]], 'break' => ['pattern' => 'whole'],
            'motion' => ['mover' => 'cloth', 'cloth' => ['hold' => [['source' => 'rim', 'rim' => ['side' => 'low-x', 'within' => 0.1, 'softness' => 0]]]]],
        ]]], 'start');
        $held = (string) $this->get("/api/shots/{$shot->id}/props/sail/weights?of=hold")->assertOk()->getContent();
        $bytes = str_split(bin2hex($held), 2);
        sort($bytes);
        self::assertSame(['00', '00', 'ff', 'ff'], $bytes);
        $document = $shot->head->document ?? [];
        $document['props'][0]['motion']['cloth']['hold'] = [];
        $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => (string) $shot->head_id])->assertOk();
        self::assertSame(str_repeat("\xff", 4), $this->get("/api/shots/{$shot->id}/props/sail/weights?of=hold")->getContent(), 'without a source all of it');
    }

    public function testUploadsAreReadBeforeTheyAreKept(): void
    {
        $good = UploadedFile::fake()->createWithContent('tetra.obj', "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n");
        $asset = $this->post('/api/assets', ['file' => $good], ['Accept' => 'application/json'])->assertCreated()->assertJsonPath('triangles', 4)->json('asset');
        self::assertFileExists("{$this->folder}/store/assets/{$asset}");
        foreach ([['page.obj', '<html></html>', 'web page'], ['cut.stl', 'solid', 'STL'], ['huge.ply', "ply\nformat ascii 1.0\nelement vertex 99999999999\nend_header\n", 'at most'], ['nan.obj', "v nan 0 0\n", 'Line 1']] as [$name, $bytes, $reason]) {
            $answer = $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $bytes)], ['Accept' => 'application/json'])->assertStatus(422);
            self::assertStringContainsString($reason, (string) $answer->json('detail'));
        }
        // The answer quotes the file, whatever is in it; it is JSON all the same.
        foreach (['junk.obj' => "v 0 0 0\nv \xC3\x28\xFF 0 0\n", 'junk.ply' => "ply\nformat \xFF\x00\xFE 1.0\nend_header\n", "b\xE4d.obj" => "\xFF\xFE\x00v"] as $name => $bytes) {
            $answer = $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $bytes)], ['Accept' => 'application/json'])->assertStatus(422);
            self::assertNotSame('', (string) $answer->json('detail'), $name);
        }
        $this->post('/api/assets', [], ['Accept' => 'application/json'])->assertStatus(422);
        self::assertCount(1, glob("{$this->folder}/store/assets/*") ?: []);
    }

    public function testOnlyThisMachinesPagesMayChangeAnything(): void
    {
        $this->postJson('/api/shots', ['name' => 'x'], ['Origin' => 'http://evil.example'])->assertForbidden();
        $this->getJson('http://evil.example/api/shots')->assertForbidden();
        $this->get('http://127.0.0.1/')->assertOk()->assertHeader('X-Content-Type-Options', 'nosniff');
    }
}
