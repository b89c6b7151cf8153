<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Few of many evenly spaced numbers, so that straight lines between those come near all of them (Ramer 1972; Douglas and Peucker 1973). */
final class FewKeys
{
    /**
     * @param list<float> $values
     * @param float $near how far off a line may be
     * @param int $most how many at the most; with more it is let be farther off, twice as far each time
     *
     * @return list<int> places of those that stay, in order; a single one where nothing changes
     */
    public static function of(array $values, float $near, int $most): array
    {
        if ($values === [] || max($values) - min($values) <= $near) {
            return $values === [] ? [] : [0];
        }
        $last = count($values) - 1;
        do {
            $kept = self::within($values, $last, $near);
            $near *= 2.0;
        } while (count($kept) > max(2, $most));

        return $kept;
    }

    /**
     * @param list<float> $values
     *
     * @return list<int>
     */
    private static function within(array $values, int $last, float $near): array
    {
        $kept = [0, $last];
        $open = [[0, $last]];
        while ($open !== []) {
            [$from, $to] = array_pop($open);
            $slope = ($values[$to] - $values[$from]) / ($to - $from);
            [$far, $at] = [$near, null];
            for ($k = $from + 1; $k < $to; $k++) {
                $off = abs($values[$k] - $values[$from] - $slope * ($k - $from));
                if ($off > $far) {
                    [$far, $at] = [$off, $k];
                }
            }
            if ($at !== null) {
                $kept[] = $at;
                array_push($open, [$from, $at], [$at, $to]);
            }
        }
        sort($kept);

        return $kept;
    }
}
