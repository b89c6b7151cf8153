<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Held until something touches it, while nothing else moves. */
final class NothingTouches extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->trigger->has('found') || ! $prop->mover->has('collides') || $prop->startsFree()) {
            return null;
        }
        foreach ($shot->props as $other) {
            if ($other !== $prop && ($other->mover->has('collides') || $other->mover->has('felt') || $other->plays()) && (self::moves($other) || $other->transform->isKeyed() || $other->plays())) {
                return null;
            }
        }
        $field = "{$at}/motion/{$prop->mover->kind}/before";

        return new Finding('warn', $field, "{$prop->name} is held until something touches it, but nothing else that can touch it moves.", [
            'label' => 'Let it fall', 'pointer' => $field, 'value' => 'falls',
        ]);
    }
}
