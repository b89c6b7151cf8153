<?php

declare(strict_types=1);

namespace App\Support;

use RuntimeException;

/** Writes a file beside its place and moves it there, so no reader ever sees half of it. */
final class AtomicFile
{
    public static function write(string $path, string $bytes): void
    {
        $folder = dirname($path);
        if (! is_dir($folder) && ! @mkdir($folder, 0o775, true) && ! is_dir($folder)) {
            throw new RuntimeException("Cannot create the folder {$folder}.");
        }
        $part = $path . '.' . bin2hex(random_bytes(6)) . '.part';
        if (@file_put_contents($part, $bytes) !== strlen($bytes) || ! rename($part, $path)) {
            @unlink($part);
            throw new RuntimeException("Cannot write {$path}: is the disk full?");
        }
    }
}
