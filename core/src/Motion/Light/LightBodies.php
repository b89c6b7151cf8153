<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Motion\State;

/** Where light pieces are, how they move and what they lie on: a row a piece, in flat lists, which are many times as fast to go through. */
final class LightBodies
{
    /** On earth, m/s2: what falling speeds are given for. */
    private const EARTH = 9.80665;

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

    /** @var array<int, float> rotation, a unit quaternion */
    public array $qx = [];

    /** @var array<int, float> */
    public array $qy = [];

    /** @var array<int, float> */
    public array $qz = [];

    /** @var array<int, float> */
    public array $qw = [];

    /** @var array<int, float> of the pieces: from the centre to the farthest corner, m */
    public array $radius = [];

    /** @var array<int, float> half of it, m */
    public array $thickness = [];

    /** @var array<int, float> speed through still air, m/s */
    public array $fallSpeed = [];

    /** @var array<int, float> what the air takes, for each m/s through it, 1/m */
    public array $drag = [];

    /** @var array<int, float> rad/s at the falling speed */
    public array $tumble = [];

    /** @var array<int, float> */
    public array $friction = [];

    /** @var array<int, float> share of the wind that reaches it where it lies on a floor */
    public array $exposure = [];

    /** @var array<int, float> axis it tumbles about, in the world */
    public array $spinX = [];

    /** @var array<int, float> */
    public array $spinY = [];

    /** @var array<int, float> */
    public array $spinZ = [];

    /** @var array<int, int> */
    public array $state = [];

    /** @var array<int, Seat> what those lie on that rest, where that is no floor */
    public array $seats = [];

    /** @var array<int, true> those that nothing lays flat in this step any more: among several things the first does, or they would turn over for ever */
    public array $laid = [];

    public function add(LightPiece $piece): int
    {
        $number = count($this->pieces);
        $this->pieces[] = $piece;
        $this->x[] = $this->y[] = $this->z[] = 0.0;
        $this->u[] = $this->v[] = $this->w[] = 0.0;
        $this->qx[] = $this->qy[] = $this->qz[] = 0.0;
        $this->qw[] = 1.0;
        $this->state[] = self::HELD;
        $this->radius[] = $piece->radius;
        $this->thickness[] = $piece->thickness;
        $this->fallSpeed[] = $piece->fallSpeed;
        $this->drag[] = self::EARTH / ($piece->fallSpeed * $piece->fallSpeed);
        $this->tumble[] = $piece->tumble;
        $this->friction[] = $piece->friction;
        // What sticks stays, however hard it blows.
        $this->exposure[] = $piece->sticks ? 0.0 : $piece->exposure;
        [$this->spinX[], $this->spinY[], $this->spinZ[]] = $piece->spinAxis;

        return $number;
    }

    /** @param array{float, float, float} $scale of what it is now */
    public function resize(int $piece, array $scale): void
    {
        $scaled = $this->pieces[$piece]->scaled($scale);
        $this->pieces[$piece] = $scaled;
        $this->radius[$piece] = $scaled->radius;
        $this->thickness[$piece] = $scaled->thickness;
    }

    /** @return array{float, float, float, float} */
    public function turn(int $piece): array
    {
        return [$this->qx[$piece], $this->qy[$piece], $this->qz[$piece], $this->qw[$piece]];
    }

    /** @return list<float> place and turn of some that follow each other, seven numbers each */
    public function poses(int $first, int $count): array
    {
        [$x, $y, $z] = [$this->x, $this->y, $this->z];
        [$qx, $qy, $qz, $qw] = [$this->qx, $this->qy, $this->qz, $this->qw];
        $poses = [];
        for ($i = $first, $end = $first + $count; $i < $end; $i++) {
            $poses[] = $x[$i];
            $poses[] = $y[$i];
            $poses[] = $z[$i];
            $poses[] = $qx[$i];
            $poses[] = $qy[$i];
            $poses[] = $qz[$i];
            $poses[] = $qw[$i];
        }

        return $poses;
    }

    /** @return int how many of some that follow each other are on their way faster than so */
    public function faster(int $first, int $count, float $speed): int
    {
        [$state, $u, $v, $w] = [$this->state, $this->u, $this->v, $this->w];
        $faster = 0;
        for ($i = $first, $end = $first + $count; $i < $end; $i++) {
            if ($state[$i] === self::LOOSE && sqrt($u[$i] * $u[$i] + $v[$i] * $v[$i] + $w[$i] * $w[$i]) > $speed) {
                $faster++;
            }
        }

        return $faster;
    }

    /** @param array{float, float, float, float} $turn */
    public function turnTo(int $piece, array $turn): void
    {
        [$this->qx[$piece], $this->qy[$piece], $this->qz[$piece], $this->qw[$piece]] = $turn;
    }

    /** @return list<int> that are on their way */
    public function loose(): array
    {
        return array_keys($this->state, self::LOOSE, true);
    }

    /** @return list<int> that are on their way, or lie somewhere */
    public function free(): array
    {
        $free = [];
        foreach ($this->state as $i => $state) {
            if ($state === self::LOOSE || $state === self::RESTING) {
                $free[] = $i;
            }
        }

        return $free;
    }

    /**
     * @param list<int> $some
     * @param list<int> $group of all
     *
     * @return array{list<float>, list<float>, list<float>, list<int>} places of some, x, y and z, and their groups
     */
    public function of(array $some, array $group): array
    {
        [$ax, $ay, $az] = [$this->x, $this->y, $this->z];
        $x = $y = $z = $groups = [];
        foreach ($some as $i) {
            $x[] = $ax[$i];
            $y[] = $ay[$i];
            $z[] = $az[$i];
            $groups[] = $group[$i];
        }

        return [$x, $y, $z, $groups];
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
        $turn = [];
        foreach ($this->qx as $i => $x) {
            array_push($turn, $x, $this->qy[$i], $this->qz[$i], $this->qw[$i]);
        }

        return [
            'x' => $this->x, 'y' => $this->y, 'z' => $this->z, 'u' => $this->u, 'v' => $this->v, 'w' => $this->w,
            'turn' => $turn, 'state' => $this->state,
            'seats' => array_map(static fn (Seat $seat): array => $seat->save(), $this->seats),
        ];
    }

    public function restore(State $saved): void
    {
        [$this->x, $this->y, $this->z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        [$this->u, $this->v, $this->w] = [$saved->floats('u'), $saved->floats('v'), $saved->floats('w')];
        $this->state = $saved->ints('state');
        $this->qx = $this->qy = $this->qz = $this->qw = [];
        foreach (array_chunk($saved->floats('turn'), 4) as [$x, $y, $z, $w]) {
            $this->qx[] = $x;
            $this->qy[] = $y;
            $this->qz[] = $z;
            $this->qw[] = $w;
        }
        $this->seats = array_map(Seat::read(...), $saved->parts('seats'));
    }
}
