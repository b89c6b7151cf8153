<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** What passes through a prop in time. Serialized, it tells itself from all others: that is what a break's hash is made of. */
interface Front
{
    /**
     * @param list<float> $x places in the prop's own space, m
     * @param list<float> $y
     * @param list<float> $z
     *
     * @return list<float> the frame at which it gets to each, between frames too; INF where it never does
     */
    public function arrivals(array $x, array $y, array $z, Progress $progress): array;
}
