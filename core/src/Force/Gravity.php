<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** The same pull everywhere, downward. */
final readonly class Gravity implements ForceField
{
    /** @param Animated $strength m/s2 */
    public function __construct(private Animated $strength)
    {
    }

    public function accelerate(array $x, array $y, array $z, float $frame, array &$ax, array &$ay, array &$az): void
    {
        $g = $this->strength->at($frame);
        foreach ($ay as $i => $a) {
            $ay[$i] = $a - $g;
        }
    }

    public function air(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void
    {
    }

    public function sample(float $frame): array
    {
        return [$this->strength->at($frame)];
    }

    public function changes(): array
    {
        return $this->strength->isConstant() ? [] : $this->strength->frames();
    }

    public function uniform(float $frame): array
    {
        return [0.0, -$this->strength->at($frame), 0.0];
    }
}
