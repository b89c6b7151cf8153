<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** The same pull everywhere. */
final readonly class Gravity implements ForceField
{
    /**
     * @param Animated $strength m/s2
     * @param list<Animated> $direction of any length; none: down
     */
    public function __construct(private Animated $strength, private array $direction = [])
    {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        [$gx, $gy, $gz] = $this->uniform($frame);
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        $pushes->ax = $pushes->ay = $pushes->az = [];
        foreach ($ay as $i => $a) {
            $ax[$i] += $gx;
            $ay[$i] = $a + $gy;
            $az[$i] += $gz;
        }
        [$pushes->ax, $pushes->ay, $pushes->az] = [$ax, $ay, $az];
    }

    public function movesAir(): bool
    {
        return false;
    }

    public function uniform(float $frame): array
    {
        $g = $this->strength->at($frame);
        [$x, $y, $z] = $this->direction === [] ? [0.0, -1.0, 0.0] : array_map(static fn (Animated $value): float => $value->at($frame), $this->direction);
        $length = sqrt($x * $x + $y * $y + $z * $z);

        return $length > 0.0 ? [$g * $x / $length, $g * $y / $length, $g * $z / $length] : [0.0, -$g, 0.0];
    }

    public function sample(float $frame): array
    {
        return $this->uniform($frame);
    }

    public function changes(): array
    {
        return Changes::of([$this->strength, ...$this->direction]);
    }
}
