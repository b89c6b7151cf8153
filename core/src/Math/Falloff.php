<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

use LogicException;

/** A soft edge: how it goes from nothing (0) to full (1). */
final class Falloff
{
    /**
     * @param string $edge linear, smooth (level at both ends), sharp (level where it is nothing), round (level where it is full)
     * @param float $share 0 to 1
     */
    public static function at(string $edge, float $share): float
    {
        return match ($edge) {
            'linear' => $share,
            'smooth' => $share * $share * (3.0 - 2.0 * $share),
            'sharp' => $share * $share,
            'round' => $share * (2.0 - $share),
            default => throw new LogicException("There is no edge “{$edge}”."),
        };
    }
}
