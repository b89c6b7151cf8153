<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Pattern;

use Closure;
use YardBreak\Core\Document\Settings;

/** Places of blows, as several patterns have them. */
final class Blows
{
    /** @return non-empty-list<array{float, float, float}> the first one, and more */
    public static function places(Settings $settings): array
    {
        return [$settings->vector('at'), ...$settings->vectors('places')];
    }

    /**
     * @param list<array{float, float, float}> $places
     *
     * @return Closure(float, float, float): float distance to the nearest of them
     */
    public static function distance(array $places): Closure
    {
        return static function (float $x, float $y, float $z) use ($places): float {
            $nearest = INF;
            foreach ($places as [$bx, $by, $bz]) {
                $nearest = min($nearest, ($x - $bx) ** 2 + ($y - $by) ** 2 + ($z - $bz) ** 2);
            }

            return sqrt($nearest);
        };
    }
}
