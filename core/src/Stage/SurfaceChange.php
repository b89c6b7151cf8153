<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Weight\Samples;

/** The ways that places of a prop go as its surface changes: up into bumps, or to where they are on another prop of the same triangles. */
final class SurfaceChange
{
    /** Of how things go into the shape of others. */
    private const VERSION = 2;

    /**
     * @return array{list<array{float, float, float}>, Animated, float} the whole way of each place, in the prop's axes, m, how much of it each goes, and what 1 of that is
     *
     * @throws BreakFailed if there is no other shape, or none of the same triangles
     */
    public static function ways(Prop $prop, Samples $at, Surfaces $surfaces): array
    {
        $settings = $prop->mover->settings;

        return $prop->mover->has('likens') ? [self::toShape($prop, $at, $surfaces), $settings->animated('amount'), 0.01] : [self::intoBumps($prop, $at, $surfaces), $settings->animated('height'), 1.0];
    }

    /** @return list<mixed> what decides the shape that a prop is to take, beside its own */
    public static function others(Prop $prop, Surfaces $surfaces): array
    {
        $other = $prop->mover->has('likens') ? $prop->others[$prop->mover->settings->string('shape')] ?? null : null;
        $place = static fn (Prop $of): array => [$of->transform->positionAt(1.0), $of->transform->rotationAt(1.0), $of->transform->scaleAt(1.0)];

        return $other === null ? [] : [self::VERSION, $surfaces->hash($other), $place($other), $place($prop)];
    }

    /**
     * Along the direction the surface faces, as far as bumps are high there; all depends on the place alone.
     *
     * @return list<array{float, float, float}>
     */
    private static function intoBumps(Prop $prop, Samples $at, Surfaces $surfaces): array
    {
        $settings = $prop->mover->settings;
        $even = $settings->float('even');
        $heights = Relief::heights($at, $settings->string('form'), $settings->float('size'), $settings->int('detail'), $settings->int('seed'));
        $ways = [];
        foreach ((new SurfaceSeats($prop, $surfaces))->normals($at) as $v => [$x, $y, $z]) {
            $far = $even + (1.0 - $even) * $heights[$v];
            $ways[] = [$far * $x, $far * $y, $far * $z];
        }

        return $ways;
    }

    /**
     * To the same place of the same triangle of the other one, where that stands at the first frame.
     *
     * @return list<array{float, float, float}>
     *
     * @throws BreakFailed
     */
    private static function toShape(Prop $prop, Samples $at, Surfaces $surfaces): array
    {
        $other = $prop->others[$prop->mover->settings->string('shape')] ?? throw new BreakFailed("{$prop->name} is to take the shape of another prop, but none is chosen.");
        [$own, $shape] = [$surfaces->ownMesh($prop), $surfaces->ownMesh($other)];
        if (array_values($own->triangles) !== array_values($shape->triangles)) {
            throw new BreakFailed(sprintf('%s cannot take the shape of %s: it takes a prop of the very same triangles in another shape, a frozen one, say (%d triangles here, %d there).', $prop->name, $other->name, $own->triangleCount(), $shape->triangleCount()));
        }
        [$position, $back, [$sx, $sy, $sz]] = [$prop->transform->positionAt(1.0), Quaternion::conjugate($prop->transform->rotationAt(1.0)), $prop->transform->scaleAt(1.0)];
        $goal = [];
        foreach ($shape->x as $v => $x) {
            [$ox, $oy, $oz] = Quaternion::rotate($back, Vector::minus($other->transform->carried([$x, $shape->y[$v], $shape->z[$v]], 1.0), $position));
            $goal[] = [$ox / $sx, $oy / $sy, $oz / $sz];
        }
        $ways = [];
        foreach ((new SurfaceSeats($prop, $surfaces))->of($at) as $k => [$triangle, $b, $c]) {
            $way = [0.0, 0.0, 0.0];
            foreach ([1.0 - $b - $c, $b, $c] as $n => $share) {
                $v = $own->triangles[3 * $triangle + $n];
                $way[0] += $share * ($goal[$v][0] - $own->x[$v]);
                $way[1] += $share * ($goal[$v][1] - $own->y[$v]);
                $way[2] += $share * ($goal[$v][2] - $own->z[$v]);
            }
            $ways[] = $way;
        }

        return $ways;
    }
}
