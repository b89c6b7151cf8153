<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Light;

use YardBreak\Core\Math\Quaternion;

/** How far a flat piece leans from a floor. */
final class Leaning
{
    /**
     * The rotation, turned back the shortest way until the piece leans no more than it has room for: the sine of the angle
     * between its flat side and the floor.
     *
     * @param array{float, float, float, float} $rotation
     * @param array{float, float, float} $axis across its flat side, in its own axes, unit
     * @param array{float, float, float} $normal of the floor, unit
     *
     * @return array{float, float, float, float}
     */
    public static function atMost(array $rotation, array $axis, array $normal, float $sine): array
    {
        $a = Quaternion::rotate($rotation, $axis);
        $cosine = $a[0] * $normal[0] + $a[1] * $normal[1] + $a[2] * $normal[2];
        // Either side may lie up.
        $sign = $cosine < 0.0 ? -1.0 : 1.0;
        $cross = [
            $sign * ($a[1] * $normal[2] - $a[2] * $normal[1]),
            $sign * ($a[2] * $normal[0] - $a[0] * $normal[2]),
            $sign * ($a[0] * $normal[1] - $a[1] * $normal[0]),
        ];
        $now = sqrt($cross[0] ** 2 + $cross[1] ** 2 + $cross[2] ** 2);
        if ($now <= $sine || $now < 1e-12) {
            return $rotation;
        }
        $back = atan2($now, abs($cosine)) - asin(min(1.0, $sine));

        return Quaternion::normalized(Quaternion::multiply(
            Quaternion::aboutAxis([$cross[0] / $now, $cross[1] / $now, $cross[2] / $now], $back),
            $rotation,
        ));
    }
}
