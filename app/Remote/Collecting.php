<?php

declare(strict_types=1);

namespace App\Remote;

use App\Support\AtomicFile;
use Throwable;
use YardBreak\Core\Refusal;

/**
 * What `yard:collect` has seen of workers elsewhere, for pages: they do not ask Redis themselves, which may be slow to say that it is
 * not there.
 */
final class Collecting
{
    /** It says so at least this often, s. */
    public const EVERY = 3.0;

    /** Not heard of for so long it does not run, s. */
    private const GONE = 12;

    public static function note(int $workers, string $error = ''): void
    {
        try {
            AtomicFile::write(self::path(), json_encode(['at' => time(), 'workers' => $workers, 'error' => $error], JSON_THROW_ON_ERROR | JSON_INVALID_UTF8_SUBSTITUTE));
        } catch (Refusal) {
            // A full disk is said elsewhere.
        }
    }

    /**
     * Why nobody takes a bake; null: nothing is wrong.
     *
     * @param int $running bakes that are under way
     */
    public static function trouble(int $running): ?string
    {
        try {
            $noted = json_decode((string) @file_get_contents(self::path()), true, 4, JSON_THROW_ON_ERROR);
        } catch (Throwable) {
            $noted = null;
        }
        $at = is_array($noted) && is_int($noted['at'] ?? null) ? $noted['at'] : 0;

        return match (true) {
            ! is_array($noted) || $at < time() - self::GONE => 'Nobody hands it to a worker: yard:collect does not run (bin/start starts it where YARD_REMOTE is 1).',
            is_string($noted['error'] ?? null) && $noted['error'] !== '' => 'Redis or the depot cannot be reached, so no worker hears of it. It goes on by itself once they can; storage/logs says more.',
            $running === 0 && ($noted['workers'] ?? 0) === 0 => 'No worker is there. Start some on another machine: bin/work.',
            default => null,
        };
    }

    private static function path(): string
    {
        return config()->string('yard.store') . '/collecting.json';
    }
}
