<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/** Outward from a place on all sides, or towards it. */
final readonly class AirflowFromPlace implements Airflow
{
    /** Nearer than this it gets slower down to nothing: at the place itself there is no way outward, m. */
    private const CORE = 0.1;

    /**
     * @param list<Animated> $at the place, m
     * @param Animated $speed at 1 m, m/s; less than nothing goes towards the place
     * @param float $fades with this power of the distance; 0: as fast everywhere, 2: as air does that is let out there
     */
    public function __construct(private array $at, private Animated $speed, private float $fades)
    {
    }

    public function add(array $x, array $y, array $z, float $frame, array &$u, array &$v, array &$w): void
    {
        [$speed, $ox, $oy, $oz] = $this->sample($frame);
        foreach ($x as $i => $px) {
            $px -= $ox;
            $py = $y[$i] - $oy;
            $pz = $z[$i] - $oz;
            $far = sqrt($px * $px + $py * $py + $pz * $pz);
            $near = $far < self::CORE ? self::CORE : $far;
            $per = $speed * $near ** -$this->fades / $near;
            $u[$i] += $per * $px;
            $v[$i] += $per * $py;
            $w[$i] += $per * $pz;
        }
    }

    /** @return array{float, float, float, float, float} */
    public function sample(float $frame): array
    {
        return [$this->speed->at($frame), $this->at[0]->at($frame), $this->at[1]->at($frame), $this->at[2]->at($frame), $this->fades];
    }

    public function animated(): array
    {
        return [$this->speed, ...$this->at];
    }
}
