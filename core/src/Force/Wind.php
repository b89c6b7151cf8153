<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** Air that moves, with eddies in it. */
final class Wind implements ForceField
{
    use ByPlace;

    private readonly ChangingEddies $eddies;

    /**
     * @param Animated $turbulence root mean square speed of the eddies, m/s
     * @param float $size of an eddy, m
     * @param int $period frames until they have turned into others and back; 0: they stand still
     */
    public function __construct(
        private readonly Airflow $flow,
        private readonly Animated $turbulence,
        private readonly float $size,
        private readonly int $period,
        private readonly int $seed,
    ) {
        $this->eddies = new ChangingEddies($seed, 'eddies', $period);
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        [$u, $v, $w] = [$pushes->u, $pushes->v, $pushes->w];
        $pushes->u = $pushes->v = $pushes->w = [];
        $this->flow->add($x, $y, $z, $frame, $u, $v, $w);
        $strength = $this->turbulence->at($frame);
        if ($strength > 0.0) {
            $this->eddies->add($x, $y, $z, $frame, $strength, $this->size, $u, $v, $w);
        }
        [$pushes->u, $pushes->v, $pushes->w] = [$u, $v, $w];
    }

    public function movesAir(): bool
    {
        return true;
    }

    public function sample(float $frame): array
    {
        $turbulence = $this->turbulence->at($frame);

        return [
            ...$this->flow->sample($frame),
            ...($turbulence > 0.0 ? [$turbulence, $this->size, (float) $this->period, (float) $this->seed] : []),
        ];
    }

    public function changes(): array
    {
        return Changes::of([...$this->flow->animated(), $this->turbulence]);
    }
}
