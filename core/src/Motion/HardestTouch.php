<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion;

/** The hardest touch, since it was last asked for, of what lets go by one: what decides how hard to ask for. */
final class HardestTouch
{
    private float $speed = 0.0;

    private float $impulse = 0.0;

    /**
     * @param float $speed m/s
     * @param float $impulse N s
     */
    public function note(float $speed, float $impulse): void
    {
        $this->speed = max($this->speed, $speed);
        $this->impulse = max($this->impulse, $impulse);
    }

    /** @return array{speed: float, impulse: float} of the fastest one, and of the one with the largest; 0: none */
    public function take(): array
    {
        $hardest = $this->save();
        [$this->speed, $this->impulse] = [0.0, 0.0];

        return $hardest;
    }

    /** @return array{speed: float, impulse: float} */
    public function save(): array
    {
        return ['speed' => $this->speed, 'impulse' => $this->impulse];
    }

    public function restore(State $saved): void
    {
        [$this->speed, $this->impulse] = [$saved->float('speed'), $saved->float('impulse')];
    }
}
