<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** Says how far the change has got at many places at once: 0 not at all, 1 fully. */
interface WeightSource
{
    /**
     * @param float $frame may lie between two
     *
     * @return list<float> a weight for each sample
     */
    public function evaluate(Samples $at, float $frame): array;
}
