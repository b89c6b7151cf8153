<?php

declare(strict_types=1);

namespace App\Support;

use ErrorException;
use PDOException;
use Throwable;
use YardBreak\Core\Refusal;

/** What was computed cannot be kept. */
final class StoreFull extends Refusal
{
    /** SQLite's number for it (SQLITE_FULL). */
    private const FULL = 13;

    /** How long one waits before trying again, microseconds. */
    private const AGAIN = 500_000;

    /** Whether it was for want of room that something could not be stored, in the database or in a file. */
    public static function isBehind(Throwable $error): bool
    {
        return $error instanceof self
            || ($error instanceof PDOException && ($error->errorInfo[1] ?? null) === self::FULL)
            || ($error instanceof ErrorException && str_contains($error->getMessage(), 'No space left'));
    }

    /**
     * What a worker has to have in the database before it can do anything else: until there is room it waits.
     *
     * @template T
     *
     * @param callable(): T $write
     *
     * @return T
     */
    public static function waiting(callable $write): mixed
    {
        while (true) {
            try {
                return $write();
            } catch (Throwable $error) {
                if (! self::isBehind($error)) {
                    throw $error;
                }
            }
            usleep(self::AGAIN);
        }
    }

    public static function whileKeeping(string $what): self
    {
        return new self("{$what} could not be stored: is the disk full? Make room on the disk that holds the store, then try again; nothing stored before is lost.");
    }
}
