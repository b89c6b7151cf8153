<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Weight\Samples;

/** Places at which a weight is asked for, and which of them counts for each vertex. */
final readonly class Places
{
    /** @param list<int> $number of its place, for each vertex */
    public function __construct(public Samples $at, public array $number)
    {
    }

    /**
     * @param list<float> $weights of the places; what springs may leave 0 to 1 for a while
     *
     * @return string a byte for each vertex
     */
    public function bytes(array $weights): string
    {
        $values = [];
        foreach ($weights as $value) {
            $values[] = chr((int) (255.0 * ($value < 0.0 ? 0.0 : ($value > 1.0 ? 1.0 : $value)) + 0.5));
        }
        $bytes = '';
        foreach ($this->number as $k) {
            $bytes .= $values[$k];
        }

        return $bytes;
    }
}
