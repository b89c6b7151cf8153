<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use LogicException;
use YardBreak\Core\Math\GradientNoise;
use YardBreak\Core\Weight\Samples;

/** How high bumps are at each place, 0 to 1, by noise. */
final class Relief
{
    /** Layered noise seldom leaves this to either side. */
    private const USUAL = 0.6;

    /**
     * @param string $form lumps; ridges: sharp crests where the noise passes 0; spikes: few and pointed
     * @param float $size of a bump, m
     *
     * @return list<float>
     */
    public static function heights(Samples $at, string $form, float $size, int $detail, int $seed): array
    {
        $noise = GradientNoise::seeded($seed, 'relief');
        $per = 1.0 / $size;
        $heights = [];
        foreach ($at->x as $k => $x) {
            $value = $noise->layered($per * $x, $per * $at->y[$k], $per * $at->z[$k], $detail) / self::USUAL;
            $value = $value < -1.0 ? -1.0 : ($value > 1.0 ? 1.0 : $value);
            $half = 0.5 + 0.5 * $value;
            $heights[] = match ($form) {
                'lumps' => $half,
                'ridges' => (1.0 - abs($value)) ** 2,
                'spikes' => $half ** 6,
                default => throw new LogicException("There are no bumps like “{$form}”."),
            };
        }

        return $heights;
    }
}
