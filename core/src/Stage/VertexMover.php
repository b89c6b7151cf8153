<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Force\Forces;
use YardBreak\Core\Motion\Mover;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;
use YardBreak\Core\Motion\Track;

/** Props of a shot whose vertices move. They take their substeps after those whose surfaces they touch. */
final class VertexMover implements Mover
{
    private float $from = 1.0;

    private float $to = 1.0;

    /**
     * @param list<Prop> $own the props it moves
     * @param list<VertexProp> $props what moves them
     */
    public function __construct(private readonly Shot $shot, private readonly array $own, private readonly array $props, private readonly Forces $forces)
    {
    }

    /** Length of a substep that all movers share, s. */
    public static function substepOf(Shot $shot): float
    {
        return 1.0 / ($shot->fps * Steps::aFrame($shot->fps) * Steps::SUBSTEPS);
    }

    public function tracks(): array
    {
        $tracks = [];
        foreach ($this->own as $k => $prop) {
            foreach ([Track::VERTICES, Track::WEIGHT] as $kind) {
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

    public function colliders(): array
    {
        return [];
    }

    public function meet(array $others): void
    {
    }

    public function drive(float $from, float $to, float $dt): void
    {
    }

    public function begin(float $from, float $to, float $dt, Closure $others): void
    {
        [$this->from, $this->to] = [$from, $to];
        $colliders = $others();
        foreach ($this->props as $k => $prop) {
            $prop->begin($this->forces, $k, $from, $to, $dt, $colliders);
        }
    }

    public function substep(int $number): void
    {
        $at = fn (int $substep): float => $this->from + ($this->to - $this->from) * $substep / Steps::SUBSTEPS;
        foreach ($this->props as $prop) {
            if (($number + 1) % $prop->every() === 0) {
                $prop->substep($at($number + 1 - $prop->every()), $at($number + 1));
            }
        }
    }

    public function end(): void
    {
        foreach ($this->props as $prop) {
            $prop->end($this->to);
        }
    }

    public function write(float $frame): array
    {
        $values = [];
        $readout = ['released' => 0.0, 'moving' => 0.0, 'kinetic' => 0.0];
        foreach ($this->props as $prop) {
            array_push($values, $prop->places(), $prop->weights($frame));
            foreach ($prop->facts($this->shot->settleSpeed) as $name => $number) {
                $readout[$name] += $number;
            }
        }

        return [$values, $readout];
    }

    public function save(): string
    {
        return State::pack(['props' => array_map(static fn (VertexProp $prop): array => $prop->save(), $this->props)]);
    }

    public function restore(string $state): void
    {
        foreach (State::read($state)->parts('props') as $k => $prop) {
            $this->props[$k]->restore($prop);
        }
    }
}
