<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Math\Quaternion;

/**
 * Rigid bodies made of convex shapes, over an endless floor. A body is free, driven along a given path, or asleep; it may
 * carry one shape or many (a prop that has not let go of its pieces), and shapes can move to bodies of their own.
 *
 * A step searches for contacts once and solves them in substeps. Same calls, same bits.
 */
final class RigidWorld
{
    /** @var array<int, float> three numbers a body: centre of mass */
    private array $p = [];

    /** @var array<int, float> four numbers a body */
    private array $q = [];

    /** @var array<int, float> six numbers a body: velocity, spin */
    private array $v = [];

    /** @var array<int, float> nine numbers a body */
    private array $rotation = [];

    /** @var array<int, float> */
    private array $mass = [];

    /** @var array<int, float> six numbers a body, in its own axes */
    private array $inertia = [];

    /** @var array<int, float> */
    private array $inverse = [];

    /** @var array<int, bool> */
    private array $free = [];

    /** @var array<int, bool> */
    private array $asleep = [];

    /** @var array<int, float> for how long it has been slow, s */
    private array $slow = [];

    /** @var array<int, float> seven numbers a body: place and turn since which it has stayed close */
    private array $anchor = [];

    /** @var array<int, float> farthest shape point from the centre */
    private array $bodyRadius = [];

    /** @var array<int, ConvexHull> */
    private array $hull = [];

    /** @var array<int, int> */
    private array $shapeBody = [];

    /** @var array<int, float> three numbers a shape: its centre in the body's axes */
    private array $offset = [];

    /** @var array<int, int> */
    private array $group = [];

    /** @var array<int, float> */
    private array $friction = [];

    /** @var array<int, float> */
    private array $bounce = [];

    /** @var array<int, float> centres of the shapes in the world */
    private array $cx = [];

    /** @var array<int, float> */
    private array $cy = [];

    /** @var array<int, float> */
    private array $cz = [];

    /** @var array<int, ContactPair> */
    private array $pairs = [];

    /** @var array<int, ContactPair> */
    private array $floorPairs = [];

    /** @var list<array{int, int, float}> shapes (-1: the floor) that pressed on each other in the last step, approach speed */
    private array $touches = [];

    /** @var array<int, bool> shapes that got another body since the last step: impulses meant for the old body's mass would hurl the new one away */
    private array $handedOver = [];

    private int $steps = 0;

    public int $floorBody;

    /**
     * @param array{float, float, float} $gravity m/s2
     * @param float|null $floor height of the floor, m; null: none
     * @param float $settleSpeed pieces slower than this come to rest, m/s
     */
    public function __construct(
        public array $gravity,
        private readonly ?float $floor = 0.0,
        private readonly float $floorFriction = 0.6,
        private readonly float $floorBounce = 0.1,
        private readonly float $settleSpeed = 0.05,
    ) {
        $this->floorBody = $this->addBody(new Inertia(1.0, [0.0, 0.0, 0.0], [1.0, 1.0, 1.0, 0.0, 0.0, 0.0]), [0.0, 0.0, 0.0], Quaternion::IDENTITY, false);
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
     */
    public function addShape(int $body, ConvexHull $hull, array $offset, int $group, float $friction, float $bounce): int
    {
        $s = count($this->hull);
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

    public function setFree(int $body, bool $free): void
    {
        $this->free[$body] = $free;
        $this->wake($body);
    }

    /** @return array{float, float, float} centre of a shape in the world */
    public function shapePlace(int $shape): array
    {
        $b = $this->shapeBody[$shape];
        $r = 9 * $b;
        [$x, $y, $z] = [$this->offset[3 * $shape], $this->offset[3 * $shape + 1], $this->offset[3 * $shape + 2]];

        return [
            $this->p[3 * $b] + $this->rotation[$r] * $x + $this->rotation[$r + 1] * $y + $this->rotation[$r + 2] * $z,
            $this->p[3 * $b + 1] + $this->rotation[$r + 3] * $x + $this->rotation[$r + 4] * $y + $this->rotation[$r + 5] * $z,
            $this->p[3 * $b + 2] + $this->rotation[$r + 6] * $x + $this->rotation[$r + 7] * $y + $this->rotation[$r + 8] * $z,
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

    /** @return list<array{int, int, float}> */
    public function touches(): array
    {
        return $this->touches;
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

    public function sleep(int $body): void
    {
        $this->asleep[$body] = true;
        for ($k = 6 * $body; $k < 6 * $body + 6; $k++) {
            $this->v[$k] = 0.0;
        }
    }

    /** Wakes everything that rests on a body: it is about to change. */
    public function wakeNeighbours(int $body): void
    {
        foreach ($this->pairs as $pair) {
            $a = $this->shapeBody[$pair->a];
            $b = $this->shapeBody[$pair->b];
            if ($pair->count > 0 && ($a === $body || $b === $body)) {
                $this->wake($a);
                $this->wake($b);
            }
        }
    }

    /** One step: contacts are searched for once, so keep it at {@see RigidTuning::LONGEST_STEP} or shorter. */
    public function step(float $dt): void
    {
        $this->steps++;
        $active = [];
        $moving = [];
        foreach ($this->mass as $b => $_) {
            $o = 6 * $b;
            $driven = ! $this->free[$b] && ($this->v[$o] !== 0.0 || $this->v[$o + 1] !== 0.0 || $this->v[$o + 2] !== 0.0
                || $this->v[$o + 3] !== 0.0 || $this->v[$o + 4] !== 0.0 || $this->v[$o + 5] !== 0.0);
            $active[$b] = $driven || ($this->free[$b] && ! $this->asleep[$b]);
        }
        $this->findContacts($dt, $active);
        foreach ($this->mass as $b => $_) {
            if ($this->free[$b] && ! $this->asleep[$b]) {
                $moving[] = $b;
            }
        }
        [$solver, $im, $ii] = $this->gather($moving);
        $v = $this->v;
        $this->v = [];
        $solver->prepare($v, $im, $ii);
        $h = $dt / RigidTuning::SUBSTEPS;
        [$gx, $gy, $gz] = $this->gravity;
        $moved = array_fill(0, 6 * count($this->mass), 0.0);
        $path = $this->drivenBodies();
        for ($s = 0; $s < RigidTuning::SUBSTEPS; $s++) {
            foreach ($moving as $b) {
                $o = 6 * $b;
                $v[$o] += $h * $gx;
                $v[$o + 1] += $h * $gy;
                $v[$o + 2] += $h * $gz;
            }
            $solver->warmStart($v, $im, $ii);
            $solver->solve($v, $moved, $im, $ii, $h, true);
            Integrator::move($this->p, $this->q, $v, $moved, $this->inertia, $this->inverse, $moving, $h);
            foreach ($path as $b) {
                for ($k = 0; $k < 6; $k++) {
                    $moved[6 * $b + $k] += $h * $v[6 * $b + $k];
                }
            }
            $solver->solve($v, $moved, $im, $ii, $h, false);
        }
        $solver->bounce($v, $im, $ii);
        $solver->store();
        $this->v = $v;
        $this->driveOn($path, $dt);
        $this->refreshRotations($moving);
        $this->noteTouches($solver);
        $this->rest($moving, $solver, $dt);
    }

    /** @return list<int> */
    private function drivenBodies(): array
    {
        $driven = [];
        foreach ($this->free as $b => $free) {
            if (! $free) {
                $driven[] = $b;
            }
        }

        return $driven;
    }

    /** @param list<int> $driven */
    private function driveOn(array $driven, float $dt): void
    {
        foreach ($driven as $b) {
            [$velocity, $spin] = $this->velocity($b);
            if ($velocity === [0.0, 0.0, 0.0] && $spin === [0.0, 0.0, 0.0]) {
                continue;
            }
            $place = $this->placeOf($b);
            $speed = sqrt($spin[0] ** 2 + $spin[1] ** 2 + $spin[2] ** 2);
            $turn = $this->turnOf($b);
            if ($speed > 0.0) {
                $axis = [$spin[0] / $speed, $spin[1] / $speed, $spin[2] / $speed];
                $turn = Quaternion::normalized(Quaternion::multiply(Quaternion::aboutAxis($axis, $speed * $dt), $turn));
            }
            $this->place($b, [$place[0] + $dt * $velocity[0], $place[1] + $dt * $velocity[1], $place[2] + $dt * $velocity[2]], $turn);
        }
    }

    /** @param list<int> $bodies */
    private function refreshRotations(array $bodies): void
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

    /** @param array<int, bool> $active */
    private function findContacts(float $dt, array $active): void
    {
        $reach = [];
        $travel = [];
        foreach ($this->mass as $b => $_) {
            $o = 6 * $b;
            $travel[$b] = $dt * (sqrt($this->v[$o] ** 2 + $this->v[$o + 1] ** 2 + $this->v[$o + 2] ** 2)
                + $this->bodyRadius[$b] * sqrt($this->v[$o + 3] ** 2 + $this->v[$o + 4] ** 2 + $this->v[$o + 5] ** 2));
        }
        foreach ($this->hull as $s => $hull) {
            [$this->cx[$s], $this->cy[$s], $this->cz[$s]] = $this->shapePlace($s);
            $reach[$s] = $hull->radius * (1.0 + RigidTuning::LOOK_AHEAD) + $travel[$this->shapeBody[$s]];
        }
        $near = BroadPhase::pairs($this->cx, $this->cy, $this->cz, $reach, $this->shapeBody, $active);
        for ($k = 0, $end = count($near); $k < $end; $k += 2) {
            $a = $near[$k];
            $b = $near[$k + 1];
            $key = $a * 1048576 + $b;
            $pair = $this->pairs[$key] ??= new ContactPair($a, $b, $this->group[$a] === $this->group[$b]);
            $pair->seen = $this->steps;
            $this->updatePair($pair, $dt * $this->approach($this->shapeBody[$a], $this->shapeBody[$b]));
        }
        foreach ($this->pairs as $key => $pair) {
            if ($pair->seen !== $this->steps) {
                $a = $this->shapeBody[$pair->a];
                $b = $this->shapeBody[$pair->b];
                // Two that sleep on each other are not looked for, but remembered.
                if ($a === $b || $active[$a] || $active[$b]) {
                    unset($this->pairs[$key]);
                }
            }
        }
        $this->wakeTouched();
        if ($this->floor !== null) {
            $this->findFloorContacts($travel);
        }
    }

    /** The fastest two bodies' points can come together, m/s. */
    private function approach(int $a, int $b): float
    {
        $v = $this->v;
        $a *= 6;
        $b *= 6;
        $x = $v[$b] - $v[$a];
        $y = $v[$b + 1] - $v[$a + 1];
        $z = $v[$b + 2] - $v[$a + 2];

        return sqrt($x * $x + $y * $y + $z * $z)
            + $this->bodyRadius[intdiv($a, 6)] * sqrt($v[$a + 3] * $v[$a + 3] + $v[$a + 4] * $v[$a + 4] + $v[$a + 5] * $v[$a + 5])
            + $this->bodyRadius[intdiv($b, 6)] * sqrt($v[$b + 3] * $v[$b + 3] + $v[$b + 4] * $v[$b + 4] + $v[$b + 5] * $v[$b + 5]);
    }

    private function updatePair(ContactPair $pair, float $travel): void
    {
        $a = $pair->a;
        $b = $pair->b;
        $ra = 9 * $this->shapeBody[$a];
        $rb = 9 * $this->shapeBody[$b];
        $R = $this->rotation;
        $a0 = $R[$ra];
        $a1 = $R[$ra + 1];
        $a2 = $R[$ra + 2];
        $a3 = $R[$ra + 3];
        $a4 = $R[$ra + 4];
        $a5 = $R[$ra + 5];
        $a6 = $R[$ra + 6];
        $a7 = $R[$ra + 7];
        $a8 = $R[$ra + 8];
        $b0 = $R[$rb];
        $b1 = $R[$rb + 1];
        $b2 = $R[$rb + 2];
        $b3 = $R[$rb + 3];
        $b4 = $R[$rb + 4];
        $b5 = $R[$rb + 5];
        $b6 = $R[$rb + 6];
        $b7 = $R[$rb + 7];
        $b8 = $R[$rb + 8];
        $dx = $this->cx[$b] - $this->cx[$a];
        $dy = $this->cy[$b] - $this->cy[$a];
        $dz = $this->cz[$b] - $this->cz[$a];
        $pose = [
            $a0 * $b0 + $a3 * $b3 + $a6 * $b6, $a0 * $b1 + $a3 * $b4 + $a6 * $b7, $a0 * $b2 + $a3 * $b5 + $a6 * $b8,
            $a1 * $b0 + $a4 * $b3 + $a7 * $b6, $a1 * $b1 + $a4 * $b4 + $a7 * $b7, $a1 * $b2 + $a4 * $b5 + $a7 * $b8,
            $a2 * $b0 + $a5 * $b3 + $a8 * $b6, $a2 * $b1 + $a5 * $b4 + $a8 * $b7, $a2 * $b2 + $a5 * $b5 + $a8 * $b8,
            $a0 * $dx + $a3 * $dy + $a6 * $dz, $a1 * $dx + $a4 * $dy + $a7 * $dz, $a2 * $dx + $a5 * $dy + $a8 * $dz,
        ];
        $hullA = $this->hull[$a];
        $hullB = $this->hull[$b];
        $radius = $hullA->radius < $hullB->radius ? $hullA->radius : $hullB->radius;
        if ($pair->count > 0) {
            $old = $pair->pose;
            $limit = RigidTuning::REUSE_DISTANCE * $radius;
            $ex = $pose[9] - $old[9];
            $ey = $pose[10] - $old[10];
            $ez = $pose[11] - $old[11];
            if ($ex * $ex + $ey * $ey + $ez * $ez < $limit * $limit) {
                $angle = 0.0;
                for ($k = 0; $k < 9; $k++) {
                    $e = $pose[$k] - $old[$k];
                    $angle += $e * $e;
                }
                // Sum of squares of a small turn's matrix is twice the square of its angle.
                if ($angle < 2.0 * RigidTuning::REUSE_ANGLE * RigidTuning::REUSE_ANGLE) {
                    return;
                }
            }
        }
        HullContact::find($pair, $hullA, $hullB, $pose, RigidTuning::LOOK_AHEAD * $radius + $travel);
    }

    /** A touch wakes a sleeper if it comes from something driven, or fast enough; so does a support that goes away. */
    private function wakeTouched(): void
    {
        $limit = RigidTuning::WAKE_FACTOR * $this->settleSpeed;
        foreach ($this->pairs as $pair) {
            if ($pair->seen !== $this->steps || ($pair->count === 0 && ! $pair->touched)) {
                continue;
            }
            $a = $this->shapeBody[$pair->a];
            $b = $this->shapeBody[$pair->b];
            if ($this->asleep[$a] === $this->asleep[$b]) {
                continue;
            }
            $mover = $this->asleep[$a] ? $b : $a;
            $sleeper = $this->asleep[$a] ? $a : $b;
            if ($pair->count === 0) {
                $pair->touched = false;
                $this->wake($sleeper);
                continue;
            }
            $o = 6 * $mover;
            $speed = sqrt($this->v[$o] ** 2 + $this->v[$o + 1] ** 2 + $this->v[$o + 2] ** 2)
                + $this->bodyRadius[$mover] * sqrt($this->v[$o + 3] ** 2 + $this->v[$o + 4] ** 2 + $this->v[$o + 5] ** 2);
            if ($speed > $limit || (! $this->free[$mover] && $speed > 0.0)) {
                $this->wake($sleeper);
            }
        }
    }

    /** @param array<int, float> $travel */
    private function findFloorContacts(array $travel): void
    {
        $floor = $this->floor ?? 0.0;
        foreach ($this->hull as $s => $hull) {
            $b = $this->shapeBody[$s];
            $margin = RigidTuning::LOOK_AHEAD * $hull->radius + $travel[$b];
            if (! $this->free[$b] || $this->asleep[$b]) {
                continue;
            }
            $height = $this->cy[$s] - $floor;
            if ($height - $hull->radius > $margin) {
                unset($this->floorPairs[$s]);
                continue;
            }
            $r = 9 * $b;
            $ux = $this->rotation[$r + 3];
            $uy = $this->rotation[$r + 4];
            $uz = $this->rotation[$r + 5];
            $points = [];
            $y = $hull->y;
            $z = $hull->z;
            foreach ($hull->x as $i => $px) {
                $gap = $height + $ux * $px + $uy * $y[$i] + $uz * $z[$i];
                if ($gap < $margin) {
                    $points[] = [$px, $y[$i], $z[$i], $gap];
                }
            }
            if ($points === []) {
                unset($this->floorPairs[$s]);
                continue;
            }
            $pair = $this->floorPairs[$s] ??= new ContactPair($s, -1, false);
            $onA = $onB = [];
            // All of them: with only some, the others would sink in and take turns.
            foreach ($points as [$px, $py, $pz]) {
                array_push($onA, $px, $py, $pz);
                array_push(
                    $onB,
                    $this->cx[$s] + $this->rotation[$r] * $px + $this->rotation[$r + 1] * $py + $this->rotation[$r + 2] * $pz,
                    $floor,
                    $this->cz[$s] + $this->rotation[$r + 6] * $px + $this->rotation[$r + 7] * $py + $this->rotation[$r + 8] * $pz,
                );
            }
            $pair->renew($onA, $onB, 1e-6 * $hull->radius);
        }
    }

    /**
     * Lays the contacts out for the solver.
     *
     * @param list<int> $moving
     *
     * @return array{ContactSolver, array<int, float>, array<int, float>}
     */
    private function gather(array $moving): array
    {
        $bodies = count($this->mass);
        $im = array_fill(0, $bodies, 0.0);
        $ii = array_fill(0, 6 * $bodies, 0.0);
        foreach ($moving as $b) {
            $im[$b] = 1.0 / $this->mass[$b];
        }
        Integrator::worldInverse($this->rotation, $this->inverse, $moving, $ii);
        $this->forgetImpulses();
        $solver = new ContactSolver();
        foreach ($this->pairs as $pair) {
            if ($pair->count > 0 && $pair->seen === $this->steps) {
                $a = $this->shapeBody[$pair->a];
                $b = $this->shapeBody[$pair->b];
                if ($im[$a] > 0.0 || $im[$b] > 0.0) {
                    $this->addManifold($solver, $pair, $a, $b);
                }
            }
        }
        foreach ($this->floorPairs as $s => $pair) {
            $a = $this->shapeBody[$s];
            if ($im[$a] > 0.0) {
                $this->addManifold($solver, $pair, $a, $this->floorBody);
            }
        }

        return [$solver, $im, $ii];
    }

    private function forgetImpulses(): void
    {
        if ($this->handedOver === []) {
            return;
        }
        foreach ([...$this->pairs, ...$this->floorPairs] as $pair) {
            if (isset($this->handedOver[$pair->a]) || isset($this->handedOver[$pair->b])) {
                $pair->impulse = array_fill(0, 3 * $pair->count, 0.0);
            }
        }
        $this->handedOver = [];
    }

    private function addManifold(ContactSolver $solver, ContactPair $pair, int $a, int $b): void
    {
        $sa = $pair->a;
        $sb = $pair->b;
        $ra = 9 * $a;
        $R = $this->rotation;
        if ($sb < 0) {
            [$nx, $ny, $nz] = [0.0, -1.0, 0.0];
            $friction = sqrt($this->friction[$sa] * $this->floorFriction);
            $bounce = max($this->bounce[$sa], $this->floorBounce);
        } else {
            [$ux, $uy, $uz] = $pair->normal;
            $nx = $R[$ra] * $ux + $R[$ra + 1] * $uy + $R[$ra + 2] * $uz;
            $ny = $R[$ra + 3] * $ux + $R[$ra + 4] * $uy + $R[$ra + 5] * $uz;
            $nz = $R[$ra + 6] * $ux + $R[$ra + 7] * $uy + $R[$ra + 8] * $uz;
            $friction = sqrt($this->friction[$sa] * $this->friction[$sb]);
            $bounce = max($this->bounce[$sa], $this->bounce[$sb]);
        }
        // A tangent that changes smoothly with the normal.
        if ($nx > 0.6 || $nx < -0.6) {
            $l = 1.0 / sqrt($nx * $nx + $ny * $ny);
            [$tx, $ty, $tz] = [-$ny * $l, $nx * $l, 0.0];
        } else {
            $l = 1.0 / sqrt($ny * $ny + $nz * $nz);
            [$tx, $ty, $tz] = [0.0, $nz * $l, -$ny * $l];
        }
        array_push($solver->manifold, $nx, $ny, $nz, $tx, $ty, $tz, $friction, $bounce);
        array_push($solver->bodies, $a, $b);
        $pax = $this->p[3 * $a];
        $pay = $this->p[3 * $a + 1];
        $paz = $this->p[3 * $a + 2];
        $pbx = $this->p[3 * $b];
        $pby = $this->p[3 * $b + 1];
        $pbz = $this->p[3 * $b + 2];
        $rb = 9 * $b;
        $gaps = [];
        $least = INF;
        $rows = [];
        for ($k = 0, $end = 3 * $pair->count; $k < $end; $k += 3) {
            $x = $pair->onA[$k];
            $y = $pair->onA[$k + 1];
            $z = $pair->onA[$k + 2];
            $ax = $this->cx[$sa] + $R[$ra] * $x + $R[$ra + 1] * $y + $R[$ra + 2] * $z;
            $ay = $this->cy[$sa] + $R[$ra + 3] * $x + $R[$ra + 4] * $y + $R[$ra + 5] * $z;
            $az = $this->cz[$sa] + $R[$ra + 6] * $x + $R[$ra + 7] * $y + $R[$ra + 8] * $z;
            $x = $pair->onB[$k];
            $y = $pair->onB[$k + 1];
            $z = $pair->onB[$k + 2];
            if ($sb < 0) {
                [$bx, $by, $bz] = [$x, $y, $z];
            } else {
                $bx = $this->cx[$sb] + $R[$rb] * $x + $R[$rb + 1] * $y + $R[$rb + 2] * $z;
                $by = $this->cy[$sb] + $R[$rb + 3] * $x + $R[$rb + 4] * $y + $R[$rb + 5] * $z;
                $bz = $this->cz[$sb] + $R[$rb + 6] * $x + $R[$rb + 7] * $y + $R[$rb + 8] * $z;
            }
            $gap = $nx * ($bx - $ax) + $ny * ($by - $ay) + $nz * ($bz - $az);
            if ($gap < $least) {
                $least = $gap;
            }
            // Both sides act at the middle between the two places.
            $mx = 0.5 * ($ax + $bx);
            $my = 0.5 * ($ay + $by);
            $mz = 0.5 * ($az + $bz);
            $rows[] = [$mx - $pax, $my - $pay, $mz - $paz, $mx - $pbx, $my - $pby, $mz - $pbz, $gap];
        }
        $keep = 0.0;
        if ($pair->siblings) {
            $overlap = $least < 0.0 ? -$least : 0.0;
            $pair->allowed = $pair->allowed === null ? $overlap : min($pair->allowed, $overlap);
            $keep = $pair->allowed;
        }
        $pair->deepest = -$least - $keep;
        foreach ($rows as [$r0, $r1, $r2, $r3, $r4, $r5, $gap]) {
            array_push($solver->point, $r0, $r1, $r2, $r3, $r4, $r5, $gap + $keep, 0.0, 0.0, 0.0, 0.0, 0.0);
        }
        array_push($solver->impulse, ...$pair->impulse);
        $solver->first[] = count($solver->impulse) / 3 | 0;
        $solver->pairs[] = $pair;
    }

    private function noteTouches(ContactSolver $solver): void
    {
        $this->touches = [];
        foreach ($solver->pairs as $c => $pair) {
            $speed = 0.0;
            $pressed = false;
            for ($i = $solver->first[$c]; $i < $solver->first[$c + 1]; $i++) {
                $p = ContactSolver::POINT * $i;
                if ($solver->point[$p + 11] > 0.0) {
                    $pressed = true;
                    $speed = max($speed, -$solver->point[$p + 10]);
                }
            }
            $pair->touched = $pressed;
            if ($pressed) {
                $this->touches[] = [$pair->a, $pair->b, $speed];
            }
        }
    }

    /** How far any point of a body has come from its anchor, m. */
    private function wandered(int $b): float
    {
        $k = 7 * $b;
        $x = $this->p[3 * $b] - $this->anchor[$k];
        $y = $this->p[3 * $b + 1] - $this->anchor[$k + 1];
        $z = $this->p[3 * $b + 2] - $this->anchor[$k + 2];
        $same = $this->q[4 * $b] * $this->anchor[$k + 3] + $this->q[4 * $b + 1] * $this->anchor[$k + 4]
            + $this->q[4 * $b + 2] * $this->anchor[$k + 5] + $this->q[4 * $b + 3] * $this->anchor[$k + 6];
        $sine = 1.0 - $same * $same;

        return sqrt($x * $x + $y * $y + $z * $z) + 2.0 * $this->bodyRadius[$b] * sqrt($sine > 0.0 ? $sine : 0.0);
    }

    /**
     * Slow pieces are braked; one that has been slow long enough falls asleep, unless something it touches still moves.
     *
     * @param list<int> $moving
     */
    private function rest(array $moving, ContactSolver $solver, float $dt): void
    {
        $brake = 1.0 / (1.0 + $dt * RigidTuning::SETTLE_RATE);
        $roll = 1.0 / (1.0 + $dt * RigidTuning::ROLLING_RATE);
        $rested = [];
        $moves = array_fill_keys($moving, true);
        $held = [];
        foreach ($solver->pairs as $c => $pair) {
            if ($pair->touched) {
                $held[$solver->bodies[2 * $c]] = true;
                $held[$solver->bodies[2 * $c + 1]] = true;
            }
        }
        foreach ($moving as $b) {
            if (isset($held[$b])) {
                for ($k = 6 * $b + 3; $k < 6 * $b + 6; $k++) {
                    $this->v[$k] *= $roll;
                }
            }
            // Staying close to a place for a while is rest, even if it trembles there.
            $o = 6 * $b;
            if (isset($held[$b]) && $this->wandered($b) < $this->settleSpeed * RigidTuning::WANDER) {
                $this->slow[$b] += $dt;
            } else {
                $this->slow[$b] = 0.0;
                [$this->anchor[7 * $b], $this->anchor[7 * $b + 1], $this->anchor[7 * $b + 2]] = $this->placeOf($b);
                foreach ($this->turnOf($b) as $k => $value) {
                    $this->anchor[7 * $b + 3 + $k] = $value;
                }
            }
            if ($this->slow[$b] > RigidTuning::SETTLE_AFTER) {
                for ($k = $o; $k < $o + 6; $k++) {
                    $this->v[$k] *= $brake;
                }
            }
            $rested[$b] = $this->slow[$b];
        }
        foreach ($solver->pairs as $c => $pair) {
            if ($pair->touched) {
                $a = $solver->bodies[2 * $c];
                $b = $solver->bodies[2 * $c + 1];
                $radius = $pair->b < 0 ? $this->bodyRadius[$a] : min($this->bodyRadius[$a], $this->bodyRadius[$b]);
                if ($pair->deepest > RigidTuning::REST_OVERLAP * $radius) {
                    foreach ([$a, $b] as $body) {
                        if (isset($rested[$body]) && $rested[$body] < RigidTuning::REST_ANYWAY) {
                            $rested[$body] = 0.0;
                        }
                    }
                }
                if (isset($rested[$a]) && isset($moves[$b]) && $this->slow[$b] < RigidTuning::SETTLE_AFTER) {
                    $rested[$a] = 0.0;
                }
                if (isset($rested[$b]) && isset($moves[$a]) && $this->slow[$a] < RigidTuning::SETTLE_AFTER) {
                    $rested[$b] = 0.0;
                }
            }
        }
        foreach ($rested as $b => $time) {
            if ($time >= RigidTuning::SLEEP_AFTER) {
                $this->asleep[$b] = true;
                for ($k = 6 * $b; $k < 6 * $b + 6; $k++) {
                    $this->v[$k] = 0.0;
                }
            }
        }
    }
}
