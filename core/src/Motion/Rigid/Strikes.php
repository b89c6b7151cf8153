<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** What else than hard bodies strikes those that wait for it, in the step under way. */
final class Strikes
{
    /** @var array<int, true> bodies that wait */
    private array $awaited = [];

    /** @var array<int, array{float, array{float, float, float}}> by body the fastest, m/s, and where */
    private array $fastest = [];

    /** @param list<int> $bodies that wait */
    public function await(array $bodies): void
    {
        [$this->awaited, $this->fastest] = [array_fill_keys($bodies, true), []];
    }

    public function isAwaited(int $body): bool
    {
        return isset($this->awaited[$body]);
    }

    /** @param array{float, float, float} $place m */
    public function note(int $body, float $speed, array $place): void
    {
        if (isset($this->awaited[$body]) && $speed > ($this->fastest[$body][0] ?? 0.0)) {
            $this->fastest[$body] = [$speed, $place];
        }
    }

    /** @return array<int, array{float, array{float, float, float}}> by body the fastest, m/s, and where, m */
    public function all(): array
    {
        return $this->fastest;
    }
}
