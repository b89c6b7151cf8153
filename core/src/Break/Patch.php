<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** A convex part of one triangle of a mesh. */
final readonly class Patch
{
    /**
     * @param list<int> $names of the corners, counter-clockwise; the same place has the same name in all patches
     * @param list<float> $weights of the triangle's first and second corner, at each corner
     */
    public function __construct(public int $triangle, public array $names, public array $weights)
    {
    }

    /** Its area in parts of the triangle's. */
    public function share(): float
    {
        $share = 0.0;
        $w = $this->weights;
        for ($k = 0, $count = count($w); $k < $count; $k += 2) {
            $n = $k + 2 === $count ? 0 : $k + 2;
            $share += $w[$k] * $w[$n + 1] - $w[$n] * $w[$k + 1];
        }

        return $share;
    }
}
