<?php

declare(strict_types=1);

namespace Tests;

use RuntimeException;

/** Processes beside a test: on a database and a store in a folder of its own, with what they say in a log there. */
final class Processes
{
    /** How often one looks, microseconds. */
    private const AGAIN = 50_000;

    /** A port that nobody listens on. */
    public static function freePort(string $address = '127.0.0.1'): int
    {
        $socket = stream_socket_server("tcp://{$address}:0") ?: throw new RuntimeException('There is no port.');
        $name = (string) stream_socket_get_name($socket, false);
        fclose($socket);

        return (int) substr($name, (int) strrpos($name, ':') + 1);
    }

    /** @return array<string, string> what a process needs to know to run the application in a folder */
    public static function environment(string $folder): array
    {
        return ['DB_DATABASE' => "{$folder}/yard.sqlite", 'YARD_STORE' => "{$folder}/store", 'APP_ENV' => 'production'];
    }

    /**
     * @param list<string> $command
     * @param array<string, string> $environment beside that of the test
     * @param string|null $from where it runs; null: the project's root
     *
     * @return resource
     */
    public static function start(array $command, string $log, array $environment = [], ?string $from = null)
    {
        $out = ['file', $log, 'a'];

        return proc_open($command, [['file', '/dev/null', 'r'], $out, $out], $pipes, $from ?? dirname(__DIR__), $environment + getenv())
            ?: throw new RuntimeException("{$command[0]} did not start.");
    }

    /** @param resource $process */
    public static function kill($process): void
    {
        proc_terminate($process, SIGKILL);
        proc_close($process);
    }

    /**
     * @param callable(): bool $holds
     *
     * @return bool whether it came to hold in time
     */
    public static function await(callable $holds, float $seconds): bool
    {
        $end = microtime(true) + $seconds;
        while (! $holds()) {
            if (microtime(true) > $end) {
                return false;
            }
            usleep(self::AGAIN);
        }

        return true;
    }
}
