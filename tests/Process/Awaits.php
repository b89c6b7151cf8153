<?php

declare(strict_types=1);

namespace Tests\Process;

use Tests\Processes;

/** Waiting for what processes beside a test do; where it is in vain, their logs are shown. */
trait Awaits
{
    /**
     * @param callable(): bool $holds
     * @param float $seconds after which nothing is to be expected any more: on a machine that has eight things to do at once a minute was too short
     */
    private function until(callable $holds, string $what, float $seconds = 180.0): void
    {
        if (! Processes::await($holds, $seconds)) {
            self::fail("Waited in vain for {$what}: " . implode("\n", array_map(static fn (string $log): string => (string) file_get_contents($log), glob("{$this->folder}/*.log") ?: [])));
        }
    }
}
