<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid\Joint;

use YardBreak\Core\Motion\Rigid\RigidBodies;
use YardBreak\Core\Motion\Rigid\RigidTuning;
use YardBreak\Core\Motion\State;

/** All joints of a world, in their order. */
final class Joints
{
    /** @var list<Joint> */
    private array $all = [];

    public function __construct(private readonly RigidBodies $bodies)
    {
    }

    public function add(Joint $joint): void
    {
        $this->all[] = $joint;
    }

    public function isEmpty(): bool
    {
        return $this->all === [];
    }

    /**
     * Readies them for a step. What sleeps is woken where the other end is moved.
     *
     * @param float $settleSpeed m/s
     */
    public function begin(float $settleSpeed): void
    {
        $fast = RigidTuning::WAKE_FACTOR * $settleSpeed;
        foreach ($this->holding() as $joint) {
            $joint->begin($this->bodies);
            foreach ([[$joint->a, $joint->b], [$joint->b, $joint->a]] as [$one, $other]) {
                if ($other->shape === null || ! $this->bodies->free[$other->body] || ! $this->bodies->isAsleep($other->body) || $one->shape === null || ! $joint->isTaut()) {
                    continue;
                }
                [$x, $y, $z] = $one->speed($this->bodies->v);
                if ($x * $x + $y * $y + $z * $z > ($this->bodies->free[$one->body] ? $fast * $fast : 0.0)) {
                    $this->bodies->wake($other->body);
                }
            }
        }
    }

    /** @return list<array{int, int}> two bodies that a joint holds together */
    public function pairs(): array
    {
        return array_map(static fn (Joint $joint): array => [$joint->a->body, $joint->b->body], $this->holding());
    }

    /**
     * Bodies that do not touch each other because a joint holds them together, or held them.
     *
     * @return array<int, bool> by both numbers, see {@see key()}: whether it still does
     */
    public function apart(): array
    {
        $apart = [];
        foreach ($this->all as $joint) {
            if (! $joint->touch && $joint->a->shape !== null && $joint->b->shape !== null) {
                $key = self::key($this->bodies->bodyOf($joint->a->shape), $this->bodies->bodyOf($joint->b->shape));
                $apart[$key] = $joint->holds || ($apart[$key] ?? false);
            }
        }

        return $apart;
    }

    /** Of two bodies, in either order. */
    public static function key(int $a, int $b): int
    {
        return $a < $b ? $a << 20 | $b : $b << 20 | $a;
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $moved
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    public function warmStart(array &$v, array $moved, array $im, array $ii): void
    {
        foreach ($this->holding() as $joint) {
            $joint->follow($this->bodies, $moved);
            $joint->warmStart($v, $im, $ii);
        }
    }

    /**
     * @param array<int, float> $v
     * @param array<int, float> $moved
     * @param array<int, float> $im
     * @param array<int, float> $ii
     */
    public function solve(array &$v, array $moved, array $im, array $ii, float $h, bool $push): void
    {
        foreach ($this->holding() as $joint) {
            if (! $push) {
                $joint->follow($this->bodies, $moved);
            }
            $joint->solve($v, $im, $ii, $h, $push);
        }
    }

    /** Breaks what was pulled too hard in a step; what it held is woken. */
    public function end(float $dt): void
    {
        foreach ($this->holding() as $joint) {
            $joint->end($dt);
            if ($joint->force > $joint->strength) {
                $this->cut($joint);
            }
        }
    }

    public function cut(Joint $joint): void
    {
        if (! $joint->holds) {
            return;
        }
        $joint->holds = false;
        foreach ([$joint->a, $joint->b] as $end) {
            if ($end->shape !== null) {
                $this->bodies->wake($this->bodies->bodyOf($end->shape));
            }
        }
    }

    /** @return array{holds: list<bool>, given: list<float>, count: list<int>} */
    public function save(): array
    {
        $given = array_map(static fn (Joint $joint): array => $joint->save(), $this->all);

        return ['holds' => array_map(static fn (Joint $joint): bool => $joint->holds, $this->all), 'given' => array_merge([], ...$given), 'count' => array_map(count(...), $given)];
    }

    public function restore(State $saved): void
    {
        $given = $saved->floats('given');
        $holds = $saved->bools('holds');
        $from = 0;
        foreach ($saved->ints('count') as $k => $count) {
            $this->all[$k]->holds = $holds[$k];
            $this->all[$k]->restore(array_slice($given, $from, $count));
            $from += $count;
        }
    }

    /** @return list<Joint> */
    private function holding(): array
    {
        return array_values(array_filter($this->all, static fn (Joint $joint): bool => $joint->holds));
    }
}
