<?php

declare(strict_types=1);

namespace YardBreak\Core\Weight;

use YardBreak\Core\Math\GradientNoise;

/** Patches of more and less, all over the place, that may drift through it. */
final class Noise implements WeightSource
{
    /** Octaves of gradient noise seldom leave this much to either side of 0; contrast 1 brings it to full and none. */
    private const USUAL = 0.6;

    /** No single octave leaves this. */
    private const HIGHEST = 1.04;

    private ?Samples $at = null;

    /** @var list<float> */
    private array $made = [];

    /** @var list<float> */
    private array $weights = [];

    /**
     * @param float $size of a patch, m
     * @param int $detail octaves
     * @param float $contrast 0: the same everywhere; 1: full and none are just reached; more: mostly full or none
     * @param float $level how much of it is full, 0 to 1
     * @param array{float, float, float} $drift m/s
     * @param float $fps frames a second
     * @param list<mixed> $seed what else the noise was made of
     */
    public function __construct(
        private readonly GradientNoise $noise,
        private readonly float $size,
        private readonly int $detail,
        private readonly float $contrast,
        private readonly float $level,
        private readonly array $drift,
        private readonly float $fps,
        private readonly array $seed,
    ) {
    }

    public function evaluate(Samples $at, float $frame): array
    {
        $drifted = $this->sample($frame);
        if ($this->at === $at && $this->made === $drifted) {
            return $this->weights;
        }
        [$dx, $dy, $dz] = $drifted;
        $per = 1.0 / $this->size;
        $gain = 0.5 * $this->contrast / self::USUAL;
        // At level 0 nothing is left even of the highest patch, at level 1 even the lowest is full; in between it goes evenly.
        $t = 2.0 * $this->level - 1.0;
        $highest = self::HIGHEST * (2.0 - 0.5 ** ($this->detail - 1));
        $middle = 0.5 + 0.5 * $t + $gain * (self::USUAL * $t + ($highest - self::USUAL) * $t ** 9);
        $weights = [];
        foreach ($at->x as $k => $x) {
            $weight = $middle + $gain * $this->noise->layered(($x - $dx) * $per, ($at->y[$k] - $dy) * $per, ($at->z[$k] - $dz) * $per, $this->detail);
            $weights[] = $weight < 0.0 ? 0.0 : ($weight > 1.0 ? 1.0 : $weight);
        }
        [$this->at, $this->made, $this->weights] = [$at, $drifted, $weights];

        return $weights;
    }

    public function still(): array
    {
        return [$this->size, $this->detail, $this->contrast, $this->level, $this->seed];
    }

    public function sample(float $frame): array
    {
        $seconds = ($frame - 1.0) / $this->fps;

        return [$seconds * $this->drift[0], $seconds * $this->drift[1], $seconds * $this->drift[2]];
    }
}
