<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** As fast and the same way everywhere. */
final readonly class EvenAirflow implements Airflow
{
    /** @param list<Animated> $velocity x, y and z, m/s */
    public function __construct(private array $velocity)
    {
    }

    public function add(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void
    {
        [$du, $dv, $dw] = $this->sample($frame);
        foreach ($u as $i => $value) {
            $u[$i] = $value + $du;
            $v[$i] += $dv;
            $w[$i] += $dw;
        }
    }

    /** @return array{float, float, float} */
    public function sample(float $frame): array
    {
        return [$this->velocity[0]->at($frame), $this->velocity[1]->at($frame), $this->velocity[2]->at($frame)];
    }

    public function animated(): array
    {
        return $this->velocity;
    }
}
