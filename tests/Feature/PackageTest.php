<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Jobs\RunBake;
use App\Models\Asset;
use App\Models\Bake;
use App\Models\Shot;
use App\Support\ShotBook;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\Artisan;
use Illuminate\Testing\TestResponse;
use PHPUnit\Framework\Attributes\Group;
use Symfony\Component\HttpFoundation\BinaryFileResponse;
use Symfony\Component\HttpFoundation\Response;
use Tests\TestCase;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Document\Schema;
use ZipArchive;

/** A shot goes to another machine in one file, with all that it needs; what is wrong in it changes nothing there. */
final class PackageTest extends TestCase
{
    private const SIGN = '<svg xmlns="http://www.w3.org/2000/svg"><path fill="#204060" d="M0 0H200V100H0Z"/></svg>';

    /** @param array<mixed> $also settings of its art */
    private function shot(string $sha, array $also = []): Shot
    {
        $document = self::smallDocument();
        $document['props'][0]['source'] = ['kind' => 'art', 'art' => ['asset' => $sha, 'fileName' => 'sign.svg', 'height' => 1, 'slab' => 0.1, 'bevel' => 0, ...$also]];

        return app(ShotBook::class)->create('Sign / by the mill', $document, 'start');
    }

    private function upload(string $name, string $bytes, string $as): string
    {
        return (string) $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $bytes), 'as' => $as])->assertCreated()->json('asset');
    }

    private function package(Shot $shot, string $query = ''): string
    {
        $answer = $this->get("/api/shots/{$shot->id}/package{$query}")->assertOk()->assertHeader('Content-Type', 'application/zip');
        self::assertStringContainsString('filename="Sign-by-the-mill.zip"', (string) $answer->headers->get('Content-Disposition'));

        self::assertInstanceOf(BinaryFileResponse::class, $answer->baseResponse);
        $path = $answer->baseResponse->getFile()->getPathname();
        $bytes = (string) file_get_contents($path);
        // Nobody is sent it here, after which it goes.
        unlink($path);

        return $bytes;
    }

    /** @return TestResponse<Response> */
    private function open(string $bytes, string $name = 'sent.zip'): TestResponse
    {
        return $this->post('/api/packages', ['file' => UploadedFile::fake()->createWithContent($name, $bytes)], ['Accept' => 'application/json']);
    }

    /** @param array<string, string> $files contents by name; empty: taken out */
    private static function changed(string $bytes, array $files): string
    {
        $path = (string) tempnam(sys_get_temp_dir(), 'yard');
        file_put_contents($path, $bytes);
        $zip = new ZipArchive();
        $zip->open($path);
        foreach ($files as $name => $text) {
            $zip->deleteName($name);
            if ($text !== '') {
                $zip->addFromString($name, $text);
            }
        }
        $zip->close();
        $bytes = (string) file_get_contents($path);
        unlink($path);

        return $bytes;
    }

    /** One byte of what is packed is another. */
    private static function damaged(string $bytes, string $name): string
    {
        // The name stands before what it names.
        $at = (int) strpos($bytes, $name) + strlen($name) + 30;
        $bytes[$at] = chr(ord($bytes[$at]) ^ 0x55);

        return $bytes;
    }

    /** As on another machine: nothing of the shot is there. */
    private function forget(string $sha): void
    {
        unlink(config()->string('yard.store') . "/assets/{$sha}");
        Asset::whereKey($sha)->delete();
    }

    public function testItOpensWhereNothingOfItWas(): void
    {
        $shot = $this->shot($sha = $this->upload('sign.svg', self::SIGN, 'art'));
        $volume = fn (string $id): float => (float) $this->getJson("/api/shots/{$id}/props/block/readout")->assertOk()->json('health.volume');
        $bytes = $this->package($shot);
        $this->forget($sha);
        $opened = $this->open($bytes)->assertCreated()->assertJsonPath('name', 'Sign / by the mill');
        self::assertNotSame($shot->id, $opened->json('id'));
        self::assertEquals($shot->head?->document, $opened->json('document'));
        self::assertEqualsWithDelta(0.2, $volume((string) $opened->json('id')), 1e-9);
        self::assertSame('sign.svg', Asset::findOrFail($sha)->name);
    }

    public function testItsFilesMayBeCalledAnythingAndLieInAFolder(): void
    {
        $shot = $this->shot($sha = $this->upload('sign.svg', self::SIGN, 'art'));
        $bytes = self::changed($this->package($shot), ['sign.svg' => '', 'about.json' => '', 'shot.json' => '', 'packed/shot.json' => (string) json_encode($shot->head?->document), 'packed/art/what.svg' => self::SIGN]);
        $this->forget($sha);
        $this->open($bytes, 'from the other house.zip')->assertCreated()->assertJsonPath('name', 'from the other house');
    }

    public function testTheCommandLineBakesWhatIsUnpacked(): void
    {
        $shot = $this->shot($this->upload('sign.svg', self::SIGN, 'art'));
        $folder = sys_get_temp_dir() . '/yard-unpacked-' . getmypid();
        file_put_contents("{$folder}.zip", $this->package($shot));
        $zip = new ZipArchive();
        self::assertTrue($zip->open("{$folder}.zip"));
        $zip->extractTo($folder);
        try {
            self::assertSame(0, Artisan::call('yard:bake', ['shot' => "{$folder}/shot.json", 'out' => "{$folder}/baked"]), Artisan::output());
            self::assertFileExists("{$folder}/baked/shot.json");
        } finally {
            exec('rm -rf ' . escapeshellarg($folder) . ' ' . escapeshellarg("{$folder}.zip"));
        }
    }

    public function testWhatIsWrongIsSaidAndChangesNothing(): void
    {
        $shot = $this->shot($sha = $this->upload('sign.svg', self::SIGN, 'art'));
        $bytes = $this->package($shot);
        $this->forget($sha);
        $document = $shot->head->document ?? [];
        $wrong = $document;
        $wrong['frames'] = -3;
        $circle = $document;
        // A weight that goes by itself: every value of it is allowed.
        $by = ['stack' => [['source' => 'other', 'other' => ['weight' => 'w']]]];
        $circle['props'][0] = [...$circle['props'][0], 'weight' => $by, 'weights' => [['id' => 'w', 'name' => 'W', ...$by]], 'release' => ['trigger' => 'weight']];
        $unusable = $document;
        $unusable['props'][0]['source']['art']['asset'] = hash('sha256', 'no drawing');
        $there = static fn (): string => json_encode([Shot::count(), Asset::count(), glob(config()->string('yard.store') . '/assets/*')], JSON_THROW_ON_ERROR);
        $before = $there();
        foreach ([
            'The package is no ZIP' => 'not a zip at all',
            'only a part of one' => substr($bytes, 0, 200),
            'There is no “shot.json”' => self::changed($bytes, ['shot.json' => '']),
            'is no JSON object' => self::changed($bytes, ['shot.json' => '{"version": 2,']),
            'The package lacks a file that the shot needs (art, SHA-256 ' => self::changed($bytes, ['sign.svg' => self::SIGN . ' ']),
            'The package lacks a file that the shot needs' => self::damaged($bytes, 'sign.svg'),
            'The package’s “shot.json”' => self::damaged($bytes, 'shot.json'),
            'far too large' => self::changed($bytes, ['shot.json' => str_repeat(' ', (1 << 24) + 1)]),
        ] as $says => $package) {
            self::assertStringContainsString($says, (string) $this->open($package)->assertStatus(422)->assertJsonPath('title', 'The package cannot be opened')->json('detail'));
        }
        $this->open(self::changed($bytes, ['shot.json' => (string) json_encode($wrong)]))->assertStatus(422)->assertJsonPath('errors.0.pointer', '/frames');
        $this->open(self::changed($bytes, ['shot.json' => (string) json_encode($circle)]))->assertStatus(422)->assertJsonPath('title', 'The document is not valid');
        $this->open(self::changed($bytes, ['shot.json' => (string) json_encode($unusable), 'sign.svg' => 'no drawing']))->assertStatus(422)->assertJsonPath('title', 'The file cannot be read');
        $this->post('/api/packages', [], ['Accept' => 'application/json'])->assertStatus(422)->assertJsonPath('title', 'No file arrived');
        self::assertSame($before, $there());
        self::assertSame([], glob(sys_get_temp_dir() . '/yard-package-*/*'));
        $this->getJson("/api/shots/{$shot->id}/package")->assertStatus(409)->assertJsonPath('title', 'The package cannot be made');
    }

    /** With its bake it plays at once where it is opened; one that is damaged is refused, and one of other frames is left out. */
    #[Group('slow')]
    public function testItsBakeMayBeWithIt(): void
    {
        $shot = $this->shot($sha = $this->upload('sign.svg', self::SIGN, 'art'));
        $this->getJson("/api/shots/{$shot->id}/package?bake=1")->assertStatus(409)->assertJsonPath('title', 'There is no bake to pack');
        $bake = Bake::findOrFail((string) $this->postJson("/api/shots/{$shot->id}/bakes")->assertCreated()->json('id'));
        app()->call([new RunBake($bake->id), 'handle']);
        self::assertSame('done', $bake->refresh()->status);
        $frames = (string) file_get_contents($bake->framesPath());
        $bytes = $this->package($shot, '?bake=1');
        $there = static fn (): string => json_encode([Shot::count(), Bake::count(), glob(config()->string('yard.store') . '/{assets,bakes}/*', GLOB_BRACE)], JSON_THROW_ON_ERROR);
        $before = $there();
        foreach ([substr($frames, 0, -5), substr_replace($frames, "\0\0\0", -40, 3), 'no frames', ''] as $wrong) {
            self::assertStringContainsString('The bake in the package is damaged', (string) $this->open(self::changed($bytes, ['bake.frames' => $wrong === '' ? ' ' : $wrong]))->assertStatus(422)->json('detail'));
        }
        self::assertSame($before, $there());

        $this->forget($sha);
        $opened = $this->open($bytes)->assertCreated()->assertJsonPath('bake.status', 'done')->assertJsonPath('bake.stale', false)->assertJsonPath('bake.kept', $bake->frames)->assertJsonPath('bake.pieces', $bake->pieces);
        $copy = Bake::findOrFail((string) $opened->json('bake.id'));
        self::assertNotSame($bake->id, $copy->id);
        self::assertSame($frames, (string) file_get_contents($copy->framesPath()));
        self::assertFileEquals(BakeReader::indexOf($bake->framesPath()), BakeReader::indexOf($copy->framesPath()));
        $this->postJson("/api/shots/{$opened->json('id')}/bakes")->assertCreated()->assertJsonPath('id', $copy->id);

        // Baked before something was changed: what was packed is not what this shot does.
        $document = $shot->head->document ?? [];
        $document['frames'] = 25;
        $this->open(self::changed($bytes, ['shot.json' => (string) json_encode($document)]))->assertCreated()->assertJsonPath('bake', null);

        $large = fopen($bake->framesPath(), 'r+b') ?: self::fail('its frames are there');
        ftruncate($large, (1 << 28) + 1);
        fclose($large);
        $this->getJson("/api/shots/{$shot->id}/package?bake=1")->assertStatus(409)->assertJsonPath('title', 'The package would be too large');
        self::assertSame([], glob(config()->string('yard.store') . '/exports/*.part'));
    }

    public function testOneOfAnotherVersionIsUpgraded(): void
    {
        $zip = self::changed($this->package($this->shot($this->upload('sign.svg', self::SIGN, 'art'))), ['sign.svg' => '', 'shot.json' => (string) json_encode(['version' => 1, 'frames' => 12, 'props' => [['id' => 'b', 'name' => 'B', 'source' => ['kind' => 'box', 'width' => 0.5]]]])]);
        $opened = $this->open($zip)->assertCreated();
        self::assertEquals(Schema::load()->complete($opened->json('document')), $opened->json('document'));
        self::assertSame(0.5, (float) $opened->json('document.props.0.source.box.width'));
    }
}
