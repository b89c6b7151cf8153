<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * Cloth that is held, where one thing presses on it. By itself it is too light to stop what is heavier, and a solver of places does not pass
 * on in time what holds it: whoever holds it does, through this.
 */
final readonly class Pressed
{
    /** Cloth that presses on a thing from all sides stops it nowhere: how far ways out must be of one mind. */
    private const ONE_WAY = 0.3;

    /** It is drawn tight where it can go farther by less than this share of how far it is held from. */
    private const TAUT = 0.1;

    /**
     * @param array{float, float, float} $place the middle of where it is pressed, m
     * @param array{float, float, float} $way in which it is pressed, unit
     * @param float $room how much farther it can go that way, m; less than nothing: it is too far already
     * @param float $goes how far what holds it went that way in the last substep, m
     * @param float $against kg of cloth that hangs together there
     * @param list<int> $touched vertices
     */
    private function __construct(public array $place, public array $way, private float $room, private float $goes, public bool $isTaut, public float $against, public array $touched)
    {
    }

    /**
     * @param array<int, array{float, float, float}> $touched the way out of the thing at each vertex that it touches, unit
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is places of all vertices, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was a substep before
     * @param array<int, float> $w inverse masses
     * @param list<float> $weighs kg of what hangs together with each vertex
     *
     * @return self|null null: nothing holds it there, it swings aside, or it presses back from all sides
     */
    public static function at(array $touched, Tethers $tethers, array $is, array $was, array $w, array $weighs): ?self
    {
        [$x, $y, $z] = $is;
        $least = $share = INF;
        $count = $nearest = 0;
        $against = 0.0;
        $place = $out = [0.0, 0.0, 0.0];
        foreach ($touched as $i => $way) {
            $at = [$x[$i], $y[$i], $z[$i]];
            [$room, $length] = $tethers->room($i, $at, $way, $x, $y, $z, $w);
            if ($room < INF) {
                [$least, $nearest] = $room < $least ? [$room, $i] : [$least, $nearest];
                $share = min($share, $room / $length);
                $count++;
                $against = max($against, $weighs[$i]);
                $place = [$place[0] + $at[0], $place[1] + $at[1], $place[2] + $at[2]];
                $out = [$out[0] + $way[0], $out[1] + $way[1], $out[2] + $way[2]];
            }
        }
        // In the middle of where it presses, as one: vertex by vertex the first would turn it.
        $l = sqrt($out[0] ** 2 + $out[1] ** 2 + $out[2] ** 2);
        if ($l <= self::ONE_WAY * $count) {
            return null;
        }
        $way = [$out[0] / $l, $out[1] / $l, $out[2] / $l];
        if ($tethers->swing($nearest, $way, $x, $y, $z, $w) > ClothTuning::SWINGS) {
            return null;
        }

        return new self([$place[0] / $count, $place[1] / $count, $place[2] / $count], $way, $least, $tethers->went($nearest, $way, $is, $was, $w), $share < self::TAUT, $against, array_keys($touched));
    }

    /** How fast what presses may still be, so that it is stopped in time; less than nothing: it is drawn back; m/s. */
    public function speed(float $h): float
    {
        return $this->goes / $h + max(-ClothTuning::DRAWN_BACK, $this->room / (ClothTuning::STOPS_IN * $h));
    }
}
