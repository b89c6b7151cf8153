<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Settings;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A weight whose edge is finer than the mesh that moves by it: from vertex to vertex it jumps. */
final class CoarseEdge extends PropCheck
{
    /** More even triangles than this are not offered. */
    private const MOST = 30000;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        // Pieces go by one value each; only where vertices move by themselves is the mesh what counts.
        if (! $prop->mover->has('vertices') || $mesh->isEmpty() || ! $prop->trigger->has('weight')) {
            return null;
        }
        $edge = $mesh->meanEdge();
        foreach ($prop->weight->stack as $k => $layer) {
            $source = $layer->choice('source');
            $width = self::width($source->settings);
            if ($width === null || $width <= 0.0 || $width >= $edge) {
                continue;
            }
            // As many as have edges half as long as the soft edge is wide.
            $count = (int) (1000 * ceil($mesh->triangleCount() * ($edge / (0.5 * $width)) ** 2 / 1000));

            return new Finding(
                'warn',
                "{$at}/weight/stack/{$k}/{$source->kind}",
                sprintf('The soft edge of a weight of %s is %s m wide, but its mesh has edges of %s m: between them it cannot be seen.', $prop->name, round($width, 4), round($edge, 4)),
                $count <= self::MOST ? ['label' => "Make it of {$count} even triangles", 'pointer' => "{$at}/prepare/even", 'value' => $count] : null,
            );
        }

        return null;
    }

    private static function width(Settings $settings): ?float
    {
        if ($settings->has('softness')) {
            return $settings->float('softness');
        }

        return $settings->has('none') && $settings->has('full') ? $settings->animated('none')->at(1.0) - $settings->animated('full')->at(1.0) : null;
    }
}
