<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** Finds which shapes touch each other or the floor, once a step, and remembers the pairs from step to step. */
final class ContactFinder
{
    /** @var array<int, ContactPair> */
    public array $pairs = [];

    /** @var array<int, ContactPair> by shape */
    public array $floorPairs = [];

    /** @var int steps so far; a pair seen in this one is near */
    public int $steps = 0;

    /**
     * @param float|null $floor height of the floor, m; null: none
     * @param float $settleSpeed pieces slower than this come to rest, m/s
     */
    public function __construct(private readonly RigidBodies $bodies, private readonly ?float $floor, private readonly float $settleSpeed)
    {
    }

    /** @param array<int, bool> $active */
    public function find(float $dt, array $active): void
    {
        $this->steps++;
        $reach = [];
        $travel = [];
        foreach ($this->bodies->mass as $b => $_) {
            $o = 6 * $b;
            $travel[$b] = $dt * (sqrt($this->bodies->v[$o] ** 2 + $this->bodies->v[$o + 1] ** 2 + $this->bodies->v[$o + 2] ** 2)
                + $this->bodies->bodyRadius[$b] * sqrt($this->bodies->v[$o + 3] ** 2 + $this->bodies->v[$o + 4] ** 2 + $this->bodies->v[$o + 5] ** 2));
        }
        foreach ($this->bodies->hull as $s => $hull) {
            [$this->bodies->cx[$s], $this->bodies->cy[$s], $this->bodies->cz[$s]] = $this->bodies->shapePlace($s);
            $reach[$s] = $hull->radius * (1.0 + RigidTuning::LOOK_AHEAD) + $travel[$this->bodies->shapeBody[$s]];
        }
        $near = BroadPhase::pairs($this->bodies->cx, $this->bodies->cy, $this->bodies->cz, $reach, $this->bodies->shapeBody, $active);
        for ($k = 0, $end = count($near); $k < $end; $k += 2) {
            $a = $near[$k];
            $b = $near[$k + 1];
            $key = $a * 1048576 + $b;
            $pair = $this->pairs[$key] ??= new ContactPair($a, $b, $this->bodies->group[$a] === $this->bodies->group[$b]);
            $pair->seen = $this->steps;
            $this->updatePair($pair, $dt * $this->approach($this->bodies->shapeBody[$a], $this->bodies->shapeBody[$b]));
        }
        foreach ($this->pairs as $key => $pair) {
            if ($pair->seen !== $this->steps) {
                $a = $this->bodies->shapeBody[$pair->a];
                $b = $this->bodies->shapeBody[$pair->b];
                // Two that sleep on each other are not looked for, but remembered.
                if ($a === $b || $active[$a] || $active[$b]) {
                    unset($this->pairs[$key]);
                }
            }
        }
        $this->wakeTouched();
        if ($this->floor !== null) {
            $this->findFloorContacts($travel);
        }
    }

    /** The fastest two bodies' points can come together, m/s. */
    private function approach(int $a, int $b): float
    {
        $v = $this->bodies->v;
        $a *= 6;
        $b *= 6;
        $x = $v[$b] - $v[$a];
        $y = $v[$b + 1] - $v[$a + 1];
        $z = $v[$b + 2] - $v[$a + 2];

        return sqrt($x * $x + $y * $y + $z * $z)
            + $this->bodies->bodyRadius[intdiv($a, 6)] * sqrt($v[$a + 3] * $v[$a + 3] + $v[$a + 4] * $v[$a + 4] + $v[$a + 5] * $v[$a + 5])
            + $this->bodies->bodyRadius[intdiv($b, 6)] * sqrt($v[$b + 3] * $v[$b + 3] + $v[$b + 4] * $v[$b + 4] + $v[$b + 5] * $v[$b + 5]);
    }

    private function updatePair(ContactPair $pair, float $travel): void
    {
        $a = $pair->a;
        $b = $pair->b;
        $ra = 9 * $this->bodies->shapeBody[$a];
        $rb = 9 * $this->bodies->shapeBody[$b];
        $R = $this->bodies->rotation;
        $a0 = $R[$ra];
        $a1 = $R[$ra + 1];
        $a2 = $R[$ra + 2];
        $a3 = $R[$ra + 3];
        $a4 = $R[$ra + 4];
        $a5 = $R[$ra + 5];
        $a6 = $R[$ra + 6];
        $a7 = $R[$ra + 7];
        $a8 = $R[$ra + 8];
        $b0 = $R[$rb];
        $b1 = $R[$rb + 1];
        $b2 = $R[$rb + 2];
        $b3 = $R[$rb + 3];
        $b4 = $R[$rb + 4];
        $b5 = $R[$rb + 5];
        $b6 = $R[$rb + 6];
        $b7 = $R[$rb + 7];
        $b8 = $R[$rb + 8];
        $dx = $this->bodies->cx[$b] - $this->bodies->cx[$a];
        $dy = $this->bodies->cy[$b] - $this->bodies->cy[$a];
        $dz = $this->bodies->cz[$b] - $this->bodies->cz[$a];
        $pose = [
            $a0 * $b0 + $a3 * $b3 + $a6 * $b6, $a0 * $b1 + $a3 * $b4 + $a6 * $b7, $a0 * $b2 + $a3 * $b5 + $a6 * $b8,
            $a1 * $b0 + $a4 * $b3 + $a7 * $b6, $a1 * $b1 + $a4 * $b4 + $a7 * $b7, $a1 * $b2 + $a4 * $b5 + $a7 * $b8,
            $a2 * $b0 + $a5 * $b3 + $a8 * $b6, $a2 * $b1 + $a5 * $b4 + $a8 * $b7, $a2 * $b2 + $a5 * $b5 + $a8 * $b8,
            $a0 * $dx + $a3 * $dy + $a6 * $dz, $a1 * $dx + $a4 * $dy + $a7 * $dz, $a2 * $dx + $a5 * $dy + $a8 * $dz,
        ];
        $hullA = $this->bodies->hull[$a];
        $hullB = $this->bodies->hull[$b];
        $radius = $hullA->radius < $hullB->radius ? $hullA->radius : $hullB->radius;
        if ($pair->count > 0) {
            $old = $pair->pose;
            $limit = RigidTuning::REUSE_DISTANCE * $radius;
            $ex = $pose[9] - $old[9];
            $ey = $pose[10] - $old[10];
            $ez = $pose[11] - $old[11];
            if ($ex * $ex + $ey * $ey + $ez * $ez < $limit * $limit) {
                $angle = 0.0;
                for ($k = 0; $k < 9; $k++) {
                    $e = $pose[$k] - $old[$k];
                    $angle += $e * $e;
                }
                // Sum of squares of a small turn's matrix is twice the square of its angle.
                if ($angle < 2.0 * RigidTuning::REUSE_ANGLE * RigidTuning::REUSE_ANGLE) {
                    return;
                }
            }
        }
        HullContact::find($pair, $hullA, $hullB, $pose, RigidTuning::LOOK_AHEAD * $radius + $travel);
    }

    /** A touch wakes a sleeper if it comes from something driven, or fast enough; so does a support that goes away. */
    private function wakeTouched(): void
    {
        $limit = RigidTuning::WAKE_FACTOR * $this->settleSpeed;
        foreach ($this->pairs as $pair) {
            if ($pair->seen !== $this->steps || ($pair->count === 0 && ! $pair->touched)) {
                continue;
            }
            $a = $this->bodies->shapeBody[$pair->a];
            $b = $this->bodies->shapeBody[$pair->b];
            if ($this->bodies->asleep[$a] === $this->bodies->asleep[$b]) {
                continue;
            }
            $mover = $this->bodies->asleep[$a] ? $b : $a;
            $sleeper = $this->bodies->asleep[$a] ? $a : $b;
            if ($pair->count === 0) {
                $pair->touched = false;
                $this->bodies->wake($sleeper);
                continue;
            }
            $o = 6 * $mover;
            $speed = sqrt($this->bodies->v[$o] ** 2 + $this->bodies->v[$o + 1] ** 2 + $this->bodies->v[$o + 2] ** 2)
                + $this->bodies->bodyRadius[$mover] * sqrt($this->bodies->v[$o + 3] ** 2 + $this->bodies->v[$o + 4] ** 2 + $this->bodies->v[$o + 5] ** 2);
            if ($speed > $limit || (! $this->bodies->free[$mover] && $speed > 0.0)) {
                $this->bodies->wake($sleeper);
            }
        }
    }

    /** @param array<int, float> $travel */
    private function findFloorContacts(array $travel): void
    {
        $floor = $this->floor ?? 0.0;
        foreach ($this->bodies->hull as $s => $hull) {
            $b = $this->bodies->shapeBody[$s];
            $margin = RigidTuning::LOOK_AHEAD * $hull->radius + $travel[$b];
            if (! $this->bodies->free[$b] || $this->bodies->asleep[$b]) {
                continue;
            }
            $height = $this->bodies->cy[$s] - $floor;
            if ($height - $hull->radius > $margin) {
                unset($this->floorPairs[$s]);
                continue;
            }
            $r = 9 * $b;
            $ux = $this->bodies->rotation[$r + 3];
            $uy = $this->bodies->rotation[$r + 4];
            $uz = $this->bodies->rotation[$r + 5];
            $points = [];
            $y = $hull->y;
            $z = $hull->z;
            foreach ($hull->x as $i => $px) {
                $gap = $height + $ux * $px + $uy * $y[$i] + $uz * $z[$i];
                if ($gap < $margin) {
                    $points[] = [$px, $y[$i], $z[$i], $gap];
                }
            }
            if ($points === []) {
                unset($this->floorPairs[$s]);
                continue;
            }
            $pair = $this->floorPairs[$s] ??= new ContactPair($s, -1, false);
            $onA = $onB = [];
            // All of them: with only some, the others would sink in and take turns.
            foreach ($points as [$px, $py, $pz]) {
                array_push($onA, $px, $py, $pz);
                array_push(
                    $onB,
                    $this->bodies->cx[$s] + $this->bodies->rotation[$r] * $px + $this->bodies->rotation[$r + 1] * $py + $this->bodies->rotation[$r + 2] * $pz,
                    $floor,
                    $this->bodies->cz[$s] + $this->bodies->rotation[$r + 6] * $px + $this->bodies->rotation[$r + 7] * $py + $this->bodies->rotation[$r + 8] * $pz,
                );
            }
            $pair->renew($onA, $onB, 1e-6 * $hull->radius);
        }
    }

    /** Wakes everything that rests on a body: it is about to change. */
    public function wakeNeighbours(int $body): void
    {
        foreach ($this->pairs as $pair) {
            $a = $this->bodies->shapeBody[$pair->a];
            $b = $this->bodies->shapeBody[$pair->b];
            if ($pair->count > 0 && ($a === $body || $b === $body)) {
                $this->bodies->wake($a);
                $this->bodies->wake($b);
            }
        }
    }

    public function forgetImpulses(): void
    {
        if ($this->bodies->handedOver === []) {
            return;
        }
        foreach ([...$this->pairs, ...$this->floorPairs] as $pair) {
            if (isset($this->bodies->handedOver[$pair->a]) || isset($this->bodies->handedOver[$pair->b])) {
                $pair->impulse = array_fill(0, 3 * $pair->count, 0.0);
            }
        }
        $this->bodies->handedOver = [];
    }
}
