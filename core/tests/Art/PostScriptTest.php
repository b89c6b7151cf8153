<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Art;

use PHPUnit\Framework\Attributes\DataProvider;
use PHPUnit\Framework\Attributes\Group;
use PHPUnit\Framework\TestCase;
use YardBreak\Core\Art\CharString;
use YardBreak\Core\Art\FontFile;
use YardBreak\Core\Art\Lettering;
use YardBreak\Core\Art\PostScriptOutlines;
use YardBreak\Core\Art\Shape;
use YardBreak\Core\Art\Typeface;
use YardBreak\Core\Format\BadFile;
use YardBreak\Core\Math\RandomStream;

/** Fonts whose letters are PostScript programs, and kerning, against fontkit (npm, 2.0.4) and the same family with TrueType outlines. */
final class PostScriptTest extends TestCase
{
    private const FONTS = __DIR__ . '/../../../node_modules/source-sans-pro';

    /** @return list<string> */
    private static function pairs(): array
    {
        $letters = [...range('A', 'Z'), ...range('a', 'z'), ...array_map(strval(...), range(0, 9)), '.', ',', '-', '&', ' '];

        return array_merge(...array_map(static fn (string $a): array => array_map(static fn (string $b): string => $a . $b, $letters), $letters));
    }

    /**
     * @param list<string>|null $pairs null: the outlines of all glyphs
     *
     * @return list<mixed>
     */
    private static function reference(string $font, ?array $pairs = null): array
    {
        $file = (string) tempnam(sys_get_temp_dir(), 'pairs');
        file_put_contents($file, json_encode($pairs));
        exec('node ' . escapeshellarg(__DIR__ . '/font-reference.mjs') . ' ' . escapeshellarg($font) . ($pairs === null ? '' : ' ' . escapeshellarg($file)) . ' 2>&1', $lines, $status);
        unlink($file);
        self::assertSame(0, $status, implode("\n", $lines));
        /** @var list<mixed> $said */
        $said = json_decode(implode('', $lines), true);

        return $said;
    }

    #[Group('slow')]
    public function testEveryOutlineIsThatOfTheReference(): void
    {
        foreach (getenv('YARD_BREAK_LONG') ? ['Regular', 'BlackIt'] : ['Regular'] as $style) {
            $path = self::FONTS . "/OTF/SourceSansPro-{$style}.otf";
            $outlines = FontFile::with($path, static fn (Typeface $font): ?PostScriptOutlines => $font->programs);
            self::assertNotNull($outlines);
            $expected = self::reference($path);
            self::assertGreaterThan(1000, count($expected));
            self::assertSame($expected, array_map($outlines->path(...), array_keys($expected)), $style);
        }
    }

    #[Group('slow')]
    public function testEveryPairStandsAsInTheReference(): void
    {
        $pairs = self::pairs();
        // Pairs, classes of pairs, and tables that lie far away; of fonts that ship and others.
        foreach ([self::FONTS . '/OTF/SourceSansPro-Regular.otf' => 600, self::FONTS . '/TTF/SourceSansPro-BoldIt.ttf' => 500, Lettering::shipped('slab') => 1000, ...getenv('YARD_BREAK_LONG') ? [Lettering::shipped('serif') => 1000] : []] as $path => $least) {
            $expected = self::reference($path, $pairs);
            $found = FontFile::with($path, static function (Typeface $font) use ($pairs): array {
                return array_map(static fn (string $pair): int => $font->kerning->between((int) $font->characters->glyph(ord($pair[0])), (int) $font->characters->glyph(ord($pair[1]))), $pairs);
            });
            self::assertSame($expected, $found, $path);
            self::assertGreaterThan($least, count(array_filter($expected)));
        }
    }

    /** Every character of two fonts is the glyph that php-font-lib says, which reads whole tables. */
    public function testCharactersAreThoseOfTheTable(): void
    {
        foreach ([self::FONTS . '/OTF/SourceSansPro-Regular.otf', Lettering::shipped('serif')] as $path) {
            FontFile::with($path, static function (Typeface $font): void {
                $all = (array) $font->file->getUnicodeCharMap();
                self::assertGreaterThan(150, count($all));
                for ($character = 32; $character < 0x30000; $character = $character > 0x3000 ? $character + 7 : $character + 1) {
                    self::assertSame(($all[$character] ?? 0) ?: null, $font->characters->glyph($character), dechex($character));
                }
            });
        }
    }

    /** In a word the second letter stands where the first ends, closer by as much as the font says of the pair. */
    public function testWordsAreKerned(): void
    {
        $path = Lettering::shipped('sans');
        [$kern, $advance] = FontFile::with($path, static function (Typeface $font): array {
            $a = (int) $font->characters->glyph(ord('A'));

            return [$font->kerning->between($a, (int) $font->characters->glyph(ord('V'))), ((array) $font->file->getData('hmtx'))[$a][0]];
        });
        self::assertLessThan(-20, $kern);
        $right = static fn (string $text, float $spacing): float => Lettering::of($text, $path, $spacing)[0]->bounds()[2];
        self::assertEqualsWithDelta($advance + $kern + $right('V', 0.0), $right('AV', 0.0), 1e-9);
        self::assertEqualsWithDelta($advance + $kern + 100.0 + $right('V', 0.0), $right('AV', 0.1), 1e-9, 'and the spacing is added');
    }

    /** Plain, packed and with TrueType outlines: one family, one word, and the ink of each letter. */
    public function testTheSameFamilyIsTheSameWord(): void
    {
        $ink = static function (string $path): array {
            [$art, $em] = Lettering::of('Mühle 7 &ß', $path, 0.02);
            self::assertSame(1000.0, $em);

            return array_map(static fn (Shape $shape): float => array_sum(array_map(static function (array $outline): float {
                $sum = 0.0;
                foreach ($outline as $k => [$x, $y]) {
                    [$u, $v] = $outline[$k + 1] ?? $outline[0];
                    $sum += 0.5 * ($x * $v - $u * $y);
                }

                return $sum;
            }, $shape->outlines)), $art->shapes);
        };
        $expected = $ink(self::FONTS . '/OTF/SourceSansPro-Regular.otf');
        self::assertCount(8, $expected);
        self::assertSame($expected, $ink(self::FONTS . '/WOFF/OTF/SourceSansPro-Regular.otf.woff'));
        foreach ($ink(self::FONTS . '/TTF/SourceSansPro-Regular.ttf') as $k => $area) {
            self::assertEqualsWithDelta(abs($expected[$k]), abs($area), 0.004 * abs($area), "letter {$k}; the outlines are wound the other way round");
        }
    }

    /** @return iterable<string, array{list<int|string>, string}> numbers and operators (as “=21”), and the path by the document */
    public static function programs(): iterable
    {
        yield 'lines in turns, after a width' => [[50, 10, 20, '=21', 5, 6, 7, '=6', '=14'], 'M10 20L15 20L15 26L22 26Z'];
        yield 'up first' => [[10, '=4', 5, 6, '=7', '=14'], 'M0 10L0 15L6 15Z'];
        yield 'curves that begin along' => [[1, '=22', 9, 1, 2, 3, 4, '=27', '=14'], 'M1 0C2 9 4 12 8 12Z'];
        yield 'in turns, the last off its axis' => [[0, '=22', 1, 2, 3, 4, 5, '=31', '=14'], 'M0 0C1 0 3 3 8 7Z'];
        yield 'curves, then a line' => [[0, '=22', 1, 1, 1, 1, 1, 1, 2, 2, '=24', '=14'], 'M0 0C1 1 2 2 3 3L5 5Z'];
        yield 'lines, then a curve' => [[0, '=22', 2, 2, 1, 1, 1, 1, 1, 1, '=25', '=14'], 'M0 0L2 2C3 3 4 4 5 5Z'];
        yield 'hints and a mask of nine stems' => [[1, 2, '=1', 1, 2, 1, 2, 1, 2, 1, 2, 1, 2, 1, 2, 1, 2, 1, 2, '=19', '!255', '!128', 3, '=22', 4, '=6', '=14'], 'M3 0L7 0Z'];
        yield 'a flex' => [[0, '=22', 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 12, 50, '=12', '=35', '=14'], 'M0 0C1 2 4 6 9 12C16 20 25 30 36 42Z'];
        yield 'one along' => [[0, '=22', 1, 2, 3, 4, 5, 6, 7, '=12', '=34', '=14'], 'M0 0C1 0 3 3 7 3C12 3 18 0 25 0Z'];
        yield 'one that ends level' => [[0, '=22', 1, 2, 3, 4, 5, 6, 7, 8, 9, '=12', '=36', '=14'], 'M0 0C1 2 4 6 9 6C15 6 22 14 31 0Z'];
        yield 'one along the longer way' => [[0, '=22', 10, 1, 10, 1, 10, 1, 10, 1, 10, 1, 10, '=12', '=37', '=14'], 'M0 0C10 1 20 2 30 3C40 4 50 5 60 0Z'];
        yield 'subroutines, counted from -107' => [[0, '=22', -107, '=10', -107, '=29', '=14'], 'M0 0L5 0L5 7Z'];
    }

    /** @param list<int|string> $program */
    #[DataProvider('programs')]
    public function testAProgramDrawsWhatTheDocumentSays(array $program, string $expected): void
    {
        $bytes = static fn (array $words): string => implode('', array_map(static fn (int|string $word): string => is_int($word) ? "\x1c" . pack('n', $word & 0xFFFF) : chr((int) substr($word, 1)), $words));
        $drawn = (new CharString([$bytes([7, '=7', '=11'])], [$bytes([5, '=6', '=11'])]))->run($bytes($program));
        self::assertSame($expected, preg_replace('/\.0000/', '', $drawn));
    }

    /** Whatever happens to the bytes, it is read or refused in words, at once. */
    public function testDamageIsReadOrRefused(): void
    {
        $whole = (string) file_get_contents(self::FONTS . '/OTF/SourceSansPro-Regular.otf');
        $path = (string) tempnam(sys_get_temp_dir(), 'font');
        $refused = 0;
        $most = 0;
        for ($try = 0, $tries = getenv('YARD_BREAK_LONG') ? 2000 : 60; $try < $tries; $try++) {
            $random = RandomStream::named($try, 'PostScript damage');
            $damaged = $whole;
            // In the tables of tables, in those of the outlines, or anywhere.
            $within = [400.0, 200_000.0, strlen($whole) - 1.0][$try % 3];
            for ($n = 0; $n < 1 + $try % 40; $n++) {
                $damaged[(int) $random->between(0.0, $within)] = chr((int) $random->between(0.0, 256.0));
            }
            file_put_contents($path, $damaged);
            memory_reset_peak_usage();
            $before = memory_get_usage();
            try {
                self::assertNotSame([], Lettering::of('Age', $path, 0.0)[0]->shapes);
            } catch (BadFile $error) {
                $refused++;
                self::assertGreaterThan(15, strlen($error->getMessage()));
            }
            $most = max($most, memory_get_peak_usage() - $before);
        }
        unlink($path);
        self::assertGreaterThan(5, $refused);
        // One of them says that it has billions of characters.
        self::assertLessThan(60e6, $most);
        try {
            Lettering::check(self::FONTS . '/VAR/SourceSansVariable-Roman.otf');
            self::fail('It was taken.');
        } catch (BadFile $error) {
            self::assertStringContainsString('fixed styles', $error->getMessage());
        }
        // A program that calls itself.
        $this->expectException(BadFile::class);
        (new CharString([], ["\x20\x0a"]))->run("\x20\x0a");
    }
}
