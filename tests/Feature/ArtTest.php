<?php

declare(strict_types=1);

namespace Tests\Feature;

use App\Models\Shot;
use App\Support\BreakWatch;
use App\Support\ShotBook;
use Illuminate\Http\UploadedFile;
use Illuminate\Support\Facades\DB;
use PHPUnit\Framework\Attributes\Group;
use Tests\TestCase;

final class ArtTest extends TestCase
{
    private const SIGN = '<svg xmlns="http://www.w3.org/2000/svg"><path fill="#204060" d="M0 0H200V100H0Z"/></svg>';

    private function upload(string $name, string $bytes, string $as): string
    {
        return (string) $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $bytes), 'as' => $as])->assertCreated()->json('asset');
    }

    /**
     * @param array<mixed> $source
     * @param array<mixed> $break
     */
    private static function shot(array $source, array $break): Shot
    {
        $document = self::smallDocument();
        $kind = is_string($source['kind']) ? $source['kind'] : '';
        $document['props'][0]['source'] = ['kind' => $kind, $kind => array_diff_key($source, ['kind' => 0])];
        $pattern = is_string($break['pattern'] ?? null) ? $break['pattern'] : 'cellular';
        $document['props'][0]['break'] = ['pattern' => $pattern, $pattern => array_diff_key($break, ['pattern' => 0])];

        return app(ShotBook::class)->create('Art', $document, 'start');
    }

    #[Group('slow')]
    public function testAFontIsBroughtInAndABadOneChangesNothing(): void
    {
        $font = (string) file_get_contents(base_path('core/fonts/serif.woff'));
        $source = ['kind' => 'lettering', 'text' => 'Mill', 'font' => 'own', 'asset' => $this->upload('mill.woff', $font, 'font'), 'fileName' => 'mill.woff'];
        $own = self::shot($source, ['pattern' => 'whole']);
        $shipped = self::shot(['font' => 'serif', 'text' => 'Mill', 'kind' => 'lettering'], ['pattern' => 'whole']);
        $volume = fn (Shot $shot): float => (float) $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk()->json('health.volume');
        self::assertSame($volume($shipped), $volume($own));
        $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent('bad.ttf', substr($font, 0, 3000)), 'as' => 'font'])->assertStatus(422)->assertJsonPath('title', 'The file cannot be read');
        $this->post('/api/assets', ['as' => 'font'])->assertStatus(422)->assertJsonPath('detail', 'Choose a TTF, OTF or WOFF of at most 8 MB and try again.');
    }

    #[Group('slow')]
    public function testArtBecomesASlabThatKeepsItsLinesWhenReplaced(): void
    {
        $break = ['pattern' => 'drawn', 'lines' => [['points' => [[-2, 0], [2, 0]]], ['points' => [[0, 0], [0, 2]]]]];
        $source = ['kind' => 'art', 'asset' => $this->upload('sign.svg', self::SIGN, 'art'), 'fileName' => 'sign.svg', 'height' => 1, 'slab' => 0.1, 'bevel' => 0];
        $shot = self::shot($source, $break);
        $readout = $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk()->assertJsonPath('health.watertight', true);
        self::assertEqualsWithDelta(0.2, (float) $readout->json('health.volume'), 1e-9);
        self::assertSame(3, $readout->json('pieces.count'));
        $face = $this->get("/api/shots/{$shot->id}/props/block/face")->assertOk();
        self::assertSame('image/png', $face->headers->get('Content-Type'));
        $picture = imagecreatefromstring((string) $face->getContent());
        self::assertNotFalse($picture);
        self::assertSame(0x204060, imagecolorat($picture, 300, 100) & 0xFFFFFF);
        // The mesh carries texture coordinates behind everything else.
        $mesh = (string) $this->get("/api/shots/{$shot->id}/props/block/mesh")->getContent();
        [1 => $pieces, 2 => $corners] = unpack('V2', $mesh, 8) ?: [];
        self::assertSame(16 + 24 * $pieces + (12 + 4 + 8 + 4) * $corners, strlen($mesh));

        $document = $shot->head->document ?? [];
        $document['props'][0]['source']['art']['asset'] = $this->upload('round.svg', '<svg xmlns="http://www.w3.org/2000/svg"><circle r="9"/></svg>', 'art');
        $answer = $this->putJson("/api/shots/{$shot->id}/document", ['document' => $document], ['If-Match' => (string) $shot->head_id])->assertOk();
        self::assertCount(2, (array) $answer->json('document.props.0.break.drawn.lines'));
        self::assertSame(3, $this->getJson("/api/shots/{$shot->id}/props/block/readout")->json('pieces.count'));
    }

    #[Group('slow')]
    public function testUnusableArtIsRefusedAndNothingIsKept(): void
    {
        foreach ([
            ['sign.svg', '<!DOCTYPE svg [<!ENTITY x SYSTEM "file:///etc/passwd">]><svg xmlns="http://www.w3.org/2000/svg"/>', 'entities'],
            ['sign.svg', '<svg xmlns="http://www.w3.org/2000/svg"><text>A</text></svg>', 'paths'],
            ['sign.png', 'not a picture', 'SVG'],
        ] as [$name, $bytes, $reason]) {
            $answer = $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent($name, $bytes), 'as' => 'art'], ['Accept' => 'application/json'])->assertStatus(422);
            self::assertStringContainsString($reason, (string) $answer->json('detail'));
        }
        self::assertSame(0, DB::table('assets')->count());
        $shot = self::shot(['kind' => 'art'], []);
        self::assertStringContainsString('No art has been brought in yet', (string) $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertStatus(422)->json('detail'));
    }

    /** A drawing that is served could run what it holds: only pictures are. */
    public function testOnlyPicturesAreServed(): void
    {
        $svg = $this->upload('sign.svg', self::SIGN, 'art');
        $this->get("/api/assets/{$svg}")->assertNotFound();
        $png = $this->upload('grey.png', self::png(), 'picture');
        $answer = $this->get("/api/assets/{$png}")->assertOk();
        self::assertSame(['image/png', 'nosniff'], [$answer->headers->get('Content-Type'), $answer->headers->get('X-Content-Type-Options')]);
        $this->get('/api/assets/' . str_repeat('0', 64))->assertNotFound();
        $this->post('/api/assets', ['file' => UploadedFile::fake()->createWithContent('a.png', self::SIGN), 'as' => 'picture'], ['Accept' => 'application/json'])->assertStatus(422);
    }

    #[Group('slow')]
    public function testPicturePatternsFlakesAndFacesAreMeasured(): void
    {
        $png = $this->upload('grey.png', self::png(), 'picture');
        foreach ([
            'picture' => ['picture' => ['asset' => $png], 'tones' => 2],
            'cellular' => ['density' => 'dark', 'picture' => ['asset' => $png], 'pieces' => 20],
            'flakes' => ['count' => 60, 'thickness' => 0.002],
            'faces' => ['cuts' => 2, 'thickness' => 0],
            'drawn' => ['lines' => [['points' => [[-1, 0], [1, 0.01]]]]],
        ] as $pattern => $settings) {
            $shot = self::shot(['kind' => 'box', 'width' => 0.3, 'height' => 0.3, 'depth' => 0.3, 'divisions' => 2], ['pattern' => $pattern] + $settings);
            $pieces = $this->getJson("/api/shots/{$shot->id}/props/block/readout")->assertOk()->json('pieces');
            self::assertIsArray($pieces);
            self::assertGreaterThan(1, $pieces['count'], $pattern);
            self::assertSame(in_array($pattern, ['flakes', 'faces'], true), $pieces['core'], $pattern);
        }
        $missing = self::shot(['kind' => 'box'], ['pattern' => 'picture']);
        self::assertStringContainsString('No picture has been brought in yet', (string) $this->getJson("/api/shots/{$missing->id}/props/block/readout")->assertStatus(422)->json('detail'));
    }

    public function testALongBreakTellsHowFarItIsAndCanBeStopped(): void
    {
        $shot = self::shot(['kind' => 'box'], ['pattern' => 'halving', 'rounds' => 3]);
        $this->getJson("/api/shots/{$shot->id}/progress")->assertOk()->assertJsonPath('break', null);
        $watch = BreakWatch::of($shot);
        usleep(200_000);
        $watch->at('pieces', 20, 80);
        $state = $this->getJson("/api/shots/{$shot->id}/progress")->assertOk()->json('break');
        self::assertIsArray($state);
        self::assertSame(['pieces', 20, 80], [$state['what'], $state['done'], $state['of']]);
        self::assertGreaterThan(0.0, $state['remaining']);
        $this->post("/api/shots/{$shot->id}/progress/stop")->assertNoContent();
        usleep(200_000);
        $this->expectExceptionMessage('The preview was stopped');
        $watch->at('pieces', 30, 80);
    }

    public function testAStarterWebFitsTheProp(): void
    {
        $shot = self::shot(['kind' => 'box', 'width' => 2, 'height' => 1, 'depth' => 0.1], ['pattern' => 'drawn']);
        $lines = (array) $this->getJson("/api/shots/{$shot->id}/props/block/starter?rays=7&rings=2")->assertOk()->json('lines');
        self::assertCount(9, $lines);
        self::assertCount(2, array_filter($lines, static fn (mixed $line): bool => is_array($line) && $line['closed'] === true));
    }

    /** Shots stored before pieces carried a pattern of their own open as they were. */
    public function testOldEditsAreBroughtUpToDate(): void
    {
        $shot = self::shot(['kind' => 'box'], ['pattern' => 'cellular']);
        $document = ['version' => 1, 'props' => [['id' => 'block', 'name' => 'Block']]];
        $document['props'][0]['break']['edits'] = [['kind' => 'again', 'at' => [0, 0, 0], 'to' => [0, 0, 0], 'pieces' => 4, 'seed' => 9]];
        DB::table('revisions')->where('id', $shot->head_id)->update(['document' => json_encode($document)]);
        (require database_path('migrations/2026_11_25_000000_edits_carry_their_pattern.php'))->up();
        $edit = (array) $this->getJson("/api/shots/{$shot->id}")->assertOk()->json('document.props.0.break.edits.0');
        self::assertArrayNotHasKey('pieces', $edit);
        self::assertSame(['cellular', 4, 9], [$edit['with']['pattern'], $edit['with']['cellular']['pieces'], $edit['with']['cellular']['seed']]);
    }

    private static function png(): string
    {
        $image = imagecreatetruecolor(40, 40);
        self::assertNotFalse($image);
        imagefill($image, 0, 0, (int) imagecolorallocate($image, 240, 240, 240));
        imagefilledrectangle($image, 0, 0, 19, 39, (int) imagecolorallocate($image, 20, 20, 20));
        ob_start();
        imagepng($image);

        return (string) ob_get_clean();
    }
}
