<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;

/** Where a break is to be finer. Serialized, it tells itself from all others: that is what a break's hash is made of. */
interface Density
{
    /**
     * @param array{float, float, float} $low bounds of what is broken, m
     * @param array{float, float, float} $high
     *
     * @return Closure(float, float, float): float 0 where it is to be coarse, 1 where it is to be finest
     */
    public function over(array $low, array $high): Closure;
}
