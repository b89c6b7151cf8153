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
     */
    public function __construct(public string $name, public array $place, public array $turn, public array $normal, public int $triangle = -1)
    {
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['name' => $this->name, 'place' => $this->place, 'turn' => $this->turn, 'normal' => $this->normal, 'triangle' => $this->triangle];
    }

    public static function read(State $saved): self
    {
        [$x, $y, $z, $w] = [...$saved->floats('turn'), 0.0, 0.0, 0.0, 1.0];

        return new self($saved->string('name'), $saved->vector('place'), [$x, $y, $z, $w], $saved->vector('normal'), $saved->int('triangle'));
    }
}
