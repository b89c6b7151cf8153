<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** Air moves, but nothing in the shot is carried by it. */
final class IdleAir implements Check
{
    /** Lighter than this a hard thing goes with the wind, as cork and foam do, kg/m3. */
    private const LIGHT = 250.0;

    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $drifts = array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('drifts') || self::isLight($prop)) !== [];
        foreach ($shot->forces as $force) {
            if ($force->kind->has('air') && ! $drifts) {
                return [new Finding('warn', $force->pointer, "{$force->name} hardly moves anything: no prop in the shot is light pieces or cloth, and hard ones are heavy for their size. Turbulence, a swirl or a push moves heavy and light alike.")];
            }
        }

        return [];
    }

    private static function isLight(Prop $prop): bool
    {
        $settings = $prop->mover->settings->inForce();

        return is_float($settings['density'] ?? null) && $settings['density'] < self::LIGHT;
    }
}
