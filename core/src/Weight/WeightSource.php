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

    /** @return list<mixed> what decides it and is the same at all frames */
    public function still(): array;

    /**
     * What decides it and changes, as it is at a frame: where both are the same, so are the weights. What other props do over
     * time is not in it.
     *
     * @return list<float>
     */
    public function sample(float $frame): array;
}
