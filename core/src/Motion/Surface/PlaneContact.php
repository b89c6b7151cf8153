<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

/** Vertices of a cloth against an endless plane. */
final readonly class PlaneContact
{
    private const ROUNDING = 1e-6;

    /** What is no farther above one lies on it, m. */
    private const ON = 1e-4;

    /** What is pushed off a plane by so much of a push at least is lifted. */
    private const LIFTS = 0.7;

    /**
     * @param array{float, float, float} $normal unit
     * @param float $offset of the plane along it, with the distance that is kept, m
     */
    public function __construct(public array $normal, public float $offset, public float $friction)
    {
    }

    /**
     * Whether what pushes a place that lies on one of some planes does not lift it off that; without a push, whether it lies on one.
     *
     * @param list<self> $planes
     * @param float $u way in which it is pushed, unit
     */
    public static function keeps(array $planes, float $x, float $y, float $z, float $u, float $v, float $w): bool
    {
        foreach ($planes as $plane) {
            [$a, $b, $c] = $plane->normal;
            if ($a * $x + $b * $y + $c * $z - $plane->offset < self::ON && $a * $u + $b * $v + $c * $w < self::LIFTS) {
                return true;
            }
        }

        return false;
    }

    /**
     * @param list<self> $planes
     *
     * @return float how far a place in the world is above the nearest of some planes, m; INF: there is none
     */
    public static function height(array $planes, float $x, float $y, float $z): float
    {
        return self::nearest($planes, $x, $y, $z)?->above($x, $y, $z) ?? INF;
    }

    /** @param list<self> $planes */
    public static function nearest(array $planes, float $x, float $y, float $z): ?self
    {
        $nearest = null;
        $least = INF;
        foreach ($planes as $plane) {
            $above = $plane->above($x, $y, $z);
            if ($above < $least) {
                [$least, $nearest] = [$above, $plane];
            }
        }

        return $nearest;
    }

    /** How far a place is above it and the distance that is kept, m. */
    public function above(float $x, float $y, float $z): float
    {
        return $this->normal[0] * $x + $this->normal[1] * $y + $this->normal[2] * $z - $this->offset;
    }

    /**
     * How far the nearest corner of a box is above it and the distance that is kept, m.
     *
     * @param array{float, float, float, float, float, float} $box low corner, high corner
     */
    public function aboveBox(array $box): float
    {
        [$a, $b, $c] = $this->normal;

        return $this->above($box[$a > 0.0 ? 0 : 3], $box[$b > 0.0 ? 1 : 4], $box[$c > 0.0 ? 2 : 5]);
    }

    /**
     * Whether a place in the world is below one of some planes.
     *
     * @param list<self> $planes
     */
    public static function isBelow(array $planes, float $x, float $y, float $z): bool
    {
        foreach ($planes as $plane) {
            [$a, $b, $c] = $plane->normal;
            if ($a * $x + $b * $y + $c * $z < $plane->offset - self::ROUNDING) {
                return true;
            }
        }

        return false;
    }

    /**
     * As SurfaceContact; a plane does not move and takes every push.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w
     */
    public function resolve(array &$x, array &$y, array &$z, array $px, array $py, array $pz, array $w, bool $rubs): void
    {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        [$a, $b, $c] = $this->normal;
        $offset = $this->offset;
        $friction = $rubs ? $this->friction : 0.0;
        $n = count($w);
        for ($i = 0; $i < $n; ++$i) {
            $deep = $offset - $a * $X[$i] - $b * $Y[$i] - $c * $Z[$i];
            if ($deep > 0.0 && $w[$i] > 0.0) {
                $dx = $X[$i] + $deep * $a - $px[$i];
                $dy = $Y[$i] + $deep * $b - $py[$i];
                $dz = $Z[$i] + $deep * $c - $pz[$i];
                $into = $dx * $a + $dy * $b + $dz * $c;
                $dx -= $into * $a;
                $dy -= $into * $b;
                $dz -= $into * $c;
                $slid = $dx * $dx + $dy * $dy + $dz * $dz;
                $most = $friction * $deep;
                $s = $slid > $most * $most ? $most / sqrt($slid) : ($rubs ? 1.0 : 0.0);
                $X[$i] += $deep * $a - $s * $dx;
                $Y[$i] += $deep * $b - $s * $dy;
                $Z[$i] += $deep * $c - $s * $dz;
            }
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }
}
