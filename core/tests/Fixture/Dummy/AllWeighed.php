<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture\Dummy;

use YardBreak\Core\Document\Settings;
use YardBreak\Core\Motion\Strike;
use YardBreak\Core\Motion\Trigger;
use YardBreak\Core\Stage\Kind\TriggerKind;

/** A trigger: lets go of what has any weight at all. */
final class AllWeighed implements Trigger, TriggerKind
{
    public static function make(Settings $settings, array $middles = []): Trigger
    {
        return new self();
    }

    public static function inputs(Settings $settings): array
    {
        return ['any weight'];
    }

    public static function frame(Settings $settings): ?int
    {
        return null;
    }

    public function due(float $frame, array $weights): array
    {
        return array_map(static fn (float $weight): bool => $weight > 0.0, $weights);
    }

    public function hasBegun(float $frame): bool
    {
        return false;
    }

    public function still(): array
    {
        return get_object_vars($this) === [] ? [] : array_values(get_object_vars($this));
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
