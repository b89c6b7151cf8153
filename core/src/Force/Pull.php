<?php

declare(strict_types=1);

namespace YardBreak\Core\Force;

use YardBreak\Core\Math\Animated;
use YardBreak\Core\Math\Curve;

/**
 * Draws everything to a place, a line, a plane or a surface, or pushes it away: as hard everywhere, harder the farther (as a
 * spring does), harder the nearer (with the square of the distance, as a mass does), or as a curve says.
 */
final readonly class Pull implements ForceField
{
    use ByPlace;

    /** Nearer than this, what grows with nearness grows no more, m. */
    private const NEAREST = 0.01;

    /**
     * @param Animated $strength m/s2 (even), 1/s2 (grows), m/s2 at 1 m (fades); less than nothing pushes away
     * @param string $law even, grows, fades or drawn
     * @param Animated $calm within this distance it fades to nothing, so that what arrives comes to rest there, m
     * @param Curve|null $drawn share of the strength, from what it draws to (0) to the distance below (1)
     * @param float $ends distance past which it does nothing if it is drawn, m
     */
    public function __construct(private Target $target, private Animated $strength, private string $law, private Animated $calm, private ?Curve $drawn = null, private float $ends = 1.0)
    {
    }

    public function act(array $x, array $y, array $z, float $frame, float $seconds, Pushes $pushes): void
    {
        $strength = $this->strength->at($frame);
        $calm = $this->calm->at($frame);
        if ($strength === 0.0) {
            return;
        }
        [$dx, $dy, $dz] = $this->target->ways($x, $y, $z, $frame);
        [$ax, $ay, $az] = [$pushes->ax, $pushes->ay, $pushes->az];
        $pushes->ax = $pushes->ay = $pushes->az = [];
        foreach ($dx as $i => $wx) {
            $far = sqrt($wx * $wx + $dy[$i] * $dy[$i] + $dz[$i] * $dz[$i]);
            if ($far === 0.0) {
                continue;
            }
            $per = match ($this->law) {
                'grows' => $strength,
                'drawn' => $far < $this->ends ? $strength * ($this->drawn?->at($far / $this->ends) ?? 1.0) / $far : 0.0,
                'fades' => $strength / ($far * max($far, self::NEAREST) ** 2),
                default => $strength / $far,
            };
            $per *= $far < $calm ? $far / $calm : 1.0;
            $ax[$i] += $per * $wx;
            $ay[$i] += $per * $dy[$i];
            $az[$i] += $per * $dz[$i];
        }
        [$pushes->ax, $pushes->ay, $pushes->az] = [$ax, $ay, $az];
    }

    public function sample(float $frame): array
    {
        $strength = $this->strength->at($frame);

        return $strength === 0.0 ? [0.0] : [$strength, (float) crc32(serialize([$this->law, $this->drawn?->points, $this->ends])), $this->calm->at($frame), ...$this->target->sample($frame)];
    }

    public function changes(): array
    {
        return Changes::of([$this->strength, $this->calm, ...$this->target->animated()]);
    }
}
