<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use ErrorException;
use FontLib\TrueType\File;
use Throwable;
use YardBreak\Core\Format\BadFile;

/** A font file (TrueType or PostScript outlines, plain or as WOFF), looked at before php-font-lib reads it: that trusts what it reads. */
final class FontFile
{
    private const BYTES = 8 * 1024 * 1024;

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
            $file = self::opened($bytes);
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
     * @return string its bytes, as a plain font
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

        return Woff::is($bytes) ? Woff::unpacked($bytes) : $bytes;
    }

    /** The library would leave a file behind for each packed font it opens. */
    private static function opened(string $bytes): File
    {
        $file = new File();
        $stream = fopen('php://memory', 'r+b');
        if ($stream !== false) {
            fwrite($stream, $bytes);
            $file->setFile($stream);
        }

        return $file;
    }

    /** Bytes of one of its tables; null: it has none of that name. */
    private static function table(string $bytes, string $name): ?string
    {
        $count = unpack('n', $bytes, 4);
        for ($t = 0; is_array($count) && $t < $count[1]; $t++) {
            $at = 12 + 16 * $t;
            if (substr($bytes, $at, 4) === $name) {
                // Checksum, offset, length.
                $entry = unpack('N3', $bytes, $at + 4);
                [, $offset, $length] = is_array($entry) ? array_map(static fn (mixed $n): int => is_int($n) ? $n : 0, array_values($entry)) : [0, 0, 0];

                return substr($bytes, $offset, $length);
            }
        }

        return null;
    }
}
