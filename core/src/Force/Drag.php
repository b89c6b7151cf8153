<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** Slows what goes through the air: by a share of its speed in each second, and by more the faster it is. */
final readonly class Drag implements ForceField
{
    use ByPlace;

    /**
     * @param Animated $linear 1/s
     * @param Animated $square 1/m
     */
    public function __construct(private Animated $linear, private Animated $square)
    {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $linear = $this->linear->at($frame);
        $square = $this->square->at($frame);
        if ($linear === 0.0 && $square === 0.0) {
            return;
        }
        $pushes->slows = true;
        foreach ($x as $i => $_) {
            $pushes->linear[$i] += $linear;
            $pushes->square[$i] += $square;
        }
    }

    public function sample(float $frame): array
    {
        return [$this->linear->at($frame), $this->square->at($frame)];
    }

    public function changes(): array
    {
        return Changes::of([$this->linear, $this->square]);
    }
}
