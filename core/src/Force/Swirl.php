<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/**
 * Turns everything about an axis, as a push or as moving air: like a solid within its core, with the distance from the axis
 * beyond it less and less (Rankine's vortex, any text on fluid mechanics); part of it goes inward and along the axis.
 */
final readonly class Swirl implements ForceField
{
    use ByPlace;

    /**
     * @param list<Animated> $at a place on the axis, m
     * @param list<Animated> $direction of the axis, of any length; seen from its end it turns to the left
     * @param Animated $strength at the edge of the core, m/s2 or m/s
     * @param float $core its radius, m
     * @param Animated $inward as much towards the axis, as a share of the turning
     * @param Animated $lift as much along the axis
     * @param bool $air whether it moves the air
     */
    public function __construct(
        private array $at,
        private array $direction,
        private Animated $strength,
        private float $core,
        private Animated $inward,
        private Animated $lift,
        private bool $air,
    ) {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $strength = $this->strength->at($frame);
        [$ox, $oy, $oz, $nx, $ny, $nz] = self::all([...$this->at, ...$this->direction], $frame);
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        if ($strength === 0.0 || $length === 0.0) {
            return;
        }
        [$nx, $ny, $nz] = [$nx / $length, $ny / $length, $nz / $length];
        $inward = $this->inward->at($frame);
        $lift = $this->lift->at($frame);
        $core = $this->core;
        [$ax, $ay, $az] = $this->air ? [$pushes->u, $pushes->v, $pushes->w] : [$pushes->ax, $pushes->ay, $pushes->az];
        foreach ($x as $i => $px) {
            $px -= $ox;
            $py = $y[$i] - $oy;
            $pz = $z[$i] - $oz;
            $along = $px * $nx + $py * $ny + $pz * $nz;
            $px -= $along * $nx;
            $py -= $along * $ny;
            $pz -= $along * $nz;
            $far = sqrt($px * $px + $py * $py + $pz * $pz);
            // Of the way out from the axis; times that it is the speed.
            $turning = $far < $core ? $strength / $core : $strength * $core / ($far * $far);
            $up = $lift * $turning * $far;
            $ax[$i] += $turning * ($ny * $pz - $nz * $py - $inward * $px) + $up * $nx;
            $ay[$i] += $turning * ($nz * $px - $nx * $pz - $inward * $py) + $up * $ny;
            $az[$i] += $turning * ($nx * $py - $ny * $px - $inward * $pz) + $up * $nz;
        }
        if ($this->air) {
            [$pushes->u, $pushes->v, $pushes->w] = [$ax, $ay, $az];
        } else {
            [$pushes->ax, $pushes->ay, $pushes->az] = [$ax, $ay, $az];
        }
    }

    public function movesAir(): bool
    {
        return $this->air;
    }

    public function sample(float $frame): array
    {
        $numbers = self::all([$this->strength, ...$this->at, ...$this->direction, $this->inward, $this->lift], $frame);

        return $numbers[0] === 0.0 ? [0.0] : [...$numbers, $this->core, $this->air ? 1.0 : 0.0];
    }

    public function changes(): array
    {
        return Changes::of([$this->strength, ...$this->at, ...$this->direction, $this->inward, $this->lift]);
    }

    /**
     * @param list<Animated> $values
     *
     * @return list<float>
     */
    private static function all(array $values, float $frame): array
    {
        return array_map(static fn (Animated $value): float => $value->at($frame), $values);
    }
}
