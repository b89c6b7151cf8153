<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Motion\Collider;

/** Something that light pieces land on, slide along and ride on, for the length of a step. */
interface LightSurface
{
    /**
     * The step is over.
     *
     * @param Collider|null $now as it stands and is by then; null: as when the step began, or it bends
     */
    public function close(?Collider $now): void;

    /** @return array{array{float, float, float}, float} middle and radius of a ball around it, m */
    public function ball(): array;

    /** How far any place of it may move in so many seconds, m. */
    public function travel(float $dt): float;

    public function friction(): float;

    /** Whether it has neither moved nor grown in the step. */
    public function isStill(): bool;

    /** Whether what lay on it in the step may have lost its hold. */
    public function isLaidOpen(): bool;

    /** Number of what covers it at this step; null: nothing does. */
    public function covered(): ?int;

    /** @return array{array{float, float, float}, array{float, float, float}}|null low and high corner of it in its axes, as large as it is; null: nothing has come near, or it bends */
    public function box(): ?array;

    /**
     * @param array{float, float, float} $was place of the piece before the step
     * @param array{float, float, float} $is and after it
     *
     * @return array{array{float, float, float}, float, array{float, float, float}}|null outward direction, height of its centre above the surface, velocity of the surface there; null: it is not near
     */
    public function find(int $i, LightPiece $piece, array $was, array $is, float $dt): ?array;

    /**
     * Where a piece lies that has come to rest.
     *
     * @param array{float, float, float} $place in the world
     * @param array{float, float, float, float} $turn
     * @param array{float, float, float} $normal
     */
    public function seat(array $place, array $turn, array $normal): Seat;

    /** Where a piece lies now that it has grown in the step, if it has: the same place of the surface, as far above it. */
    public function grown(Seat $seat, LightPiece $piece): Seat;

    /** @return array{array{float, float, float}, array{float, float, float, float}, array{float, float, float}} place, turn and normal in the world of what lies there */
    public function carried(Seat $seat): array;

    /** Whether the surface, or what covers it, is still under a seat. */
    public function bears(Seat $seat, LightPiece $piece): bool;
}
