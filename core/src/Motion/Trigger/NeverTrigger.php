<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Motion\Strike;
use YardBreak\Core\Motion\Trigger;

/** Nothing ever lets go. */
final readonly class NeverTrigger implements Trigger
{
    public function due(float $frame, array $weights): array
    {
        return array_fill_keys(array_keys($weights), false);
    }

    public function hasBegun(float $frame): bool
    {
        return false;
    }

    public function still(): array
    {
        return [];
    }

    public function threshold(int $part): ?float
    {
        return null;
    }

    public function strike(): ?Strike
    {
        return null;
    }

    public function delay(int $part): float
    {
        return 0.0;
    }
}
