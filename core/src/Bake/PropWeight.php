<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use Closure;
use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Shot\Prop;
use YardBreak\Core\Weight\Spread;
use YardBreak\Core\Weight\Step;
use YardBreak\Core\Weight\Sweep;
use YardBreak\Core\Weight\Weight;

/** The weight that a prop's timing describes. Letting go on contact is not known beforehand: its weight stays 0 here. */
final class PropWeight
{
    /** @param array{array{float, float, float}, array{float, float, float}} $bounds of the prop in its own space */
    public static function of(Prop $prop, array $bounds): Weight
    {
        $t = $prop->timing;
        if ($t->release === 'sweep') {
            $axis = ['x' => 0, 'y' => 1, 'z' => 2][$t->axis] ?? 1;

            return new Sweep($axis, $t->backwards, $bounds[0][$axis], $bounds[1][$axis], $t->from, $t->to, $t->softness);
        }
        $distance = $t->release === 'blow' ? self::distance($prop) : null;
        if ($distance !== null) {
            return new Spread($distance, $t->from, $t->to, $t->spread, $t->softness);
        }

        return new Step(self::isKnown($prop) ? (float) $t->frame : INF);
    }

    /** Whether the frame at which it lets go is known: a cue has to be chosen. */
    private static function isKnown(Prop $prop): bool
    {
        $t = $prop->timing;

        return $t->release === 'frame' || ($t->release === 'cue' && $t->cue !== '');
    }

    /** @return list<mixed> what decides the weight, and what lets go by it: only what matters to the way that is chosen */
    public static function inputs(Prop $prop): array
    {
        $t = $prop->timing;

        return match ($t->release) {
            'frame', 'cue' => self::isKnown($prop) ? ['at', $t->frame] : ['never'],
            'contact' => ['contact', $t->contactSpeed, $t->within],
            'sweep' => ['sweep', $t->axis, $t->backwards, $t->from, $t->to, $t->softness, $t->threshold],
            'blow' => ['blow', $t->from, $t->to, $t->spread, $t->softness, $t->threshold],
            default => ['never'],
        };
    }

    /**
     * Where the weight of each piece is read: at its centre of mass. A front from a blow meets rings and walls around it,
     * whose centre lies in the hole; they are read at the corner that is neither nearer nor farther than most.
     *
     * @return list<array{float, float, float}>
     */
    public static function places(Prop $prop, BrokenProp $broken): array
    {
        $distance = $prop->timing->release === 'blow' ? self::distance($prop) : null;
        if ($distance === null) {
            return array_map(static fn (MassProperties $mass): array => $mass->centre, $broken->mass);
        }
        $places = [];
        foreach ($broken->pieces as $mesh) {
            $places[] = self::median($mesh, $distance);
        }

        return $places;
    }

    /** @return (Closure(float, float, float): float)|null m from the blow or the opening's rim; null: there is none */
    private static function distance(Prop $prop): ?Closure
    {
        $how = $prop->break->how;
        if ($how->pattern === 'breach') {
            return Patterns::breach($how)->distance();
        }
        if (! $how->hasBlow()) {
            return null;
        }
        $blows = [$how->at, ...$how->places];

        return static function (float $x, float $y, float $z) use ($blows): float {
            $nearest = INF;
            foreach ($blows as [$bx, $by, $bz]) {
                $nearest = min($nearest, ($x - $bx) ** 2 + ($y - $by) ** 2 + ($z - $bz) ** 2);
            }

            return sqrt($nearest);
        };
    }

    /**
     * @param Closure(float, float, float): float $distance
     *
     * @return array{float, float, float}
     */
    private static function median(TriangleMesh $mesh, Closure $distance): array
    {
        $far = [];
        foreach ($mesh->x as $v => $x) {
            $far[$v] = $distance($x, $mesh->y[$v], $mesh->z[$v]);
        }
        asort($far);
        $v = array_keys($far)[intdiv(count($far), 2)] ?? 0;

        return [$mesh->x[$v], $mesh->y[$v], $mesh->z[$v]];
    }
}
