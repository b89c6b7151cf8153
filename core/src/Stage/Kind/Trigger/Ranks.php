<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage\Kind\Trigger;

use YardBreak\Core\Document\Settings;

/** In which order pieces let go that do so one after the other. */
final class Ranks
{
    /**
     * @param list<array{float, float, float}> $middles of the pieces, in the prop's space, m
     *
     * @return list<int>|null how many let go before each; null: no order
     */
    public static function of(Settings $settings, array $middles): ?array
    {
        $order = $settings->string('order');
        if ($settings->int('over') === 0 || $order === 'any') {
            return null;
        }
        $centre = [0.0, 0.0, 0.0];
        foreach ($middles as $at) {
            foreach ([0, 1, 2] as $axis) {
                $centre[$axis] += $at[$axis] / count($middles);
            }
        }
        $late = [];
        foreach ($middles as $k => [$x, $y, $z]) {
            $far = sqrt(($x - $centre[0]) ** 2 + ($y - $centre[1]) ** 2 + ($z - $centre[2]) ** 2);
            $late[$k] = match ($order) {
                'below' => $y,
                'above' => -$y,
                'left' => $x,
                'right' => -$x,
                'middle' => $far,
                'outside' => -$far,
                default => (float) $k,
            };
        }
        // What is level stays as it is listed.
        asort($late, SORT_NUMERIC);
        $ranks = array_flip(array_keys($late));
        ksort($ranks);

        return array_values($ranks);
    }
}
