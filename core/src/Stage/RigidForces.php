<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Force\Forces;
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

    private readonly Forces $uneven;

    /** @var array{float, float, float} what acts on all alike, as what sleeps knows it */
    private array $known;

    /** @var array<int, array{float, float, float}> what acted on each body as it was last awake */
    private array $felt = [];

    /** @var array<int, array<int, float>> by prop and body: how much the air slows it, 1/m */
    private array $light = [];

    /** @param list<RigidProp> $props */
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
        [$bodies, $pieces, $group] = $this->loose();
        if ($changed) {
            foreach ($bodies as $body) {
                $world->bodies->wake($body);
            }
        }
        $world->pushed = $this->uneven->isEmpty() ? [] : $this->pushed($world, $bodies, $pieces, $group, $frame, $seconds);
    }

    /**
     * @param list<int> $bodies
     * @param list<list<int>> $pieces of each body
     * @param list<int> $group prop of each body
     *
     * @return array<int, array{float, float, float, float, float, float, float, float}>
     */
    private function pushed(RigidWorld $world, array $bodies, array $pieces, array $group, float $frame, float $seconds): array
    {
        // What acts is found once a step, and moves in substeps of which each begins with the new speed. Found so far ahead, the
        // step neither adds to nor takes from the energy of what swings or orbits (the determinant of a step of an oscillator is 1).
        $ahead = $seconds * (Steps::SUBSTEPS - 1) / (2.0 * Steps::SUBSTEPS);
        $x = $y = $z = [];
        foreach ($bodies as $body) {
            [$px, $py, $pz] = $world->bodies->placeOf($body);
            [[$vx, $vy, $vz]] = $world->bodies->velocity($body);
            $x[] = $px + $ahead * $vx;
            $y[] = $py + $ahead * $vy;
            $z[] = $pz + $ahead * $vz;
        }
        $weights = function () use ($pieces, $group, $frame): array {
            $of = [];
            foreach ($pieces as $k => $own) {
                $all = $this->props[$group[$k]]->felt($frame);
                $of[] = array_sum(array_map(static fn (int $piece): float => $all[$piece], $own)) / count($own);
            }

            return $of;
        };
        $pushes = $this->uneven->at($x, $y, $z, $group, $frame, $seconds, $weights);
        $pushed = [];
        foreach ($bodies as $k => $body) {
            $air = $this->uneven->moveAir($group[$k]) ? $this->light[$group[$k]][$body] ??= $this->props[$group[$k]]->projectedArea($pieces[$k]) * 0.5 * self::AIR * self::BLUNT / $world->bodies->mass[$body] : 0.0;
            $square = $pushes->square[$k] + $air;
            [$u, $v, $w] = [$pushes->u[$k], $pushes->v[$k], $pushes->w[$k]];
            $pushed[$body] = [$pushes->ax[$k], $pushes->ay[$k], $pushes->az[$k], $pushes->linear[$k], $square, $u, $v, $w];
            $drag = $pushes->linear[$k] + $square * sqrt($u * $u + $v * $v + $w * $w);
            $here = [$pushes->ax[$k] + $drag * $u, $pushes->ay[$k] + $drag * $v, $pushes->az[$k] + $drag * $w];
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

    /** @return array{list<int>, list<list<int>>, list<int>} bodies that are free to move, the pieces of each, and its prop */
    private function loose(): array
    {
        $pieces = $group = [];
        foreach ($this->props as $k => $prop) {
            foreach ($prop->bodies() as $piece => $body) {
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
