<?php

declare(strict_types=1);

namespace Symfony\Component\Clock;

use DateTimeImmutable;
use Psr\Clock\ClockInterface as PsrClock;

/** The part of Symfony's clock contract that Carbon refers to. See support/polyfill/README.md. */
interface ClockInterface extends PsrClock
{
    public function now(): DateTimeImmutable;

    public function sleep(float|int $seconds): void;
}
