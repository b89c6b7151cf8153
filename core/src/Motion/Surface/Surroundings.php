<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Touch;

/** What acted on parts when they began to settle, and what was near those that sleep: whether it still does, and is. */
final class Surroundings
{
    /** So much more or less hold or length is nothing. */
    public const OTHERWISE = 0.005;

    /** Where hold stands among what acts: pushes are before it. */
    private const HOLD = 6;

    /** @var list<array<int, float>> what acted on each node: acceleration, speed of the air, hold, and more */
    private array $acted = [];

    /** @var array<int, list<string>> the names of what was near each sleeper */
    private array $company = [];

    public function __construct(private readonly Connected $nodes)
    {
    }

    /**
     * @param list<array{array<int, float>, float}> $acts on each node now, and how much more or less of it is nothing
     * @param array<int, mixed> $settled parts that have begun to settle
     *
     * @return list<int> those of them on which something acts otherwise than when they did
     */
    public function feel(array $acts, array $settled): array
    {
        $roused = [];
        if ($settled !== [] && count($acts) !== count($this->acted)) {
            // Something acts that did not act at all.
            $roused = $settled;
            $settled = [];
        }
        if ($settled === []) {
            $this->acted = array_column($acts, 0);

            return array_keys($roused);
        }
        foreach ($acts as $k => [$of, $most]) {
            $before = $this->acted[$k];
            foreach ($this->nodes->part as $i => $part) {
                // Pushes do the less the more a node is held.
                if (isset($settled[$part]) && abs($of[$i] - $before[$i]) * ($k < self::HOLD ? 1.0 - $acts[self::HOLD][0][$i] : 1.0) > $most) {
                    $roused[$part] = true;
                    unset($settled[$part]);
                }
            }
        }
        foreach ($acts as $k => [$of]) {
            foreach ($this->nodes->part as $i => $part) {
                if (! isset($settled[$part])) {
                    $this->acted[$k][$i] = $of[$i];
                }
            }
        }

        return array_keys($roused);
    }

    /**
     * @param array<int, array{float, float, float, float, float, float}> $sleepers the box around each
     * @param list<Collider> $colliders
     * @param float $reach m
     * @param float $dt s
     *
     * @return list<int> sleepers near to which something moves, or is no more
     */
    public function meet(array $sleepers, array $colliders, float $reach, float $dt): array
    {
        $company = array_fill_keys(array_keys($sleepers), []);
        $roused = [];
        foreach ($colliders as $collider) {
            [[$x, $y, $z], $radius] = $collider->ball();
            $travel = $collider->travel($dt);
            foreach ($sleepers as $part => $box) {
                if (self::near($box, [$x, $y, $z, $x, $y, $z], $radius + $reach + $travel)) {
                    $company[$part][] = $collider->name();
                    if ($travel > 0.0) {
                        $roused[$part] = true;
                    } else {
                        $collider->push(Touch::still());
                    }
                }
            }
        }
        foreach ($company as $part => $names) {
            if (($this->company[$part] ?? $names) !== $names) {
                $roused[$part] = true;
            }
            $this->company[$part] = $names;
        }

        return array_keys($roused);
    }

    /**
     * @param array{float, float, float, float, float, float} $one low corner, high corner
     * @param array{float, float, float, float, float, float} $other
     */
    public static function near(array $one, array $other, float $reach): bool
    {
        foreach ([0, 1, 2] as $axis) {
            if ($other[$axis] > $one[$axis + 3] + $reach || $other[$axis + 3] < $one[$axis] - $reach) {
                return false;
            }
        }

        return true;
    }

    /** A part has woken: what was near it does not matter any more. */
    public function forget(int $part): void
    {
        unset($this->company[$part]);
    }

    /** @return array<int, true> parts that are held, but not all over */
    public function hanging(): array
    {
        $held = $free = [];
        foreach ($this->acted[self::HOLD] ?? [] as $i => $hold) {
            if ($hold > 0.0) {
                $held[$this->nodes->part[$i]] = true;
            }
            if ($hold < 1.0) {
                $free[$this->nodes->part[$i]] = true;
            }
        }

        return array_intersect_key($held, $free);
    }

    /**
     * @param bool $settled whether any part has begun to settle: else what acts is noted anew before it is asked for
     *
     * @return array<string, mixed>
     */
    public function save(bool $settled): array
    {
        [$parts, $names] = [[], []];
        foreach ($this->company as $part => $near) {
            foreach ($near as $name) {
                $parts[] = $part;
                $names[] = $name;
            }
        }

        return ['acted' => $settled ? array_merge(...$this->acted) : [], 'met' => array_keys($this->company), 'companyOf' => $parts, 'company' => $names];
    }

    public function restore(State $saved): void
    {
        $this->acted = array_chunk($saved->floats('acted'), max(1, count($this->nodes->part)));
        $this->company = array_fill_keys($saved->ints('met'), []);
        $names = $saved->strings('company');
        foreach ($saved->ints('companyOf') as $k => $part) {
            $this->company[$part][] = $names[$k];
        }
    }
}
