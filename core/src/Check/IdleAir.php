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
        foreach ($shot->forces as $force) {
            if ($force->kind->has('air') && ! $drifts) {
                return [new Finding('warn', $force->pointer, "{$force->name} hardly moves anything: no prop in the shot is light pieces or cloth, and hard ones are heavy for their size. Turbulence, a swirl or a push moves heavy and light alike.")];
            }
        }

        return [];
    }
}
