<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** What something that bends does in a substep to what it touches. */
final readonly class Touch
{
    /**
     * @param array{float, float, float} $impulse N s
     * @param array{float, float, float} $moment of it about the world's origin, N m s
     * @param float $most what its speed may change by, m/s: how fast both met
     * @param bool $moves whether it has left its place in the last frame, or is moved by who holds it: what rests on it cannot rest then
     * @param float|null $against kg that it weighs, where it is held and drawn tight and so pushes back by more than it could alone; null: it is not
     */
    public function __construct(public array $impulse, public array $moment, public float $most, public bool $moves, public ?float $against = null)
    {
    }

    /** Of what sleeps. */
    public static function still(): self
    {
        return new self([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.0, false);
    }

    /** So many times as hard. */
    public function times(float $times): self
    {
        [$a, $b, $c] = $this->impulse;
        [$u, $v, $w] = $this->moment;

        return new self([$times * $a, $times * $b, $times * $c], [$times * $u, $times * $v, $times * $w], $this->most, $this->moves, $this->against);
    }
}
