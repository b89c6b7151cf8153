<?php

declare(strict_types=1);

namespace YardBreak\Core\Art;

/** Flat art: shapes painted one over the other. */
final readonly class Artwork
{
    /** @param list<Shape> $shapes the first lies at the bottom */
    public function __construct(public array $shapes)
    {
    }

    /** @return array{float, float, float, float} least x and y, largest x and y */
    public function bounds(): array
    {
        [$x0, $y0, $x1, $y1] = [INF, INF, -INF, -INF];
        foreach ($this->shapes as $shape) {
            foreach ($shape->outlines as $outline) {
                foreach ($outline as [$x, $y]) {
                    $x0 = min($x0, $x);
                    $y0 = min($y0, $y);
                    $x1 = max($x1, $x);
                    $y1 = max($y1, $y);
                }
            }
        }

        return [$x0, $y0, $x1, $y1];
    }

    public function pointCount(): int
    {
        $count = 0;
        foreach ($this->shapes as $shape) {
            $count += array_sum(array_map(count(...), $shape->outlines));
        }

        return $count;
    }
}
