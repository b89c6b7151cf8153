<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake\Codec;

/** Numbers that go straight from one frame to the next. */
trait Linear
{
    /**
     * @param array<int, float|int> $a
     * @param array<int, float|int> $b as many
     *
     * @return list<float|int>
     */
    public function between(array $a, array $b, float $share): array
    {
        $values = [];
        foreach ($a as $k => $value) {
            $values[] = $value + $share * ($b[$k] - $value);
        }

        return $values;
    }
}
