<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Force\Forces;
use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\RanAway;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Bending;
use YardBreak\Core\Motion\Surface\Slumber;

/** A prop each vertex of which moves by itself: {@see VertexMover} steps it. */
interface VertexProp
{
    /** Vertices that are drawn. */
    public function count(): int;

    /** It takes each so-manieth of the substeps that all movers share. */
    public function every(): int;

    /** What is due by a frame lets go. */
    public function bring(float $frame): void;

    /**
     * @param int $group what it is to the forces
     * @param float $dt s
     * @param list<Collider> $others
     * @param float $met how fast another that bends comes at it in the step, m/s; 0: none does
     */
    public function begin(Forces $forces, int $group, float $from, float $to, float $dt, array $others, float $met): void;

    /**
     * @param float $from frame at which the substep begins
     * @param float $to and ends
     */
    public function substep(float $from, float $to): void;

    /** Its surface as it stands, for others that bend. */
    public function bending(): Bending;

    /** Its surface was moved by others. */
    public function bent(Bending $now): void;

    /** What has come through itself is drawn back. */
    public function untangle(): void;

    /** What others have drawn into floors and hard things is put out of them again. */
    public function clear(): void;

    /** Which parts of it sleep. */
    public function slumber(): Slumber;

    /** A frame is over, whatever else has moved it: what has kept to its place comes to rest. */
    public function settle(): void;

    /**
     * @param bool $over whether a frame is over with the step
     *
     * @throws RanAway
     */
    public function end(float $frame, bool $over): void;

    /** @return list<float> three numbers a vertex, m */
    public function places(): array;

    /**
     * @param list<float> $places three numbers a vertex, m
     *
     * @return list<float> three numbers a vertex that is drawn
     */
    public function drawn(array $places): array;

    /** @return list<float> of each vertex that is drawn, 0 to 1 */
    public function weights(float $frame): array;

    /** @return array<int, float> how far each vertex is held, 0 to 1 */
    public function held(): array;

    /** @return array{released: float, kinetic: float, speed: float, impulse: float} what was held and is not, energy in J, the hardest touch since this was asked last in m/s and N s */
    public function facts(): array;

    /** @return array<string, mixed> */
    public function save(): array;

    public function restore(State $saved): void;
}
