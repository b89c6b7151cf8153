<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Motion\Alights;
use YardBreak\Core\Motion\Bends;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Light\Cover;
use YardBreak\Core\Motion\Light\LightWorld;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\Scatter;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Track;

/** Light motion of a shot's props. */
final class LightMover implements Mover, Alights
{
    private readonly LightWorld $world;

    private readonly Forces $forces;

    /** @var list<int> of each piece */
    private array $group = [];

    /** @var list<LightProp> */
    private array $props = [];

    /** Whether any of them meets more than floors. */
    private bool $meets = false;

    /** @var array<string, Closure(): Bending> surfaces that bend, by name */
    private array $bending = [];

    /** @var (Closure(): list<Collider>)|null what others there are to touch */
    private ?Closure $others = null;

    /** Length of the step under way, s. */
    private float $dt = 0.0;

    /**
     * @param list<Prop> $own the props it moves
     * @param list<BrokenProp> $broken their pieces
     */
    public function __construct(private readonly Shot $shot, private readonly array $own, array $broken, Surfaces $others)
    {
        $this->forces = ShotForces::on($shot, $own, $others);
        $this->world = new LightWorld($shot->settleSpeed);
        foreach ($shot->planes as $plane) {
            $this->world->addPlane($plane->normal, $plane->height, $plane->friction, Scatter::of($plane->scatter, $plane->scatterSeed));
        }
        foreach ($own as $k => $prop) {
            $this->props[] = $made = new LightProp($prop, $broken[$k], $this->world, $shot->fps, $k, $others);
            $this->meets = $this->meets || $prop->mover->settings->bool('meets');
            array_push($this->group, ...array_fill(0, $made->count(), $k));
        }
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            foreach ([Track::POSE, ...($prop->transform->isScaled() ? [Track::SCALE] : []), Track::WEIGHT, Track::LIFE, Track::FLAGS] as $kind) {
                $tracks[] = new Track($prop->id, $kind, $this->props[$k]->count());
            }
        }

        return $tracks;
    }

    public function release(float $frame): void
    {
        foreach ($this->props as $prop) {
            $prop->bring($frame);
        }
    }

    public function meet(array $others): void
    {
    }

    public function alight(array $on): void
    {
        $this->bending = array_merge([], ...array_map(static fn (Bends $mover): array => $mover->surfaces(), $on));
    }

    public function drive(float $from, float $to, float $dt): void
    {
        foreach ($this->props as $prop) {
            $prop->setOut($from, $to);
        }
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
        $this->dt = $dt;
        $this->others = $others;
        if ($this->meets) {
            $this->world->open([...$others(), ...$this->colliders()], $this->covers(), $this->bending);
        }
        $weights = fn (): array => array_merge(...array_map(static fn (LightProp $prop): array => $prop->felt($from), $this->props));
        $this->world->step($this->forces, $this->group, $weights, $from, $dt);
    }

    public function substep(int $number): void
    {
        foreach ($this->props as $prop) {
            $prop->goOn(($number + 1) / Steps::SUBSTEPS);
        }
    }

    public function colliders(): array
    {
        return array_values(array_filter(array_map(static fn (LightProp $prop): ?DrivenPiece => $prop->collider(), $this->props)));
    }

    /** @return array<string, Cover> by name of the collider */
    private function covers(): array
    {
        $covers = [];
        foreach ($this->props as $prop) {
            [$core, $cover] = [$prop->collider(), $prop->cover()];
            if ($core !== null && $cover !== null) {
                $covers[$core->name()] = $cover;
            }
        }

        return $covers;
    }

    public function end(bool $over): void
    {
        if ($this->meets) {
            $this->world->close($this->others === null ? [] : ($this->others)(), $this->dt);
        }
    }

    public function write(float $frame): array
    {
        $values = [];
        $sum = [0, 0];
        foreach ($this->props as $k => $prop) {
            [$poses, $weights, $lives, $flags, $released, $moving] = $prop->write($frame);
            array_push($values, $poses, ...($this->own[$k]->transform->isScaled() ? [$prop->scales($frame)] : []), ...[$weights, $lives, $flags]);
            $sum = [$sum[0] + $released, $sum[1] + $moving];
        }

        return [$values, ['released' => (float) $sum[0], 'moving' => (float) $sum[1], 'kinetic' => 0.0]];
    }

    public function save(): string
    {
        return State::pack(['world' => $this->world->save(), 'props' => array_map(static fn (LightProp $prop): array => $prop->save(), $this->props)]);
    }

    public function restore(string $state): void
    {
        $saved = State::read($state);
        $this->world->restore($saved->part('world'));
        foreach ($saved->parts('props') as $k => $prop) {
            $this->props[$k]->restore($prop);
        }
    }
}
