<?php

declare(strict_types=1);

namespace App\Support;

/** Writes a file beside its place and moves it there, so no reader ever sees half of it. */
final class AtomicFile
{
    public static function write(string $path, string ...$parts): void
    {
        $folder = dirname($path);
        if (! is_dir($folder) && ! @mkdir($folder, 0o775, true) && ! is_dir($folder)) {
            throw StoreFull::whileKeeping('The result');
        }
        $part = $path . '.' . bin2hex(random_bytes(6)) . '.part';
        if (! self::wrote($part, $parts) || ! @rename($part, $path)) {
            @unlink($part);
            throw StoreFull::whileKeeping('The result');
        }
    }

    /** @param array<string> $parts one after the other, without putting them together in memory */
    private static function wrote(string $path, array $parts): bool
    {
        $file = @fopen($path, 'xb');
        if ($file === false) {
            return false;
        }
        $whole = true;
        foreach ($parts as $part) {
            $whole = $whole && @fwrite($file, $part) === strlen($part);
        }

        return fclose($file) && $whole;
    }
}
