<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** How far the change has got at a place of the prop and a frame: 0 not at all, 1 fully. */
interface Weight
{
    /** Place in the prop's own space, m. */
    public function at(float $x, float $y, float $z, float $frame): float;
}
