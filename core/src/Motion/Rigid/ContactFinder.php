<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

use YardBreak\Core\Motion\Rigid\Joint\Joints;
use YardBreak\Core\Motion\State;

/** Finds which shapes touch each other or the floor, once a step, and remembers the pairs from step to step. */
final class ContactFinder
{
    /** @var array<int, ContactPair> */
    public array $pairs = [];

    public readonly FloorContacts $floors;

    /** @var array<int, ContactPair> by key, in the order they were met: pairs near each other in this step that touch, or just did */
    public array $live = [];

    /** @var array<int, true> those of them, by key, that cannot press on each other in this step */
    public array $clear = [];

    private readonly BroadPhase $broad;

    /** @var array<int, float> four numbers a shape: its turn when last looked at */
    private array $lastTurn = [];

    /** @var array<int, float> how far each shape has turned so far, at most, radians */
    private array $turned = [];

    /** @var int steps so far; a pair seen in this one is near */
    public int $steps = 0;

    /**
     * @param float $settleSpeed pieces slower than this come to rest, m/s
     */
    public function __construct(private readonly RigidBodies $bodies, private readonly float $settleSpeed)
    {
        $this->broad = new BroadPhase();
        $this->floors = new FloorContacts($bodies);
    }

    /**
     * @param array<int, bool> $active
     * @param array<int, bool> $apart by {@see Joints::key()}: bodies that do not touch each other (true), or did not until now and may be in each other
     */
    public function find(float $dt, array $active, array $apart = []): void
    {
        $this->steps++;
        $this->live = [];
        $bodies = $this->bodies;
        $v = $bodies->v;
        foreach ($bodies->refitted as $shape => $_) {
            $active[$bodies->shapeBody[$shape]] = true;
        }
        // Pieces that fall together do not come nearer: reach is measured against their common velocity.
        $mx = $my = $mz = 0.0;
        $movers = 0;
        foreach ($active as $b => $moves) {
            if ($moves) {
                $mx += $v[6 * $b];
                $my += $v[6 * $b + 1];
                $mz += $v[6 * $b + 2];
                $movers++;
            }
        }
        if ($movers > 0) {
            $mx /= $movers;
            $my /= $movers;
            $mz /= $movers;
        }
        $travel = $reach = $turn = [];
        foreach ($bodies->bodyRadius as $b => $radius) {
            $o = 6 * $b;
            $x = $v[$o];
            $y = $v[$o + 1];
            $z = $v[$o + 2];
            $wx = $v[$o + 3];
            $wy = $v[$o + 4];
            $wz = $v[$o + 5];
            $w = $wx * $wx + $wy * $wy + $wz * $wz;
            $w = $w > 0.0 ? $dt * $radius * sqrt($w) : 0.0;
            if (isset($bodies->growth[$b])) {
                // What grows comes nearer with its skin, wherever its centre is.
                [$gx, $gy, $gz] = $bodies->growth[$b];
                $w += $dt * $radius * max(0.0, $gx, $gy, $gz);
            }
            $turn[] = $w;
            $travel[] = $dt * sqrt($x * $x + $y * $y + $z * $z) + $w;
            $x -= $mx;
            $y -= $my;
            $z -= $mz;
            $reach[] = $dt * sqrt($x * $x + $y * $y + $z * $z) + $w;
        }
        $this->placeShapes();
        $near = $this->broad->pairs($bodies->cx, $bodies->cy, $bodies->cz, $bodies->hull, $bodies->shapeBody, $active, $bodies->free, $reach, $turn, $v, $dt);
        if (in_array(true, $apart, true)) {
            $near = array_values(array_filter($near, static fn (int $key): bool => ! ($apart[Joints::key($bodies->shapeBody[$key >> 20], $bodies->shapeBody[$key & 1048575])] ?? false)));
        }
        $this->updatePairs($near, $turn, $v, $dt, $apart);
        $live = [];
        foreach ($this->pairs as $key => $pair) {
            if ($pair->seen === $this->steps) {
                if (isset($this->live[$key])) {
                    $live[$key] = $pair;
                }
            } else {
                $a = $bodies->shapeBody[$pair->a];
                $b = $bodies->shapeBody[$pair->b];
                // Two that sleep on each other are not looked for, but remembered.
                if ($a === $b || $active[$a] || $active[$b]) {
                    unset($this->pairs[$key]);
                }
            }
        }
        $this->live = $live;
        if ($this->wakeTouched()) {
            $this->supportWoken($active);
        }
        $this->floors->find($travel);
    }

    private function placeShapes(): void
    {
        $bodies = $this->bodies;
        $P = $bodies->p;
        $Q = $bodies->q;
        $R = $bodies->rotation;
        $O = $bodies->offset;
        $cx = $bodies->cx;
        $bodies->cx = [];
        $cy = $bodies->cy;
        $bodies->cy = [];
        $cz = $bodies->cz;
        $bodies->cz = [];
        $last = $this->lastTurn;
        $this->lastTurn = [];
        $turned = $this->turned;
        $this->turned = [];
        foreach ($bodies->shapeBody as $s => $b) {
            $new = ! isset($turned[$s]);
            $x = $O[3 * $s];
            $y = $O[3 * $s + 1];
            $z = $O[3 * $s + 2];
            $r = 9 * $b;
            $cx[$s] = $P[3 * $b] + $R[$r] * $x + $R[$r + 1] * $y + $R[$r + 2] * $z;
            $cy[$s] = $P[3 * $b + 1] + $R[$r + 3] * $x + $R[$r + 4] * $y + $R[$r + 5] * $z;
            $cz[$s] = $P[3 * $b + 2] + $R[$r + 6] * $x + $R[$r + 7] * $y + $R[$r + 8] * $z;
            $q = 4 * $b;
            $k = 4 * $s;
            $qx = $Q[$q];
            $qy = $Q[$q + 1];
            $qz = $Q[$q + 2];
            $qw = $Q[$q + 3];
            if ($new) {
                $turned[$s] = 0.0;
            } else {
                $x = $qx - $last[$k];
                $y = $qy - $last[$k + 1];
                $z = $qz - $last[$k + 2];
                $w = $qw - $last[$k + 3];
                $w = $x * $x + $y * $y + $z * $z + $w * $w;
                if ($w > 0.0) {
                    // An angle is at most 2.23 times the chord between the two turns.
                    $turned[$s] += 2.23 * sqrt($w);
                }
            }
            $last[$k] = $qx;
            $last[$k + 1] = $qy;
            $last[$k + 2] = $qz;
            $last[$k + 3] = $qw;
        }
        $bodies->cx = $cx;
        $bodies->cy = $cy;
        $bodies->cz = $cz;
        $this->lastTurn = $last;
        $this->turned = $turned;
    }

    /**
     * @param list<int> $near
     * @param array<int, float> $turn
     * @param array<int, float> $v
     * @param array<int, bool> $apart
     */
    private function updatePairs(array $near, array $turn, array $v, float $dt, array $apart): void
    {
        $bodies = $this->bodies;
        $CX = $bodies->cx;
        $CY = $bodies->cy;
        $CZ = $bodies->cz;
        $hull = $bodies->hull;
        $radii = [];
        foreach ($hull as $shape) {
            $radii[] = $shape->radius;
        }
        $shapeBody = $bodies->shapeBody;
        $group = $bodies->group;
        $siblings = $bodies->siblings;
        $R = $bodies->rotation;
        $slow = $bodies->slow;
        $refitted = $bodies->refitted;
        $bodies->refitted = [];
        $turned = $this->turned;
        $steps = $this->steps;
        $pairs = $this->pairs;
        $this->pairs = [];
        $live = [];
        $clear = [];
        sort($near);
        foreach ($near as $key) {
            $a = $key >> 20;
            $b = $key & 1048575;
            $pair = $pairs[$key] ?? null;
            if ($pair === null) {
                $pair = $pairs[$key] = new ContactPair($a, $b, $group[$a] === $group[$b] || isset($apart[Joints::key($shapeBody[$a], $shapeBody[$b])]));
                $pair->waits = $group[$a] === $group[$b] ? $siblings[$a] : 0.0;
            }
            $pair->seen = $steps;
            if ($pair->waits > 0.0) {
                if (! $this->haveMovedApart($a, $b, $pair->waits)) {
                    continue;
                }
                $pair->waits = 0.0;
            }
            $dx = $CX[$b] - $CX[$a];
            $dy = $CY[$b] - $CY[$a];
            $dz = $CZ[$b] - $CZ[$a];
            $ra = $radii[$a];
            $rb = $radii[$b];
            $radius = $ra < $rb ? $ra : $rb;
            $ex = $dx - $pair->dx;
            $ey = $dy - $pair->dy;
            $ez = $dz - $pair->dz;
            $e = $ex * $ex + $ey * $ey + $ez * $ez;
            $ta = $turned[$a] - $pair->turnA;
            $tb = $turned[$b] - $pair->turnB;
            $A = $shapeBody[$a];
            $B = $shapeBody[$b];
            $o = 6 * $A;
            $k = 6 * $B;
            $x = $v[$k] - $v[$o];
            $y = $v[$k + 1] - $v[$o + 1];
            $z = $v[$k + 2] - $v[$o + 2];
            $closing = $dt * sqrt($x * $x + $y * $y + $z * $z) + $turn[$A] + $turn[$B];
            $margin = RigidTuning::LOOK_AHEAD * $radius + $closing;
            $keep = 1.0;
            // What was known of the old hull says nothing of a new one.
            $anew = $refitted !== [] && (isset($refitted[$a]) || isset($refitted[$b]));
            if ($anew) {
                $slack = 0.0;
            } elseif ($pair->count === 0) {
                // What was found apart stays so until it has moved by the gap.
                $slack = $pair->gap - $margin - $ra * $ta - $rb * $tb;
                if ($slack > 0.0 && $e < $slack * $slack) {
                    if ($pair->touched) {
                        $live[$key] = $pair;
                    }
                    continue;
                }
            } else {
                $keep = $slow[$A] > 0.0 || $slow[$B] > 0.0 ? RigidTuning::REUSE_AT_REST : 1.0;
                $slack = $keep * RigidTuning::REUSE_DISTANCE * $radius - $ta * sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                if ($slack > 0.0 && $e < $slack * $slack && $ta + $tb < $keep * RigidTuning::REUSE_ANGLE) {
                    $live[$key] = $pair;
                    if ($pair->staysClear(sqrt($e) + $ra * $ta + $rb * $tb, $closing, $radius)) {
                        $clear[$key] = true;
                    }
                    continue;
                }
            }
            $o = 9 * $A;
            $k = 9 * $B;
            $a0 = $R[$o];
            $a1 = $R[$o + 1];
            $a2 = $R[$o + 2];
            $a3 = $R[$o + 3];
            $a4 = $R[$o + 4];
            $a5 = $R[$o + 5];
            $a6 = $R[$o + 6];
            $a7 = $R[$o + 7];
            $a8 = $R[$o + 8];
            $b0 = $R[$k];
            $b1 = $R[$k + 1];
            $b2 = $R[$k + 2];
            $b3 = $R[$k + 3];
            $b4 = $R[$k + 4];
            $b5 = $R[$k + 5];
            $b6 = $R[$k + 6];
            $b7 = $R[$k + 7];
            $b8 = $R[$k + 8];
            $pose = [
                $a0 * $b0 + $a3 * $b3 + $a6 * $b6, $a0 * $b1 + $a3 * $b4 + $a6 * $b7, $a0 * $b2 + $a3 * $b5 + $a6 * $b8,
                $a1 * $b0 + $a4 * $b3 + $a7 * $b6, $a1 * $b1 + $a4 * $b4 + $a7 * $b7, $a1 * $b2 + $a4 * $b5 + $a7 * $b8,
                $a2 * $b0 + $a5 * $b3 + $a8 * $b6, $a2 * $b1 + $a5 * $b4 + $a8 * $b7, $a2 * $b2 + $a5 * $b5 + $a8 * $b8,
                $a0 * $dx + $a3 * $dy + $a6 * $dz, $a1 * $dx + $a4 * $dy + $a7 * $dz, $a2 * $dx + $a5 * $dy + $a8 * $dz,
            ];
            if ($pair->count > 0 && ! $anew && self::nearlySame($pair->pose, $pose, $keep * RigidTuning::REUSE_DISTANCE * $radius, $keep * RigidTuning::REUSE_ANGLE)) {
                $live[$key] = $pair;
                continue;
            }
            $pair->dx = $dx;
            $pair->dy = $dy;
            $pair->dz = $dz;
            $pair->turnA = $turned[$a];
            $pair->turnB = $turned[$b];
            $x *= $dt;
            $y *= $dt;
            $z *= $dt;
            HullContact::find($pair, $hull[$a], $hull[$b], $pose, $margin, [$a0 * $x + $a3 * $y + $a6 * $z, $a1 * $x + $a4 * $y + $a7 * $z, $a2 * $x + $a5 * $y + $a8 * $z]);
            if ($pair->count > 0 || $pair->touched) {
                $live[$key] = $pair;
                if ($pair->staysClear(0.0, $closing, $radius)) {
                    $clear[$key] = true;
                }
            }
        }
        $this->pairs = $pairs;
        $this->live = $live;
        $this->clear = $clear;
    }

    /** Whether two shapes of one prop are so far from where they were in each other. */
    private function haveMovedApart(int $a, int $b, float $far): bool
    {
        $bodies = $this->bodies;
        $home = $bodies->home;
        $R = $bodies->rotation;
        $r = 9 * $bodies->shapeBody[$a];
        $x = $home[3 * $b] - $home[3 * $a];
        $y = $home[3 * $b + 1] - $home[3 * $a + 1];
        $z = $home[3 * $b + 2] - $home[3 * $a + 2];
        $dx = $bodies->cx[$b] - $bodies->cx[$a] - $R[$r] * $x - $R[$r + 1] * $y - $R[$r + 2] * $z;
        $dy = $bodies->cy[$b] - $bodies->cy[$a] - $R[$r + 3] * $x - $R[$r + 4] * $y - $R[$r + 5] * $z;
        $dz = $bodies->cz[$b] - $bodies->cz[$a] - $R[$r + 6] * $x - $R[$r + 7] * $y - $R[$r + 8] * $z;

        return $dx * $dx + $dy * $dy + $dz * $dz >= $far * $far;
    }

    /**
     * @param list<float> $old
     * @param list<float> $new
     */
    private static function nearlySame(array $old, array $new, float $limit, float $turn): bool
    {
        $ex = $new[9] - $old[9];
        $ey = $new[10] - $old[10];
        $ez = $new[11] - $old[11];
        if ($ex * $ex + $ey * $ey + $ez * $ez >= $limit * $limit) {
            return false;
        }
        $angle = 0.0;
        for ($k = 0; $k < 9; $k++) {
            $e = $new[$k] - $old[$k];
            $angle += $e * $e;
        }

        // Sum of squares of a small turn's matrix is twice the square of its angle.
        return $angle < 2.0 * $turn * $turn;
    }

    /**
     * What has just been woken goes on resting where it rested: contacts between sleepers are not looked for, and without
     * them it would fall for a step, be pushed out, and wake the next.
     *
     * @param array<int, bool> $active before the waking
     */
    private function supportWoken(array $active): void
    {
        $bodies = $this->bodies;
        foreach ($this->pairs as $key => $pair) {
            $a = $bodies->shapeBody[$pair->a];
            $b = $bodies->shapeBody[$pair->b];
            if ($pair->count > 0 && ! $active[$a] && ! $active[$b] && ! ($bodies->asleep[$a] && $bodies->asleep[$b]) && ! isset($this->live[$key])) {
                $this->live[$key] = $pair;
            }
        }
    }

    /**
     * A touch wakes a sleeper if it comes from something driven, or fast enough; so does a support that goes away.
     *
     * @return bool whether any woke
     */
    private function wakeTouched(): bool
    {
        $woke = false;
        $limit = RigidTuning::WAKE_FACTOR * $this->settleSpeed;
        $bodies = $this->bodies;
        foreach ($this->live as $pair) {
            $a = $bodies->shapeBody[$pair->a];
            $b = $bodies->shapeBody[$pair->b];
            if ($bodies->asleep[$a] === $bodies->asleep[$b]) {
                continue;
            }
            $mover = $bodies->asleep[$a] ? $b : $a;
            $sleeper = $bodies->asleep[$a] ? $a : $b;
            if ($pair->count === 0) {
                $pair->touched = false;
                $bodies->wake($sleeper);
                $woke = true;
                continue;
            }
            $o = 6 * $mover;
            $speed = sqrt($bodies->v[$o] ** 2 + $bodies->v[$o + 1] ** 2 + $bodies->v[$o + 2] ** 2)
                + $bodies->bodyRadius[$mover] * sqrt($bodies->v[$o + 3] ** 2 + $bodies->v[$o + 4] ** 2 + $bodies->v[$o + 5] ** 2);
            if ($speed > $limit || (! $bodies->free[$mover] && $speed > 0.0)) {
                $bodies->wake($sleeper);
                $woke = true;
            }
        }

        return $woke;
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
        foreach ([...$this->pairs, ...$this->floors->pairs] as $pair) {
            if (isset($this->bodies->handedOver[$pair->a]) || isset($this->bodies->handedOver[$pair->b])) {
                $pair->impulse = array_fill(0, 3 * $pair->count, 0.0);
            }
        }
        $this->bodies->handedOver = [];
    }

    /** @return array<string, mixed> pairs in the order in which they were met, and all that skips looking at them again */
    public function save(): array
    {
        return [
            'steps' => $this->steps,
            'lastTurn' => $this->lastTurn,
            'turned' => $this->turned,
            'broad' => $this->broad->save(),
            'pairs' => array_map(get_object_vars(...), $this->pairs),
            'floorPairs' => $this->floors->save(),
        ];
    }

    public function restore(State $state): void
    {
        $this->steps = $state->int('steps');
        $this->lastTurn = $state->floats('lastTurn');
        $this->turned = $state->floats('turned');
        $this->broad->restore($state->part('broad'));
        $this->pairs = array_map(ContactPair::restored(...), $state->parts('pairs'));
        $this->floors->restore($state->parts('floorPairs'));
    }
}
