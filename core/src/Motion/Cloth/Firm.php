<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\Collider;
use YardBreak\Core\Motion\Touch;

/**
 * What is held wholly is firm: what presses on it is stopped there, and pushed along where it is moved.
 *
 * A place is where it is pressed, m, the way in which, unit, how far what holds it went in the last substep, m, and how deep the thing is
 * in it there, m; less than nothing: how far it is from touching.
 *
 * @phpstan-type Place array{array{float, float, float}, array{float, float, float}, array{float, float, float}, float}
 */
final class Firm
{
    /** How often all places are gone through in a substep, until they agree: stopped at one, a thing turns into the next. */
    private const TURNS = 6;

    /**
     * @param list<Place> $places
     * @param float $friction of both
     * @param float $h length of a substep, s
     */
    public static function stop(Collider $collider, array $places, float $friction, float $h): void
    {
        $moves = $touches = false;
        $most = [];
        foreach ($places as [$place, [$a, $b, $c], $goes, $deep]) {
            $moves = $moves || $goes !== [0.0, 0.0, 0.0];
            $touches = $touches || $deep > 0.0;
            $speed = ($a * $goes[0] + $b * $goes[1] + $c * $goes[2]) / $h;
            $collider->meet($place, [$a, $b, $c], $speed, max(0.0, -$deep) / $h);
            $most[] = $speed - min(ClothTuning::DRAWN_BACK, $deep / ($deep > 0.0 ? ClothTuning::STOPS_IN * $h : $h));
        }
        if ($touches) {
            $collider->push($moves ? new Touch([0.0, 0.0, 0.0], [0.0, 0.0, 0.0], 0.0, true) : Touch::still());
        }
        $sum = 0.0;
        for ($turn = 0; $turn < self::TURNS; $turn++) {
            $taken = 0.0;
            foreach ($places as $k => [$place, $way]) {
                $taken += $collider->stop($place, $way, $most[$k], $friction, INF);
            }
            $sum += $taken;
            if ($taken <= 0.0) {
                break;
            }
        }
        if ($sum > 0.0) {
            $collider->bear($sum / $h);
        }
    }
}
