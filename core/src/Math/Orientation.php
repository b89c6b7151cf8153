<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Exact answers to two questions about points in the plane (Shewchuk 1997): doubles first, expansions where they do not suffice. */
final class Orientation
{
    /** Rounding of the determinants in doubles, relative to the sum of their terms' sizes (Shewchuk's bounds, rounded up). */
    private const TURN = 4.0e-16;
    private const CIRCLE = 2.0e-15;

    /** 1 if a, b, c turn to the left, -1 if to the right, 0 if they lie in one line. */
    public static function turn(float $ax, float $ay, float $bx, float $by, float $cx, float $cy): int
    {
        $l = ($ax - $cx) * ($by - $cy);
        $r = ($ay - $cy) * ($bx - $cx);
        $d = $l - $r;
        $doubt = self::TURN * (($l < 0.0 ? -$l : $l) + ($r < 0.0 ? -$r : $r));
        if ($d > $doubt) {
            return 1;
        }
        if ($d < -$doubt) {
            return -1;
        }

        return Expansion::difference($ax, $cx)->times(Expansion::difference($by, $cy))
            ->minus(Expansion::difference($ay, $cy)->times(Expansion::difference($bx, $cx)))->sign();
    }

    /** 1 if d lies inside the circle through a, b, c (which turn to the left), -1 if outside, 0 if on it. */
    public static function inCircle(float $ax, float $ay, float $bx, float $by, float $cx, float $cy, float $dx, float $dy): int
    {
        $adx = $ax - $dx;
        $ady = $ay - $dy;
        $bdx = $bx - $dx;
        $bdy = $by - $dy;
        $cdx = $cx - $dx;
        $cdy = $cy - $dy;
        $a = $adx * $adx + $ady * $ady;
        $b = $bdx * $bdx + $bdy * $bdy;
        $c = $cdx * $cdx + $cdy * $cdy;
        $value = $a * ($bdx * $cdy - $cdx * $bdy) + $b * ($cdx * $ady - $adx * $cdy) + $c * ($adx * $bdy - $bdx * $ady);
        $size = $a * (abs($bdx * $cdy) + abs($cdx * $bdy)) + $b * (abs($cdx * $ady) + abs($adx * $cdy)) + $c * (abs($adx * $bdy) + abs($bdx * $ady));
        if ($value > self::CIRCLE * $size) {
            return 1;
        }
        if ($value < -self::CIRCLE * $size) {
            return -1;
        }
        $rows = [];
        foreach ([[$ax, $ay], [$bx, $by], [$cx, $cy]] as [$x, $y]) {
            $ex = Expansion::difference($x, $dx);
            $ey = Expansion::difference($y, $dy);
            $rows[] = [$ex, $ey, $ex->times($ex)->plus($ey->times($ey))];
        }

        return Expansion::determinant($rows)->sign();
    }
}
