<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\State;

/**
 * Pairs of spheres that come near each other, by sweeping along the axis of largest spread. The order of the last step is
 * nearly right for the next: sorting by insertion then costs next to nothing.
 */
final class BroadPhase
{
    /** @var array<int, int> shapes by their low end */
    private array $order = [];

    private int $axis = -1;

    /**
     * @param array<int, float> $x centres
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, ConvexHull> $hull
     * @param array<int, int> $body of each sphere; two spheres of one body never pair up
     * @param array<int, bool> $active by body: two bodies that both are not active never pair up
     * @param array<int, bool> $free by body: nor do two that are driven
     * @param array<int, float> $travel by body: how far it may go in the step against the common velocity
     * @param array<int, float> $turn by body: how far its points may turn
     * @param array<int, float> $v six numbers a body
     *
     * @return list<int> two spheres a pair, lower number * 2^20 + higher
     */
    public function pairs(array $x, array $y, array $z, array $hull, array $body, array $active, array $free, array $travel, array $turn, array $v, float $dt): array
    {
        $n = count($x);
        $axis = self::widest($x, $y, $z);
        $main = $axis === 0 ? $x : ($axis === 1 ? $y : $z);
        $low = [];
        $own = [];
        foreach ($hull as $i => $h) {
            $own[] = $r = $h->radius * (1.0 + RigidTuning::LOOK_AHEAD);
            $low[] = $main[$i] - $r - $travel[$body[$i]];
        }
        if ($axis !== $this->axis || count($this->order) !== $n) {
            $sorted = $low;
            asort($sorted);
            $order = array_keys($sorted);
            $this->axis = $axis;
        } else {
            $order = $this->order;
            $this->order = [];
            for ($s = 1; $s < $n; $s++) {
                $i = $order[$s];
                $l = $low[$i];
                $t = $s - 1;
                if ($low[$order[$t]] <= $l) {
                    continue;
                }
                do {
                    $order[$t + 1] = $order[$t];
                    $t--;
                } while ($t >= 0 && $low[$order[$t]] > $l);
                $order[$t + 1] = $i;
            }
        }
        // Copied in order, so that the sweep reads on and on.
        $A = $B = $C = $S = $L = $W = $E = [];
        foreach ($order as $i) {
            $b = $body[$i];
            $A[] = $main[$i];
            $B[] = $axis === 0 ? $y[$i] : $x[$i];
            $C[] = $axis === 2 ? $y[$i] : $z[$i];
            $L[] = $low[$i];
            $S[] = $own[$i];
            $W[] = $own[$i] + $travel[$b];
            $E[] = $active[$b];
        }
        $L[] = INF;
        $movers = [];
        foreach ($E as $s => $moves) {
            if ($moves) {
                $movers[] = $s;
            }
        }
        $movers[] = $n;
        $next = 0;
        $keys = [];
        for ($s = 0; $s < $n; $s++) {
            $cx = $A[$s];
            $cy = $B[$s];
            $cz = $C[$s];
            $cr = $W[$s];
            $high = $cx + $cr;
            if ($moves = $E[$s]) {
                $next++;
                $t = $s + 1;
            } else {
                // What rests is only met by what moves.
                $t = $movers[$m = $next];
            }
            for (; $L[$t] <= $high; $t = $moves ? $t + 1 : $movers[++$m]) {
                $reach = $cr + $W[$t];
                $d = $B[$t] - $cy;
                if ($d > $reach || $d < -$reach) {
                    continue;
                }
                $e = $C[$t] - $cz;
                if ($e > $reach || $e < -$reach) {
                    continue;
                }
                $f = $A[$t] - $cx;
                $d = $d * $d + $e * $e + $f * $f;
                if ($d >= $reach * $reach) {
                    continue;
                }
                $i = $order[$s];
                $j = $order[$t];
                $a = $body[$i];
                $b = $body[$j];
                if ($a === $b || (! $free[$a] && ! $free[$b])) {
                    continue;
                }
                $reach = $S[$s] + $S[$t] + $turn[$a] + $turn[$b];
                $a *= 6;
                $b *= 6;
                $ux = $v[$b] - $v[$a];
                $uy = $v[$b + 1] - $v[$a + 1];
                $uz = $v[$b + 2] - $v[$a + 2];
                $reach += $dt * sqrt($ux * $ux + $uy * $uy + $uz * $uz);
                if ($d < $reach * $reach) {
                    $keys[] = $i < $j ? $i * 1048576 + $j : $j * 1048576 + $i;
                }
            }
        }
        $this->order = $order;

        return $keys;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private static function widest(array $x, array $y, array $z): int
    {
        if ($x === []) {
            return 0;
        }
        $best = 0;
        $most = -1.0;
        foreach ([$x, $y, $z] as $axis => $values) {
            $n = count($values);
            // Mean distance from the mean: one far away does not decide.
            $mean = array_sum($values) / $n;
            $spread = 0.0;
            foreach ($values as $value) {
                $spread += $value < $mean ? $mean - $value : $value - $mean;
            }
            if ($spread > 1.3 * $most) {
                $most = $spread;
                $best = $axis;
            }
        }

        return $best;
    }

    /** @return array{axis: int, order: array<int, int>} */
    public function save(): array
    {
        return ['axis' => $this->axis, 'order' => $this->order];
    }

    public function restore(State $state): void
    {
        $this->axis = $state->int('axis');
        $this->order = $state->ints('order');
    }
}
