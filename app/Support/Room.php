<?php

declare(strict_types=1);

namespace App\Support;

/** Room on the disk that holds the store and the database. */
final class Room
{
    /** With less than this nothing can be relied on to be stored. */
    private const LEAST = 32 * 1024 * 1024;

    /** Bytes that are free there; null: it cannot be said. */
    public static function free(): ?int
    {
        $folder = config()->string('yard.store');
        while (! is_dir($folder) && $folder !== dirname($folder)) {
            $folder = dirname($folder);
        }
        $free = @disk_free_space($folder);

        return $free === false ? null : (int) $free;
    }

    /** What is wrong, and what to do; null: there is room. */
    public static function lack(): ?string
    {
        $free = self::free();

        return $free === null || $free >= self::LEAST ? null
            : sprintf('The disk that holds the store is full: %d MB are left. Make room there; it goes on by itself.', $free / 1e6);
    }
}
