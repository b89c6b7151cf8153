<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Weight\Samples;

/** How near places of a prop are to other props, where their keys put them or as they were seen. */
final class Nearness
{
    /** Places measured at once where only the nearest matters. */
    private const AT_ONCE = 32;
    /** @return list<Closure(Samples, float, float): list<float>> distances to each of the props that are there */
    public static function things(Settings $settings, Prop $prop, PropShape $shape): array
    {
        $things = [];
        foreach ($settings->strings('props') as $id) {
            $other = $prop->others[$id] ?? null;
            if ($other !== null) {
                $measure = $settings->string('measure');
                $keyed = $measure === 'middle' ? self::toMiddle($prop, $other, $shape->others) : self::toSurface($prop, $other, $shape->others, $measure === 'shell');
                $seen = $settings->string('where') === 'motion' ? $shape->others->seen : null;
                $things[] = $seen === null ? $keyed : self::toSeen($prop, $other, $seen, $measure, $keyed);
            }
        }

        return $things;
    }

    /** @return list<float> how far places are from the nearest of the props, m, however far */
    public static function distances(Settings $settings, Prop $prop, PropShape $shape, Samples $at, float $frame): array
    {
        $nearest = array_fill(0, count($at->x), INF);
        foreach (self::things($settings, $prop, $shape) as $distances) {
            foreach ($distances($at, $frame, INF) as $k => $far) {
                $nearest[$k] = min($nearest[$k], $far);
            }
        }

        return array_values($nearest);
    }

    /** How far the nearest of the places is from the nearest of the props, m: what is farther than the nearest so far is not measured. */
    public static function least(Settings $settings, Prop $prop, PropShape $shape, Samples $at, float $frame): float
    {
        $least = INF;
        $things = self::things($settings, $prop, $shape);
        foreach ($at->parted(self::AT_ONCE) as $some) {
            foreach ($things as $distances) {
                $least = min([$least, ...$distances($some, $frame, $least)]);
            }
        }

        return $least;
    }

    /** @return Closure(Samples, float, float): list<float> */
    private static function toMiddle(Prop $prop, Prop $other, Surfaces $surfaces): Closure
    {
        return static function (Samples $at, float $frame, float $limit) use ($prop, $other, $surfaces): array {
            [$u, $v, $w] = Axes::through($at, Axes::into($prop, $surfaces->middle($other, $frame), Quaternion::IDENTITY, $frame));

            return array_map(static fn (float $x, float $y, float $z): float => sqrt($x * $x + $y * $y + $z * $z), $u, $v, $w);
        };
    }

    /**
     * @param bool $shell whether its inside is as far from its surface as its outside; else inside is no distance at all
     *
     * @return Closure(Samples, float, float): list<float> distances (m) of places of the prop at a frame; INF where it is farther than the limit, m
     */
    public static function toSurface(Prop $prop, Prop $other, Surfaces $surfaces, bool $shell): Closure
    {
        return static function (Samples $at, float $frame, float $limit) use ($prop, $other, $surfaces, $shell): array {
            [$tree, $times] = $surfaces->of($other, $frame);
            $limit /= $times;
            [$u, $v, $w] = Axes::through($at, Axes::into($prop, $other->transform->positionAt($frame), $other->transform->rotationAt($frame), $frame, 1.0 / $times));
            $far = self::toTree($tree, $u, $v, $w, $limit, $shell);

            return $times === 1.0 ? $far : array_map(static fn (float $distance): float => $times * $distance, $far);
        };
    }

    /**
     * @param Closure(Samples, float, float): list<float> $keyed for frames at which it was not seen
     *
     * @return Closure(Samples, float, float): list<float> distances to the nearest of its pieces
     */
    private static function toSeen(Prop $prop, Prop $other, SeenPieces $seen, string $measure, Closure $keyed): Closure
    {
        return static function (Samples $at, float $frame, float $limit) use ($prop, $other, $seen, $measure, $keyed): array {
            $pieces = $seen->at($other, $frame);
            if ($pieces === null) {
                return $keyed($at, $frame, $limit);
            }
            if ($measure === 'middle') {
                [$u, $v, $w] = Axes::through($at, Axes::into($prop, SeenPieces::middle($pieces), Quaternion::IDENTITY, $frame));

                return array_map(static fn (float $x, float $y, float $z): float => sqrt($x * $x + $y * $y + $z * $z), $u, $v, $w);
            }
            $nearest = array_fill(0, count($at->x), INF);
            foreach ($pieces as $piece) {
                [$u, $v, $w] = Axes::through($at, Axes::into($prop, $piece->position, $piece->rotation, $frame, 1.0 / $piece->times));
                foreach (self::toTree($piece->surface, $u, $v, $w, $limit / $piece->times, $measure === 'shell') as $k => $far) {
                    $far *= $piece->times;
                    $nearest[$k] = $far < $nearest[$k] ? $far : $nearest[$k];
                }
            }

            return $nearest;
        };
    }

    /**
     * @param list<float> $u
     * @param list<float> $v
     * @param list<float> $w places in the surface's own axes
     *
     * @return list<float> INF where it is farther than the limit
     */
    private static function toTree(SurfaceTree $tree, array $u, array $v, array $w, float $limit, bool $shell): array
    {
        [[$lx, $ly, $lz], [$hx, $hy, $hz]] = $tree->bounds();
        // What is inside may be farther from the surface than the limit, and still counts: no farther than half the shortest way through the bounds.
        $limit = $shell || ! $tree->closed ? $limit : max($limit, 0.5001 * min($hx - $lx, $hy - $ly, $hz - $lz));
        $far = [];
        foreach ($u as $k => $x) {
            $y = $v[$k];
            $z = $w[$k];
            if ($x < $lx - $limit || $x > $hx + $limit || $y < $ly - $limit || $y > $hy + $limit || $z < $lz - $limit || $z > $hz + $limit) {
                $far[] = INF;
                continue;
            }
            $triangle = $tree->nearest($x, $y, $z, $limit, -1);
            if ($triangle < 0) {
                $far[] = INF;
                continue;
            }
            $tree->look($triangle, $x, $y, $z);
            $far[] = $shell ? abs($tree->distance) : max(0.0, $tree->distance);
        }

        return $far;
    }
}
