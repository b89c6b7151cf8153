<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/** Places of a prop at which a weight is asked for, in the prop's own space, m. */
final readonly class Samples
{
    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    public function __construct(public array $x, public array $y, public array $z)
    {
    }

    /** @param list<array{float, float, float}> $places */
    public static function of(array $places): self
    {
        return new self(array_column($places, 0), array_column($places, 1), array_column($places, 2));
    }

    /** @param list<int> $numbers */
    public function picked(array $numbers): self
    {
        $x = $y = $z = [];
        foreach ($numbers as $k) {
            $x[] = $this->x[$k];
            $y[] = $this->y[$k];
            $z[] = $this->z[$k];
        }

        return new self($x, $y, $z);
    }

    /**
     * @param positive-int $size
     *
     * @return list<self> the same places in their order, so many at a time
     */
    public function parted(int $size): array
    {
        $parts = [];
        for ($k = 0, $end = count($this->x); $k < $end; $k += $size) {
            $parts[] = new self(array_slice($this->x, $k, $size), array_slice($this->y, $k, $size), array_slice($this->z, $k, $size));
        }

        return $parts;
    }
}
