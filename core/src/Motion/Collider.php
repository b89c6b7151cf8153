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

    /** How far any place of it may move in so many seconds, m. */
    public function travel(float $dt): float;

    /**
     * What touched it pushes back.
     *
     * @param array{float, float, float} $impulse N s
     * @param array{float, float, float} $moment of it about the world's origin, N m s
     * @param float $most what its speed may change by, m/s: how fast both met
     */
    public function push(array $impulse, array $moment, float $most): void;

    /**
     * What it presses on can go no farther: along a way it is no faster there than so.
     *
     * @param array{float, float, float} $place in the world, m
     * @param array{float, float, float} $way unit
     * @param float $most m/s
     */
    public function stop(array $place, array $way, float $most): void;
}
