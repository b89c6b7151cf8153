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
            $airX = $airU[$n] * $open[$n];
            $airY = $airV[$n] * $open[$n];
            $airZ = $airW[$n] * $open[$n];
            $du = $airX - $u[$i];
            $dv = $airY - $v[$i];
            $dw = $airZ - $w[$i];
            $through = sqrt($du * $du + $dv * $dv + $dw * $dw);
            $q = $dt * ($drag[$i] * $through + $linear[$n] + $square[$n] * $through);
            $s = 1.0 / (1.0 + $q);
            $u[$i] = $nowU = ($u[$i] + $q * $airX + $dt * $ax[$n]) * $s;
            $v[$i] = $nowV = ($v[$i] + $q * $airY + $dt * $ay[$n]) * $s;
            $w[$i] = $nowW = ($w[$i] + $q * $airZ + $dt * $az[$n]) * $s;
            $x[$i] += $dt * $nowU;
            $y[$i] += $dt * $nowV;
            $z[$i] += $dt * $nowW;
            // The air turns it, the more the faster it goes through it.
            $share = $through / $fallSpeed[$i];
            $half = 0.5 * $dt * $tumble[$i] * ($share < 1.0 ? $share : 1.0) * $open[$n];
            if ($half !== 0.0) {
                $sine = sin($half);
                $c = cos($half);
                $sx = $spinX[$i] * $sine;
                $sy = $spinY[$i] * $sine;
                $sz = $spinZ[$i] * $sine;
                $a = $qx[$i];
                $b = $qy[$i];
                $d = $qz[$i];
                $e = $qw[$i];
                $tx = $c * $a + $sx * $e + $sy * $d - $sz * $b;
                $ty = $c * $b - $sx * $d + $sy * $e + $sz * $a;
                $tz = $c * $d + $sx * $b - $sy * $a + $sz * $e;
                $tw = $c * $e - $sx * $a - $sy * $b - $sz * $d;
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
