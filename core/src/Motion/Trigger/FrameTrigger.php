<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Trigger;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Motion\Trigger;

/** All of it lets go at once, or one after the other in no order. */
final class FrameTrigger implements Trigger
{
    /** @var array<int, float> by part */
    private array $delays = [];

    /** @param float $over frames until the last has let go */
    public function __construct(private readonly float $frame, private readonly float $over = 0.0)
    {
    }

    public function due(float $frame, array $weights): array
    {
        if ($frame < $this->frame || $this->over <= 0.0) {
            return array_fill_keys(array_keys($weights), $frame >= $this->frame);
        }
        $due = [];
        foreach ($weights as $part => $weight) {
            $due[$part] = $frame >= $this->frame + $this->delay($part);
        }

        return $due;
    }

    public function still(): array
    {
        return [$this->over];
    }

    public function threshold(int $part): ?float
    {
        return null;
    }

    public function touchSpeed(): ?float
    {
        return null;
    }

    public function touchReach(): float
    {
        return 0.0;
    }

    public function delay(int $part): float
    {
        if ($this->over <= 0.0 || $part === 0) {
            return 0.0;
        }

        return $this->delays[$part] ??= floor(($this->over + 1.0) * RandomStream::named(0, 'over', $part)->float());
    }
}
