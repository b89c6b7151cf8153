<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A prop that has a path and does not go along it. */
final class StillOnItsPath extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->transform->hasPath) {
            return null;
        }
        $path = $prop->transform->path;
        if ($path === null || $path->length() <= 0.0) {
            return new Finding('warn', "{$at}/path/places", "The path of {$prop->name} has fewer than two places, so {$prop->name} stands where it would without. Give it more.");
        }

        return ! $path->along->isConstant() ? null
            : new Finding('warn', "{$at}/path/along", "{$prop->name} has a path, but never goes along it: how far it is has no keys.", [
                'label' => 'Go along it over the whole shot',
                'pointer' => "{$at}/path/along",
                'value' => ['keys' => [['frame' => 1, 'value' => 0, 'ease' => 'linear'], ['frame' => $shot->frames, 'value' => 100, 'ease' => 'linear']]],
            ]);
    }
}
