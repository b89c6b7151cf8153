<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** When numbers begin to change. */
final class Changes
{
    /**
     * @param list<Animated> $values
     *
     * @return list<float> frames of the keys of those that change
     */
    public static function of(array $values): array
    {
        $frames = [];
        foreach ($values as $value) {
            array_push($frames, ...($value->isConstant() ? [] : $value->frames()));
        }

        return $frames;
    }
}
