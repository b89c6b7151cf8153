<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** How hard something must be struck to let go, and what of it then does. */
final readonly class Strike
{
    /**
     * @param float $speed at which both meet, m/s
     * @param float $impulse what would stop the one against the other, N s: that speed times their reduced mass
     * @param float $within how far about the touch pieces let go, m; 0: all of them
     */
    public function __construct(private float $speed, private float $impulse, public float $within)
    {
    }

    public function counts(float $speed, float $impulse): bool
    {
        return $speed >= $this->speed && $impulse >= $this->impulse;
    }
}
