<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Break\Density;
use YardBreak\Core\Weight\Samples;
use YardBreak\Core\Weight\WeightSource;

/** Finer where a prop's weight is high at a frame. */
final readonly class WeightDensity implements Density
{
    /**
     * @param Closure(): WeightSource $weight
     * @param list<mixed> $inputs all that decides the weight
     */
    public function __construct(private Closure $weight, private int $frame, private array $inputs)
    {
    }

    /** @return array{int, list<mixed>} */
    public function __serialize(): array
    {
        return [$this->frame, $this->inputs];
    }

    public function over(array $low, array $high): Closure
    {
        $weight = ($this->weight)();

        return fn (float $x, float $y, float $z): float => max(0.0, min(1.0, $weight->evaluate(new Samples([$x], [$y], [$z]), (float) $this->frame)[0]));
    }
}
