<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

/**
 * How something follows what it is drawn to: late, y' = (u - y) / T, or like a spring with a damper,
 * y'' = w^2 (u - y) - 2 z w y'. Steps are exact for a u that changes evenly, however long they are.
 */
final readonly class Response
{
    /** @param bool $springs else it only comes late */
    private function __construct(private bool $springs, private float $rate, private float $damping)
    {
    }

    /** @param float $seconds after which it has got 63 % of the way (1 - 1/e), above 0 */
    public static function late(float $seconds): self
    {
        return new self(false, 1.0 / $seconds, 0.0);
    }

    /**
     * @param float $frequency swings a second if nothing damped them, above 0
     * @param float $damping 0: it swings for ever; 1 or more: it does not swing past
     */
    public static function spring(float $frequency, float $damping): self
    {
        return new self(true, 2.0 * M_PI * $frequency, $damping);
    }

    /** @return list<float|bool> */
    public function numbers(): array
    {
        return [$this->springs, $this->rate, $this->damping];
    }

    /**
     * A step for what is at an offset from u, at a speed, while u changes at a rate: y - u(start) = a offset + b speed + c rate,
     * speed = d offset + e speed + f rate.
     *
     * @return array{float, float, float, float, float, float}
     */
    public function over(float $seconds): array
    {
        $w = $this->rate;
        if (! $this->springs) {
            $e = exp(-$w * $seconds);

            // It trails a steady change by rate / w.
            return [$e, 0.0, $seconds - (1.0 - $e) / $w, 0.0, 0.0, 0.0];
        }
        [$p, $q, $r, $s] = $this->swing($seconds);
        // y trails a steady change by lag * rate and moves at its rate: only what differs from that swings.
        $lag = 2.0 * $this->damping / $w;

        return [$p, $q, $seconds - $lag + $p * $lag - $q, $r, $s, 1.0 + $r * $lag - $s];
    }

    /** @return array{float, float, float, float} of an offset and a speed with nothing else: offset = p offset + q speed, speed = r offset + s speed */
    private function swing(float $t): array
    {
        [$w, $z] = [$this->rate, $this->damping];
        $x = 1.0 - $z * $z;
        // cos and sin over the root, hyperbolic where it does not swing, their limits where it only just does not.
        if (abs($x) * $w * $w * $t * $t < 1e-8) {
            [$c, $sin] = [1.0 - 0.5 * $x * $w * $w * $t * $t, $t];
        } elseif ($x > 0.0) {
            $d = $w * sqrt($x);
            [$c, $sin] = [cos($d * $t), sin($d * $t) / $d];
        } else {
            // Grows as fast as the damping shrinks it: both in one exponent.
            $d = $w * sqrt(-$x);
            [$up, $down] = [0.5 * exp(($d - $z * $w) * $t), 0.5 * exp((-$d - $z * $w) * $t)];
            [$c, $sin] = [$up + $down, ($up - $down) / $d];

            return [$c + $z * $w * $sin, $sin, -$w * $w * $sin, $c - $z * $w * $sin];
        }
        $e = exp(-$z * $w * $t);

        return [$e * ($c + $z * $w * $sin), $e * $sin, -$e * $w * $w * $sin, $e * ($c - $z * $w * $sin)];
    }
}
