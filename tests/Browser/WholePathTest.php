<?php

declare(strict_types=1);

namespace Tests\Browser;

use Closure;
use Facebook\WebDriver\WebDriverBy;
use Facebook\WebDriver\WebDriverKeys;
use GdImage;
use YardBreak\Core\Bake\BakeReader;
use YardBreak\Core\Format\ObjWriter;
use YardBreak\Core\Mesh\Primitive\Solids;
use ZipArchive;

/** A person's path through the work, ending with what was computed, not only with what is shown. */
final class WholePathTest extends BrowserTestCase
{
    public function testTheDemoIsBrokenAnewBakedAndHandedOff(): void
    {
        $this->driver->get(self::$url);
        $this->click('li a');
        $this->until(fn (): bool => $this->probe('pieces("jar")') === 1, 'the whole jar');
        $this->untilDrawn('it');
        $id = $this->api('shots')['shots'][0]['id'];

        $this->stage('break');
        $this->set('break/cellular/pieces', '14');
        $this->until(fn (): bool => (int) $this->find('[data-testid=piece-count]')->getText() >= 14 && (int) $this->find('[data-testid=piece-count]')->getText() < 20, 'the new count');
        $count = (int) $this->find('[data-testid=piece-count]')->getText();
        $this->until(fn (): bool => $this->probe('pieces("jar")') === $count, 'the pieces in the picture');
        $this->untilDrawn('they');
        // One of them is clicked in the picture.
        $this->until(function (): bool {
            $spot = $this->probe('screen("jar", 5)');
            $this->driver->action()->moveToElement($this->find('[data-testid=viewport] canvas[data-engine]'), (int) ($spot[0] ?? 0), (int) ($spot[1] ?? 0))->click()->perform();
            usleep(600_000);

            return $this->driver->findElements(WebDriverBy::cssSelector('[data-testid=piece-actions]')) !== [];
        }, 'what can be done with the piece that was clicked');

        // The jar stands 0.9 m above what it falls on: that is in view once it is about letting go.
        $metresAPixel = fn (): float => (float) $this->driver->executeScript('return window.__yardScale()');
        $close = $metresAPixel();
        $this->stage('timing');
        $this->until(fn (): bool => $metresAPixel() > 1.3 * $close, 'the view that holds the floor too');
        $this->choose('release/trigger', 'frame');
        $this->set('release/frame/frame', '2');
        $this->stage('bake');
        $this->set('frames', '8');
        $this->find('body')->sendKeys('b');
        $this->until(fn (): bool => $this->probe('have') === 8, 'all frames');
        $bake = $this->api("shots/{$id}")['bake'];
        self::assertSame('done', $bake['status']);
        self::assertFalse($bake['stale']);

        // What the picture shows is what the frames file says.
        $path = self::$folder . "/store/bakes/{$bake['id']}.frames";
        foreach ([1, 8] as $frame) {
            $this->find('body')->sendKeys($frame === 1 ? WebDriverKeys::HOME : WebDriverKeys::END);
            $this->until(fn (): bool => $this->probe('frame') === $frame, "frame {$frame}");
            $stored = BakeReader::open($path)->frame($frame);
            self::assertNotNull($stored);
            $expected = array_slice($stored->poses(), 7 * 5, 3);
            $this->until(function () use ($expected): bool {
                $shown = $this->probe('position("jar", 5)');

                return is_array($shown) && max(array_map(static fn ($a, $b): float => abs($a - $b), $shown, $expected)) < 1e-6;
            }, "piece 6 where frame {$frame} says");
            $this->untilDrawn("frame {$frame}");
        }
        $first = BakeReader::open($path)->frame(1);
        $last = BakeReader::open($path)->frame(8);
        self::assertGreaterThan(0.15, ($first->poses()[36] ?? 0) - ($last->poses()[36] ?? 0), 'piece 6 has fallen');

        $this->stage('handoff');
        $this->click('[data-testid=export-glb] button');
        $this->until(fn (): bool => $this->find('[data-testid=export-glb]')->getAttribute('data-status') === 'done', 'the file');
        $glb = self::$folder . '/out.glb';
        file_put_contents($glb, (string) file_get_contents(self::$url . '/api/bakes/' . basename($path, '.frames') . '/pieces.glb'));
        exec('node ' . escapeshellarg(__DIR__ . '/check-glb.mjs') . ' ' . escapeshellarg($glb) . ' 24 1 5 8 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        $report = json_decode((string) end($lines), true);
        self::assertSame(0, $report['errors'], (string) json_encode($report['messages']));
        self::assertSame($count + 1, $report['nodes'], 'a node a piece, and the sill');
        self::assertContains('Clay jar fresh faces', $report['materials']);
        foreach ([1, 5, 8] as $frame) {
            $stored = BakeReader::open($path)->frame($frame);
            for ($k = 0; $k <= $count; $k++) {
                self::assertEqualsWithDelta(array_slice($stored?->poses() ?? [], 7 * $k, 3), $report['positions'][$frame][$k], 1e-6, "node {$k} at frame {$frame}");
            }
        }

        $this->assertItIsFilmed();

        // A later change makes the bake stale and says why; undo makes it good again.
        $this->stage('motion');
        $this->set('motion/rigid/friction', '0.9');
        $this->stage('bake');
        $this->until(fn (): bool => $this->find('[data-testid=bake-state]')->getAttribute('data-stale') === 'true', 'the stale mark');
        self::assertStringContainsString('Clay jar: friction 0.6 to 0.9', $this->find('[data-testid=stage-card]')->getText());
        $this->find('body')->sendKeys([WebDriverKeys::CONTROL, 'z']);
        $this->until(fn (): bool => $this->find('[data-testid=bake-state]')->getAttribute('data-stale') === 'false', 'the undone change');
    }

    /** As a film that Chromium plays, with all frames, and as see-through pictures; what one looked at is as it was. */
    private function assertItIsFilmed(): void
    {
        $frame = $this->probe('frame');
        $this->click('#film-height');
        $this->click('[role=option][data-value="360"]');
        file_put_contents(self::$folder . '/film.zip', $this->filmed('passes'));
        $zip = new ZipArchive();
        self::assertTrue($zip->open(self::$folder . '/film.zip'));
        self::assertSame(7 * 8, $zip->count());
        $shot = preg_replace('#^picture/(.*)\.0001\.png$#', '$1', (string) $zip->getNameIndex(0));
        $at = static fn (string $pass, int $frame): string => (string) $zip->getFromName(sprintf('%s/%s.%04d.png', $pass, $shot, $frame));
        [$first, $last] = [$at('picture', 1), $at('picture', 8)];
        self::assertNotSame($first, $last);
        foreach ([$first, $last] as $png) {
            $picture = imagecreatefromstring($png);
            self::assertNotFalse($picture);
            self::assertSame(360, imagesy($picture));
            $clear = $covered = 0;
            for ($k = 0, $all = imagesx($picture) * 360; $k < $all; $k += 7) {
                // 127: nothing is there.
                $alpha = imagecolorat($picture, $k % imagesx($picture), intdiv($k, imagesx($picture))) >> 24 & 127;
                $clear += $alpha === 127 ? 1 : 0;
                $covered += $alpha === 0 ? 1 : 0;
            }
            self::assertGreaterThan(0.3 * $all / 7, $clear);
            self::assertGreaterThan(0.003 * $all / 7, $covered);
        }
        $colours = static function (string $png): array {
            $picture = imagecreatefromstring($png) ?: self::fail('no picture');
            $seen = [];
            for ($k = 0, $all = imagesx($picture) * 360; $k < $all; $k++) {
                $colour = imagecolorat($picture, $k % imagesx($picture), intdiv($k, imagesx($picture)));
                $seen[$colour] = ($seen[$colour] ?? 0) + (($colour >> 24 & 127) === 0 ? 1 : 0);
            }

            // Along edges colours are mixed.
            return array_keys(array_filter($seen, static fn (int $times): bool => $times > 0.02 * max($seen)));
        };
        // The jar, whole at first and then in pieces, and the sill.
        self::assertCount(2, $colours($at('props', 8)));
        self::assertGreaterThan(6, count($colours($at('pieces', 8))));
        self::assertNotSame($at('normals', 1), $at('normals', 8));
        foreach ($colours($at('weight', 8)) as $colour) {
            self::assertSame($colour & 255, $colour >> 16 & 255, 'the weight is grey');
        }
        $this->assertItIsMeasured($zip, (string) $shot, $at);
        $this->assertLayersAddUp($last);
        if (getenv('YARD_BREAK_LONG')) {
            $this->assertAllIsInOneExr();
            $this->assertItIsBlurred($at);
        }
        file_put_contents(self::$folder . '/film.webm', $this->filmed('webm'));
        self::assertSame($frame, $this->probe('frame'));
        $here = $this->driver->getCurrentURL();
        file_put_contents(self::$folder . '/film.html', '<video muted src=film.webm></video>');
        $this->driver->get('file://' . self::$folder . '/film.html');
        $this->until(fn (): bool => $this->driver->executeScript('return document.querySelector("video").readyState > 1 || document.querySelector("video").error !== null') === true, 'the film');
        self::assertEqualsWithDelta([8 / 24, 360], $this->driver->executeScript('const film = document.querySelector("video"); return [film.duration, film.videoHeight]'), 1e-3);
        $this->driver->get($here);
        $this->find('[data-testid=film]');
    }

    /**
     * Depth is told wherever something is; and what goes somewhere is there in the next frame, by the colour of its piece.
     *
     * @param Closure(string, int): string $at
     */
    private function assertItIsMeasured(ZipArchive $zip, string $shot, Closure $at): void
    {
        $floats = static function (string $pass, int $frame) use ($zip, $shot): array {
            $file = self::$folder . "/{$pass}-{$frame}.exr";
            file_put_contents($file, (string) $zip->getFromName(sprintf('%s/%s.%04d.exr', $pass, $shot, $frame)));
            exec('node ' . escapeshellarg(__DIR__ . '/read-exr.mjs') . ' ' . escapeshellarg($file) . ' 2>&1', $lines, $status);
            self::assertSame(0, $status, implode("\n", $lines));
            $bytes = (string) file_get_contents("{$file}.floats");
            [$width, $height] = array_values(unpack('V2', $bytes) ?: []);

            return [$width, $height, array_values(unpack('g*', substr($bytes, 8)) ?: [])];
        };
        $matte = static fn (string $pass, int $frame) => imagecreatefromstring($at($pass, $frame)) ?: self::fail('no picture');
        [$width, $height, $depth] = $floats('depth', 8);
        $props = $matte('props', 8);
        self::assertSame([imagesx($props), 360], [$width, $height]);
        $both = $one = $wrong = 0;
        for ($k = 0; $k < $width * $height; $k++) {
            $there = (imagecolorat($props, $k % $width, intdiv($k, $width)) >> 24 & 127) < 64;
            $told = $depth[4 * $k + 3] > 0.5;
            $both += $there && $told ? 1 : 0;
            $one += $there !== $told ? 1 : 0;
            $wrong += $told !== ($depth[4 * $k] > 0.1 && $depth[4 * $k] < 100.0) ? 1 : 0;
        }
        self::assertSame(0, $wrong);
        // Along edges a picture is mixed.
        self::assertLessThan(0.03 * $both, $one);
        [, , $motion] = $floats('motion', 7);
        [$now, $next] = [$matte('pieces', 7), $matte('pieces', 8)];
        $met = $stood = $all = 0;
        for ($k = 0; $k < $width * $height; $k++) {
            [$x, $y, $across, $up] = [$k % $width, intdiv($k, $width), $motion[4 * $k], $motion[4 * $k + 1]];
            $colour = imagecolorat($now, $x, $y);
            [$p, $q] = [(int) round($x + $across), (int) round($y - $up)];
            if (hypot($across, $up) > 3.0 && $colour >> 24 === 0 && $p >= 0 && $p < $width && $q >= 0 && $q < $height) {
                $all++;
                $met += imagecolorat($next, $p, $q) === $colour ? 1 : 0;
                $stood += imagecolorat($next, $x, $y) === $colour ? 1 : 0;
            }
        }
        self::assertGreaterThan(200, $all);
        self::assertGreaterThan(0.75 * $all, $met);
        self::assertLessThan(0.8 * $met, $stood);
    }

    /** Layers have all that the picture has, each pixel of it once, edges too. */
    private function assertLayersAddUp(string $whole): void
    {
        file_put_contents(self::$folder . '/layers.zip', $this->filmed('layers'));
        $zip = new ZipArchive();
        self::assertTrue($zip->open(self::$folder . '/layers.zip'));
        $layers = [];
        for ($k = 0; $k < $zip->count(); $k++) {
            $name = (string) $zip->getNameIndex($k);
            if (str_ends_with($name, '.0008.png')) {
                $layers[dirname($name)] = imagecreatefromstring((string) $zip->getFromIndex($k)) ?: self::fail('no picture');
            }
        }
        self::assertSame(['ground', 'Clay-jar', 'Oak-sill'], array_keys($layers));
        $picture = imagecreatefromstring($whole) ?: self::fail('no picture');
        $width = imagesx($picture);
        // Of 255: red, green, blue and alpha, colours multiplied by it.
        $light = static function (GdImage $image, int $k) use ($width): array {
            $colour = imagecolorat($image, $k % $width, intdiv($k, $width));
            $alpha = 1.0 - ($colour >> 24 & 127) / 127.0;

            return [$alpha * ($colour >> 16 & 255), $alpha * ($colour >> 8 & 255), $alpha * ($colour & 255), 255.0 * $alpha];
        };
        $worst = 0.0;
        $seen = array_fill_keys(array_keys($layers), 0);
        for ($k = 0; $k < $width * 360; $k += 3) {
            $sum = [0.0, 0.0, 0.0, 0.0];
            foreach ($layers as $name => $layer) {
                $here = $light($layer, $k);
                $sum = array_map(static fn (float $a, float $b): float => $a + $b, $sum, $here);
                $seen[$name] += $here[3] > 0.0 ? 1 : 0;
            }
            $worst = max($worst, ...array_map(static fn (float $a, float $b): float => abs($a - $b), $sum, $light($picture, $k)));
        }
        // Each layer is rounded by itself: to 2 of 255 in alpha, as it is read here.
        self::assertLessThan(2.1 * count($layers), $worst);
        self::assertGreaterThan(100, min($seen), 'none is empty');
    }

    /**
     * What falls is seen where it was about the frame: more of the picture is covered, and little of it wholly. All else is told sharp.
     *
     * @param Closure(string, int): string $sharp pictures of a pass and a frame
     */
    private function assertItIsBlurred(Closure $sharp): void
    {
        $this->click('#film-blur');
        $this->click('[role=option][data-value="1"]');
        file_put_contents(self::$folder . '/blurred.zip', $this->filmed('passes'));
        $this->click('#film-blur');
        $this->click('[role=option][data-value="0"]');
        $zip = new ZipArchive();
        self::assertTrue($zip->open(self::$folder . '/blurred.zip'));
        $blurred = [];
        for ($k = 0; $k < $zip->count(); $k++) {
            [$pass, $number] = [dirname((string) $zip->getNameIndex($k)), (int) substr((string) $zip->getNameIndex($k), -8, 4)];
            $blurred[$pass][$number] = (string) $zip->getFromIndex($k);
        }
        foreach (['pieces', 'props', 'normals', 'weight'] as $pass) {
            self::assertSame($sharp($pass, 8), $blurred[$pass][8], "{$pass} is sharp");
        }
        $seen = static function (string $png): array {
            $picture = imagecreatefromstring($png) ?: self::fail('no picture');
            $any = $whole = 0;
            for ($k = 0, $all = imagesx($picture) * imagesy($picture); $k < $all; $k++) {
                $alpha = imagecolorat($picture, $k % imagesx($picture), intdiv($k, imagesx($picture))) >> 24 & 127;
                // What is half seen only, and no shadow, which is seen less.
                $any += $alpha < 80 ? 1 : 0;
                $whole += $alpha === 0 ? 1 : 0;
            }

            return [$any, $whole];
        };
        [$any, $whole] = $seen($blurred['picture'][8]);
        [$anySharp, $wholeSharp] = $seen($sharp('picture', 8));
        self::assertLessThan(0.98 * $wholeSharp, $whole);
        self::assertGreaterThan($whole + ($anySharp - $wholeSharp), $any);
    }

    /** The picture, all that is told and all layers as parts of one EXR a frame. */
    private function assertAllIsInOneExr(): void
    {
        file_put_contents(self::$folder . '/exr.zip', $this->filmed('exr'));
        $zip = new ZipArchive();
        self::assertTrue($zip->open(self::$folder . '/exr.zip'));
        self::assertSame(8, $zip->count());
        $file = self::$folder . '/parts.exr';
        file_put_contents($file, (string) $zip->getFromIndex(7));
        exec('node ' . escapeshellarg(__DIR__ . '/read-parts.mjs') . ' ' . escapeshellarg($file) . ' 2>&1', $lines, $status);
        self::assertSame(0, $status, implode("\n", $lines));
        /** @var array{height: int, parts: array<string, string>, apart: float, unit: float, seen: int, lost: int, motion: float} $read */
        $read = json_decode($lines[0], true, flags: JSON_THROW_ON_ERROR);
        self::assertSame(360, $read['height']);
        self::assertSame(['picture' => 'ABGR', 'pieces' => 'ABGR', 'props' => 'ABGR', 'normals' => 'XYZ', 'weight' => 'Y', 'depth' => 'Z', 'motion' => 'XY', 'layer.ground' => 'ABGR', 'layer.Clay-jar' => 'ABGR', 'layer.Oak-sill' => 'ABGR'], $read['parts']);
        // A shadow lies over what is in the floor by a hair.
        self::assertLessThan(0.3, $read['apart']);
        self::assertLessThan(1e-3, $read['unit']);
        self::assertGreaterThan(300, $read['seen']);
        self::assertSame(0, $read['lost']);
        self::assertGreaterThan(1.0, $read['motion']);
    }

    public function testAMeshIsBroughtInBrokenAndBakedAndBadFilesChangeNothing(): void
    {
        $this->driver->get(self::$url);
        $this->find('main');
        $this->driver->executeScript("return [...document.querySelectorAll('button')].find(b => b.textContent.includes('New shot')).click()");
        $this->find('input[name=name]')->sendKeys(['Bell test', WebDriverKeys::ENTER]);
        $this->choose('source/kind', 'file');
        $id = (string) preg_replace('#.*/shots/([0-9a-z]+).*#', '$1', $this->driver->getCurrentURL());
        foreach ([
            ['page.obj', '<!DOCTYPE html><p>hello', 'web page'],
            ['cut.stl', str_pad('x', 80) . pack('V', 500) . 'short', 'cut off'],
            ['nan.obj', "v 0 0 0\nv 1 nan 0\nv 0 1 0\nf 1 2 3\n", 'Line 2'],
            ['huge.ply', "ply\nformat ascii 1.0\nelement vertex 4000000000\nproperty float x\nend_header\n", 'at most'],
        ] as [$name, $bytes, $reason]) {
            $before = $this->api("shots/{$id}")['head']['id'];
            $path = self::$folder . "/{$name}";
            file_put_contents($path, $bytes);
            $this->find('[data-testid=mesh-file]')->sendKeys($path);
            $this->until(fn (): bool => str_contains($this->find('[data-testid=upload-problem]')->getText(), $reason), "“{$reason}” for {$name}");
            self::assertSame($before, $this->api("shots/{$id}")['head']['id']);
        }
        $path = self::$folder . '/ring.obj';
        file_put_contents($path, ObjWriter::write([['ring', Solids::torus(0.3, 0.1, 24, 12)]]));
        $this->find('[data-testid=mesh-file]')->sendKeys($path);
        $this->until(fn (): bool => ($this->api("shots/{$id}")['document']['props'][0]['source']['file']['fileName'] ?? '') === 'ring.obj', 'the upload');
        $this->until(fn (): bool => str_contains($this->find('[data-testid=health]')->getText(), '576'), 'its 576 triangles');
        $this->stage('break');
        $this->set('break/cellular/pieces', '8');
        $this->stage('bake');
        $this->set('frames', '20');
        $this->click('[data-testid=bake]');
        $this->until(fn (): bool => $this->probe('have') === 20, 'all frames');
        $bake = $this->api("bakes/{$this->api("shots/{$id}")['bake']['id']}");
        self::assertSame('done', $bake['status']);
        self::assertSame($bake['pieces'], $bake['readout'][19][1], 'the ring has hit the floor and let go');
    }
}
