<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Force\Forces;
use YardBreak\Core\Force\Pushes;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Motion\Rigid\Pushed;
use YardBreak\Core\Motion\Rigid\RigidWorld;
use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Steps;

/**
 * What forces do to the hard pieces of a shot. What sleeps is woken when what acts on it becomes another than it fell asleep
 * under; what waits to be touched is not.
 */
final class RigidForces
{
    /** By so much it must become another, m/s2. */
    private const ANOTHER = 0.5;

    /** Air at sea level, kg/m3 (International Standard Atmosphere). */
    private const AIR = 1.225;

    /** Drag coefficient of a tumbling cube (Hoerner 1965, "Fluid-Dynamic Drag": 0.8 to 1.05 by the way it faces). */
    private const BLUNT = 0.95;

    /** Places at which it is asked for what acts on a body. */
    private const ARMS = 6;

    private readonly Forces $uneven;

    /** @var array{float, float, float} what acts on all alike, as what sleeps knows it */
    private array $known;

    /** @var array<int, array{float, float, float}> what acted on each body as it was last awake */
    private array $felt = [];

    /** @var array<int, array{float, float}> by body: its mass, and how much the air slows it, 1/m */
    private array $light = [];

    /** @var array<int, array{float, list<array{float, float, float}>}> by body: its mass, and how it is spread */
    private array $spread = [];

    /** @param list<HardProp> $props */
    public function __construct(private readonly Forces $forces, private readonly array $props)
    {
        $this->uneven = $forces->uneven();
        $this->known = $forces->uniform(1.0);
    }

    /** Lets what acts from a frame on act on the world during its next step, and wakes whom it concerns. */
    public function act(RigidWorld $world, float $frame, float $seconds): void
    {
        $gravity = $this->forces->uniform($frame);
        $world->gravity = $gravity;
        $changed = self::apart($gravity, $this->known);
        if ($this->uneven->isEmpty() && ! $changed) {
            return;
        }
        $this->known = $changed ? $gravity : $this->known;
        if (! $this->uneven->isEmpty()) {
            $this->strain($world, $frame, $seconds);
        }
        [$bodies, $pieces, $group] = $this->loose();
        if ($changed) {
            foreach ($bodies as $body) {
                $world->bodies->wake($body);
            }
        }
        $world->pushed = $this->uneven->isEmpty() ? [] : $this->pushed($world, $bodies, $pieces, $group, $frame, $seconds);
    }

    /** What hangs together by glue is torn where its pieces are pushed too differently. */
    private function strain(RigidWorld $world, float $frame, float $seconds): void
    {
        foreach ($this->props as $k => $prop) {
            if (! $prop instanceof RigidProp) {
                continue;
            }
            foreach ($prop->clusters() as $body => $pieces) {
                $x = $y = $z = [];
                foreach ($pieces as $piece) {
                    [$x[], $y[], $z[]] = $prop->pieces->place($piece);
                }
                $weights = static function () use ($prop, $pieces, $frame): array {
                    $all = $prop->felt($frame);

                    return array_map(static fn (int $piece): float => $all[$piece], $pieces);
                };
                $pushes = $this->uneven->at($x, $y, $z, array_fill(0, count($pieces), $k), $frame, $seconds, $weights);
                $prop->strain($world, $body, $pieces, $pushes, $frame);
            }
        }
    }

    /**
     * @param list<int> $bodies
     * @param list<list<int>> $pieces of each body
     * @param list<int> $group prop of each body
     *
     * @return array<int, array{float, float, float, float, float, float, float, float, float, float, float}> see {@see Pushed}
     */
    private function pushed(RigidWorld $world, array $bodies, array $pieces, array $group, float $frame, float $seconds): array
    {
        // What acts is found once a step, and moves in substeps of which each begins with the new speed. Found so far ahead, the
        // step neither adds to nor takes from the energy of what swings or orbits (the determinant of a step of an oscillator is 1).
        $ahead = $seconds * (Steps::SUBSTEPS - 1) / (2.0 * Steps::SUBSTEPS);
        $x = $y = $z = $of = $arms = $first = [];
        foreach ($bodies as $k => $body) {
            $first[$k] = count($arms);
            [$px, $py, $pz] = $world->bodies->placeOf($body);
            [[$vx, $vy, $vz], [$wx, $wy, $wz]] = $world->bodies->velocity($body);
            foreach ($this->arms($world, $body, $this->props[$group[$k]], $pieces[$k]) as [$rx, $ry, $rz, $share]) {
                [$rx, $ry, $rz] = [$rx + $ahead * ($wy * $rz - $wz * $ry), $ry + $ahead * ($wz * $rx - $wx * $rz), $rz + $ahead * ($wx * $ry - $wy * $rx)];
                $x[] = $px + $ahead * $vx + $rx;
                $y[] = $py + $ahead * $vy + $ry;
                $z[] = $pz + $ahead * $vz + $rz;
                $of[] = $group[$k];
                $arms[] = [$rx, $ry, $rz, $share];
            }
        }
        $first[] = count($arms);
        $weights = function () use ($pieces, $group, $frame, $first): array {
            $each = [];
            foreach ($pieces as $k => $own) {
                $all = $this->props[$group[$k]]->felt($frame);
                $here = array_map(static fn (int $piece): float => $all[$piece], $own);
                $places = $first[$k + 1] - $first[$k];
                array_push($each, ...(count($own) > self::ARMS ? $here : array_fill(0, $places, array_sum($here) / count($own))));
            }

            return $each;
        };
        $pushes = $this->uneven->at($x, $y, $z, $of, $frame, $seconds, $weights);
        $pushed = [];
        foreach ($bodies as $k => $body) {
            $air = $this->uneven->moveAir($group[$k]) ? $this->light($body, $world->bodies->mass[$body], $this->props[$group[$k]], $pieces[$k]) : 0.0;
            [$ax, $ay, $az, $linear, $square, $u, $v, $w, $mx, $my, $mz] = self::together($pushes, $first[$k], $first[$k + 1], $arms);
            $square += $air;
            $m = $world->bodies->mass[$body];
            $pushed[$body] = [$ax, $ay, $az, $linear, $square, $u, $v, $w, ...$world->bodies->turnedBy($body, [$m * $mx, $m * $my, $m * $mz])];
            $drag = $linear + $square * sqrt($u * $u + $v * $v + $w * $w);
            $here = [$ax + $drag * $u, $ay + $drag * $v, $az + $drag * $w];
            if (! $world->bodies->isAsleep($body)) {
                $this->felt[$body] = $here;
            } elseif (self::apart($here, $this->felt[$body] ?? [0.0, 0.0, 0.0])) {
                $world->wakeNeighbours($body);
                $world->bodies->wake($body);
                $this->felt[$body] = $here;
            }
        }

        return $pushed;
    }

    /**
     * How much the air slows a body, 1/m; with other pieces it is another body.
     *
     * @param list<int> $pieces
     */
    private function light(int $body, float $mass, HardProp $prop, array $pieces): float
    {
        if (($this->light[$body][0] ?? null) !== $mass) {
            $this->light[$body] = [$mass, 0.5 * self::AIR * self::BLUNT * $prop->pieces->projectedArea($pieces) / $mass];
        }

        return $this->light[$body][1];
    }

    /**
     * Where a force is asked for that acts on a body: six places about its centre, of a sixth of its mass each, that have its
     * inertia; of many pieces that hang together, at each of them. So what pushes one end harder turns it.
     *
     * @param list<int> $pieces
     *
     * @return list<array{float, float, float, float}> from its centre of mass, in the world, m, and the share of its mass
     */
    private function arms(RigidWorld $world, int $body, HardProp $prop, array $pieces): array
    {
        if ($prop instanceof RigidProp && count($pieces) > self::ARMS) {
            return $prop->arms($pieces);
        }
        $m = $world->bodies->mass[$body];
        $own = $this->spread[$body] ?? null;
        if ($own === null || $own[0] !== $m) {
            $this->spread[$body] = $own = [$m, self::spread(array_slice($world->bodies->inertia, 6 * $body, 6), $m)];
        }
        $turn = $world->bodies->turnOf($body);
        $arms = [];
        foreach ($own[1] as $arm) {
            [$x, $y, $z] = Quaternion::rotate($turn, $arm);
            array_push($arms, [$x, $y, $z, 1.0 / self::ARMS], [-$x, -$y, -$z, 1.0 / self::ARMS]);
        }

        return $arms;
    }

    /**
     * The three ways of them, in the body's axes: columns of the root (Cholesky) of how its mass is spread, times the root of 3.
     *
     * @param array<int, float> $inertia xx yy zz xy yz zx
     *
     * @return list<array{float, float, float}>
     */
    private static function spread(array $inertia, float $mass): array
    {
        [$xx, $yy, $zz, $xy, $yz, $zx] = array_values($inertia);
        $half = 0.5 * ($xx + $yy + $zz);
        $root = static fn (float $value): float => sqrt(max(0.0, $value));
        $a = $root(3.0 * ($half - $xx) / $mass);
        $b = $a > 0.0 ? -3.0 * $xy / ($mass * $a) : 0.0;
        $c = $a > 0.0 ? -3.0 * $zx / ($mass * $a) : 0.0;
        $d = $root(3.0 * ($half - $yy) / $mass - $b * $b);
        $e = $d > 0.0 ? (-3.0 * $yz / $mass - $b * $c) / $d : 0.0;
        $f = $root(3.0 * ($half - $zz) / $mass - $c * $c - $e * $e);

        return [[$a, $b, $c], [0.0, $d, $e], [0.0, 0.0, $f]];
    }

    /**
     * What acts on a body, from what acts at its places.
     *
     * @param list<array{float, float, float, float}> $arms
     *
     * @return array{float, float, float, float, float, float, float, float, float, float, float} acceleration, m/s2; drag, 1/s and 1/m; air, m/s; moment by mass, m2/s2
     */
    private static function together(Pushes $pushes, int $from, int $to, array $arms): array
    {
        $ax = $ay = $az = $linear = $square = $u = $v = $w = $mx = $my = $mz = 0.0;
        for ($i = $from; $i < $to; $i++) {
            [$rx, $ry, $rz, $share] = $arms[$i];
            $px = $share * $pushes->ax[$i];
            $py = $share * $pushes->ay[$i];
            $pz = $share * $pushes->az[$i];
            $ax += $px;
            $ay += $py;
            $az += $pz;
            $mx += $ry * $pz - $rz * $py;
            $my += $rz * $px - $rx * $pz;
            $mz += $rx * $py - $ry * $px;
            $linear += $share * $pushes->linear[$i];
            $square += $share * $pushes->square[$i];
            $u += $share * $pushes->u[$i];
            $v += $share * $pushes->v[$i];
            $w += $share * $pushes->w[$i];
        }

        return [$ax, $ay, $az, $linear, $square, $u, $v, $w, $mx, $my, $mz];
    }

    /** @return array{list<int>, list<list<int>>, list<int>} bodies that are free to move, the pieces of each, and its prop */
    private function loose(): array
    {
        $pieces = $group = [];
        foreach ($this->props as $k => $prop) {
            foreach ($prop->pieces->bodies() as $piece => $body) {
                if ($prop->hasLetGo($piece) || $prop->fallsWhole()) {
                    $pieces[$body][] = $piece;
                    $group[$body] = $k;
                }
            }
        }

        return [array_keys($pieces), array_values($pieces), array_values($group)];
    }

    /**
     * @param array{float, float, float} $a
     * @param array{float, float, float} $b
     */
    private static function apart(array $a, array $b): bool
    {
        return ($a[0] - $b[0]) ** 2 + ($a[1] - $b[1]) ** 2 + ($a[2] - $b[2]) ** 2 > self::ANOTHER ** 2;
    }

    /** @return array<string, mixed> */
    public function save(): array
    {
        return ['known' => $this->known, 'bodies' => array_keys($this->felt), 'felt' => $this->felt === [] ? [] : array_merge(...array_values($this->felt))];
    }

    public function restore(State $saved): void
    {
        $this->known = $saved->vector('known');
        $felt = $saved->floats('felt');
        $this->felt = [];
        foreach ($saved->ints('bodies') as $k => $body) {
            $this->felt[$body] = [$felt[3 * $k], $felt[3 * $k + 1], $felt[3 * $k + 2]];
        }
    }
}
