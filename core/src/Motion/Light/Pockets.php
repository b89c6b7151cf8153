<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\State;

/**
 * Light pieces that have fallen between sides of which each is too steep to bear them: together they do. Such a piece is pushed
 * from one side to the next, step by step, and gets nowhere; what has got nowhere for a while rests.
 */
final class Pockets
{
    /** So long, s. What begins to slide down a trough is faster by then than what settles. */
    private const WHILE = 1.0 / 6.0;

    /** A side is another one if it faces a way that differs by more than twenty degrees: the cosine of that. */
    private const OTHER = 0.94;

    /** So many times it must have come from one side to another: not what only slides over an edge. */
    private const TIMES = 2;

    /** In so many steps in a row nothing may touch it: it hops a little from side to side. */
    private const MISSED = 2;

    /** @var array<int, Wedged> those that are touched again and again */
    private array $pieces = [];

    /** @var array<int, list<array{string, array{float, float, float}, array{float, float, float}}>> name, normal and pull of each touch of this step */
    private array $touches = [];

    /** A step begins. */
    public function open(): void
    {
        $this->touches = [];
    }

    /** @return array<int, true> those that go from side to side, and can lie flat on none */
    public function between(): array
    {
        return array_fill_keys(array_keys(array_filter($this->pieces, static fn (Wedged $piece): bool => $piece->changes >= self::TIMES)), true);
    }

    /**
     * @param string $name of what it touched
     * @param array{float, float, float} $normal of that, unit
     * @param array{float, float, float} $pull what the piece was pulled by, m/s2
     */
    public function touched(int $piece, string $name, array $normal, array $pull): void
    {
        $this->touches[$piece][] = [$name, $normal, $pull];
    }

    /**
     * The step is over.
     *
     * @return array<int, array{list<string>, array{float, float, float}, array{float, float, float}}> of each that has got nowhere
     *   the names of what bears it, the last one last, the way that one faces, and which way is up for it
     */
    public function close(LightBodies $bodies, float $settleSpeed, float $dt): array
    {
        $pieces = $rest = [];
        foreach ($this->touches + array_fill_keys(array_keys($this->pieces), []) as $i => $touches) {
            if ($bodies->state[$i] !== LightBodies::LOOSE) {
                continue;
            }
            $place = [$bodies->x[$i], $bodies->y[$i], $bodies->z[$i]];
            $piece = $this->pieces[$i] ?? new Wedged($place, $touches[0][1]);
            $piece->steps++;
            foreach ($touches as [$name, $normal, $pull]) {
                $piece->touches($name, $normal, $pull, Vector::dot($normal, $piece->normal) < self::OTHER);
            }
            if ($piece->steps - $piece->touched > self::MISSED) {
                continue;
            }
            $pieces[$i] = $piece;
            $away = Vector::distance($place, $piece->place);
            $up = Vector::unit(Vector::times($piece->pull, -1.0));
            if ($away > $bodies->radius[$i]) {
                $pieces[$i] = new Wedged($place, $piece->normal);
            } elseif ($piece->changes >= self::TIMES && $piece->steps * $dt >= self::WHILE && $away < $settleSpeed * $piece->steps * $dt && $up !== null) {
                $rest[$i] = [$piece->sides, $piece->normal, $up];
                unset($pieces[$i]);
            }
        }
        $this->pieces = $pieces;

        return $rest;
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['numbers' => array_keys($this->pieces), 'pieces' => array_map(static fn (Wedged $piece): array => $piece->save(), array_values($this->pieces))];
    }

    public function restore(State $saved): void
    {
        $this->pieces = array_combine($saved->ints('numbers'), array_map(Wedged::read(...), $saved->parts('pieces')));
    }
}
