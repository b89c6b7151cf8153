<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Math\Vector;
use YardBreak\Core\Motion\Rigid\Joint\Joints;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;

/**
 * Rigid bodies over endless floors, moved on step by step. A body is free, driven along a given path, or asleep. A step
 * searches for contacts once and solves them in substeps. Same calls, same bits.
 */
final class RigidWorld
{
    public readonly RigidBodies $bodies;

    public readonly Joints $joints;

    private readonly ContactFinder $contacts;

    private readonly ContactLayout $layout;

    private readonly Resting $resting;

    /** Of the step that is under way; null: everything sleeps. */
    private ?ContactSolver $solver = null;

    private ?Growth $growth = null;

    private float $dt = 0.0;

    /** Whether nothing from elsewhere presses on the bodies between two substeps. */
    public bool $alone = true;

    /** @var array<int, array{float, float, float, float, float, float, float, float, float, float, float}> what acts on single bodies beside gravity, see {@see Pushed} */
    public array $pushed = [];

    /** @var array<int, float> speeds before the step */
    private array $came = [];

    /** @var array<int, float> kinetic energy before the step by body, J, where a floor is rough */
    private array $energy = [];

    /** @var list<int> bodies that move by themselves */
    private array $moving = [];

    /** @var list<int> bodies that are driven */
    private array $driven = [];

    /** @var array<int, float> inverse masses */
    private array $im = [];

    /** @var array<int, float> inverse inertia in the world */
    private array $ii = [];

    /** @var array<int, float> way and turn of each body since the contacts were found */
    private array $moved = [];

    /** @var list<array{int, int, float}> shapes that pressed on each other in the last step, and the largest force, N */
    private array $blows = [];

    /** @var list<array{int, int, float, float, array{float, float, float}}> shapes (below 0: a floor) that pressed on each other in the last step, approach speed, that times their reduced mass, N s, place */
    private array $touches = [];

    /**
     * @param array{float, float, float} $gravity m/s2
     * @param float|null $floor height of the floor, m; null: none
     * @param float $settleSpeed pieces slower than this come to rest, m/s
     */
    public function __construct(
        public array $gravity,
        ?float $floor = 0.0,
        float $floorFriction = 0.6,
        float $floorBounce = 0.1,
        private readonly float $settleSpeed = 0.05,
    ) {
        $this->bodies = new RigidBodies();
        $this->joints = new Joints($this->bodies);
        $this->contacts = new ContactFinder($this->bodies, $settleSpeed);
        $this->layout = new ContactLayout($this->bodies, $this->contacts);
        $this->resting = new Resting($this->bodies, $settleSpeed);
        if ($floor !== null) {
            $this->addPlane([0.0, 1.0, 0.0], $floor, $floorFriction, $floorBounce);
        }
    }

    /**
     * An endless floor.
     *
     * @param array{float, float, float} $normal unit, towards what lies on it
     * @param float $height where it crosses the upright axis, m
     */
    public function addPlane(array $normal, float $height, float $friction, float $restitution, ?Scatter $scatter = null): void
    {
        $this->contacts->floors->planes[] = new FloorPlane($normal, $normal[1] * $height, $friction, $restitution, $scatter);
    }

    /** @return list<array{int, int, float, float, array{float, float, float}}> shapes (below 0: a floor) that pressed on each other in the last step, approach speed, m/s, that times their reduced mass, N s, place */
    public function touches(): array
    {
        return $this->touches;
    }

    /** @return list<array{int, int, float}> shapes (below 0: a floor) that pressed on each other in the last step, and how hard at the most, N */
    public function blows(): array
    {
        return $this->blows;
    }

    /** @return array<int, list<array{array{float, float, float}, array{float, float, float}}>> by shape: where in the world something pressed on it at the end of the last step, and with what, N; without friction */
    public function presses(): array
    {
        if ($this->solver === null) {
            return [];
        }
        $presses = [];
        $per = Steps::SUBSTEPS / $this->dt;
        foreach ($this->solver->pairs as $c => $pair) {
            foreach ($this->solver->pushes($c) as [$onA, $onB, [$x, $y, $z]]) {
                foreach ([[$pair->a, $onA, -$per], [$pair->b, $onB, $per]] as [$shape, $arm, $by]) {
                    if ($shape >= 0) {
                        $presses[$shape][] = [Vector::plus($this->bodies->placeOf($this->bodies->bodyOf($shape)), $arm), [$by * $x, $by * $y, $by * $z]];
                    }
                }
            }
        }

        return $presses;
    }

    /** Wakes everything that rests on a body: it is about to change. */
    public function wakeNeighbours(int $body): void
    {
        $this->contacts->wakeNeighbours($body);
    }

    /** One step: contacts are searched for once, so keep it at {@see Steps::LONGEST} or shorter. */
    public function step(float $dt): void
    {
        $this->begin($dt);
        for ($s = 0; $s < Steps::SUBSTEPS; $s++) {
            $this->substep();
        }
        $this->end();
    }

    /** Begins a step: finds contacts. Then come {@see Steps::SUBSTEPS} substeps, then the end. */
    public function begin(float $dt): void
    {
        $this->dt = $dt;
        $this->bodies->elapsed = 0.0;
        $this->solver = null;
        $this->joints->begin($this->settleSpeed);
        $this->bodies->fall();
        $active = [];
        foreach ($this->bodies->mass as $b => $_) {
            $o = 6 * $b;
            $driven = ! $this->bodies->free[$b] && (isset($this->bodies->growth[$b]) || $this->bodies->v[$o] !== 0.0 || $this->bodies->v[$o + 1] !== 0.0 || $this->bodies->v[$o + 2] !== 0.0
                || $this->bodies->v[$o + 3] !== 0.0 || $this->bodies->v[$o + 4] !== 0.0 || $this->bodies->v[$o + 5] !== 0.0);
            $active[$b] = $driven || ($this->bodies->free[$b] && ! $this->bodies->asleep[$b]);
        }
        if (! in_array(true, $active, true)) {
            // Everything sleeps.
            $this->touches = $this->blows = [];

            return;
        }
        $this->contacts->find($dt, $active, $this->joints->apart());
        $this->came = $this->bodies->v;
        $this->moving = [];
        foreach ($this->bodies->mass as $b => $_) {
            if ($this->bodies->free[$b] && ! $this->bodies->asleep[$b]) {
                $this->moving[] = $b;
            }
        }
        $this->energy = [];
        if (array_filter($this->contacts->floors->planes, static fn (FloorPlane $plane): bool => $plane->scatter !== null) !== []) {
            foreach ($this->moving as $b) {
                $this->energy[$b] = $this->bodies->kineticEnergy($b);
            }
        }
        [$this->solver, $this->im, $this->ii] = $this->layout->gather($this->moving, $this->pressed());
        $this->growth = Growth::begin($this->bodies, $this->solver, $this->im, $this->ii);
        $this->solver->prepare($this->bodies->v, $this->im, $this->ii);
        $this->moved = array_fill(0, 6 * count($this->im), 0.0);
        $this->driven = [...$this->drivenBodies(), ...$this->growth->driven];
    }

    public function substep(): void
    {
        if ($this->solver === null) {
            return;
        }
        $h = $this->dt / Steps::SUBSTEPS;
        $this->bodies->elapsed += $h;
        [$gx, $gy, $gz] = $this->gravity;
        $v = $this->bodies->v;
        $this->bodies->v = [];
        $moved = $this->moved;
        $this->moved = [];
        foreach ($this->moving as $b) {
            $o = 6 * $b;
            $v[$o] += $h * $gx;
            $v[$o + 1] += $h * $gy;
            $v[$o + 2] += $h * $gz;
        }
        if ($this->pushed !== []) {
            Pushed::apply($v, $this->pushed, $this->moving, $h);
        }
        $this->joints->warmStart($v, $moved, $this->im, $this->ii);
        WarmStart::give($this->solver, $v, $this->im, $this->ii, $this->moving, $this->bodies->bodyRadius);
        $this->joints->solve($v, $moved, $this->im, $this->ii, $h, true);
        $this->solver->solve($v, $moved, $this->im, $this->ii, $h, true);
        Integrator::move($this->bodies->p, $this->bodies->q, $v, $moved, $this->bodies->inertia, $this->bodies->inverse, $this->moving, $h);
        foreach ($this->driven as $b) {
            for ($k = 0; $k < 6; $k++) {
                $moved[6 * $b + $k] += $h * $v[6 * $b + $k];
            }
        }
        $this->joints->solve($v, $moved, $this->im, $this->ii, $h, false);
        $this->solver->solve($v, $moved, $this->im, $this->ii, $h, false);
        $this->moved = $moved;
        $this->bodies->v = $v;
    }

    public function end(): void
    {
        $solver = $this->solver;
        if ($solver === null) {
            return;
        }
        $v = $this->bodies->v;
        $this->bodies->v = [];
        $solver->bounce($v, $this->im, $this->ii);
        $solver->store();
        $this->bodies->v = $v;
        $this->growth?->end($this->bodies, $solver);
        $this->driveOn($this->drivenBodies(), $this->dt);
        $this->bodies->elapsed = 0.0;
        $this->bodies->refreshRotations($this->moving);
        $this->noteTouches($solver);
        $this->resting->settle($this->moving, $solver, $this->joints->pairs(), $this->dt);
        $this->joints->end($this->dt);
    }

    /**
     * Everything that decides the next step, between steps; the shapes themselves are not in it.
     *
     * @return array<string, mixed>
     */
    public function save(): array
    {
        return ['bodies' => $this->bodies->save(), 'contacts' => $this->contacts->save(), ...$this->joints->isEmpty() ? [] : ['joints' => $this->joints->save()]];
    }

    /** What save() gave, of a world with the same shapes. */
    public function restore(State $state): void
    {
        $this->bodies->restore($state->part('bodies'));
        $this->contacts->restore($state->part('contacts'));
        if (! $this->joints->isEmpty()) {
            $this->joints->restore($state->part('joints'));
        }
    }

    /** @return array<int, bool>|null bodies on which something else than shapes may press in the step; null: that cannot be known */
    private function pressed(): ?array
    {
        return $this->alone ? array_fill_keys([...array_keys($this->pushed), ...array_keys($this->bodies->growth), ...array_merge(...$this->joints->pairs())], true) : null;
    }

    /** @return list<int> */
    private function drivenBodies(): array
    {
        $driven = [];
        foreach ($this->bodies->free as $b => $free) {
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
            [$velocity, $spin] = $this->bodies->velocity($b);
            if ($velocity === [0.0, 0.0, 0.0] && $spin === [0.0, 0.0, 0.0]) {
                continue;
            }
            [$place, $turn] = $this->bodies->drivenPose($b, $dt);
            $this->bodies->place($b, $place, $turn);
        }
    }

    private function noteTouches(ContactSolver $solver): void
    {
        $this->touches = $this->blows = [];
        $hits = [];
        $per = Steps::SUBSTEPS / $this->dt;
        foreach ($solver->pairs as $c => $pair) {
            $speed = 0.0;
            $fastest = 0;
            $pressed = false;
            $impulse = 0.0;
            for ($i = $solver->first[$c]; $i < $solver->first[$c + 1]; $i++) {
                $p = ContactSolver::POINT * $i;
                if ($solver->point[$p + 11] > 0.0) {
                    $impulse += $solver->point[$p + 11];
                    $approach = -$solver->point[$p + 10];
                    if (! $pressed || $approach > $speed) {
                        $fastest = $p;
                    }
                    $pressed = true;
                    $speed = max($speed, $approach);
                }
            }
            $pair->touched = $pressed;
            if ($pressed) {
                if ($pair->b < 0 && $speed > ($hits[$solver->bodies[2 * $c]][1] ?? RigidTuning::BOUNCE_THRESHOLD)) {
                    $hits[$solver->bodies[2 * $c]] = [$pair, $speed];
                }
                [$x, $y, $z] = $this->bodies->placeOf($solver->bodies[2 * $c]);
                $this->blows[] = [$pair->a, $pair->b, $impulse * $per];
                $yields = $this->im[$solver->bodies[2 * $c]] + $this->im[$solver->bodies[2 * $c + 1]];
                $this->touches[] = [$pair->a, $pair->b, $speed, $yields > 0.0 ? $speed / $yields : INF, [$x + $solver->point[$fastest], $y + $solver->point[$fastest + 1], $z + $solver->point[$fastest + 2]]];
            }
        }
        $this->scatter($hits);
    }

    /**
     * What hits a rough floor is sent on another way: by the fastest of its shapes, once, as it is one thing; and only as fast as
     * it came as a whole, or what tumbles would be sent off by its tumbling and keep that.
     *
     * @param array<int, array{ContactPair, float}> $hits by body, with the speed at which it came, m/s
     */
    private function scatter(array $hits): void
    {
        foreach ($hits as $body => [$pair, $speed]) {
            $plane = $this->contacts->floors->planes[-1 - $pair->b];
            if ($plane->scatter !== null) {
                [$nx, $ny, $nz] = $plane->normal;
                $speed = min($speed, -$nx * $this->came[6 * $body] - $ny * $this->came[6 * $body + 1] - $nz * $this->came[6 * $body + 2]);
                if ($speed < RigidTuning::BOUNCE_THRESHOLD) {
                    continue;
                }
                [$velocity, $spin] = $this->bodies->velocity($body);
                // What the blow took from its way and gave to its turning is not there to be sent off with.
                $square = $velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2;
                $most = max($square, $square + 2.0 * ($this->energy[$body] - $this->bodies->kineticEnergy($body)) / $this->bodies->mass[$body]);
                $facet = $plane->scatter->facet($plane->normal, (string) $this->contacts->steps, $pair->a);
                $this->bodies->setVelocity($body, Scatter::sent($velocity, $plane->normal, $facet, $speed, max($plane->restitution, $this->bodies->bounce[$pair->a]), $most), $spin);
            }
        }
    }
}
