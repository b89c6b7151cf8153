<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** Pushes every way, here one way and there another, in eddies that pile nothing up anywhere; finer ones lie over the large ones. */
final class Turbulence implements ForceField
{
    use ByPlace;

    private readonly ChangingEddies $eddies;

    /**
     * @param Animated $strength root mean square, m/s2
     * @param float $size of an eddy, m
     * @param int $detail how many sizes of eddies there are, each half as large and half as strong as the one before
     * @param list<float> $drift how fast they travel, m/s
     * @param int $period frames until they have turned into others; 0: they do not
     */
    public function __construct(
        private readonly Animated $strength,
        private readonly float $size,
        private readonly int $detail,
        private readonly array $drift,
        private readonly int $period,
        private readonly int $seed,
        private readonly float $fps,
    ) {
        $this->eddies = new ChangingEddies($seed, 'turbulence', $period);
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $strength = $this->strength->at($frame);
        if ($strength === 0.0) {
            return;
        }
        $passed = ($frame - 1.0) / $this->fps;
        [$x, $y, $z] = [self::moved($x, $this->drift[0] * $passed), self::moved($y, $this->drift[1] * $passed), self::moved($z, $this->drift[2] * $passed)];
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        $pushes->ax = $pushes->ay = $pushes->az = [];
        $share = 1.0 / sqrt((1.0 - 0.25 ** $this->detail) / 0.75);
        $size = $this->size;
        for ($k = 0; $k < $this->detail; $k++) {
            $this->eddies->add($x, $y, $z, $frame, $strength * $share, $size, $ax, $ay, $az);
            $share *= 0.5;
            $size *= 0.5;
        }
        [$pushes->ax, $pushes->ay, $pushes->az] = [$ax, $ay, $az];
    }

    /**
     * @param list<float> $values
     *
     * @return list<float>
     */
    private static function moved(array $values, float $way): array
    {
        return $way === 0.0 ? $values : array_map(static fn (float $value): float => $value - $way, $values);
    }

    public function sample(float $frame): array
    {
        $strength = $this->strength->at($frame);

        return $strength === 0.0 ? [0.0] : [$strength, $this->size, (float) $this->detail, ...$this->drift, (float) $this->period, (float) $this->seed];
    }

    public function changes(): array
    {
        return Changes::of([$this->strength]);
    }
}
