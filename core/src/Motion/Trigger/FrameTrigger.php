<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Strike;
use YardBreak\Core\Motion\Trigger;

/** All of it lets go at once, or one after the other: in no order, or evenly in one. */
final class FrameTrigger implements Trigger
{
    /** @var array<int, float> by part */
    private array $delays = [];

    /**
     * @param float $over frames until the last has let go
     * @param list<int>|null $ranks how many parts let go before each; null: in no order
     */
    public function __construct(private readonly float $frame, private readonly float $over = 0.0, private readonly ?array $ranks = null)
    {
    }

    public function due(float $frame, array $weights): array
    {
        if (! $this->hasBegun($frame) || $this->over <= 0.0) {
            return array_fill_keys(array_keys($weights), $this->hasBegun($frame));
        }
        $due = [];
        foreach ($weights as $part => $weight) {
            $due[$part] = $frame >= $this->frame + $this->delay($part);
        }

        return $due;
    }

    public function hasBegun(float $frame): bool
    {
        return $frame >= $this->frame;
    }

    public function still(): array
    {
        return [$this->over, $this->ranks];
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
        if ($this->over <= 0.0) {
            return 0.0;
        }
        if ($this->ranks !== null) {
            // The last rank is that of the last to go; a hair more, so that whole frames stay whole.
            return floor($this->over * ($this->ranks[$part] ?? 0) / max(1, count($this->ranks) - 1) + 1e-9);
        }

        return $part === 0 ? 0.0 : $this->delays[$part] ??= floor(($this->over + 1.0) * RandomStream::named(0, 'over', $part)->float());
    }
}
