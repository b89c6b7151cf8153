<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use Closure;
use LogicException;

/**
 * Moves on what several movers move, frame by frame: each frame in steps, each step in substeps that all movers take in turn.
 * Frames before the first, 1, are a pre-roll: what is loose moves, while for all that is known beforehand it is frame 1.
 */
final class Simulation
{
    private readonly int $steps;

    private readonly float $dt;

    /** @var list<Track> */
    private readonly array $tracks;

    private readonly ?Closure $tick;

    /** The last frame that was computed; before any, the one before the pre-roll. */
    private int $frame;

    /**
     * @param list<Mover> $movers
     * @param (callable(): void)|null $tick called once a step
     * @param Sightings|null $seen is told of each frame, for movers that go by where things are; null: none does
     * @param int $preRoll frames before the first
     */
    public function __construct(float $fps, private readonly int $frames, private readonly array $movers, ?callable $tick = null, private readonly ?Sightings $seen = null, private readonly int $preRoll = 0)
    {
        $this->frame = -$preRoll;
        $this->tick = $tick === null ? null : $tick(...);
        $this->steps = Steps::aFrame($fps);
        $this->dt = 1.0 / ($fps * $this->steps);
        $this->tracks = array_merge(...array_map(static fn (Mover $mover): array => $mover->tracks(), $movers));
        $bend = array_values(array_filter($movers, static fn (Mover $mover): bool => $mover instanceof Bends));
        foreach ($movers as $mover) {
            $mover->meet($this->others($mover));
            if ($mover instanceof Alights) {
                $mover->alight($bend);
            }
        }
    }

    /** @return list<Track> */
    public function tracks(): array
    {
        return $this->tracks;
    }

    /** @return iterable<int, Frame> by number: all from the pre-roll on, or those behind the one that was restored */
    public function frames(): iterable
    {
        while ($this->frame < $this->frames) {
            $this->frame++;
            if ($this->frame > 1 - $this->preRoll) {
                $this->move($this->frame);
            }
            // What lets go by where things are goes by where they are now.
            $this->seen?->note($this->write());
            foreach ($this->movers as $mover) {
                $mover->release((float) $this->now());
            }
            $frame = $this->write();
            $this->seen?->note($frame);
            yield $this->frame => $frame;
        }
    }

    /** What frame it is for all that is known beforehand. */
    private function now(): int
    {
        return max(1, $this->frame);
    }

    /** From one frame to the next. */
    private function move(int $number): void
    {
        for ($s = 0; $s < $this->steps; $s++) {
            if ($this->tick !== null) {
                ($this->tick)();
            }
            $from = max(1.0, $number - 1 + $s / $this->steps);
            $to = max(1.0, $number - 1 + ($s + 1) / $this->steps);
            foreach ($this->movers as $mover) {
                $mover->drive($from, $to, $this->dt);
            }
            foreach ($this->movers as $mover) {
                $mover->begin($from, $to, $this->dt, fn (): array => $this->others($mover));
            }
            for ($k = 0; $k < Steps::SUBSTEPS; $k++) {
                foreach ($this->movers as $mover) {
                    $mover->substep($k);
                }
            }
            foreach ([false, true] as $last) {
                foreach ($this->movers as $mover) {
                    if ($mover instanceof Alights === $last) {
                        $mover->end($s === $this->steps - 1);
                    }
                }
            }
        }
    }

    /** @return list<Collider> what a mover may touch of the others */
    private function others(Mover $mover): array
    {
        $colliders = [];
        foreach ($this->movers as $other) {
            if ($other !== $mover) {
                array_push($colliders, ...$other->colliders());
            }
        }

        return $colliders;
    }

    private function write(): Frame
    {
        $values = $readouts = [];
        foreach ($this->movers as $mover) {
            [$own, $readouts[]] = $mover->write((float) $this->now());
            array_push($values, ...$own);
        }

        return new Frame($this->frame, $this->tracks, $values, Frame::together($readouts));
    }

    /** As it stands after the last frame that was taken. */
    public function save(): string
    {
        // Counted from where it sets out: another pre-roll begins the same way.
        return State::pack(['frame' => $this->frame + $this->preRoll, 'movers' => array_map(static fn (Mover $mover): array => ['state' => $mover->save()], $this->movers)]);
    }

    public function restore(string $state): void
    {
        $saved = State::read($state);
        $movers = $saved->parts('movers');
        if (count($movers) !== count($this->movers)) {
            throw new LogicException('The state is of another simulation.');
        }
        $this->frame = $saved->int('frame') - $this->preRoll;
        $this->seen?->resume($this->frame);
        foreach ($this->movers as $k => $mover) {
            $mover->restore($movers[$k]->string('state'));
        }
        if ($this->frame < 1) {
            // It is stored nowhere.
            $this->seen?->note($this->write());
        }
    }
}
