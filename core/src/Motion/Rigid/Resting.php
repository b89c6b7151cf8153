<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\Steps;

/** Brings slow pieces to rest: rolling and rocking die out, what trembles is braked, what has been slow long enough sleeps. */
final readonly class Resting
{
    /** @param float $settleSpeed pieces slower than this come to rest, m/s */
    public function __construct(private RigidBodies $bodies, private float $settleSpeed)
    {
    }

    /**
     * Slow pieces are braked; one that has been slow long enough falls asleep, unless something it touches still moves.
     *
     * @param list<int> $moving
     * @param list<array{int, int}> $joined bodies that joints hold together
     */
    public function settle(array $moving, ContactSolver $solver, array $joined, float $dt): void
    {
        $brake = 1.0 / (1.0 + $dt * RigidTuning::SETTLE_RATE);
        $roll = 1.0 / (1.0 + $dt * RigidTuning::ROLLING_RATE);
        $rested = [];
        $moves = array_fill_keys($moving, true);
        $held = [];
        foreach ($solver->pairs as $c => $pair) {
            if ($pair->touched) {
                $held[$solver->bodies[2 * $c]] = true;
                $held[$solver->bodies[2 * $c + 1]] = true;
            }
        }
        $this->resistRolling($solver, $moves);
        $hangs = [];
        foreach ($joined as [$a, $b]) {
            $hangs[$a] = $hangs[$b] = true;
        }
        foreach ($moving as $b) {
            if (isset($held[$b])) {
                for ($k = 6 * $b + 3; $k < 6 * $b + 6; $k++) {
                    $this->bodies->v[$k] *= $roll;
                }
            }
            // Staying close to a place for a while is rest, even if it trembles there.
            $o = 6 * $b;
            if ((isset($held[$b]) || isset($hangs[$b]) || $this->bodies->carried->has($b)) && $this->wandered($b) < $this->settleSpeed * RigidTuning::WANDER) {
                $this->bodies->slow[$b] += $dt;
            } else {
                $this->bodies->slow[$b] = 0.0;
                [$this->bodies->anchor[7 * $b], $this->bodies->anchor[7 * $b + 1], $this->bodies->anchor[7 * $b + 2]] = $this->bodies->placeOf($b);
                foreach ($this->bodies->turnOf($b) as $k => $value) {
                    $this->bodies->anchor[7 * $b + 3 + $k] = $value;
                }
            }
            // What only hangs is told by how long, in the same measure.
            $slow = $this->bodies->slow[$b] / (isset($held[$b]) || $this->bodies->carried->has($b) ? 1.0 : RigidTuning::HANGS_LONGER);
            if ($slow > RigidTuning::SETTLE_AFTER) {
                for ($k = $o; $k < $o + 6; $k++) {
                    $this->bodies->v[$k] *= $brake;
                }
            }
            $rested[$b] = $slow;
        }
        $asSlow = $rested;
        foreach ($joined as [$a, $b]) {
            foreach ([[$a, $b], [$b, $a]] as [$one, $other]) {
                if (isset($rested[$one], $asSlow[$other]) && $asSlow[$other] < RigidTuning::SETTLE_AFTER) {
                    $rested[$one] = 0.0;
                }
            }
        }
        foreach ($solver->pairs as $c => $pair) {
            if ($pair->touched) {
                $a = $solver->bodies[2 * $c];
                $b = $solver->bodies[2 * $c + 1];
                $radius = $pair->b < 0 ? $this->bodies->bodyRadius[$a] : min($this->bodies->bodyRadius[$a], $this->bodies->bodyRadius[$b]);
                if ($pair->deepest > RigidTuning::REST_OVERLAP * $radius) {
                    foreach ([$a, $b] as $body) {
                        if (isset($rested[$body]) && $rested[$body] < RigidTuning::REST_ANYWAY) {
                            $rested[$body] = 0.0;
                        }
                    }
                }
                if (isset($rested[$a]) && isset($moves[$b]) && $this->bodies->slow[$b] < RigidTuning::SETTLE_AFTER) {
                    $rested[$a] = 0.0;
                }
                if (isset($rested[$b]) && isset($moves[$a]) && $this->bodies->slow[$a] < RigidTuning::SETTLE_AFTER) {
                    $rested[$b] = 0.0;
                }
            }
        }
        foreach ($rested as $b => $time) {
            if ($time >= RigidTuning::SLEEP_AFTER) {
                $this->bodies->sleep($b);
                if (isset($held[$b])) {
                    $this->bodies->carried->leave($b);
                }
            }
        }
    }

    /**
     * A ball that stands for a piece is no ball: what presses on it holds back its rolling, by a moment of so many parts of its
     * radius times that (rolling friction, any text on mechanics).
     *
     * @param array<int, bool> $moves by body
     */
    private function resistRolling(ContactSolver $solver, array $moves): void
    {
        foreach ($solver->pairs as $c => $pair) {
            $rounds = [$this->bodies->hull[$pair->a]->round, $pair->b < 0 ? 0.0 : $this->bodies->hull[$pair->b]->round];
            if (! $pair->touched || $rounds === [0.0, 0.0]) {
                continue;
            }
            $pressed = 0.0;
            for ($i = 0; $i < $pair->count; $i++) {
                $pressed += $pair->impulse[3 * $i];
            }
            foreach ($rounds as $side => $round) {
                $body = $solver->bodies[2 * $c + $side];
                if ($round === 0.0 || ! isset($moves[$body])) {
                    continue;
                }
                $o = 6 * $body;
                $inertia = ($this->bodies->inertia[$o] + $this->bodies->inertia[$o + 1] + $this->bodies->inertia[$o + 2]) / 3.0;
                $spin = sqrt($this->bodies->v[$o + 3] ** 2 + $this->bodies->v[$o + 4] ** 2 + $this->bodies->v[$o + 5] ** 2);
                $less = RigidTuning::BALL_ROLLING * $round * $pressed * Steps::SUBSTEPS / $inertia;
                $keep = $spin > $less ? 1.0 - $less / $spin : 0.0;
                for ($k = $o + 3; $k < $o + 6; $k++) {
                    $this->bodies->v[$k] *= $keep;
                }
            }
        }
    }

    /** How far any point of a body has come from its anchor, m. */
    private function wandered(int $b): float
    {
        $k = 7 * $b;
        $x = $this->bodies->p[3 * $b] - $this->bodies->anchor[$k];
        $y = $this->bodies->p[3 * $b + 1] - $this->bodies->anchor[$k + 1];
        $z = $this->bodies->p[3 * $b + 2] - $this->bodies->anchor[$k + 2];
        $same = $this->bodies->q[4 * $b] * $this->bodies->anchor[$k + 3] + $this->bodies->q[4 * $b + 1] * $this->bodies->anchor[$k + 4]
            + $this->bodies->q[4 * $b + 2] * $this->bodies->anchor[$k + 5] + $this->bodies->q[4 * $b + 3] * $this->bodies->anchor[$k + 6];
        $sine = 1.0 - $same * $same;

        return sqrt($x * $x + $y * $y + $z * $z) + 2.0 * $this->bodies->bodyRadius[$b] * sqrt($sine > 0.0 ? $sine : 0.0);
    }
}
