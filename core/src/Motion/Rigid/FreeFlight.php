<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** What only flies on in a step: nothing presses on it, nor on anything it is near. The solver would change nothing there. */
final class FreeFlight
{
    /**
     * What presses on a body may be handed on to all that are near it, and to those near them; through what moves by itself, not
     * through what stays where it is.
     *
     * @param array<int, ContactPair> $live pairs that are near, by key
     * @param array<int, true> $clear those among them that cannot press on each other in this step, by key
     * @param array<int, int> $body by shape
     * @param array<int, bool> $moves bodies that move by themselves
     * @param array<int, bool> $pressed bodies on which something else may press
     *
     * @return array<int, bool> bodies on which anything may press; the others fly
     */
    public static function pressed(array $live, array $clear, array $body, array $moves, array $pressed): array
    {
        $open = [];
        foreach ($live as $key => $pair) {
            $a = $body[$pair->a];
            $b = $body[$pair->b];
            if (isset($clear[$key], $moves[$a], $moves[$b])) {
                $open[] = [$a, $b];
            } else {
                $pressed[$a] = $pressed[$b] = true;
            }
        }
        // To and fro: what is near each other stands near each other in the list.
        do {
            $handedOn = false;
            $left = [];
            foreach ($open as $pair) {
                [$a, $b] = $pair;
                if (! isset($pressed[$a]) && ! isset($pressed[$b])) {
                    $left[] = $pair;
                } elseif (! isset($pressed[$a], $pressed[$b])) {
                    $pressed[$a] = $pressed[$b] = $handedOn = true;
                }
            }
            $open = array_reverse($left);
        } while ($handedOn);

        return $pressed;
    }
}
