<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use Closure;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Weight\Samples;

/** How near places of a prop are to other props, where their keys put them. */
final class Nearness
{
    /** @return list<Closure(Samples, float, float): list<float>> distances to each of the props that are there */
    public static function things(Settings $settings, Prop $prop, PropShape $shape): array
    {
        $things = [];
        foreach ($settings->strings('props') as $id) {
            $other = $prop->others[$id] ?? null;
            if ($other !== null) {
                $things[] = match ($settings->string('measure')) {
                    'middle' => self::toMiddle($prop, $other, $shape->others),
                    'shell' => self::toSurface($prop, $other, $shape->others, true),
                    default => self::toSurface($prop, $other, $shape->others, false),
                };
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

    /** @return Closure(Samples, float, float): list<float> */
    private static function toMiddle(Prop $prop, Prop $other, Surfaces $surfaces): Closure
    {
        return static function (Samples $at, float $frame, float $limit) use ($prop, $other, $surfaces): array {
            [$u, $v, $w] = self::seen($at, self::into($prop, $surfaces->middle($other, $frame), Quaternion::IDENTITY, $frame));

            return array_map(static fn (float $x, float $y, float $z): float => sqrt($x * $x + $y * $y + $z * $z), $u, $v, $w);
        };
    }

    /**
     * @param bool $shell whether its inside is as far from its surface as its outside; else inside is no distance at all
     *
     * @return Closure(Samples, float, float): list<float>
     */
    private static function toSurface(Prop $prop, Prop $other, Surfaces $surfaces, bool $shell): Closure
    {
        return static function (Samples $at, float $frame, float $limit) use ($prop, $other, $surfaces, $shell): array {
            [$tree, $times] = $surfaces->of($other, $frame);
            $limit /= $times;
            [$u, $v, $w] = self::seen($at, self::into($prop, $other->transform->positionAt($frame), $other->transform->rotationAt($frame), $frame, 1.0 / $times));
            // What is inside may be farther from the surface than the limit, and still counts; it lies within the bounds.
            [[$lx, $ly, $lz], [$hx, $hy, $hz]] = $tree->bounds();
            $solid = ! $shell && $tree->closed;
            $far = [];
            foreach ($u as $k => $x) {
                $y = $v[$k];
                $z = $w[$k];
                $within = $solid && $x >= $lx && $x <= $hx && $y >= $ly && $y <= $hy && $z >= $lz && $z <= $hz;
                $triangle = $tree->nearest($x, $y, $z, $within ? INF : $limit, -1);
                if ($triangle < 0) {
                    $far[] = INF;
                    continue;
                }
                $tree->look($triangle, $x, $y, $z);
                $far[] = $times * ($shell ? abs($tree->distance) : max(0.0, $tree->distance));
            }

            return $far;
        };
    }

    /**
     * @param array{float, float, float, float, float, float, float, float, float, float, float, float} $into as into() gives it
     *
     * @return array{list<float>, list<float>, list<float>} places as they are seen from there
     */
    private static function seen(Samples $at, array $into): array
    {
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8, $tx, $ty, $tz] = $into;
        $u = $v = $w = [];
        foreach ($at->x as $k => $x) {
            $y = $at->y[$k];
            $z = $at->z[$k];
            $u[] = $m0 * $x + $m1 * $y + $m2 * $z + $tx;
            $v[] = $m3 * $x + $m4 * $y + $m5 * $z + $ty;
            $w[] = $m6 * $x + $m7 * $y + $m8 * $z + $tz;
        }

        return [$u, $v, $w];
    }

    /**
     * From a prop's own space into axes that stand somewhere, and what is seen there scaled.
     *
     * @param array{float, float, float} $position
     * @param array{float, float, float, float} $rotation
     *
     * @return array{float, float, float, float, float, float, float, float, float, float, float, float} matrix, row by row, and what is added
     */
    private static function into(Prop $prop, array $position, array $rotation, float $frame, float $by = 1.0): array
    {
        $back = Quaternion::conjugate($rotation);
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix(Quaternion::multiply($back, $prop->transform->rotationAt($frame)));
        [$sx, $sy, $sz] = $prop->transform->scaleAt($frame);
        [$px, $py, $pz] = $prop->transform->positionAt($frame);
        [$tx, $ty, $tz] = Quaternion::rotate($back, [$by * ($px - $position[0]), $by * ($py - $position[1]), $by * ($pz - $position[2])]);
        [$sx, $sy, $sz] = [$by * $sx, $by * $sy, $by * $sz];

        return [$sx * $m0, $sy * $m1, $sz * $m2, $sx * $m3, $sy * $m4, $sz * $m5, $sx * $m6, $sy * $m7, $sz * $m8, $tx, $ty, $tz];
    }
}
