<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** What acts on single bodies in a substep, beside what acts on all of them alike. */
final class Pushed
{
    /**
     * Accelerates, and slows what goes through the air, implicitly: however much it is slowed, it never turns back.
     *
     * @param array<int, float> $v six numbers a body: velocity, spin
     * @param array<int, array{float, float, float, float, float, float, float, float, float, float, float}> $pushed by body: acceleration, m/s2; share
     *                                                                                        of the speed lost in a second, and for each
     *                                                                                        m/s of speed, 1/s and 1/m; velocity of the air, m/s; acceleration of its turning, 1/s2
     * @param list<int> $moving
     * @param float $h s
     */
    public static function apply(array &$v, array $pushed, array $moving, float $h): void
    {
        $V = $v;
        $v = [];
        foreach ($moving as $b) {
            if (! isset($pushed[$b])) {
                continue;
            }
            [$ax, $ay, $az, $linear, $square, $u, $l, $w, $tx, $ty, $tz] = $pushed[$b];
            $o = 6 * $b;
            $x = $V[$o];
            $y = $V[$o + 1];
            $z = $V[$o + 2];
            $dx = $x - $u;
            $dy = $y - $l;
            $dz = $z - $w;
            $k = $h * ($linear + $square * sqrt($dx * $dx + $dy * $dy + $dz * $dz));
            $s = 1.0 / (1.0 + $k);
            $V[$o] = ($x + $h * $ax + $k * $u) * $s;
            $V[$o + 1] = ($y + $h * $ay + $k * $l) * $s;
            $V[$o + 2] = ($z + $h * $az + $k * $w) * $s;
            $s = 1.0 / (1.0 + $h * $linear);
            $V[$o + 3] = ($V[$o + 3] + $h * $tx) * $s;
            $V[$o + 4] = ($V[$o + 4] + $h * $ty) * $s;
            $V[$o + 5] = ($V[$o + 5] + $h * $tz) * $s;
        }
        $v = $V;
    }
}
