<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** When what bends counts as at rest, and how it gets there. */
final readonly class Settling
{
    /** What keeps as near to a place as it would get in this time, s, at the speed it settles below ... */
    private const WANDER = 0.2;

    /** ... for so long, s, comes to rest: its motion dies out ... */
    private const AFTER = 0.3;

    /** ... which takes so many times as long for what hangs ... */
    private const HANGS_LONGER = 5.0;

    /** ... within so long, s. A sudden stop would be seen. */
    private const FADE = 0.5;

    private function __construct(
        /** What is slower comes to rest, m/s. */
        public float $speed,
        /** How far it may be from a place and still keep to it, m. */
        public float $far,
        /** Share of a frame in where it is over a longer time. */
        public float $blend,
        /** Frames. */
        public int $after,
        /** Frames. */
        public int $fade,
    ) {
    }

    /** @param float $speed what is slower comes to rest, m/s */
    public static function below(float $speed, float $fps): self
    {
        return new self($speed, self::WANDER * $speed, min(1.0, 1.0 / (self::AFTER * $fps)), max(2, (int) round(self::AFTER * $fps)), max(1, (int) round(self::FADE * $fps)));
    }

    /** It never does. */
    public static function never(): self
    {
        return new self(0.0, 0.0, 1.0, PHP_INT_MAX, 1);
    }

    public function isNever(): bool
    {
        return $this->after === PHP_INT_MAX;
    }

    /**
     * A frame more in the same place.
     *
     * @param bool $hangs whether a part of it is held: that swings, and a swing is slow where it turns round
     */
    public function longer(float $frames, bool $hangs): float
    {
        return $frames + ($hangs && $frames < $this->after ? 1.0 / self::HANGS_LONGER : 1.0);
    }

    /** @return float how much of its motion is left to what has kept to a place for so many frames: 1 all, 0 it sleeps */
    public function left(float $frames): float
    {
        return $frames <= $this->after ? 1.0 : max(0.0, 1.0 - ($frames - $this->after) / $this->fade);
    }
}
