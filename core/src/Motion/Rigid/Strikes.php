<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** What else than hard bodies strikes them, in the step under way: those that wait for it, and those that it stops. */
final class Strikes
{
    /** @var array<int, true> bodies that wait */
    private array $awaited = [];

    /** @var array<int, array{float, array{float, float, float}}> by body the fastest, m/s, and where */
    private array $fastest = [];

    /** @var array<int, float> by shape the hardest, N */
    private array $blows = [];

    /**
     * A step begins.
     *
     * @param list<int> $bodies that wait
     */
    public function await(array $bodies): void
    {
        [$this->awaited, $this->fastest, $this->blows] = [array_fill_keys($bodies, true), [], []];
    }

    /** @param float $force N */
    public function blow(int $shape, float $force): void
    {
        $this->blows[$shape] = max($force, $this->blows[$shape] ?? 0.0);
    }

    /** @return list<array{int, int, float}> shapes, by what is none (-1), and how hard, N */
    public function blows(): array
    {
        return array_map(static fn (int $shape, float $force): array => [$shape, -1, $force], array_keys($this->blows), array_values($this->blows));
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
