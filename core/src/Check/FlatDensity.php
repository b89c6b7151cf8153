<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;
use YardBreak\Core\Stage\Weighing;

/** Cells that should be finer where the weight is high, on a prop whose weight is the same everywhere or not known before it moves. */
final class FlatDensity extends PropCheck
{
    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if ($prop->pattern->has('weighed') && Weighing::mixGoesByMotion($prop->weight, $prop)) {
            return new Finding('warn', "{$at}/break/{$prop->pattern->kind}/density", "{$prop->name} is broken before anything moves, so it is finer where its weight is high with the others where their keys put them, not where they go.");
        }

        return $prop->pattern->has('weighed') && $prop->weight->isEmpty()
            ? new Finding('warn', "{$at}/break/{$prop->pattern->kind}/density", "{$prop->name} should be finer where its weight is high, but its weight has no source, so it is the same everywhere.", [
                'label' => 'Let a front sweep by', 'pointer' => "{$at}/weight/stack", 'value' => [['source' => 'sweep']],
            ])
            : null;
    }
}
