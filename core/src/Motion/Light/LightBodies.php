<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Motion\State;

/** Where light pieces are, how they move and what they lie on: a row a piece. */
final class LightBodies
{
    public const HELD = 0;

    public const LOOSE = 1;

    public const RESTING = 2;

    public const GONE = 3;

    /** @var array<int, LightPiece> */
    public array $pieces = [];

    /** @var array<int, float> */
    public array $x = [];

    /** @var array<int, float> */
    public array $y = [];

    /** @var array<int, float> */
    public array $z = [];

    /** @var array<int, float> m/s */
    public array $u = [];

    /** @var array<int, float> */
    public array $v = [];

    /** @var array<int, float> */
    public array $w = [];

    /** @var array<int, array{float, float, float, float}> */
    public array $turn = [];

    /** @var array<int, int> */
    public array $state = [];

    /** @var array<int, Seat> what those lie on that rest, where that is no floor */
    public array $seats = [];

    public function add(LightPiece $piece): int
    {
        $this->pieces[] = $piece;
        $this->x[] = $this->y[] = $this->z[] = 0.0;
        $this->u[] = $this->v[] = $this->w[] = 0.0;
        $this->turn[] = [0.0, 0.0, 0.0, 1.0];
        $this->state[] = self::HELD;

        return count($this->pieces) - 1;
    }

    /** @return list<int> that are on their way */
    public function loose(): array
    {
        return array_keys($this->state, self::LOOSE, true);
    }

    /** It lies no longer; it has the speed of what it lay on. */
    public function rouse(int $piece): void
    {
        unset($this->seats[$piece]);
        $this->state[$piece] = self::LOOSE;
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return [
            'x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'u' => $this->u, 'v' => $this->v, 'w' => $this->w,
            'turn' => $this->turn === [] ? [] : array_merge(...$this->turn), 'state' => $this->state,
            'seats' => array_map(static fn (Seat $seat): array => $seat->save(), $this->seats),
        ];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->u, $this->v, $this->w] = [$saved->floats('u'), $saved->floats('v'), $saved->floats('w')];
        $this->state = $saved->ints('state');
        $this->turn = [];
        foreach (array_chunk($saved->floats('turn'), 4) as [$x, $y, $z, $w]) {
            $this->turn[] = [$x, $y, $z, $w];
        }
        $this->seats = array_map(Seat::read(...), $saved->parts('seats'));
    }
}
