<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Shot;
use App\Support\ShotBook;
use Illuminate\Http\UploadedFile;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\Group;
use Symfony\Component\HttpFoundation\Response;
use Tests\TestCase;
use YardBreak\Core\Tests\Fixture\MovingGlb;

/** What moves in a file is told as keys of the document. */
final class FileMotionTest extends TestCase
{
    /** @return TestResponse<Response> */
    private function upload(string $bytes, string $as): TestResponse
    {
        return $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent('scene.glb', $bytes), 'as' => $as]);
    }

    private function shotOf(string $bytes): Shot
    {
        $document = self::smallDocument();
        $document['props'][0]['source'] = ['kind' => 'file', 'file' => ['asset' => (string) $this->upload($bytes, 'mesh')->assertCreated()->json('asset'), 'fileName' => 'scene.glb']];
        $document['props'][0]['break'] = ['pattern' => 'whole'];

        return app(ShotBook::class)->create('Moves', $document, 'start');
    }

    #[Group('slow')]
    public function testAPropIsToldHowItMovesInItsFile(): void
    {
        $shot = $this->shotOf(MovingGlb::drive());
        $told = $this->getJson("/api/shots/{$shot->id}/props/block/motion")->assertOk()->assertJsonPath('frames', 48)->assertJsonPath('why', '');
        self::assertSame(49, max(array_column((array) $told->json('keys.position.x.keys'), 'frame')));
        // They are what a document takes.
        $document = $shot->head->document ?? [];
        $document['props'][0] = [...$document['props'][0], ...(array) $told->json('keys')];
        $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => (string) $shot->head?->id])->assertOk();

        $bends = $this->shotOf(MovingGlb::creature());
        $this->getJson("/api/shots/{$bends->id}/props/block/motion")->assertOk()->assertJsonPath('frames', 36)->assertJsonPath('keys', null)->assertJsonPath('clips', ['animation 1', 'animation 2']);
        $chosen = $bends->head->document ?? [];
        $chosen['props'][0]['played'] = ['clip' => 'walk'];
        $this->putJson("/api/shots/{$bends->id}/document", ['document' => $chosen], ['If-Match' => (string) $bends->head?->id])->assertOk();
        $this->getJson("/api/shots/{$bends->id}/props/block/motion")->assertOk()->assertJsonPath('frames', 0)->assertJsonPath('why', 'The file has no animation “walk”. It has “animation 1”, “animation 2”.');
        $still = app(ShotBook::class)->create('Still', self::smallDocument(), 'start');
        $this->getJson("/api/shots/{$still->id}/props/block/motion")->assertOk()->assertJsonPath('frames', 0);
        $this->getJson("/api/shots/{$still->id}/props/nobody/motion")->assertNotFound();
    }

    #[Group('slow')]
    public function testACameraOfAFileBecomesTheShots(): void
    {
        $brought = $this->upload(MovingGlb::drive(), 'camera')->assertCreated();
        self::assertSame(['shot camera', 'witness'], array_column((array) $brought->json('cameras'), 'name'));
        $sha = (string) $brought->json('asset');
        $taken = $this->getJson("/api/assets/{$sha}/cameras/4?fps=24&unit=cm&away=2&aspect=4:3")->assertOk()->assertJsonPath('note', '')->assertJsonPath('camera.aspect', '16:9')->assertJsonPath('camera.position.y.keys.0.value', 0.015);
        $shot = app(ShotBook::class)->create('Seen', self::smallDocument(), 'start');
        $this->putJson("/api/shots/{$shot->id}/document", ['document' => ['camera' => $taken->json('camera')] + ($shot->head->document ?? [])], ['If-Match' => (string) $shot->head?->id])->assertOk();
        $this->getJson("/api/assets/{$sha}/cameras/5?aspect=4:3")->assertOk()->assertJsonPath('camera.aspect', '4:3')->assertJsonPath('note', 'In the file its picture is 1.85 to 1; here it is 4 to 3, and sees as much from top to bottom.');
        $this->getJson("/api/assets/{$sha}/cameras/0")->assertStatus(422);
        $this->getJson('/api/assets/' . str_repeat('0', 64) . '/cameras/0')->assertNotFound();
        $this->upload(MovingGlb::creature(), 'camera')->assertStatus(422)->assertJsonPath('detail', '“scene.glb” has no camera that sees in perspective. Export the scene with its camera.');
        $this->upload('glTF, but not really a file', 'camera')->assertStatus(422);
        $this->post('/api/assets', ['as' => 'camera'])->assertStatus(422)->assertJsonPath('detail', 'Choose a GLB of at most 256 MB that has a camera and try again.');
    }
}
