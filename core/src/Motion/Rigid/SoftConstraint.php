<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Rigid;

/** A damped spring for implicit steps (Catto 2011, "Soft Constraints"). */
final class SoftConstraint
{
    /**
     * @param float $damping ratio
     * @param float $h substep, s
     *
     * @return array{float, float, float} push rate, 1/s; share of the impulse to apply; share of the old one to drop
     */
    public static function of(float $hertz, float $damping, float $h): array
    {
        $omega = 2.0 * M_PI * $hertz;
        $a1 = 2.0 * $damping + $h * $omega;
        $a2 = $h * $omega * $a1;
        $a3 = 1.0 / (1.0 + $a2);

        return [$omega / $a1, $a2 * $a3, $a3];
    }
}
