<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use FontLib\Glyph\Outline;
use FontLib\Glyph\OutlineComposite;
use FontLib\TrueType\File;
use YardBreak\Core\Format\BadFile;

/** Words as flat art, set in a font that ships with us or was brought in: outlines and advances as the font has them (read by php-font-lib). */
final class Lettering
{
    private const FOLDER = __DIR__ . '/../../fonts';

    /** Curves stray by at most this part of the size of the letters. */
    private const STRAY = 0.002;

    /** How deep a letter may be made of parts of parts. */
    private const DEPTH = 6;

    /** Advance of what the font has no glyph for, in parts of an em: blanks. */
    private const SPACE = 0.25;

    /** Path of a font that ships with us. */
    public static function shipped(string $name): string
    {
        return self::FOLDER . "/{$name}.woff";
    }

    /**
     * Whether a font can be used: it can be read, and has some letter.
     *
     * @throws BadFile
     */
    public static function check(string $path): void
    {
        FontFile::with($path, static function (Typeface $font): void {
            foreach ([...range('a', 'z'), ...range('A', 'Z'), ...range('0', '9')] as $letter) {
                if ($font->characters->glyph(ord((string) $letter)) !== null) {
                    self::set($font, (string) $letter, 0.0);

                    return;
                }
            }
            throw new BadFile('The font has no letters from A to Z and no figures. Use another.');
        });
    }

    /**
     * @param string $path of the font
     * @param float $spacing room between letters besides what the font gives them, in parts of their size
     *
     * @return array{Artwork, float} a shape a letter, and how large an em is, in its units
     *
     * @throws BadFile if there is nothing to be set, or the font is damaged or lacks a letter
     */
    public static function of(string $text, string $path, float $spacing): array
    {
        if (trim($text) === '') {
            throw new BadFile('Nothing is written yet. Type a word.');
        }

        return FontFile::with($path, static fn (Typeface $font): array => self::set($font, $text, $spacing));
    }

    /**
     * @return array{Artwork, float}
     *
     * @throws BadFile
     */
    private static function set(Typeface $font, string $text, float $spacing): array
    {
        [$file, $programs] = [$font->file, $font->programs];
        $glyphs = $programs === null ? self::table($file, 'glyf') : [];
        $advances = self::table($file, 'hmtx');
        $numbers = self::table($file, 'head');
        $em = is_int($numbers['unitsPerEm'] ?? null) ? (float) $numbers['unitsPerEm'] : 1000.0;
        $shapes = $lacks = [];
        $x = 0.0;
        $before = null;
        foreach (mb_str_split($text) as $letter) {
            $glyph = $font->characters->glyph(mb_ord($letter));
            if ($glyph === null && trim($letter) !== '') {
                $lacks[$letter] = true;

                continue;
            }
            $x += $before === null || $glyph === null ? 0.0 : (float) $font->kerning->between($before, $glyph);
            $before = $glyph;
            $advance = $glyph === null ? null : ($advances[$glyph] ?? null);
            $outlines = trim($letter) === '' || $glyph === null ? [] : self::outlines($programs === null ? self::contours($glyphs, $glyph) : $programs->path($glyph), new Affine(1.0, 0.0, 0.0, 1.0, $x, 0.0), self::STRAY * $em);
            if ($outlines !== []) {
                $shapes[] = new Shape($outlines, false, '#808080');
            }
            $x += (is_array($advance) && is_int($advance[0] ?? null) ? $advance[0] : self::SPACE * $em) + $spacing * $em;
        }
        if ($lacks !== []) {
            throw new BadFile('The font has no ' . implode(', ', array_map(static fn (string|int $letter): string => "“{$letter}”", array_keys($lacks))) . '. Take it out, or choose another font.');
        }

        if ($shapes === []) {
            throw new BadFile('The font draws nothing for these letters. Use another.');
        }

        return [new Artwork($shapes), $em];
    }

    /** @return array<mixed> */
    private static function table(File $file, string $name): array
    {
        $table = $file->getData($name);

        return is_array($table) ? $table : throw new BadFile("The font has no “{$name}” table.");
    }

    /**
     * @param mixed $contours a path, or parts of others' glyphs with the ways they are placed (an accent over a letter)
     *
     * @return list<list<array{float, float}>>
     */
    private static function outlines(mixed $contours, Affine $place, float $stray): array
    {
        $outlines = [];
        if (is_string($contours)) {
            foreach (SvgPath::outlines($contours, $stray) as $outline) {
                $outlines[] = array_map(static fn (array $point): array => $place->at($point[0], $point[1]), $outline);
            }
        } elseif (is_array($contours)) {
            foreach ($contours as $part) {
                [$a, $b, $c, $d, $e, $f] = is_array($part) && is_array($part['transform'] ?? null) ? array_map(static fn (mixed $n): float => is_numeric($n) ? (float) $n : 0.0, array_values($part['transform'])) : [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];
                array_push($outlines, ...self::outlines(is_array($part) ? $part['contours'] ?? '' : '', $place->after(new Affine($a, $b, $c, $d, $e, $f)), $stray));
            }
        }

        return $outlines;
    }

    /**
     * @param array<mixed> $glyphs
     *
     * @throws BadFile if it is made of itself
     */
    private static function contours(array $glyphs, int $number): mixed
    {
        $glyph = $glyphs[$number] ?? null;
        if (! $glyph instanceof Outline) {
            return '';
        }
        $glyph->parseData();
        self::assertShallow($glyphs, $glyph, self::DEPTH);

        return $glyph->getSVGContours();
    }

    /**
     * The reader follows the parts of a glyph as deep as they go, and round in circles.
     *
     * @param array<mixed> $glyphs
     */
    private static function assertShallow(array $glyphs, Outline $glyph, int $depth): void
    {
        if (! $glyph instanceof OutlineComposite) {
            return;
        }
        if ($depth === 0) {
            throw new BadFile('The font is damaged: a letter is made of itself. Use another.');
        }
        if ($glyph->components === []) {
            $glyph->parseData();
        }
        foreach ($glyph->components as $part) {
            $number = $part->glyphIndex;
            $inner = is_int($number) ? $glyphs[$number] ?? null : null;
            if ($inner instanceof Outline) {
                self::assertShallow($glyphs, $inner, $depth - 1);
            }
        }
    }
}
