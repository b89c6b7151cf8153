<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;

/**
 * A front that travels outward from a place, once: as it passes it pushes outward, less and less until it has passed
 * (Friedlander's waveform, (1 - t/T) exp(-t/T); Friedlander 1946); then it may draw back for a while.
 */
final readonly class Blast implements ForceField
{
    use ByPlace;

    /**
     * @param list<Animated> $at where it begins, m
     * @param float $when frame at which it begins
     * @param float $strength at 1 m as the front comes, m/s2
     * @param float $speed of the front, m/s
     * @param float $lasts how long it pushes outward, s
     * @param float $fades with this power of the distance; 0: as strong everywhere
     * @param bool $back whether it draws back afterwards
     */
    public function __construct(
        private array $at,
        private float $when,
        private float $strength,
        private float $speed,
        private float $lasts,
        private float $fades,
        private bool $back,
        private float $fps,
    ) {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $since = ($frame - $this->when) / $this->fps;
        if ($since + $seconds <= 0.0) {
            return;
        }
        [$ox, $oy, $oz] = array_map(fn (Animated $value): float => $value->at($this->when), $this->at);
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        $pushes->ax = $pushes->ay = $pushes->az = [];
        foreach ($x as $i => $px) {
            $px -= $ox;
            $py = $y[$i] - $oy;
            $pz = $z[$i] - $oz;
            $far = sqrt($px * $px + $py * $py + $pz * $pz);
            $here = $since - $far / $this->speed;
            $sum = $this->sum($here + $seconds) - $this->sum($here);
            if ($sum === 0.0 || $far === 0.0) {
                continue;
            }
            // Right at its place it is as strong as it is a tenth of a metre from there.
            $per = $this->strength * max($far, 0.1) ** -$this->fades * $sum / ($seconds * $far);
            $ax[$i] += $per * $px;
            $ay[$i] += $per * $py;
            $az[$i] += $per * $pz;
        }
        [$pushes->ax, $pushes->ay, $pushes->az] = [$ax, $ay, $az];
    }

    /** The waveform summed up to a time after the front has come, s: of (1 - s) exp(-s) that is s exp(-s). */
    private function sum(float $time): float
    {
        $share = $time / $this->lasts;
        if ($share <= 0.0) {
            return 0.0;
        }

        return $this->lasts * ($share >= 1.0 && ! $this->back ? exp(-1.0) : $share * exp(-$share));
    }

    public function sample(float $frame): array
    {
        // What acts up to the next frame has begun.
        if ($frame + 1.0 < $this->when) {
            return [0.0];
        }

        return [$this->when, $this->strength, $this->speed, $this->lasts, $this->fades, $this->back ? 1.0 : 0.0, ...array_map(fn (Animated $value): float => $value->at($this->when), $this->at)];
    }

    public function changes(): array
    {
        return [$this->when];
    }
}
