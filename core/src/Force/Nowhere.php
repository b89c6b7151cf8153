<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

/** A target that is not there: nothing is drawn to it. */
final readonly class Nowhere implements Target
{
    public function ways(array $x, array $y, array $z, float $frame): array
    {
        $none = array_fill(0, count($x), 0.0);

        return [$none, $none, $none];
    }

    public function sample(float $frame): array
    {
        return [];
    }

    public function animated(): array
    {
        return [];
    }
}
