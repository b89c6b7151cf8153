<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Mesh\SurfaceTree;

/** Something of one mover that others may touch: a surface that is rigid in its own axes and stands somewhere at each moment. */
interface Collider
{
    /** Tells it from all others; the same for as long as it is the same thing. */
    public function name(): string;

    /**
     * A ball around all of it now: who is not near the ball need not ask for the surface.
     *
     * @return array{array{float, float, float}, float} middle and radius, m
     */
    public function ball(): array;

    public function surface(): SurfaceTree;

    public function friction(): float;

    /** @return array{array{float, float, float}, array{float, float, float, float}} position and rotation of its axes now */
    public function pose(): array;

    /** kg; INF: nothing that it meets makes it give way. */
    public function mass(): float;

    /** How far any place of it may move in so many seconds, m. */
    public function travel(float $dt): float;

    /** How far its skin goes out or in by growing in so many seconds, m, at most; within {@see travel()}. */
    public function growth(float $dt): float;

    /** What touches it pushes back. */
    public function push(Touch $touch): void;

    /**
     * What it presses on can go no farther: along a way it is no faster there than so, and across it no faster than friction lets it be.
     *
     * @param array{float, float, float} $place in the world, m
     * @param array{float, float, float} $way unit
     * @param float $most m/s
     * @param float $friction of both
     * @param float $bears N s that what it presses on can take
     *
     * @return float N s that it would take to stop it so
     */
    public function stop(array $place, array $way, float $most, float $friction, float $bears): float;

    /** Whether what it meets moves it, or is waited for. */
    public function feels(): bool;

    /**
     * Something firm is at it.
     *
     * @param array{float, float, float} $place in the world, m
     * @param array{float, float, float} $way from it, unit
     * @param float $goes how fast what is there goes that way, m/s
     * @param float $spare how much faster than that it may come and yet not touch it in the substep, m/s
     */
    public function meet(array $place, array $way, float $goes, float $spare): void;

    /** What is firm stopped it in a substep, all in all with such a force, N. */
    public function bear(float $force): void;

    /**
     * How easily a place of it is moved, whatever the way: an upper limit of that.
     *
     * @param array{float, float, float} $place in the world, m
     *
     * @return float 1/kg; 0: nothing moves it
     */
    public function yields(array $place): float;

    /**
     * What is fastened to it draws it.
     *
     * @param array{float, float, float} $impulse N s
     * @param array{float, float, float} $moment of it about the world's origin, N m s
     * @param bool $moves whether what draws has left its place in the last frame
     * @param float $h how long it draws, s
     */
    public function pull(array $impulse, array $moment, bool $moves, float $h): void;
}
