<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\State;

/**
 * Rigid bodies and the convex shapes they carry, as flat arrays: a body may carry one shape or many (a prop that has not let
 * go of its pieces), and shapes can move to bodies of their own. Body 0 is the floor. The arrays are open to the solver's
 * parts, which work on them in hot loops; everyone else uses the methods.
 */
final class RigidBodies
{
    public const FLOOR = 0;

    /** @var array<int, float> three numbers a body: centre of mass */
    public array $p = [];

    /** @var array<int, float> four numbers a body */
    public array $q = [];

    /** @var array<int, float> six numbers a body: velocity, spin */
    public array $v = [];

    /** @var array<int, float> nine numbers a body */
    public array $rotation = [];

    /** @var array<int, float> */
    public array $mass = [];

    /** @var array<int, float> six numbers a body, in its own axes */
    public array $inertia = [];

    /** @var array<int, float> */
    public array $inverse = [];

    /** @var array<int, bool> */
    public array $free = [];

    /** @var array<int, bool> */
    public array $asleep = [];

    /** @var array<int, array{float, float, float}> how fast driven bodies grow along their own axes in this step, 1/s */
    public array $growth = [];

    /** How much of the step has gone by, s. */
    public float $elapsed = 0.0;

    public readonly Carried $carried;

    public readonly Strikes $strikes;

    /** @var array<int, float> for how long it has been slow, s */
    public array $slow = [];

    /** @var array<int, float> seven numbers a body: place and turn since which it has stayed close */
    public array $anchor = [];

    /** @var array<int, float> farthest shape point from the centre */
    public array $bodyRadius = [];

    /** @var array<int, ConvexHull> */
    public array $hull = [];

    /** @var array<int, int> */
    public array $shapeBody = [];

    /** @var array<int, float> three numbers a shape: its centre in the body's axes */
    public array $offset = [];

    /** @var array<int, int> */
    public array $group = [];

    /** @var array<int, float> how far two of a group must move from where they were in each other before they feel each other, m */
    public array $siblings = [];

    /** @var array<int, float> three numbers a shape: where it was in its group before that came apart */
    public array $home = [];

    /** @var array<int, float> */
    public array $friction = [];

    /** @var array<int, float> */
    public array $bounce = [];

    /** @var array<int, float> centres of the shapes in the world */
    public array $cx = [];

    /** @var array<int, float> */
    public array $cy = [];

    /** @var array<int, float> */
    public array $cz = [];

    /** @var array<int, bool> shapes that got another body since the last step: impulses meant for the old body's mass would hurl the new one away */
    public array $handedOver = [];

    /** @var array<int, true> shapes that have another hull since contacts were last looked for */
    public array $refitted = [];

    public function __construct()
    {
        $this->carried = new Carried();
        $this->strikes = new Strikes();
        $this->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]), [0.0, 0.0, 0.0], Quaternion::IDENTITY, false);
    }

    /**
     * @param array{float, float, float} $place of the centre of mass
     * @param array{float, float, float, float} $turn
     * @param bool $free false: it goes where it is driven, whatever it hits
     */
    public function addBody(Inertia $inertia, array $place, array $turn, bool $free = true): int
    {
        $b = count($this->mass);
        $this->mass[$b] = $inertia->mass;
        $this->setInertia($b, $inertia);
        array_push($this->p, ...$place);
        array_push($this->q, ...$turn);
        array_push($this->v, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0);
        array_push($this->rotation, ...Quaternion::matrix($turn));
        $this->free[$b] = $free;
        $this->asleep[$b] = false;
        $this->slow[$b] = 0.0;
        array_push($this->anchor, ...$place, ...$turn);
        $this->bodyRadius[$b] = 0.0;

        return $b;
    }

    /**
     * @param array{float, float, float} $offset of the shape's centre from the body's, in the body's axes
     * @param int $group shapes of one group are siblings: they may keep the overlap they start with
     * @param float $siblings how far two of the group must move from where they were in each other before they feel each other, m
     */
    public function addShape(int $body, ConvexHull $hull, array $offset, int $group, float $friction, float $bounce, float $siblings = 0.0): int
    {
        $s = count($this->hull);
        $this->siblings[$s] = $siblings;
        array_push($this->home, ...$offset);
        $this->hull[$s] = $hull;
        $this->group[$s] = $group;
        $this->friction[$s] = $friction;
        $this->bounce[$s] = $bounce;
        $this->shapeBody[$s] = $body;
        array_push($this->offset, ...$offset);
        $this->cx[$s] = $this->cy[$s] = $this->cz[$s] = 0.0;
        $this->bodyRadius[$body] = max(
            $this->bodyRadius[$body],
            sqrt($offset[0] ** 2 + $offset[1] ** 2 + $offset[2] ** 2) + $hull->radius,
        );

        return $s;
    }

    /**
     * Says where a shape is in its group while that is whole.
     *
     * @param array{float, float, float} $place in axes that all shapes of the group share
     */
    public function standsAt(int $shape, array $place): void
    {
        [$this->home[3 * $shape], $this->home[3 * $shape + 1], $this->home[3 * $shape + 2]] = $place;
    }

    /**
     * Gives a shape another body (at the same place) and a new offset in it.
     *
     * @param array{float, float, float} $offset
     */
    public function moveShape(int $shape, int $body, array $offset): void
    {
        if ($this->shapeBody[$shape] !== $body) {
            $this->handedOver[$shape] = true;
        }
        $this->shapeBody[$shape] = $body;
        [$this->offset[3 * $shape], $this->offset[3 * $shape + 1], $this->offset[3 * $shape + 2]] = $offset;
        $this->bodyRadius[$body] = max(
            $this->bodyRadius[$body],
            sqrt($offset[0] ** 2 + $offset[1] ** 2 + $offset[2] ** 2) + $this->hull[$shape]->radius,
        );
    }

    /** Mass, inertia and centre after shapes came or went; the centre moves to $place, the velocity there is kept. */
    public function reshapeBody(int $body, Inertia $inertia): void
    {
        $this->mass[$body] = $inertia->mass;
        $this->setInertia($body, $inertia);
    }

    private function setInertia(int $b, Inertia $inertia): void
    {
        foreach ($inertia->widened() as $k => $value) {
            $this->inertia[6 * $b + $k] = $value;
        }
        foreach ($inertia->inverse() as $k => $value) {
            $this->inverse[6 * $b + $k] = $value;
        }
    }

    /**
     * @param array{float, float, float} $place
     * @param array{float, float, float, float} $turn
     */
    public function place(int $body, array $place, array $turn): void
    {
        [$this->p[3 * $body], $this->p[3 * $body + 1], $this->p[3 * $body + 2]] = $place;
        [$this->q[4 * $body], $this->q[4 * $body + 1], $this->q[4 * $body + 2], $this->q[4 * $body + 3]] = $turn;
        foreach (Quaternion::matrix($turn) as $k => $value) {
            $this->rotation[9 * $body + $k] = $value;
        }
    }

    /**
     * @param array{float, float, float} $velocity m/s, of the centre of mass
     * @param array{float, float, float} $spin rad/s
     */
    public function setVelocity(int $body, array $velocity, array $spin): void
    {
        foreach ([...$velocity, ...$spin] as $k => $value) {
            $this->v[6 * $body + $k] = $value;
        }
    }

    /**
     * Sends a body that is driven on its way: from one pose to another in the coming step.
     *
     * @param array{array{float, float, float}, array{float, float, float, float}} $from
     * @param array{array{float, float, float}, array{float, float, float, float}} $to
     * @param float $dt s
     */
    public function drive(int $body, array $from, array $to, float $dt): void
    {
        [$place, $turn] = $from;
        [$goal, $next] = $to;
        $this->place($body, $place, $turn);
        $delta = Quaternion::multiply($next, Quaternion::conjugate($turn));
        $sine = sqrt($delta[0] ** 2 + $delta[1] ** 2 + $delta[2] ** 2);
        $angle = 2.0 * atan2($sine, $delta[3]);
        if ($angle > M_PI) {
            $angle -= 2.0 * M_PI;
        }
        $s = $sine > 1e-12 ? $angle / ($sine * $dt) : 0.0;
        $this->setVelocity(
            $body,
            [($goal[0] - $place[0]) / $dt, ($goal[1] - $place[1]) / $dt, ($goal[2] - $place[2]) / $dt],
            [$delta[0] * $s, $delta[1] * $s, $delta[2] * $s],
        );
    }

    /**
     * Says how fast a driven body grows in the coming step.
     *
     * @param array{float, float, float} $was size at its beginning, along the body's axes
     * @param array{float, float, float} $will and at its end
     * @param float $dt s
     */
    public function growFrom(int $body, array $was, array $will, float $dt): void
    {
        unset($this->growth[$body]);
        if ($was !== $will) {
            $this->growth[$body] = [($will[0] / $was[0] - 1.0) / $dt, ($will[1] / $was[1] - 1.0) / $dt, ($will[2] / $was[2] - 1.0) / $dt];
        }
    }

    /**
     * Gives a shape of a body another hull.
     *
     * @param array{float, float, float} $offset of its centre from the body's, in the body's axes
     */
    public function fitShape(int $shape, ConvexHull $hull, array $offset): void
    {
        $this->hull[$shape] = $hull;
        $this->refitted[$shape] = true;
        $this->moveShape($shape, $this->shapeBody[$shape], $offset);
    }

    /**
     * How fast a place of a body moves because the body grows.
     *
     * @param array{float, float, float} $arm from its centre, in the world's axes
     *
     * @return array{float, float, float} m/s
     */
    public function growthAt(int $body, array $arm): array
    {
        [$gx, $gy, $gz] = $this->growth[$body] ?? [0.0, 0.0, 0.0];
        $turn = $this->turnOf($body);
        [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate($turn), $arm);

        return Quaternion::rotate($turn, [$gx * $x, $gy * $y, $gz * $z]);
    }

    /** @return array{array{float, float, float}, array{float, float, float}} velocity and spin */
    public function velocity(int $body): array
    {
        $o = 6 * $body;

        return [
            [$this->v[$o], $this->v[$o + 1], $this->v[$o + 2]],
            [$this->v[$o + 3], $this->v[$o + 4], $this->v[$o + 5]],
        ];
    }

    /** @return array<int, array{array{float, float, float}, array{float, float, float}}> velocity and spin by body */
    public function freeVelocities(): array
    {
        $velocities = [];
        foreach ($this->free as $body => $free) {
            if ($free) {
                $velocities[$body] = $this->velocity($body);
            }
        }

        return $velocities;
    }

    /** @return array{float, float, float} */
    public function placeOf(int $body): array
    {
        return [$this->p[3 * $body], $this->p[3 * $body + 1], $this->p[3 * $body + 2]];
    }

    /** @return array{float, float, float, float} */
    public function turnOf(int $body): array
    {
        $k = 4 * $body;

        return [$this->q[$k], $this->q[$k + 1], $this->q[$k + 2], $this->q[$k + 3]];
    }

    /**
     * Where a body is within a step: what is free is moved on at each substep, what is driven only at the end.
     *
     * @return array{array{float, float, float}, array{float, float, float, float}}
     */
    public function poseNow(int $body): array
    {
        $place = $this->placeOf($body);
        $turn = $this->turnOf($body);
        if ($this->free[$body] || $this->elapsed === 0.0) {
            return [$place, $turn];
        }

        return $this->drivenPose($body, $this->elapsed);
    }

    /**
     * Where a driven body is after a while.
     *
     * @return array{array{float, float, float}, array{float, float, float, float}}
     */
    public function drivenPose(int $body, float $dt): array
    {
        [$velocity, $spin] = $this->velocity($body);
        $place = $this->placeOf($body);
        $turn = $this->turnOf($body);
        $speed = sqrt($spin[0] ** 2 + $spin[1] ** 2 + $spin[2] ** 2);
        if ($speed > 0.0) {
            $axis = [$spin[0] / $speed, $spin[1] / $speed, $spin[2] / $speed];
            $turn = Quaternion::normalized(Quaternion::multiply(Quaternion::aboutAxis($axis, $speed * $dt), $turn));
        }

        return [[$place[0] + $dt * $velocity[0], $place[1] + $dt * $velocity[1], $place[2] + $dt * $velocity[2]], $turn];
    }

    public function setFree(int $body, bool $free): void
    {
        $this->free[$body] = $free;
        $this->wake($body);
    }

    /** @return array{float, float, float} centre of a shape in the world */
    public function shapePlace(int $shape): array
    {
        return $this->pointOf($this->shapeBody[$shape], [$this->offset[3 * $shape], $this->offset[3 * $shape + 1], $this->offset[3 * $shape + 2]]);
    }

    /**
     * Where a point of a body is.
     *
     * @param array{float, float, float} $offset from the body's centre, in its axes
     *
     * @return array{float, float, float}
     */
    public function pointOf(int $body, array $offset): array
    {
        $r = 9 * $body;
        [$x, $y, $z] = $offset;

        return [
            $this->p[3 * $body] + $this->rotation[$r] * $x + $this->rotation[$r + 1] * $y + $this->rotation[$r + 2] * $z,
            $this->p[3 * $body + 1] + $this->rotation[$r + 3] * $x + $this->rotation[$r + 4] * $y + $this->rotation[$r + 5] * $z,
            $this->p[3 * $body + 2] + $this->rotation[$r + 6] * $x + $this->rotation[$r + 7] * $y + $this->rotation[$r + 8] * $z,
        ];
    }

    public function bodyOf(int $shape): int
    {
        return $this->shapeBody[$shape];
    }

    public function isAsleep(int $body): bool
    {
        return $this->asleep[$body];
    }

    /**
     * How a body's spin changes by an angular impulse.
     *
     * @param array{float, float, float} $moment about its centre, N m s, in the world
     *
     * @return array{float, float, float} rad/s
     */
    public function turnedBy(int $body, array $moment): array
    {
        $turn = $this->turnOf($body);
        [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate($turn), $moment);
        $o = 6 * $body;

        return Quaternion::rotate($turn, [
            $this->inverse[$o] * $x + $this->inverse[$o + 3] * $y + $this->inverse[$o + 5] * $z,
            $this->inverse[$o + 3] * $x + $this->inverse[$o + 1] * $y + $this->inverse[$o + 4] * $z,
            $this->inverse[$o + 5] * $x + $this->inverse[$o + 4] * $y + $this->inverse[$o + 2] * $z,
        ]);
    }

    /** Kinetic energy of a body, J. */
    public function kineticEnergy(int $body): float
    {
        if ($this->asleep[$body]) {
            return 0.0;
        }
        [$velocity, $spin] = $this->velocity($body);
        [$x, $y, $z] = Quaternion::rotate(Quaternion::conjugate($this->turnOf($body)), $spin);
        $o = 6 * $body;

        return 0.5 * $this->mass[$body] * ($velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2)
            + 0.5 * ($x * ($this->inertia[$o] * $x + $this->inertia[$o + 3] * $y + $this->inertia[$o + 5] * $z)
                + $y * ($this->inertia[$o + 3] * $x + $this->inertia[$o + 1] * $y + $this->inertia[$o + 4] * $z)
                + $z * ($this->inertia[$o + 5] * $x + $this->inertia[$o + 4] * $y + $this->inertia[$o + 2] * $z));
    }

    public function wake(int $body): void
    {
        $this->asleep[$body] = false;
        $this->slow[$body] = 0.0;
    }

    /** A step begins: what slept on something that bends, and is not touched any more, wakes. */
    public function fall(): void
    {
        foreach ($this->carried->pass() as $body) {
            if ($this->asleep[$body]) {
                $this->wake($body);
            }
        }
    }

    public function sleep(int $body): void
    {
        $this->asleep[$body] = true;
        for ($k = 6 * $body; $k < 6 * $body + 6; $k++) {
            $this->v[$k] = 0.0;
        }
    }

    /** @param list<int> $bodies */
    public function refreshRotations(array $bodies): void
    {
        foreach ($bodies as $b) {
            $k = 4 * $b;
            $x = $this->q[$k];
            $y = $this->q[$k + 1];
            $z = $this->q[$k + 2];
            $w = $this->q[$k + 3];
            $k = 9 * $b;
            $this->rotation[$k] = 1.0 - 2.0 * ($y * $y + $z * $z);
            $this->rotation[$k + 1] = 2.0 * ($x * $y - $w * $z);
            $this->rotation[$k + 2] = 2.0 * ($x * $z + $w * $y);
            $this->rotation[$k + 3] = 2.0 * ($x * $y + $w * $z);
            $this->rotation[$k + 4] = 1.0 - 2.0 * ($x * $x + $z * $z);
            $this->rotation[$k + 5] = 2.0 * ($y * $z - $w * $x);
            $this->rotation[$k + 6] = 2.0 * ($x * $z - $w * $y);
            $this->rotation[$k + 7] = 2.0 * ($y * $z + $w * $x);
            $this->rotation[$k + 8] = 1.0 - 2.0 * ($x * $x + $y * $y);
        }
    }

    /** @return array<string, array<mixed>> what changes: places and speeds, which body carries which shape */
    public function save(): array
    {
        return [
            'p' => $this->p,
            'q' => $this->q,
            'v' => $this->v,
            'rotation' => $this->rotation,
            'mass' => $this->mass,
            'inertia' => $this->inertia,
            'inverse' => $this->inverse,
            'slow' => $this->slow,
            'anchor' => $this->anchor,
            'bodyRadius' => $this->bodyRadius,
            'offset' => $this->offset,
            'cx' => $this->cx,
            'cy' => $this->cy,
            'cz' => $this->cz,
            'free' => $this->free,
            'asleep' => $this->asleep,
            'shapeBody' => $this->shapeBody,
            'carried' => $this->carried->save(),
            'handedOver' => array_keys($this->handedOver),
            'refitted' => array_keys($this->refitted),
        ];
    }

    public function restore(State $state): void
    {
        $this->p = $state->floats('p');
        $this->q = $state->floats('q');
        $this->v = $state->floats('v');
        $this->rotation = $state->floats('rotation');
        $this->mass = $state->floats('mass');
        $this->inertia = $state->floats('inertia');
        $this->inverse = $state->floats('inverse');
        $this->slow = $state->floats('slow');
        $this->anchor = $state->floats('anchor');
        $this->bodyRadius = $state->floats('bodyRadius');
        $this->offset = $state->floats('offset');
        $this->cx = $state->floats('cx');
        $this->cy = $state->floats('cy');
        $this->cz = $state->floats('cz');
        $this->free = $state->bools('free');
        $this->asleep = $state->bools('asleep');
        $this->shapeBody = $state->ints('shapeBody');
        $this->carried->restore($state->part('carried'));
        $this->handedOver = array_fill_keys($state->ints('handedOver'), true);
        $this->refitted = array_fill_keys($state->ints('refitted'), true);
    }
}
