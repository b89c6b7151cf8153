<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Revision;
use App\Models\Shot;
use App\Support\ShotBook;
use Database\Seeders\DatabaseSeeder;
use Illuminate\Http\UploadedFile;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;
use YardBreak\Core\Document\DemoShot;

final class ShotTest extends TestCase
{
    /** Where a text belongs, a list was a fault of ours (found by asking every route badly, {@see tests/Bench/fuzz-http.php}). */
    public function testWhatIsNoTextIsRefusedInWords(): void
    {
        $shot = $this->postJson('/api/shots', ['name' => 'Jar'])->json('id');
        foreach ([[], ['a' => 1], true] as $odd) {
            $this->postJson('/api/shots', ['name' => $odd])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/name');
            $this->patchJson("/api/shots/{$shot}", ['name' => $odd])->assertStatus(422);
            $this->getJson("/api/shots/{$shot}/props/prop-1/mesh?" . http_build_query(['bake' => [['x']]]))->assertStatus(422);
        }
        $this->getJson("/api/shots/{$shot}")->assertOk()->assertJsonPath('name', 'Jar');
    }

    #[Group('slow')]
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

    public function testACueThatIsFoundIsStoredWhereItIsFound(): void
    {
        $made = app(ShotBook::class)->create('Test', [
            'version' => 2, 'frames' => 60,
            'cues' => [['id' => 'hit', 'name' => 'Hit', 'frame' => 2, 'at' => ['moment' => 'touch', 'touch' => ['prop' => 'box']]]],
            'props' => [['id' => 'box', 'name' => 'Box', 'position' => ['y' => ['keys' => [['frame' => 1, 'value' => 2.0, 'ease' => 'linear'], ['frame' => 41, 'value' => 0.0]]]]]],
        ], 'start');
        $shot = $this->getJson("/api/shots/{$made->id}")->json();
        // A box of 1 m from 2 m down by 0.05 m a frame.
        self::assertSame(31, $shot['document']['cues'][0]['frame']);
        $document = $shot['document'];
        $document['props'][0]['position']['y']['keys'][1]['frame'] = 21;
        $saved = $this->putJson("/api/shots/{$shot['id']}/document", ['document' => $document], ['If-Match' => $shot['head']['id']])->assertOk()->json();
        self::assertSame(16, $saved['document']['cues'][0]['frame']);
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

    public function testAPathIsDrawnAndGoneAlong(): void
    {
        $document = self::smallDocument();
        $document['frames'] = 11;
        $document['props'][0]['position'] = ['x' => 0, 'y' => 0.5, 'z' => 0];
        $document['props'][0]['path'] = ['on' => true, 'places' => [['x' => 0, 'y' => 1, 'z' => 0], ['x' => 4, 'y' => 1, 'z' => 0]], 'along' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => 11, 'value' => 100, 'ease' => 'linear']]]];
        $shot = app(ShotBook::class)->create('Test', $document, 'start');
        $id = $document['props'][0]['id'];
        $path = $this->getJson("/api/shots/{$shot->id}/paths")->assertOk()->json($id);
        self::assertEqualsWithDelta(4.0, $path['length'], 1e-9);
        self::assertEquals([[0, 1, 0], [4, 1, 0]], [$path['places'][0], $path['places'][count($path['places']) - 1]]);
        $track = $this->getJson("/api/shots/{$shot->id}/tracks")->assertOk()->json($id);
        // Half a metre above the path; the path itself stands behind in the row.
        self::assertEqualsWithDelta([1.2, 1.5, 0.0], array_slice($track[3], 0, 3), 1e-9);
        self::assertEqualsWithDelta([1.2, 1.0, 0.0], array_slice($track[3], 10, 3), 1e-9);
        self::assertEqualsWithDelta([0.0, sqrt(0.5), 0.0, sqrt(0.5)], array_slice($track[3], 13, 4), 1e-9);
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

    /** A plank under a block that passes over it, and a further weight in a zone that moves. */
    private function passing(): Shot
    {
        return app(ShotBook::class)->create('Passing', ['version' => 2, 'frames' => 24, 'props' => [
            ['id' => 'plank', 'name' => 'Plank', 'source' => ['box' => ['width' => 2, 'height' => 0.1, 'depth' => 0.4, 'divisions' => 6]], 'break' => ['cellular' => ['pieces' => 10]],
                'weight' => ['stack' => [['source' => 'reach', 'reach' => ['props' => ['block'], 'none' => 0.5]]], 'follows' => 'late'],
                'weights' => [['id' => 'warm', 'name' => 'Warm', 'stack' => [['source' => 'zone', 'zone' => ['at' => ['x' => ['keys' => [['frame' => 1, 'value' => -1, 'ease' => 'linear'], ['frame' => 21, 'value' => 1]]]], 'within' => 0.3]]]]], 'release' => ['trigger' => 'weight']],
            ['id' => 'block', 'name' => 'Block', 'source' => ['box' => ['width' => 0.2, 'height' => 0.2, 'depth' => 0.2]], 'position' => ['x' => ['keys' => [['frame' => 1, 'value' => -1], ['frame' => 24, 'value' => 1]]], 'y' => 0.3], 'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never']],
        ]], 'start');
    }

    /** Of any of its weights, and in blocks that go on from each other, as single frames are. */
    #[Group('slow')]
    public function testFurtherWeightsAndThoseThatRememberAreSent(): void
    {
        $shot = $this->passing();
        $url = "/api/shots/{$shot->id}/props/plank/weights";
        $block = (string) $this->get("{$url}?block=1")->assertOk()->baseResponse->original;
        $vertices = intdiv(strlen($block), 16);
        // Block 1 begins at frame 17: asked for first, it had to go through block 0.
        foreach ([17, 20] as $frame) {
            self::assertSame(substr($block, $vertices * ($frame - 17), $vertices), (string) $this->get("{$url}?frame={$frame}")->baseResponse->original, "frame {$frame}");
        }
        $warm = (string) $this->get("{$url}?of=warm&frame=11")->assertOk()->baseResponse->original;
        self::assertSame($vertices, strlen($warm));
        self::assertNotSame($warm, (string) $this->get("{$url}?of=warm&frame=1")->baseResponse->original);
        $this->getJson("{$url}?of=cold&frame=1")->assertNotFound()->assertJsonPath('detail', 'Plank has no such weight any more.');
    }

    /** What is not stored yet, about as it will be; nothing of other pieces, nothing of nonsense. */
    public function testAGlimpseOfAWeightWhileSomethingIsDragged(): void
    {
        $shot = $this->passing();
        $url = "/api/shots/{$shot->id}/props/plank/weights?frame=12";
        $document = $shot->head->document;
        $exact = (string) $this->get($url)->assertOk()->baseResponse->original;
        $same = (string) $this->postJson($url, ['document' => $document])->assertOk()->getContent();
        self::assertSame(strlen($exact), strlen($same));
        $apart = array_map(static fn (string $a, string $b): int => abs(ord($a) - ord($b)), str_split($exact), str_split($same));
        self::assertLessThan(8.0, array_sum($apart) / count($apart), 'of 255');
        $document['props'][1]['position']['y'] = 5;
        // Zero bytes alone count as blank to the test's own reading of an answer.
        $away = (string) $this->postJson($url, ['document' => $document])->assertOk()->baseResponse->original;
        self::assertSame(strlen($exact), strlen($away));
        self::assertSame("\0", implode('', array_unique(str_split($away))), 'the block is far away');
        self::assertSame(1, $shot->fresh()?->head->number, 'nothing was stored');
        $document['props'][0]['break']['cellular']['pieces'] = 20;
        $this->postJson($url, ['document' => $document])->assertNoContent();
        $this->postJson($url, ['document' => ['version' => 2, 'props' => 'none']])->assertStatus(422);
        $this->postJson($url, ['document' => ['version' => 2, 'props' => []]])->assertNotFound();
    }

    public function testNumbersAndOutlinesAreThere(): void
    {
        $shot = $this->passing();
        $numbers = $this->getJson("/api/shots/{$shot->id}/numbers")->assertOk()->json();
        self::assertEqualsWithDelta(0.0, $numbers['/props/0/weights/0/stack/0/zone/at/x'][10], 1e-9);
        self::assertCount(24, $numbers['/props/1/position/x']);
        $this->getJson("/api/shots/{$shot->id}/props/plank/outlines")->assertOk()->assertExactJson([]);
        $this->getJson("/api/shots/{$shot->id}/props/plank/outlines?of=warm")->assertOk()->assertJsonPath('0.shape', 'ball')->assertJsonCount(24, '0.frames')->assertJsonPath('0.frames.0.7', 0.3);
        $this->getJson("/api/shots/{$shot->id}/props/gone/outlines")->assertNotFound();
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
