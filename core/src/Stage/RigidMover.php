<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Motion\Frame;
use YardBreak\Core\Motion\HardestTouch;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Track;
use YardBreak\Core\Stage\Kind\Kinds;

/**
 * Rigid motion of a shot's props: they are held, driven by keys or by the way that is set for each piece, or fall whole; as
 * pieces let go they become bodies of their own that start with the speed the prop has where they are.
 */
final class RigidMover implements Mover
{
    private readonly RigidWorld $world;

    /** Frame at which the step ends. */
    private float $to = 1.0;

    /** Of the step. */
    private float $seconds = 1.0 / 60.0;

    private readonly RigidForces $forces;

    private readonly RigidJoints $joints;

    private readonly HardestTouch $hardest;

    /** @var list<HardProp> */
    private array $props = [];

    /** @var list<RigidProp> those of them whose pieces may hang together */
    private array $glued = [];

    /** @var list<DrivenBody> what they meet and cannot move */
    private array $staged = [];

    /** @var array<int, array{array{float, float, float}, array{float, float, float}}> velocity and spin of free bodies before the step, while somebody waits to be touched */
    private array $before = [];

    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(private readonly Shot $shot, private readonly array $own, array $broken, Surfaces $others)
    {
        $this->hardest = new HardestTouch();
        $forces = ShotForces::on($shot, $own, $others);
        $this->world = new RigidWorld($forces->uniform(1.0), null, settleSpeed: $shot->settleSpeed);
        $this->world->alone = array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('vertices')) === [];
        foreach ($shot->planes as $plane) {
            $this->world->addPlane($plane->normal, $plane->height, $plane->friction, $plane->restitution, Scatter::of($plane->scatter, $plane->scatterSeed));
        }
        foreach ($own as $k => $prop) {
            $this->props[] = Kinds::hard($prop)::hard($prop, $broken[$k], $this->world, $k, $others);
        }
        foreach ($this->props as $prop) {
            if ($prop instanceof RigidProp && $prop->isGlued()) {
                $this->glued[] = $prop;
            }
        }
        $this->forces = new RigidForces($forces, $this->props);
        $this->joints = new RigidJoints($shot, array_combine(array_column($own, 'id'), $this->props), $this->world);
    }

    public function release(float $frame): void
    {
        foreach ($this->props as $prop) {
            $prop->letGoBy($this->world, $frame);
        }
        foreach ($this->glued as $prop) {
            $prop->weaken($this->world, $frame);
        }
        $this->joints->cutBy($frame);
    }

    public function meet(array $others): void
    {
        foreach ($others as $other) {
            if ($other instanceof DrivenPiece) {
                $this->staged[] = new DrivenBody($this->world, $other, count($this->own) + $other->group);
            }
        }
    }

    public function drive(float $from, float $to, float $dt): void
    {
        $this->to = $to;
        foreach ([...$this->props, ...$this->staged] as $driven) {
            $driven->drive($this->world, $from, $to, $dt);
        }
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
        $this->seconds = $dt;
        $this->forces->act($this->world, $from, $dt);
        foreach ($this->props as $prop) {
            $prop->noteSpeed($this->world);
        }
        $this->world->bodies->strikes->await(array_keys($this->awaiting()));
        $this->before = $this->waiting() || $this->glued !== [] ? $this->world->bodies->freeVelocities() : [];
        $this->world->begin($dt);
    }

    public function colliders(): array
    {
        $colliders = [];
        foreach ($this->props as $prop) {
            array_push($colliders, ...$prop->colliders($this->world));
        }

        return $colliders;
    }

    public function substep(int $number): void
    {
        $this->world->substep();
    }

    public function end(bool $over): void
    {
        $this->world->end();
        foreach ([...$this->props, ...$this->staged] as $driven) {
            $driven->grow($this->world, $this->to);
        }
        $this->letGoOnContact($this->before);
        $this->letGoWhereStruck();
        $this->strike();
        $this->bend();
    }

    public function save(): string
    {
        return State::pack(['to' => $this->to, 'world' => $this->world->save(), 'forces' => $this->forces->save(), 'hardest' => $this->hardest->save(), 'props' => array_map(static fn (HardProp $prop): array => $prop->save(), $this->props)]);
    }

    public function restore(string $state): void
    {
        $saved = State::read($state);
        $this->world->restore($saved->part('world'));
        $this->forces->restore($saved->part('forces'));
        $this->hardest->restore($saved->part('hardest'));
        foreach ($saved->parts('props') as $k => $prop) {
            $this->props[$k]->restore($prop);
        }
        // Shapes are made, not saved.
        $this->to = $saved->float('to');
        foreach ($this->staged as $staged) {
            $staged->grow($this->world, $this->to);
        }
    }

    /** What is glued may break where it was struck; the hardest blows first. */
    private function strike(): void
    {
        if ($this->glued === []) {
            return;
        }
        $blows = [...$this->world->blows(), ...$this->world->bodies->strikes->blows()];
        usort($blows, static fn (array $a, array $b): int => $b[2] <=> $a[2]);
        foreach ($blows as [$a, $b, $force]) {
            foreach ($this->glued as $prop) {
                $prop->struck($this->world, $a, $force, $this->to, $this->before);
                $prop->struck($this->world, $b, $force, $this->to, $this->before);
            }
        }
    }

    /** What is glued may break where it sticks out. */
    private function bend(): void
    {
        if ($this->glued === []) {
            return;
        }
        $pressed = array_fill_keys($this->joints->shapes(), true);
        foreach ($this->world->blows() as [$a, $b]) {
            $pressed[$a] = $pressed[$b] = true;
        }
        $presses = $this->world->presses();
        foreach ($this->glued as $prop) {
            $prop->bend($this->world, $pressed, $presses, $this->before, $this->seconds, $this->to);
        }
    }

    /** @return array<int, HardProp> by body those that wait to be touched */
    private function awaiting(): array
    {
        $owners = [];
        foreach ($this->props as $prop) {
            $owners += $prop->waitsForContact() ? array_fill_keys($prop->pieces->bodies(), $prop) : [];
        }

        return $owners;
    }

    private function waiting(): bool
    {
        foreach ($this->props as $prop) {
            if ($prop->waitsForContact()) {
                return true;
            }
        }

        return false;
    }

    /** @param array<int, array{array{float, float, float}, array{float, float, float}}> $before velocity and spin of free bodies before the step */
    private function letGoOnContact(array $before): void
    {
        $owners = [];
        foreach ($this->props as $k => $prop) {
            if ($prop->waitsForContact()) {
                foreach ($prop->pieces->shapes() as $shape) {
                    $owners[$shape] = $k;
                }
            }
        }
        if ($owners === []) {
            return;
        }
        foreach ($this->world->touches() as [$a, $b, $speed, $impulse, $point]) {
            foreach ([[$a, $b], [$b, $a]] as [$shape, $other]) {
                if (! isset($owners[$shape])) {
                    continue;
                }
                $this->hardest->note($speed, $impulse);
                if ($this->props[$owners[$shape]]->touched($this->world, $speed, $impulse, $point) && $other >= 0) {
                    // What struck it goes on as before: in the next step it meets single pieces, not the whole.
                    $body = $this->world->bodies->bodyOf($other);
                    if (isset($before[$body])) {
                        $this->world->bodies->setVelocity($body, ...$before[$body]);
                    }
                }
            }
        }
    }

    /** By what bends and is held: nothing stops that, whatever it weighs. */
    private function letGoWhereStruck(): void
    {
        $strikes = $this->world->bodies->strikes->all();
        $owners = $strikes === [] ? [] : $this->awaiting();
        foreach ($strikes as $body => [$speed, $point]) {
            $this->hardest->note($speed, 0.0);
            ($owners[$body] ?? null)?->touched($this->world, $speed, INF, $point);
        }
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            $count = count($this->props[$k]->pieces->bodies());
            foreach ([Track::POSE, ...($this->props[$k]->isSized() ? [Track::SCALE] : []), Track::WEIGHT, Track::FLAGS] as $kind) {
                $tracks[] = new Track($prop->id, $kind, $count);
            }
        }

        return [...$tracks, ...$this->joints->tracks()];
    }

    public function write(float $frame): array
    {
        $values = [];
        $released = 0;
        $moving = 0;
        $kinetic = 0.0;
        $seen = [];
        foreach ($this->props as $k => $prop) {
            $poses = $flags = $scales = [];
            foreach ($prop->pieces->bodies() as $piece => $body) {
                array_push($scales, ...$prop->pieces->scale($piece));
                array_push($poses, ...$prop->pieces->place($piece), ...$this->world->bodies->turnOf($body));
                $loose = $prop->hasLetGo($piece);
                $asleep = $this->world->bodies->isAsleep($body);
                $off = $prop->hasComeOff($piece);
                $flags[] = ($off ? Frame::RELEASED : 0) | ($asleep || ($off && ! $loose && ! $prop->goesItsWay($piece)) ? Frame::ASLEEP : 0);
                $released += $off ? 1 : 0;
                if ($prop->goesItsWay($piece)) {
                    $moving++;
                } elseif (! $asleep && ($loose || $prop->fallsWhole())) {
                    [$velocity] = $this->world->bodies->velocity($body);
                    $moving += $velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2 > $this->shot->settleSpeed ** 2 ? 1 : 0;
                    if (! isset($seen[$body])) {
                        $seen[$body] = true;
                        $kinetic += $this->world->bodies->kineticEnergy($body);
                    }
                }
            }
            array_push($values, $poses, ...($prop->isSized() ? [$scales] : []), ...[$prop->weights($frame), $flags]);
        }

        array_push($values, ...$this->joints->ends());

        return [$values, ['released' => (float) $released, 'moving' => (float) $moving, 'kinetic' => $kinetic] + $this->hardest->take()];
    }
}
