<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\State;

/** Bodies that something that bends touches, and may carry: they come to rest on it, and fall where it lets them go. */
final class Carried
{
    /** What is not touched for so many steps is not carried any more. */
    private const LET_GO = 2;

    /** @var array<int, int> by body, for how many steps it has not been touched */
    private array $steps = [];

    public function touch(int $body): void
    {
        $this->steps[$body] = 0;
    }

    public function has(int $body): bool
    {
        return isset($this->steps[$body]);
    }

    /** Something hard carries it. */
    public function leave(int $body): void
    {
        unset($this->steps[$body]);
    }

    /**
     * A step begins.
     *
     * @return list<int> bodies that are carried no more
     */
    public function pass(): array
    {
        $gone = array_keys(array_filter($this->steps, static fn (int $steps): bool => $steps >= self::LET_GO));
        $this->steps = array_map(static fn (int $steps): int => $steps + 1, array_diff_key($this->steps, array_flip($gone)));

        return $gone;
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['bodies' => array_keys($this->steps), 'steps' => array_values($this->steps)];
    }

    public function restore(State $saved): void
    {
        $this->steps = array_combine($saved->ints('bodies'), $saved->ints('steps'));
    }
}
