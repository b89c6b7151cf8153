<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** It waits for a touch, but moves in a way that feels none. */
final class NotFelt extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->trigger->has('found') || $prop->mover->has('collides') || $prop->mover->has('touched') || $prop->mover->has('led')) {
            return null;
        }
        $frame = min(12, $shot->frames);

        return new Finding('warn', "{$at}/release/trigger", "{$prop->name} waits for a touch, but as it moves it feels none: it never lets go.", [
            'label' => "Let go at frame {$frame}", 'pointer' => "{$at}/release", 'value' => ['trigger' => 'frame', 'frame' => ['frame' => $frame]],
        ]);
    }
}
