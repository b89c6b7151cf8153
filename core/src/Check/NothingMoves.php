<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Shot;
use YardBreak\Core\Stage\Pipeline;

/** Everything is held for the whole shot. */
final class NothingMoves implements Check
{
    public function findings(Shot $shot, Pipeline $pipeline): array
    {
        foreach ($shot->props as $prop) {
            if ($prop->startsFree() || ! $prop->held()->isEmpty() || ! $prop->neverLetsGo() || $prop->transform->isKeyed() || $prop->plays()) {
                return [];
            }
        }

        $first = $shot->props[0] ?? null;

        return $first === null ? [] : [new Finding('warn', "{$first->pointer}/release/trigger", 'Nothing will move: every prop is held and never lets go.', [
            'label' => "Let {$first->name} go at frame 12", 'pointer' => "{$first->pointer}/release", 'value' => ['trigger' => 'frame', 'frame' => ['frame' => 12]],
        ])];
    }
}
