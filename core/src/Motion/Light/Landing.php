<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use Closure;
use YardBreak\Core\Motion\Scatter;

/** What a surface does to a light piece that comes to it: lays it flat, stops it or sends it back, and lets it slide to rest. */
final class Landing
{
    /** A piece nearer to a surface than this lies on it, m. */
    public const LANDED = 1e-4;

    /** What comes slower does not bounce, m/s: a piece that lies there would hop for ever. */
    private const LIVELY = 0.3;

    /** What leaves a surface slower than this goes along with it, m/s: the two speeds are as good as one. */
    private const LEAVING = 1e-6;

    /** A push along the surface must be so many times as hard as what holds a piece that rests: slopes keep what has come to rest on them. */
    private const STUCK = 1.5;

    /**
     * @param array{float, float, float} $normal of the surface, unit
     * @param float $height of the piece's centre above it, m
     * @param float $friction of the surface
     * @param array{float, float, float} $carried velocity of the surface there, m/s
     * @param array{float, float, float}|null $pull what the piece is pulled by, m/s2: too steep a slope lets nothing rest; null: any slope does
     * @param (Closure(): array{float, float, float})|null $facet of a rough surface, which what comes fast meets instead; null: it is smooth
     *
     * @return bool whether it touches
     */
    public static function on(LightBodies $bodies, int $i, array $normal, float $height, float $friction, array $carried, float $settleSpeed, ?array $pull, ?Closure $facet = null): bool
    {
        $piece = $bodies->pieces[$i];
        if ($height >= $piece->radius) {
            return false;
        }
        if (! isset($bodies->laid[$i])) {
            $flat = max(0.0, min(1.0, ($height - $piece->thickness) / max(1e-9, $piece->radius - $piece->thickness)));
            $bodies->turnTo($i, Leaning::atMost($bodies->turn($i), $piece->axis, $normal, $flat));
        }
        [$nx, $ny, $nz] = $normal;
        [$u, $v, $w] = [$bodies->u[$i] - $carried[0], $bodies->v[$i] - $carried[1], $bodies->w[$i] - $carried[2]];
        $into = $nx * $u + $ny * $v + $nz * $w;
        if ($height > $piece->thickness || $into > self::LEAVING) {
            return false;
        }
        $bodies->laid[$i] = true;
        $up = $piece->thickness - $height;
        $bodies->x[$i] += $up * $nx;
        $bodies->y[$i] += $up * $ny;
        $bodies->z[$i] += $up * $nz;
        $back = $into < -self::LIVELY ? -$piece->restitution * $into : 0.0;
        [$u, $v, $w] = [$u - $into * $nx, $v - $into * $ny, $w - $into * $nz];
        $slide = sqrt($u * $u + $v * $v + $w * $w);
        // Coulomb: the push that stopped it, times the friction, is taken from the slide. Two surfaces meet at the
        // geometric mean of theirs, as hard pieces do.
        $mu = sqrt($friction * $piece->friction);
        $keep = $slide > 0.0 ? max(0.0, 1.0 + $mu * ($into - $back) / $slide) : 0.0;
        if ($piece->sticks || ($back === 0.0 && $keep * $slide < $settleSpeed && ($pull === null || self::holds($normal, $pull, $mu)))) {
            $keep = $back = 0.0;
            $bodies->state[$i] = LightBodies::RESTING;
        }
        [$u, $v, $w] = [$keep * $u + $back * $nx, $keep * $v + $back * $ny, $keep * $w + $back * $nz];
        if ($facet !== null && $into < -self::LIVELY && ! $piece->sticks) {
            [$u, $v, $w] = Scatter::sent([$u, $v, $w], $normal, $facet(), -$into, $piece->restitution);
        }
        $bodies->u[$i] = $carried[0] + $u;
        $bodies->v[$i] = $carried[1] + $v;
        $bodies->w[$i] = $carried[2] + $w;

        return true;
    }

    /**
     * Whether a surface keeps what rests on it.
     *
     * @param array{float, float, float} $normal unit
     * @param array{float, float, float} $pull m/s2
     * @param float $mu friction of both
     */
    public static function keeps(array $normal, array $pull, float $mu): bool
    {
        return self::holds($normal, $pull, $mu * self::STUCK);
    }

    /**
     * @param array{float, float, float} $normal
     * @param array{float, float, float} $pull
     */
    private static function holds(array $normal, array $pull, float $mu): bool
    {
        $up = $normal[0] * $pull[0] + $normal[1] * $pull[1] + $normal[2] * $pull[2];
        $along = sqrt(max(0.0, $pull[0] ** 2 + $pull[1] ** 2 + $pull[2] ** 2 - $up * $up));

        return $up <= 0.0 && $along <= -$up * $mu;
    }
}
