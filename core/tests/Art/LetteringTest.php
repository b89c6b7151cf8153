<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Art;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\Shape;
use YardBreak\Core\Art\Woff;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Topology;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\MemoryStore;
use YardBreak\Core\Stage\NoAssets;
use YardBreak\Core\Stage\Pipeline;

/** Words as the font has them, as solids. */
final class LetteringTest extends TestCase
{
    /** @param array<string, mixed> $settings */
    private static function shot(array $settings): Shot
    {
        return Shot::read(['version' => 2, 'props' => [['id' => 'a', 'name' => 'A', 'source' => ['kind' => 'lettering', 'lettering' => $settings], 'break' => ['pattern' => 'parts', 'parts' => ['stacked' => true]]]]]);
    }

    /** @param array<string, mixed> $settings */
    private static function mesh(array $settings): TriangleMesh
    {
        return (new Pipeline(new MemoryStore(), new NoAssets()))->prepared(self::shot($settings)->props[0]);
    }

    private static function width(TriangleMesh $mesh): float
    {
        [$low, $high] = $mesh->bounds();

        return $high[0] - $low[0];
    }

    public function testEachFontMakesSolidsOneALetter(): void
    {
        foreach (['slab', 'serif', 'sans'] as $font) {
            $shot = self::shot(['text' => 'Tidemill 12', 'font' => $font]);
            $pipeline = new Pipeline(new MemoryStore(), new NoAssets());
            self::assertTrue(Topology::of($pipeline->prepared($shot->props[0]))->isWatertight(), $font);
            $pieces = $pipeline->broken($shot->props[0]);
            self::assertCount(10, $pieces->pieces, $font);
            self::assertGreaterThan(0.0, min(array_map(static fn (MassProperties $mass): float => $mass->volume, $pieces->mass)));
        }
    }

    /** The font's own numbers: an em is 1,000 units, and H of the slab serif is as wide and high as its outline. */
    public function testSizeAndSpacingAreWhatTheySay(): void
    {
        foreach ([0.2, 0.5] as $size) {
            [$art, $em] = Lettering::of('H', Lettering::shipped('slab'), 0.0);
            self::assertSame(1000.0, $em);
            [$left, $low, $right, $high] = $art->bounds();
            $mesh = self::mesh(['text' => 'H', 'size' => $size, 'bevel' => 0, 'slab' => 0.03]);
            [[$x0, $y0, $z0], [$x1, $y1, $z1]] = $mesh->bounds();
            self::assertEqualsWithDelta([$size * ($right - $left) / $em, $size * ($high - $low) / $em, 0.03], [$x1 - $x0, $y1 - $y0, $z1 - $z0], 1e-6);
            // The same height beside others: a letter is not blown up when a lower word is written.
            self::assertEqualsWithDelta($size * 0.64, $y1 - $y0, 0.04 * $size, 'a capital is about two thirds as high');
        }
        $close = self::width(self::mesh(['text' => 'oooo', 'spacing' => 0.0, 'size' => 0.4]));
        self::assertEqualsWithDelta($close + 3 * 0.1 * 0.4, self::width(self::mesh(['text' => 'oooo', 'spacing' => 0.1, 'size' => 0.4])), 1e-6);
        self::assertGreaterThan(self::width(self::mesh(['text' => 'oo'])) + 0.05, self::width(self::mesh(['text' => 'o o'])), 'a blank is room');
    }

    /** An O has a hole: its area is that of the outer outline less the inner one, by the shoelace formula. */
    public function testLettersHaveTheirHoles(): void
    {
        [$art, $em] = Lettering::of('O', Lettering::shipped('sans'), 0.0);
        $areas = array_map(static function (array $outline): float {
            $sum = 0.0;
            foreach ($outline as $k => [$x, $y]) {
                [$u, $v] = $outline[$k + 1] ?? $outline[0];
                $sum += 0.5 * ($x * $v - $u * $y);
            }

            return $sum;
        }, $art->shapes[0]->outlines);
        self::assertCount(2, $areas);
        self::assertLessThan(0.0, $areas[0] * $areas[1], 'wound the other way round');
        $volume = MassProperties::of(self::mesh(['text' => 'O', 'font' => 'sans', 'size' => 0.5, 'bevel' => 0, 'slab' => 0.1]))->volume;
        self::assertEqualsWithDelta(abs($areas[0] + $areas[1]) * (0.5 / $em) ** 2 * 0.1, $volume, 1e-3 * $volume);
    }

    /** An accent is another glyph, set over the letter. */
    public function testAccentsStandOverTheirLetters(): void
    {
        [$plain] = Lettering::of('e', Lettering::shipped('serif'), 0.0);
        [$accent] = Lettering::of('é', Lettering::shipped('serif'), 0.0);
        self::assertCount(count($plain->shapes[0]->outlines) + 1, $accent->shapes[0]->outlines);
        self::assertGreaterThan($plain->bounds()[3] + 50.0, $accent->bounds()[3]);
        $letters = Lettering::of('Äöß', Lettering::shipped('slab'), 0.0)[0]->shapes;
        self::assertContainsOnlyInstancesOf(Shape::class, $letters);
        self::assertCount(3, $letters);
    }

    public function testWhatCannotBeSetIsSaid(): void
    {
        foreach (['' => 'Nothing is written', '   ' => 'Nothing is written', 'a☃b☃' => 'The font has no “☃”'] as $text => $words) {
            try {
                Lettering::of((string) $text, Lettering::shipped('sans'), 0.0);
                self::fail((string) $text);
            } catch (BadFile $bad) {
                self::assertStringContainsString($words, $bad->getMessage());
            }
        }
    }

    /** @param callable(string): void $use path of a file with these bytes */
    private static function kept(string $bytes, callable $use): void
    {
        $path = tempnam(sys_get_temp_dir(), 'font');
        self::assertNotFalse($path);
        try {
            file_put_contents($path, $bytes);
            $use($path);
        } finally {
            unlink($path);
        }
    }

    /** The shipped font as plain TrueType: its tables unpacked, one after the other. */
    private static function plain(string $name): string
    {
        $woff = (string) file_get_contents(Lettering::shipped($name));
        $count = unpack('n', $woff, 12)[1] ?? 0;
        $directory = $tables = '';
        $at = 12 + 16 * $count;
        for ($t = 0; $t < $count; $t++) {
            $entry = unpack('Noffset/Nlength/Nunpacked/Nsum', $woff, 48 + 20 * $t) ?: [];
            $table = substr($woff, $entry['offset'], $entry['length']);
            $table = $entry['length'] < $entry['unpacked'] ? (string) gzuncompress($table) : $table;
            $directory .= substr($woff, 44 + 20 * $t, 4) . pack('NNN', $entry['sum'], $at + strlen($tables), strlen($table));
            $tables .= $table . str_repeat("\0", -strlen($table) & 3);
        }

        return "\0\1\0\0" . pack('n4', $count, 0, 0, 0) . $directory . $tables;
    }

    public function testAPackedFontIsUnpackedWithoutAFile(): void
    {
        $left = static fn (): array => glob(sys_get_temp_dir() . '/fnt*') ?: [];
        $before = $left();
        self::assertSame(self::plain('serif'), Woff::unpacked((string) file_get_contents(Lettering::shipped('serif'))));
        Lettering::check(Lettering::shipped('serif'));
        self::assertSame($before, $left());
    }

    /** A font that is brought in says the same as the same font that ships, plain or packed. */
    public function testAFontOfOnesOwnIsRead(): void
    {
        $expected = Lettering::of('Mühle 7', Lettering::shipped('serif'), 0.0)[0]->bounds();
        self::kept(self::plain('serif'), static function (string $path) use ($expected): void {
            Lettering::check($path);
            self::assertSame($expected, Lettering::of('Mühle 7', $path, 0.0)[0]->bounds());
        });
        $this->expectExceptionMessage('No font has been brought in yet');
        self::mesh(['font' => 'own']);
    }

    /** @return iterable<string, array{string, string}> */
    public static function badFonts(): iterable
    {
        $woff = (string) file_get_contents(Lettering::shipped('sans'));
        yield 'a picture' => ["\x89PNG\r\n", 'no font'];
        yield 'nothing' => ['', 'no font'];
        yield 'an OTF of nothing' => ['OTTO' . str_repeat("\0", 60), 'cmap'];
        yield 'WOFF2' => ['wOF2' . str_repeat("\0", 60), 'WOFF2'];
        yield 'a collection' => ['ttcf' . str_repeat("\0", 60), 'collection'];
        yield 'cut off' => [substr($woff, 0, 5000), 'damaged'];
        yield 'a table that says it is small, and is not' => [self::bomb(), 'damaged'];
        yield 'a letter made of itself' => [self::circle(), 'made of itself'];
    }

    #[DataProvider('badFonts')]
    public function testABadFontIsRefused(string $bytes, string $word): void
    {
        self::kept($bytes, function (string $path) use ($word): void {
            try {
                Lettering::of('äé', $path, 0.0);
                self::fail('It was taken.');
            } catch (BadFile $error) {
                self::assertStringContainsString($word, $error->getMessage());
            }
        });
    }

    private static function bomb(): string
    {
        $table = (string) gzcompress(str_repeat("\0", 50_000_000));

        return 'wOFF' . pack('NNnnNnnNNNNN', 0x00010000, 64 + strlen($table), 1, 0, 1000, 1, 0, 0, 0, 0, 0, 0) . 'glyf' . pack('NNNN', 64, strlen($table), strlen($table) + 1, 0) . $table;
    }

    /** A font in which the first part of the accented letter is that letter again. */
    private static function circle(): string
    {
        $font = self::plain('serif');
        $tables = [];
        for ($t = 0, $count = unpack('n', $font, 4)[1] ?? 0; $t < $count; $t++) {
            $tables[substr($font, 12 + 16 * $t, 4)] = (unpack('Noffset', $font, 20 + 16 * $t) ?: [])['offset'];
        }
        $long = (unpack('n', $font, $tables['head'] + 50) ?: [])[1] === 1;
        $glyphs = (unpack('n', $font, $tables['maxp'] + 4) ?: [])[1];
        $place = static fn (int $g): int => $long ? (unpack('N', $font, $tables['loca'] + 4 * $g) ?: [])[1] : 2 * (unpack('n', $font, $tables['loca'] + 2 * $g) ?: [])[1];
        for ($g = 0; $g < $glyphs; $g++) {
            $at = $tables['glyf'] + $place($g);
            if ($place($g + 1) > $place($g) && (unpack('n', $font, $at) ?: [])[1] === 0xFFFF) {
                $font = substr_replace($font, pack('n', $g), $at + 12, 2);
            }
        }

        return $font;
    }

    /** Damaged at random: read, or refused in words. */
    public function testDamageIsReadOrRefused(): void
    {
        foreach ([self::plain('sans'), (string) file_get_contents(Lettering::shipped('sans'))] as $bytes) {
            for ($try = 0; $try < (getenv('YARD_BREAK_LONG') ? 2000 : 60); $try++) {
                $random = RandomStream::named($try, 'font damage');
                $damaged = $bytes;
                for ($n = 0; $n < 1 + $try % 5; $n++) {
                    // Mostly in the tables that say where things are.
                    $damaged[(int) $random->between(0.0, $try % 2 === 0 ? 400.0 : strlen($bytes) - 1.0)] = chr((int) $random->between(0.0, 256.0));
                }
                self::kept($damaged, function (string $path): void {
                    try {
                        self::assertNotSame([], Lettering::of('Age', $path, 0.0)[0]->shapes);
                    } catch (BadFile $error) {
                        self::assertGreaterThan(15, strlen($error->getMessage()));
                    }
                });
            }
        }
    }
}
