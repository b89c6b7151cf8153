<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use Closure;

/** Finer where a picture laid over one side is dark, or bright. */
final readonly class PictureDensity implements Density
{
    /** @param int $axis the one it is looked along: 0, 1, 2 for x, y, z */
    public function __construct(private ToneMap $picture, private int $axis, private bool $dark)
    {
    }

    public function over(array $low, array $high): Closure
    {
        $u = ($this->axis + 1) % 3;
        $v = ($this->axis + 2) % 3;
        $wide = max(1e-12, $high[$u] - $low[$u]);
        $tall = max(1e-12, $high[$v] - $low[$v]);

        return function (float $x, float $y, float $z) use ($u, $v, $low, $wide, $tall): float {
            $place = [$x, $y, $z];
            $tone = $this->picture->at(($place[$u] - $low[$u]) / $wide, ($place[$v] - $low[$v]) / $tall);

            return $this->dark ? 1.0 - $tone : $tone;
        };
    }
}
