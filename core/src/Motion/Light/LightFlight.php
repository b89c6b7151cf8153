<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Force\Pushes;

/** How light pieces fly: one kernel over all that are on their way. */
final class LightFlight
{
    /**
     * Drag is taken with the speed before the step and applied to that after it, so that the lightest piece stays calm at any step.
     *
     * @param list<int> $loose those among them that rest are left alone
     * @param Pushes $pushes on each of them
     * @param array<int, float> $open of each of them, 0 where no wind reaches it, else 1
     * @param float $dt s
     */
    public static function step(LightBodies $bodies, array $loose, Pushes $pushes, array $open, float $dt): void
    {
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        [$airU, $airV, $airW] = [$pushes->u, $pushes->v, $pushes->w];
        [$linear, $square] = [$pushes->linear, $pushes->square];
        [$x, $y, $z, $u, $v, $w] = [$bodies->x, $bodies->y, $bodies->z, $bodies->u, $bodies->v, $bodies->w];
        [$qx, $qy, $qz, $qw] = [$bodies->qx, $bodies->qy, $bodies->qz, $bodies->qw];
        $bodies->qx = $bodies->qy = $bodies->qz = $bodies->qw = [];
        [$state, $drag, $fallSpeed, $tumble] = [$bodies->state, $bodies->drag, $bodies->fallSpeed, $bodies->tumble];
        [$spinX, $spinY, $spinZ] = [$bodies->spinX, $bodies->spinY, $bodies->spinZ];
        foreach ($loose as $n => $i) {
            if ($state[$i] !== LightBodies::LOOSE) {
                continue;
            }
            $shelter = $open[$n];
            $a = $airU[$n] * $shelter;
            $b = $airV[$n] * $shelter;
            $c = $airW[$n] * $shelter;
            $du = $a - $u[$i];
            $dv = $b - $v[$i];
            $dw = $c - $w[$i];
            $through = sqrt($du * $du + $dv * $dv + $dw * $dw);
            $q = $dt * ($drag[$i] * $through + $linear[$n] + $square[$n] * $through);
            $s = 1.0 / (1.0 + $q);
            $u[$i] = $du = ($u[$i] + $q * $a + $dt * $ax[$n]) * $s;
            $v[$i] = $dv = ($v[$i] + $q * $b + $dt * $ay[$n]) * $s;
            $w[$i] = $dw = ($w[$i] + $q * $c + $dt * $az[$n]) * $s;
            $x[$i] += $dt * $du;
            $y[$i] += $dt * $dv;
            $z[$i] += $dt * $dw;
            // The air turns it, the more the faster it goes through it.
            $share = $through / $fallSpeed[$i];
            $half = 0.5 * $dt * $tumble[$i] * ($share < 1.0 ? $share : 1.0) * $shelter;
            if ($half !== 0.0) {
                $sine = sin($half);
                $c = cos($half);
                $a = $spinX[$i] * $sine;
                $b = $spinY[$i] * $sine;
                $s = $spinZ[$i] * $sine;
                $du = $qx[$i];
                $dv = $qy[$i];
                $dw = $qz[$i];
                $q = $qw[$i];
                $tx = $c * $du + $a * $q + $b * $dw - $s * $dv;
                $ty = $c * $dv - $a * $dw + $b * $q + $s * $du;
                $tz = $c * $dw + $a * $dv - $b * $du + $s * $q;
                $tw = $c * $q - $a * $du - $b * $dv - $s * $dw;
                $length = 1.0 / sqrt($tx * $tx + $ty * $ty + $tz * $tz + $tw * $tw);
                $qx[$i] = $tx * $length;
                $qy[$i] = $ty * $length;
                $qz[$i] = $tz * $length;
                $qw[$i] = $tw * $length;
            }
        }
        [$bodies->x, $bodies->y, $bodies->z, $bodies->u, $bodies->v, $bodies->w] = [$x, $y, $z, $u, $v, $w];
        [$bodies->qx, $bodies->qy, $bodies->qz, $bodies->qw] = [$qx, $qy, $qz, $qw];
    }
}
