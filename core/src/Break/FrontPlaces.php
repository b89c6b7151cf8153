<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Places in the pieces of a fracture, and when a front gets to each. */
final readonly class FrontPlaces
{
    /**
     * @param list<float> $x m
     * @param list<float> $y
     * @param list<float> $z
     * @param list<float> $arrival frame; where it does not come one after all others
     * @param array<int, list<int>> $of places by piece
     * @param float $soonest frame at which it gets to the first of them, INF if it never comes
     */
    public function __construct(public array $x, public array $y, public array $z, public array $arrival, public array $of, public float $soonest)
    {
    }
}
