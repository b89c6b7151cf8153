<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** All that was seen, in memory: for motion that is written nowhere. */
final class RememberedSightings implements Sightings
{
    /** @var array<int, Frame> by number */
    private array $frames = [];

    private int $last = 0;

    public function last(): int
    {
        return $this->last;
    }

    public function note(Frame $frame): void
    {
        $this->frames[$frame->number] = $frame;
        $this->last = $frame->number;
    }

    public function resume(int $frame): void
    {
        $this->last = $frame;
    }

    public function of(string $prop, string $kind, int $frame): ?array
    {
        return ($this->frames[$frame] ?? null)?->find($prop, $kind);
    }

    public function isLive(): bool
    {
        return true;
    }

    public function name(): string
    {
        return '';
    }
}
