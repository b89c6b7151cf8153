<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Motion\State;

/** Where nodes are on average over the last frames, and the place that each has kept to since it left its last one. */
final class Keeping
{
    /** @var array{array<int, float>, array<int, float>, array<int, float>} m */
    public array $mean = [[], [], []];

    /** @var array{array<int, float>, array<int, float>, array<int, float>} m */
    public array $place = [[], [], []];

    /** @param float $blend share of the newest frame in the average */
    public function __construct(private readonly float $blend)
    {
    }

    /** @param array{array<int, float>, array<int, float>, array<int, float>} $now places of the nodes at the end of a frame, m */
    public function follow(array $now): void
    {
        if ($this->place[0] === []) {
            $this->mean = $this->place = $now;
        }
        $by = $this->blend;
        foreach ($now as $axis => $is) {
            $this->mean[$axis] = array_map(static fn (float $mean, float $at): float => $mean + $by * ($at - $mean), $this->mean[$axis], $is);
        }
    }

    /** A node has left its place: it may keep to the one where it is now. */
    public function move(int $node): void
    {
        foreach ($this->mean as $axis => $mean) {
            $this->place[$axis][$node] = $mean[$node];
        }
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['mean' => array_merge(...$this->mean), 'place' => array_merge(...$this->place)];
    }

    public function restore(State $saved): void
    {
        [$this->mean, $this->place] = [$saved->thrice('mean'), $saved->thrice('place')];
    }
}
