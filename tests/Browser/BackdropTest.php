<?php

declare(strict_types=1);

namespace Tests\Browser;

use PHPUnit\Framework\Attributes\Group;
use ZipArchive;

/** A picture is brought in behind a shot, seen through its camera and in the film; what stands for a thing in it hides what is behind. */
final class BackdropTest extends BrowserTestCase
{
    #[Group('long')]
    public function testAPictureIsBehindTheShotAndAStandInHidesWhatItStandsBefore(): void
    {
        $box = static fn (string $id, float $x, float $z, float $width, array $more = []): array => [
            'id' => $id, 'name' => $id, 'source' => ['box' => ['width' => $width, 'height' => 1, 'depth' => 0.2, 'divisions' => 1]], 'position' => ['x' => $x, 'y' => 0.5, 'z' => $z],
            'break' => ['pattern' => 'whole'], 'release' => ['trigger' => 'never'], ...$more,
        ];
        $id = $this->send('POST', 'shots', ['name' => 'Before a picture'])['id'];
        $this->send('PUT', "shots/{$id}/document", ['document' => ['version' => 2, 'frames' => 3, 'planes' => [],
            // The left half of the wall is behind what stands for a thing of the picture.
            'props' => [$box('wall', 0, 0, 2, ['look' => ['relief' => 0.01, 'reliefSize' => 0.1]]), $box('crate', -0.6, 1, 1.2, ['look' => ['standIn' => true]])],
            'camera' => ['on' => true, 'position' => ['x' => 0, 'y' => 0.5, 'z' => 6], 'target' => ['x' => 0, 'y' => 0.5, 'z' => 0]],
        ]], $this->api("shots/{$id}")['head']['id']);
        $blue = self::$folder . '/blue.png';
        $picture = imagecreatetruecolor(160, 90);
        imagefill($picture, 0, 0, 0x2040C0);
        imagepng($picture, $blue);

        $this->driver->get(self::$url . "/shots/{$id}?stage=bake");
        $this->choose('backdrop/shows', 'picture');
        $this->find("[data-field='backdrop/picture'] input[type=file]")->sendKeys($blue);
        $this->until(fn (): bool => strlen((string) $this->api("shots/{$id}")['document']['backdrop']['picture']['asset']) === 64, 'the picture');
        $this->bake(3);
        $this->driver->get(self::$url . "/shots/{$id}?stage=bake&frame=2");
        self::assertSame([], $this->behind(), 'it belongs to the camera');
        // Seen from the front both halves of the wall are there before one judges it.
        $this->button('[aria-label=Look] button', 'Camera');
        $this->until(fn (): bool => $this->behind() === [0x20, 0x40, 0xC0], 'the picture behind the shot');
        $this->until(fn (): bool => $this->drawn(0.55, 0.68) > 0.1 && $this->drawn(0.32, 0.45) === 0.0, 'the wall where nothing stands before it');
        $this->button('[data-testid=stage-card] button', 'Ground squares of 1 m');
        $this->stage('prop');
        $this->until(fn (): bool => $this->drawn(0.32, 0.45) > 0.05, 'both while they are set up');

        $this->stage('handoff');
        $this->click('#film-height');
        $this->click('[role=option][data-value="360"]');
        file_put_contents(self::$folder . '/pictures.zip', $this->filmed('passes'));
        $zip = new ZipArchive();
        self::assertTrue($zip->open(self::$folder . '/pictures.zip'));
        foreach (['props', 'picture', 'normals'] as $pass) {
            $taken = imagecreatefromstring((string) $zip->getFromName("{$pass}/Before-a-picture.0002.png")) ?: self::fail("no {$pass}");
            $clear = static fn (int $x): bool => (imagecolorat($taken, $x, 180) >> 24 & 127) === 127;
            self::assertTrue($clear(250), "{$pass}: a hole, and nothing of the backdrop");
            self::assertFalse($clear(390), "{$pass}: the wall");
        }
        $squares = array_filter(range(0, 639), static fn (int $x): bool => (imagecolorat($taken, $x, 340) >> 24 & 127) < 127);
        self::assertSame([], $squares, 'what helps to work is in no picture');
        // It looks at the camera, and is uneven: its normals lean this way and that.
        $lean = static fn (int $x, int $y): int => (imagecolorat($taken, $x, $y) >> 16 & 255) - 128;
        $leans = array_map(static fn (int $k): int => $lean(340 + $k % 50, 160 + intdiv($k, 50)), range(0, 1999));
        self::assertEqualsWithDelta(0.0, array_sum($leans) / count($leans), 3.0);
        self::assertGreaterThan(4, max($leans));
        self::assertLessThan(-4, min($leans));
        $film = base64_encode($this->filmed('webm'));
        file_put_contents(self::$folder . '/film.html', "<video muted src=data:video/webm;base64,{$film}></video>");
        $this->driver->get('file://' . self::$folder . '/film.html');
        $seen = [];
        $this->until(function () use (&$seen): bool {
            $seen = (array) $this->driver->executeScript(<<<'JS'
                const paper = Object.assign(document.createElement('canvas'), { width: 640, height: 360 }).getContext('2d');
                paper.drawImage(document.querySelector('video'), 0, 0);
                const [r, g, b, a] = paper.getImageData(250, 180, 1, 1).data;
                return a === 255 ? [r, g, b] : [];
                JS);

            return count($seen) === 3;
        }, 'the film');
        foreach ([0x20, 0x40, 0xC0] as $k => $colour) {
            self::assertEqualsWithDelta($colour, $seen[$k], 12, 'the film has the picture behind it');
        }
    }

    /** @return list<int> red, green and blue in the middle of what is behind the shot; none where nothing is */
    private function behind(): array
    {
        return (array) $this->driver->executeScript(<<<'JS'
            const canvas = document.querySelector('[data-testid=backdrop]');
            const [r, g, b, a] = canvas ? canvas.getContext('2d').getImageData(canvas.width / 2, canvas.height / 2, 1, 1).data : [0, 0, 0, 0];
            return a === 255 ? [r, g, b] : [];
            JS);
    }
}
