<?php

declare(strict_types=1);

namespace App\Support;

use Illuminate\Support\Str;

/**
 * Names a process so that others on the same machine can see whether it still lives: machine, process number, when it was
 * started (numbers are used again), and something random, since one worker takes many bakes.
 */
final class WorkerId
{
    public static function own(): string
    {
        $pid = (int) getmypid();

        return self::machine() . "|{$pid}|" . self::startOf($pid) . '|' . Str::random(8);
    }

    /** Whether the process is one of this machine and lives; null: it is another machine's, so only its lease can tell. */
    public static function lives(string $id): ?bool
    {
        [$machine, $pid, $start] = [...explode('|', $id), '', '', ''];
        if ($machine !== self::machine() || ! is_dir('/proc/self')) {
            return null;
        }

        return $start !== '' && self::startOf((int) $pid) === $start;
    }

    private static function machine(): string
    {
        // Containers may share a name, but not this.
        return substr(hash('sha256', gethostname() . @file_get_contents('/proc/sys/kernel/random/boot_id') . @readlink('/proc/self/ns/pid')), 0, 12);
    }

    /** When a process was started, in ticks since boot; empty if it is gone or only its parent has not noticed yet. */
    private static function startOf(int $pid): string
    {
        $stat = @file_get_contents("/proc/{$pid}/stat");
        if ($stat === false) {
            return '';
        }
        // The name, in brackets, may hold spaces.
        $fields = explode(' ', substr($stat, (int) strrpos($stat, ')') + 2));

        return $fields[0] === 'Z' ? '' : ($fields[19] ?? '');
    }
}
