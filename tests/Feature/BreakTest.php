<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Shot;
use App\Support\ShotBook;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;
use YardBreak\Core\Stage\StageStore;

final class BreakTest extends TestCase
{
    /** @param array<mixed> $settings the pattern and its settings */
    private static function shot(array $settings): Shot
    {
        $document = self::smallDocument();
        $pattern = is_string($settings['pattern'] ?? null) ? $settings['pattern'] : 'cellular';
        $document['props'][0]['break'] = ['pattern' => $pattern, $pattern => array_diff_key($settings, ['pattern' => 0])];

        return app(ShotBook::class)->create('Test', $document, 'start');
    }

    #[Group('slow')]
    public function testEveryPatternIsSavedBrokenAndMeasured(): void
    {
        $cases = [
            ['pattern' => 'cellular', 'pieces' => 9, 'clustering' => 0.5, 'at' => ['x' => 0.1]],
            ['pattern' => 'web', 'rays' => 7, 'rings' => 3, 'radius' => 0.1, 'at' => ['z' => 0.15], 'axis' => ['y' => 0, 'z' => -1]],
            ['pattern' => 'courses', 'length' => 0.12, 'height' => 0.08],
            ['pattern' => 'halving', 'rounds' => 3],
            ['pattern' => 'grain', 'pieces' => 8, 'slenderness' => 4],
            ['pattern' => 'breach', 'shape' => 'ball', 'at' => ['x' => 0.15], 'radius' => 0.08, 'crumb' => 0.03, 'fragments' => 4],
        ];
        foreach ($cases as $break) {
            $shot = self::shot($break);
            $readout = $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk();
            $pieces = (int) $readout->json('pieces.count');
            self::assertGreaterThan(1, $pieces, $break['pattern']);
            self::assertCount($pieces, (array) $readout->json('pieces.middles'));
            self::assertNotEmpty($readout->json('pieces.touching'), $break['pattern']);
            self::assertEqualsWithDelta(0.027, array_sum((array) $readout->json('pieces.volumes')), 1e-9);
            // The picture gets as many pieces, in the same order.
            $mesh = (string) $this->get("/api/shots/{$shot->id}/props/block/mesh")->assertOk()->getContent();
            self::assertSame($pieces, (unpack('V', $mesh, 8) ?: [1 => 0])[1]);
        }
    }

    public function testAbsurdSettingsAreRefusedWithTheirPlace(): void
    {
        $shot = self::shot([]);
        $save = fn (array $break) => $this->putJson("/api/shots/{$shot->id}/document", ['document' => ['version' => 2, 'props' => [['id' => 'block', 'name' => 'Block', 'break' => $break]]]], ['If-Match' => (string) $shot->head_id]);
        $save(['pattern' => 'web', 'web' => ['rays' => 1]])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/props/0/break/web/rays')->assertJsonPath('errors.0.detail', 'Rays must be from 3 to 120.');
        $save(['pattern' => 'shatter'])->assertStatus(422)->assertJsonPath('errors.0.pointer', '/props/0/break/pattern');
        self::assertSame($shot->head_id, $shot->refresh()->head_id);
        // Sensible numbers that make no sense together are refused when it breaks, in words.
        $tiny = self::shot(['pattern' => 'courses', 'length' => 0.001, 'height' => 0.001, 'bond' => 'hexagon']);
        $answer = $this->getJson("/api/shots/{$tiny->id}/props/block/readout")->assertStatus(422);
        self::assertStringContainsString('Make them larger', (string) $answer->json('detail'));
    }

    public function testABreakThatNobodyWaitsForIsGivenUp(): void
    {
        $shot = self::shot(['pattern' => 'halving', 'rounds' => 9]);
        $before = $shot->head_id;
        // The break looks now and then whether the shot has moved on; here it does as soon as the stage is asked for.
        $this->app?->bind(StageStore::class, fn () => new class ($shot) implements StageStore {
            public function __construct(private readonly Shot $shot)
            {
            }

            public function get(string $hash): ?string
            {
                return null;
            }

            public function put(string $hash, string ...$parts): void
            {
            }

            public function alone(string $hash, callable $work): mixed
            {
                $document = $this->shot->head->document ?? [];
                $document['frames'] = 33;
                app(ShotBook::class)->save($this->shot, $document, (string) $this->shot->head_id);

                return $work();
            }
        });
        $this->get("/api/shots/{$shot->id}/props/block/mesh")->assertStatus(409)->assertJsonPath('title', 'Superseded');
        self::assertNotSame($before, Shot::findOrFail($shot->id)->head_id);
    }

    public function testAnOpenMeshIsRepairedOnRequest(): void
    {
        // A tetrahedron without its last face, which looks inwards besides.
        $obj = "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 2 3\nf 1 4 2\nf 2 4 3\n";
        $asset = $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent('open.obj', $obj)])->assertCreated()->json('asset');
        $document = self::smallDocument();
        $document['props'][0]['source'] = ['kind' => 'file', 'file' => ['asset' => $asset, 'fileName' => 'open.obj']];
        $shot = app(ShotBook::class)->create('Open', $document, 'start');
        $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk()->assertJsonPath('health.watertight', false)->assertJsonPath('health.repairs', null)->assertJsonPath('pieces', null);
        $document['props'][0]['source']['file']['repair'] = true;
        $shot = app(ShotBook::class)->create('Mended', $document, 'start');
        $answer = $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk()->assertJsonPath('health.watertight', true);
        self::assertContains('1 hole filled', (array) $answer->json('health.repairs'));
        self::assertEqualsWithDelta(1 / 6, (float) $answer->json('health.volume'), 1e-9);
    }

    public function testTheCommandTakesAnyField(): void
    {
        $obj = "{$this->folder}/tetra.obj";
        file_put_contents($obj, "v 0 0 0\nv 1 0 0\nv 0 1 0\nv 0 0 1\nf 1 3 2\nf 1 2 4\nf 2 3 4\nf 1 4 3\n");
        ob_start();
        $code = Artisan::call('yard:break', ['file' => $obj, 'out' => "{$this->folder}/out.glb", '--pattern' => 'web', '--set' => ['rays=5', 'rings=2', 'radius=0.2', 'at=0.2,0.2,0', 'axis=0,0,1', 'rest=whole']]);
        ob_end_clean();
        self::assertSame(0, $code);
        self::assertStringStartsWith('glTF', (string) file_get_contents("{$this->folder}/out.glb"));
        ob_start();
        self::assertNotSame(0, Artisan::call('yard:break', ['file' => $obj, 'out' => "{$this->folder}/no.glb", '--set' => ['rays=fast']]));
        ob_end_clean();
        self::assertFileDoesNotExist("{$this->folder}/no.glb");
    }
}
