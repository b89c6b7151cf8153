<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use Closure;

/**
 * A solver and the props it moves. Movers go in turn within the same substeps; of the others each knows nothing but the
 * colliders it is shown at each step.
 */
interface Mover
{
    /** @return list<Track> what it writes at each frame */
    public function tracks(): array;

    /** Lets go of what is due by a frame. */
    public function release(float $frame): void;

    /**
     * Once, before anything moves.
     *
     * @param list<Collider> $others what other movers let it touch at first
     */
    public function meet(array $others): void;

    /**
     * What goes a way that is known sets out on the next step, before anybody begins it.
     *
     * @param float $from frame at which the step begins; may lie between two
     * @param float $to frame at which it ends
     * @param float $dt s
     */
    public function drive(float $from, float $to, float $dt): void;

    /**
     * Begins a step: forces, contacts.
     *
     * @param float $from frame at which the step begins
     * @param float $to frame at which it ends
     * @param float $dt s
     * @param Closure(): list<Collider> $others what other movers let it touch; costs nothing if it is not asked for
     */
    public function begin(float $from, float $to, float $dt, Closure $others): void;

    /** @param int $number of this substep in the step, from 0 */
    public function substep(int $number): void;

    /** @return list<Collider> what others may touch of what it moves, as it stands */
    public function colliders(): array;

    /**
     * Ends the step: what was touched, what comes to rest.
     *
     * @param bool $over whether a frame is over with it: in a pre-roll the time that is known beforehand does not say so
     */
    public function end(bool $over): void;

    /** @return array{list<array<int, float|int>>, array<string, float>} values of each of its tracks, and its share of the readout */
    public function write(float $frame): array;

    /** Everything that decides the next step, between frames: what is restored goes on with the same bits. */
    public function save(): string;

    public function restore(string $state): void;
}
