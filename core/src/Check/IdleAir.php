<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** Air moves, but nothing in the shot is carried by it. */
final class IdleAir implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        $drifts = array_filter($shot->props, static fn (Prop $prop): bool => $prop->mover->has('drifts')) !== [];
        foreach ($shot->forces as $choice) {
            if ($choice->has('air') && ! $drifts) {
                return [new Finding('warn', '/forces', 'Nothing feels the wind: no prop in the shot is light pieces or cloth, and hard ones are too heavy for it.')];
            }
        }

        return [];
    }
}
