<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Art;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Art;
use YardBreak\Core\Art\Artwork;
use YardBreak\Core\Art\Picture;
use YardBreak\Core\Art\PngOutline;
use YardBreak\Core\Art\Simplify;
use YardBreak\Core\Art\Slab;
use YardBreak\Core\Art\SvgReader;
use YardBreak\Core\Document\DemoShot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Format\GlbReader;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;

final class ArtTest extends TestCase
{
    /** @return iterable<string, array{string, float}> what is drawn, and its area in square units by the formulas of geometry */
    public static function shapes(): iterable
    {
        yield 'a rectangle' => ['<rect x="10" y="20" width="30" height="40"/>', 1200.0];
        yield 'a rectangle with round corners' => ['<rect width="30" height="40" rx="5"/>', 1200.0 - (4.0 - M_PI) * 25.0];
        yield 'a circle' => ['<circle cx="50" cy="50" r="20"/>', M_PI * 400.0];
        yield 'an ellipse' => ['<ellipse cx="50" cy="50" rx="30" ry="10"/>', M_PI * 300.0];
        yield 'a polygon' => ['<polygon points="0,0 10,0 10,10"/>', 50.0];
        yield 'steps to and fro' => ['<path d="M0 0h10v10h-10z"/>', 100.0];
        yield 'absolute and relative, without spaces' => ['<path d="M10-5L20-5l0,10L10 5Z"/>', 100.0];
        // The area under one arch of y = x (1 - x): a quadratic curve from (0, 0) to (1, 0) with its handle at (0.5, 0.5).
        yield 'a quadratic curve' => ['<path d="M0 0Q30 30 60 0Z"/>', 60.0 * 60.0 / 6.0];
        // A cubic that is the same parabola.
        yield 'a cubic curve' => ['<path d="M0 0C20 20 40 20 60 0Z"/>', 600.0];
        yield 'smooth curves that go on' => ['<path d="M0 0Q15 15 30 0T60 0L60 -60L0 -60Z"/>', 3600.0];
        yield 'half a circle by an arc, its flags run together' => ['<path d="M0 0A10 10 0 0120 0Z"/>', 50.0 * M_PI];
        yield 'an arc whose radii are too small grows them' => ['<path d="M0 0A1 1 0 0 1 20 0Z"/>', 50.0 * M_PI];
        yield 'a hole by even and odd' => ['<path fill-rule="evenodd" d="M0 0H20V20H0ZM5 5H15V15H5Z"/>', 300.0];
        yield 'no hole where both go the same way round' => ['<path d="M0 0H20V20H0ZM5 5H15V15H5Z"/>', 400.0];
        yield 'a hole where they go opposite ways' => ['<path d="M0 0H20V20H0ZM5 5V15H15V5Z"/>', 300.0];
        yield 'two that overlap count once' => ['<rect width="20" height="20"/><rect x="10" width="20" height="20"/>', 600.0];
        yield 'scaled, turned and moved' => ['<g transform="translate(9 -3) rotate(33) scale(2 3)"><rect width="10" height="10"/></g>', 600.0];
        yield 'slanted by a matrix' => ['<rect transform="matrix(1 0 .5 1 0 0)" width="10" height="10"/>', 100.0];
        yield 'used twice' => ['<defs><rect id="a" width="10" height="10"/></defs><use href="#a"/><use href="#a" x="50"/>', 200.0];
        yield 'a symbol' => ['<symbol id="s"><rect width="10" height="10"/></symbol><use href="#s" y="5"/>', 100.0];
        yield 'what is not filled does not count' => ['<rect width="10" height="10"/><rect x="40" width="10" height="10" fill="none"/><rect x="80" width="9" height="9" style="display:none"/>', 100.0];
        yield 'styles by class' => ['<style>.gone{fill:none} rect{fill:red}</style><rect width="10" height="10"/><rect class="gone" x="40" width="10" height="10"/>', 100.0];
        yield 'a bow crosses itself' => ['<path fill-rule="evenodd" d="M0 0L20 20L20 0L0 20Z"/>', 200.0];
    }

    #[DataProvider('shapes')]
    public function testAreasAreThoseOfGeometry(string $body, float $area): void
    {
        $art = SvgReader::read("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 100 100'>{$body}</svg>");
        [, $y0, , $y1] = $art->bounds();
        $slab = Slab::of($art, $y1 - $y0, 2.0, 0.0);
        $topology = Topology::of($slab);
        self::assertTrue($topology->isWatertight(), "{$topology->openEdgeCount()} open, {$topology->crowdedEdgeCount()} crowded");
        // Curves stray by a 4,000th of the size.
        self::assertEqualsWithDelta($area, MassProperties::of($slab)->volume / 2.0, 0.004 * $area);
    }

    /** @return iterable<string, array{string, string}> */
    public static function refused(): iterable
    {
        $svg = static fn (string $body): string => "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'>{$body}</svg>";
        yield 'entities' => ["<!DOCTYPE svg [<!ENTITY a SYSTEM 'file:///etc/passwd'>]><svg xmlns='http://www.w3.org/2000/svg'><text>&a;</text></svg>", 'entities'];
        yield 'broken off' => ["<svg xmlns='http://www.w3.org/2000/svg'>\n<path d='M0 0", 'Line 2'];
        yield 'another kind of XML' => ['<html/>', 'no SVG'];
        yield 'nothing' => ['', 'no SVG'];
        yield 'text only' => [$svg('<text>Tidemill</text>'), 'paths'];
        yield 'strokes only' => [$svg('<path fill="none" stroke="red" d="M0 0L9 9"/>'), 'outlines'];
        yield 'a picture from elsewhere' => [$svg('<image href="http://example.org/a.png"/>'), 'no filled shape'];
        yield 'use of another file' => [$svg('<use href="other.svg#a"/>'), 'no filled shape'];
        yield 'a path in the middle of a curve' => [$svg('<path d="M0 0C1 1 2"/>'), 'middle of its command'];
        yield 'a path with words' => [$svg('<path d="M0 0 L nine"/>'), 'neither a command nor a number'];
        yield 'using itself' => [$svg('<g id="a"><use href="#a"/><rect width="1" height="1"/></g>'), 'itself'];
        yield 'beyond all bounds' => [$svg('<rect width="1e30" height="1"/>'), 'bounds'];
        yield 'an unknown transform' => [$svg('<rect transform="explode(3)" width="1" height="1"/>'), 'transform'];
    }

    #[DataProvider('refused')]
    public function testWhatCannotBeReadIsRefusedWithTheReason(string $svg, string $reason): void
    {
        $this->expectException(BadFile::class);
        $this->expectExceptionMessageMatches("/{$reason}/i");
        SvgReader::read($svg);
    }

    /** A script in a drawing is passed over: only what is filled is read. */
    /** An entity that unfolds to gigabytes must not hide in another encoding. */
    public function testEntitiesAreRefusedInEveryEncoding(): void
    {
        $bomb = '<?xml version="1.0" encoding="UTF-16"?><!DOCTYPE svg [<!ENTITY a "' . str_repeat('x', 1000) . '">]><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9v9z"/></svg>';
        foreach (['UTF-16LE' => "\xFF\xFE", 'UTF-16BE' => "\xFE\xFF", 'UTF-32LE' => "\xFF\xFE\0\0"] as $encoding => $mark) {
            foreach ([$mark, ''] as $begin) {
                try {
                    SvgReader::read($begin . mb_convert_encoding($bomb, $encoding, 'UTF-8'));
                    self::fail("{$encoding} was read");
                } catch (BadFile $refused) {
                    self::assertMatchesRegularExpression('/entities|encoding/', $refused->getMessage());
                }
            }
        }
        $plain = '<?xml version="1.0" encoding="UTF-16"?><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9v9z"/></svg>';
        self::assertCount(1, SvgReader::read("\xFF\xFE" . mb_convert_encoding($plain, 'UTF-16LE', 'UTF-8'))->shapes, 'what is sound is read in UTF-16 too');
        $this->expectException(BadFile::class);
        SvgReader::read('<?xml version="1.0" encoding="UTF-7"?><svg xmlns="http://www.w3.org/2000/svg"><path d="M0 0h9v9z"/></svg>');
    }

    public function testScriptsAreNotEvenLookedAt(): void
    {
        $art = SvgReader::read("<svg xmlns='http://www.w3.org/2000/svg' onload='alert(1)'><script>alert(2)</script><rect width='4' height='2' onclick='alert(3)'/></svg>");
        self::assertCount(1, $art->shapes);
        self::assertEquals([0.0, -2.0, 4.0, 0.0], $art->bounds());
    }

    public function testASlabHasFacesSidesAndBevels(): void
    {
        $art = SvgReader::read("<svg xmlns='http://www.w3.org/2000/svg'><path fill-rule='evenodd' d='M0 0H200V100H0ZM50 20H100V60H50Z'/></svg>");
        $plain = Slab::of($art, 0.5, 0.04, 0.0);
        self::assertEqualsWithDelta(1.0 * 0.5 * 0.04 - 0.25 * 0.2 * 0.04, MassProperties::of($plain)->volume, 1e-9);
        $bevelled = Slab::of($art, 0.5, 0.04, 0.005);
        self::assertTrue(Topology::of($bevelled)->isWatertight());
        // Each rim, front and back, loses a triangle of 5 by 5 mm along its length, but for the corners.
        $rim = 2.0 * (1.0 + 0.5) + 2.0 * (0.25 + 0.2);
        self::assertEqualsWithDelta(MassProperties::of($plain)->volume - 2.0 * 0.5 * 0.005 ** 2 * $rim, MassProperties::of($bevelled)->volume, 2e-6);
        self::assertEqualsWithDelta([[-0.5, -0.25, -0.02], [0.5, 0.25, 0.02]], $bevelled->bounds(), 1e-12);
        $uvs = $bevelled->uvs ?? [];
        foreach ($bevelled->looks ?? [] as $f => $look) {
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $v = $bevelled->triangles[$k];
                if ($look === TriangleMesh::LOOK_OUTER) {
                    self::assertEqualsWithDelta(0.02, abs($bevelled->z[$v]), 1e-12);
                    self::assertEqualsWithDelta($bevelled->x[$v] + 0.5, $uvs[2 * $k], 1e-12);
                    self::assertEqualsWithDelta(2.0 * $bevelled->y[$v] + 0.5, $uvs[2 * $k + 1], 1e-12);
                }
            }
        }
        self::assertContains(TriangleMesh::LOOK_SIDE, $bevelled->looks ?? []);
    }

    /** A bevel wider than there is room for gets narrower; the slab stays sound. */
    public function testABevelYieldsWhereThereIsNoRoom(): void
    {
        $art = SvgReader::read("<svg xmlns='http://www.w3.org/2000/svg'><path d='M0 0H100V2H0ZM40 2H60V90H40Z'/></svg>");
        $slab = Slab::of($art, 0.9, 0.2, 0.05);
        self::assertTrue(Topology::of($slab)->isWatertight());
        self::assertGreaterThan(0.0, MassProperties::of($slab)->volume);
        foreach (array_chunk($slab->triangles, 3) as $f => [$a, $b, $c]) {
            $up = ($slab->x[$b] - $slab->x[$a]) * ($slab->y[$c] - $slab->y[$a]) - ($slab->y[$b] - $slab->y[$a]) * ($slab->x[$c] - $slab->x[$a]);
            if (($slab->looks[$f] ?? 0) === TriangleMesh::LOOK_OUTER) {
                self::assertGreaterThan(0.0, $slab->z[$a] > 0.0 ? $up : -$up, 'no face folds over');
            }
        }
    }

    public function testAPictureIsTracedByItsAlpha(): void
    {
        $art = PngOutline::of(Picture::read(self::png()));
        $slab = Slab::of($art, 1.0, 0.1, 0.0);
        self::assertTrue(Topology::of($slab)->isWatertight());
        self::assertCount(2, $art->shapes[0]->outlines, 'the disc and its hole');
        // A disc of radius 80 with a hole of 30, in a picture where it is 160 high: at a height of 1 m.
        self::assertEqualsWithDelta(M_PI * (6400.0 - 900.0) / 160.0 ** 2, MassProperties::of($slab)->volume / 0.1, 0.01 * M_PI * 0.215);
    }

    public function testPicturesThatCannotBeTracedAreRefused(): void
    {
        $clear = imagecreatetruecolor(20, 20);
        self::assertNotFalse($clear);
        imagealphablending($clear, false);
        imagesavealpha($clear, true);
        imagefill($clear, 0, 0, (int) imagecolorallocatealpha($clear, 0, 0, 0, 127));
        ob_start();
        imagepng($clear);
        $bytes = (string) ob_get_clean();
        foreach ([$bytes => 'half opaque', substr(self::png(), 0, 200) => 'damaged|no PNG', 'GIF89a' => 'no PNG'] as $file => $reason) {
            try {
                PngOutline::of(Picture::read((string) $file));
                self::fail("{$reason} was not refused");
            } catch (BadFile $error) {
                self::assertMatchesRegularExpression("/{$reason}/", $error->getMessage());
            }
        }
    }

    public function testTheFaceShowsTheArtInItsColours(): void
    {
        $png = Art::face("<svg xmlns='http://www.w3.org/2000/svg'><rect width='100' height='50' fill='#204060'/><circle cx='50' cy='25' r='10' fill='rgb(200, 100, 0)'/></svg>");
        $image = imagecreatefromstring($png);
        self::assertNotFalse($image);
        self::assertSame([1024, 512], [imagesx($image), imagesy($image)]);
        $at = static fn (int $x, int $y): string => sprintf('%06x', imagecolorat($image, $x, $y) & 0xFFFFFF);
        self::assertSame(['204060', 'c86400', '204060'], [$at(4, 4), $at(512, 256), $at(700, 256)]);
    }

    /** Straightened lines stray by no more than asked (Douglas and Peucker's own promise). */
    public function testSimplifiedLinesStayNear(): void
    {
        $circle = [];
        for ($k = 0; $k < 720; $k++) {
            $circle[] = [cos($k * M_PI / 360.0), sin($k * M_PI / 360.0)];
        }
        $simple = Simplify::loop($circle, 0.01);
        self::assertLessThan(60, count($simple));
        foreach ($simple as $k => [$x, $y]) {
            [$u, $v] = $simple[$k + 1] ?? $simple[0];
            self::assertGreaterThan(0.99 - 1e-12, hypot(0.5 * ($x + $u), 0.5 * ($y + $v)), 'the middle of a stretch lies deepest');
        }
    }

    public function testTheDemosArtIsSound(): void
    {
        foreach (DemoShot::assets() as $sha => $file) {
            self::assertSame($sha, hash_file('sha256', $file));
            if (str_ends_with($file, '.glb')) {
                $mesh = GlbReader::read((string) file_get_contents($file));
                self::assertTrue(Topology::of($mesh)->isWatertight());
                self::assertGreaterThan(0.0, MassProperties::of($mesh)->volume, 'its faces look outwards');
                continue;
            }
            if (! str_ends_with($file, '.svg')) {
                self::assertGreaterThan(0, Picture::read((string) file_get_contents($file))->width);
                continue;
            }
            $art = SvgReader::read((string) file_get_contents($file));
            self::assertInstanceOf(Artwork::class, $art);
            self::assertTrue(Topology::of(Slab::of($art, 0.76, 0.02, 0.002))->isWatertight());
        }
    }

    private static function png(): string
    {
        $image = imagecreatetruecolor(400, 360);
        self::assertNotFalse($image);
        imagealphablending($image, false);
        imagesavealpha($image, true);
        imagefill($image, 0, 0, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        imagefilledellipse($image, 200, 180, 160, 160, (int) imagecolorallocate($image, 220, 120, 40));
        imagefilledellipse($image, 200, 180, 60, 60, (int) imagecolorallocatealpha($image, 0, 0, 0, 127));
        ob_start();
        imagepng($image);

        return (string) ob_get_clean();
    }
}
