<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** What most forces have in common: they act otherwise at each place, and on what is there itself, not on the air. */
trait ByPlace
{
    public function uniform(float $frame): ?array
    {
        return null;
    }

    public function movesAir(): bool
    {
        return false;
    }
}
