<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use ErrorException;
use FontLib\Font;
use FontLib\TrueType\File;
use Throwable;
use YardBreak\Core\Format\BadFile;

/** A font file (TrueType or PostScript outlines, plain or as WOFF), looked at before php-font-lib reads it: that trusts what it reads. */
final class FontFile
{
    private const BYTES = 8 * 1024 * 1024;

    /** What its tables may come to unpacked. */
    private const UNPACKED = 32 * 1024 * 1024;

    /**
     * Does something with a font; whatever its damage leads to is a refusal.
     *
     * @template T
     *
     * @param callable(Typeface): T $work
     *
     * @return T
     *
     * @throws BadFile
     */
    public static function with(string $path, callable $work): mixed
    {
        $bytes = self::look($path);
        set_error_handler(static fn (int $level, string $what): never => throw new ErrorException($what, 0, $level));
        try {
            $file = Font::load($path);
            if (! $file instanceof File) {
                throw new BadFile('The file is no font that can be read here. Use a TTF, an OTF or a WOFF.');
            }
            // Tables are read as they are asked for: some take what they say of themselves at their word.
            $programs = self::table($bytes, 'CFF ');
            if ($programs === null && self::table($bytes, 'CFF2') !== null) {
                throw new BadFile('The font is a variable one with PostScript outlines. Use one of its fixed styles.');
            }

            return $work(new Typeface($file, CharacterMap::of(self::table($bytes, 'cmap')), $programs === null ? null : PostScriptOutlines::of($programs), Kerning::of(self::table($bytes, 'GPOS'), self::table($bytes, 'kern'))));
        } catch (BadFile $error) {
            throw $error;
        } catch (Throwable) {
            throw new BadFile('The font is damaged: its tables do not hold what they say. Get it again, or use another.');
        } finally {
            restore_error_handler();
        }
    }

    /**
     * @return string its bytes
     *
     * @throws BadFile
     */
    private static function look(string $path): string
    {
        $size = @filesize($path);
        if ($size === false || $size > self::BYTES) {
            throw new BadFile($size === false ? 'The font is missing.' : 'The font is larger than 8 MB.');
        }
        $bytes = (string) file_get_contents($path);
        $why = match (substr($bytes, 0, 4)) {
            "\0\1\0\0", 'true', 'wOFF', 'OTTO' => null,
            'wOF2' => 'WOFF2 is not read here. Use the TTF, the OTF or the WOFF of the font.',
            'ttcf' => 'The file is a collection of fonts. Take one of them out of it, as a TTF or an OTF.',
            default => 'The file is no font. Use a TTF, an OTF or a WOFF.',
        };
        if ($why !== null) {
            throw new BadFile($why);
        }
        if (str_starts_with($bytes, 'wOFF')) {
            self::unpack($bytes);
        }

        return $bytes;
    }

    /** Bytes of one of its tables; null: it has none of that name. */
    private static function table(string $bytes, string $name): ?string
    {
        $packed = str_starts_with($bytes, 'wOFF');
        [$first, $step] = $packed ? [44, 20] : [12, 16];
        $count = unpack('n', $bytes, $packed ? 12 : 4);
        for ($t = 0; is_array($count) && $t < $count[1]; $t++) {
            $at = $first + $step * $t;
            if (substr($bytes, $at, 4) === $name) {
                // Plain: checksum, offset, length. Packed: offset, length, length unpacked.
                $entry = unpack('N3', $bytes, $at + 4);
                [$a, $b, $c] = is_array($entry) ? array_map(static fn (mixed $n): int => is_int($n) ? $n : 0, array_values($entry)) : [0, 0, 0];
                $table = $packed ? substr($bytes, $a, $b) : substr($bytes, $b, $c);

                return $packed && $b < $c ? (string) gzuncompress($table, $c) : $table;
            }
        }

        return null;
    }

    /**
     * Every packed table, by hand and with a limit: what claims to be small may be huge.
     *
     * @throws BadFile
     */
    private static function unpack(string $bytes): void
    {
        $header = strlen($bytes) >= 44 ? unpack('ncount', $bytes, 12) : false;
        $count = is_array($header) && is_int($header['count'] ?? null) ? $header['count'] : 0;
        $left = self::UNPACKED;
        for ($t = 0; $t < $count; $t++) {
            $entry = strlen($bytes) >= 64 + 20 * $t ? unpack('Noffset/Nlength/Nunpacked', $bytes, 48 + 20 * $t) : false;
            [$offset, $length, $unpacked] = is_array($entry) ? array_map(static fn (mixed $n): int => is_int($n) ? $n : 0, array_values($entry)) : [0, 0, self::UNPACKED];
            $left -= $unpacked;
            if ($left < 0 || $offset + $length > strlen($bytes)) {
                throw new BadFile('The font is damaged: its tables reach beyond the file, or come to more than 32 MB. Get it again, or use another.');
            }
            if ($length < $unpacked && @gzuncompress(substr($bytes, $offset, $length), $unpacked) === false) {
                throw new BadFile('The font is damaged: a table cannot be unpacked. Get it again, or use another.');
            }
        }
    }
}
