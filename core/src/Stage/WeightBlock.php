<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** A weight at every vertex for some frames on end, and what it remembers at their end. */
final readonly class WeightBlock
{
    /**
     * @param string $bytes one a vertex, frame after frame
     * @param string $memory of a weight that goes by what it was; "" of any other
     */
    public function __construct(public string $bytes, public string $memory)
    {
    }
}
