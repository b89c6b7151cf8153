<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

use ErrorException;
use FontLib\Font;
use FontLib\TrueType\File;
use Throwable;
use YardBreak\Core\Format\BadFile;

/** A font file (TrueType outlines, plain or as WOFF), looked at before php-font-lib reads it: that trusts what it reads. */
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
     * @param callable(File): T $work
     *
     * @return T
     *
     * @throws BadFile
     */
    public static function with(string $path, callable $work): mixed
    {
        self::look($path);
        set_error_handler(static fn (int $level, string $what): never => throw new ErrorException($what, 0, $level));
        try {
            $file = Font::load($path);
            if (! $file instanceof File) {
                throw new BadFile('The file is no font that can be read here. Use a TTF or a WOFF.');
            }
            $file->parse();

            return $work($file);
        } catch (BadFile $error) {
            throw $error;
        } catch (Throwable) {
            throw new BadFile('The font is damaged: its tables do not hold what they say. Get it again, or use another.');
        } finally {
            restore_error_handler();
        }
    }

    /** @throws BadFile */
    private static function look(string $path): void
    {
        $size = @filesize($path);
        if ($size === false || $size > self::BYTES) {
            throw new BadFile($size === false ? 'The font is missing.' : 'The font is larger than 8 MB.');
        }
        $bytes = (string) file_get_contents($path);
        $why = match (substr($bytes, 0, 4)) {
            "\0\1\0\0", 'true', 'wOFF' => null,
            'OTTO' => 'The font has PostScript outlines. Save it with TrueType outlines (TTF), or use another.',
            'wOF2' => 'WOFF2 is not read here. Use the TTF or the WOFF of the font.',
            'ttcf' => 'The file is a collection of fonts. Take one of them out of it, as a TTF.',
            default => 'The file is no font. Use a TTF or a WOFF.',
        };
        if ($why !== null) {
            throw new BadFile($why);
        }
        if (str_starts_with($bytes, 'wOFF')) {
            self::unpack($bytes);
        }
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
