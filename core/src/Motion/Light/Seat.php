<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Motion\State;

/** Where a piece lies on something that may move. */
final readonly class Seat
{
    /**
     * @param string $name of the collider
     * @param array{float, float, float} $place in the collider's axes; on a triangle, as {@see BentContact} has it
     * @param array{float, float, float, float} $turn
     * @param array{float, float, float} $normal outward, unit
     * @param int $triangle of a surface that bends; -1: it does not
     * @param list<string> $sides names of others that bear it together with this one, which would not alone
     * @param array{float, float, float}|null $up if so, which way is up for it, in the world, unit
     */
    public function __construct(public string $name, public array $place, public array $turn, public array $normal, public int $triangle = -1, public array $sides = [], public ?array $up = null)
    {
    }

    /**
     * The same in a pocket.
     *
     * @param list<string> $sides
     * @param array{float, float, float} $up
     */
    public function between(array $sides, array $up): self
    {
        return new self($this->name, $this->place, $this->turn, $this->normal, $this->triangle, $sides, $up);
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['name' => $this->name, 'place' => $this->place, 'turn' => $this->turn, 'normal' => $this->normal, 'triangle' => $this->triangle, ...$this->up === null ? [] : ['sides' => $this->sides, 'up' => $this->up]];
    }

    public static function read(State $saved): self
    {
        [$x, $y, $z, $w] = [...$saved->floats('turn'), 0.0, 0.0, 0.0, 1.0];

        $seat = new self($saved->string('name'), $saved->vector('place'), [$x, $y, $z, $w], $saved->vector('normal'), $saved->int('triangle'));

        return $saved->has('up') ? $seat->between($saved->strings('sides'), $saved->vector('up')) : $seat;
    }
}
