<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** It lies so far from the shot's origin that frames, which hold places as singles, cannot tell small ways apart there. */
final class FarAway extends PropCheck
{
    /** A single has so many steps up to its size. */
    private const STEPS = 8388608.0;

    /** A step that is larger than this share of its size is seen. */
    private const SEEN = 0.001;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        [$low, $high] = $mesh->bounds();
        [$x, $y, $z] = $prop->transform->carried([0.5 * ($low[0] + $high[0]), 0.5 * ($low[1] + $high[1]), 0.5 * ($low[2] + $high[2])], 1.0);
        $far = sqrt($x * $x + $y * $y + $z * $z);
        $step = $far / self::STEPS;
        if ($step <= self::SEEN * $mesh->size()) {
            return null;
        }
        $file = "{$at}/source/{$prop->source->kind}/origin";
        $remedy = $prop->source->settings->has('origin') && $prop->source->settings->string('origin') === 'file' ? ['label' => 'Put its origin below its middle', 'pointer' => $file, 'value' => 'base'] : null;

        return new Finding('warn', $remedy === null ? "{$at}/position" : $file, sprintf('%s lies %s km from the origin of the shot: what moves there would move in steps of %s mm. Bring the shot to the origin.', $prop->name, round(0.001 * $far, 1), round(1000.0 * $step, 1)), $remedy);
    }
}
