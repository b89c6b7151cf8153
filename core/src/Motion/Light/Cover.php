<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

/** What still lies over a surface, though it is no part of it. */
interface Cover
{
    /** How high it lies there, m. */
    public function at(float $x, float $y, float $z): float;

    /** How high it lies anywhere at most, m. */
    public function most(): float;

    /** Another number whenever there is less of it. */
    public function number(): int;
}
