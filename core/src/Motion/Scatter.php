<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

use YardBreak\Core\Math\RandomStream;

/** How rough a floor is: what hits it meets a facet that leans its own way, another at each hit. */
final readonly class Scatter
{
    private function __construct(private float $most, private int $seed)
    {
    }

    /**
     * @param float $most how far a facet leans at most, radians
     *
     * @return self|null null: the floor is smooth
     */
    public static function of(float $most, int $seed): ?self
    {
        return $most > 0.0 ? new self($most, $seed) : null;
    }

    /**
     * The facet that is met: leaning any way, by an angle that is spread evenly over what may be.
     *
     * @param array{float, float, float} $normal of the floor, unit
     * @param string $when the step of the hit
     * @param int $who what hits it
     *
     * @return array{float, float, float} unit
     */
    public function facet(array $normal, string $when, int $who): array
    {
        [$x, $y, $z] = $normal;
        $random = RandomStream::named($this->seed, "scatter/{$when}", $who);
        $lean = $this->most * sqrt($random->float());
        $around = 2.0 * M_PI * $random->float();
        // Two directions along the floor.
        [$ux, $uy, $uz] = abs($x) < 0.6 ? [0.0, $z, -$y] : [-$z, 0.0, $x];
        $length = sqrt($ux * $ux + $uy * $uy + $uz * $uz);
        [$ux, $uy, $uz] = [$ux / $length, $uy / $length, $uz / $length];
        [$vx, $vy, $vz] = [$y * $uz - $z * $uy, $z * $ux - $x * $uz, $x * $uy - $y * $ux];
        [$c, $a, $b] = [cos($lean), sin($lean) * cos($around), sin($lean) * sin($around)];

        return [$c * $x + $a * $ux + $b * $vx, $c * $y + $a * $uy + $b * $vy, $c * $z + $a * $uz + $b * $vz];
    }

    /**
     * The velocity of what has been stopped or sent back by a smooth floor, had it met a facet: the same push, along that. It
     * never gains energy by it, and never goes into the floor.
     *
     * @param array{float, float, float} $velocity after the hit, m/s
     * @param array{float, float, float} $normal of the floor
     * @param array{float, float, float} $facet
     * @param float $speed at which it came, m/s
     * @param float|null $most what the square of its velocity can be without a gain, m2/s2; null: what it lost, it lost to the floor
     *
     * @return array{float, float, float}
     */
    public static function sent(array $velocity, array $normal, array $facet, float $speed, float $restitution, ?float $most = null): array
    {
        $push = (1.0 + $restitution) * $speed;
        $sent = [];
        foreach ($velocity as $k => $v) {
            $sent[$k] = $v + $push * ($facet[$k] - $normal[$k]);
        }
        $into = min(0.0, $normal[0] * $sent[0] + $normal[1] * $sent[1] + $normal[2] * $sent[2]);
        foreach ($normal as $k => $n) {
            $sent[$k] -= $into * $n;
        }
        $most ??= $velocity[0] ** 2 + $velocity[1] ** 2 + $velocity[2] ** 2 + (1.0 - $restitution * $restitution) * $speed * $speed;
        $is = $sent[0] ** 2 + $sent[1] ** 2 + $sent[2] ** 2;
        $keep = $is > $most ? sqrt($most / $is) : 1.0;

        return [$keep * $sent[0], $keep * $sent[1], $keep * $sent[2]];
    }
}
