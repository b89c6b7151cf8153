<?php

declare(strict_types=1);

namespace App\Support;

/** Room on the disk that holds the store and the database. */
final class Room
{
    /** With less than this nothing can be relied on to be stored. */
    private const LEAST = 32 * 1024 * 1024;

    /** What is wrong, and what to do; null: there is room. */
    public static function lack(): ?string
    {
        $folder = config()->string('yard.store');
        while (! is_dir($folder) && $folder !== dirname($folder)) {
            $folder = dirname($folder);
        }
        $free = @disk_free_space($folder);

        return $free === false || $free >= self::LEAST ? null
            : sprintf('The disk that holds the store is full: %d MB are left. Make room there; it goes on by itself.', $free / 1e6);
    }
}
