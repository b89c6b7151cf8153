<?php

declare(strict_types=1);

namespace YardBreak\Core\Math;

/** Where one can go that hangs on taut ropes: nowhere away from what it hangs on. */
final class Swing
{
    /** A step that goes against a rope by less than this goes along it. */
    private const ALONG = 1e-9;

    /**
     * The farthest along a way that a step of length one takes it: the way itself, or what is left of it across one rope or two (the
     * projection on a cone, whose faces are tried one after the other).
     *
     * @param array{float, float, float} $way unit
     * @param list<array{float, float, float}> $ropes unit, each to where it hangs
     *
     * @return float 1: nothing holds it back, 0: it cannot go there at all
     */
    public static function along(array $way, array $ropes): float
    {
        $steps = [$way];
        foreach ($ropes as $i => $rope) {
            $by = Vector::dot($way, $rope);
            $steps[] = Vector::unit([$way[0] - $by * $rope[0], $way[1] - $by * $rope[1], $way[2] - $by * $rope[2]]);
            foreach (array_slice($ropes, $i + 1) as $other) {
                $across = Vector::unit(Vector::cross($rope, $other));
                $steps[] = $across;
                $steps[] = $across === null ? null : Vector::minus([0.0, 0.0, 0.0], $across);
            }
        }
        $farthest = 0.0;
        foreach ($steps as $step) {
            $far = $step === null ? 0.0 : Vector::dot($step, $way);
            if ($step !== null && $far > $farthest && self::isFree($step, $ropes)) {
                $farthest = $far;
            }
        }

        return $farthest;
    }

    /**
     * @param array{float, float, float} $step
     * @param list<array{float, float, float}> $ropes
     */
    private static function isFree(array $step, array $ropes): bool
    {
        foreach ($ropes as $rope) {
            if (Vector::dot($step, $rope) < -self::ALONG) {
                return false;
            }
        }

        return true;
    }
}
