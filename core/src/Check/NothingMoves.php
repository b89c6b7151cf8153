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
            if ($prop->startsFree() || ! $prop->held()->isEmpty() || ! $prop->neverLetsGo() || $prop->transform->isKeyed()) {
                return [];
            }
        }

        return $shot->props === [] ? [] : [new Finding('warn', '/props/0/release/trigger', 'Nothing will move: every prop is held and never lets go.', [
            'label' => 'Let ' . $shot->props[0]->name . ' go at frame 12', 'pointer' => '/props/0/release', 'value' => ['trigger' => 'frame', 'frame' => ['frame' => 12]],
        ])];
    }
}
