<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\SurfaceChange;
use YardBreak\Core\Weight\Samples;

/** A prop that is to take the shape of another one, of which there is none, or none of the same triangles. */
final class OtherShape extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('likens')) {
            return null;
        }
        try {
            SurfaceChange::ways($prop, new Samples([], [], []), $pipeline->surfaces);
        } catch (BreakFailed $why) {
            return new Finding('stop', "{$at}/motion/{$prop->mover->kind}/shape", $why->getMessage());
        }

        return null;
    }
}
