<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Glue;
use YardBreak\Core\Stage\Pipeline;

/** Glue between pieces that do not touch each other. */
final class NothingGlued extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        $settings = $prop->mover->settings;
        if (! $prop->mover->has('collides') || ! $settings->has('glue') || $settings->float('glue') <= 0.0 || ! self::moves($prop) || Glue::touching($pipeline->broken($prop)) !== []) {
            return null;
        }

        return new Finding('warn', "{$at}/motion/{$prop->mover->kind}/glue", "{$prop->name} has glue, but no two of its pieces touch: each goes by itself.", ['label' => 'Take the glue away', 'pointer' => "{$at}/motion/{$prop->mover->kind}/glue", 'value' => 0]);
    }
}
