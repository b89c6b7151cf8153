<?php

declare(strict_types=1);

namespace Symfony\Component\Clock;

use DateTimeImmutable;

/** The system's clock. See support/polyfill/README.md. */
final class NativeClock implements ClockInterface
{
    public function now(): DateTimeImmutable
    {
        return new DateTimeImmutable();
    }

    public function sleep(float|int $seconds): void
    {
        usleep((int) ($seconds * 1e6));
    }
}
