<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** A surface that bends and has far more vertices than it needs for that, as a scan has: every one of them meets all others, many times a frame. */
final class FineSurface extends PropCheck
{
    /** So many vertices bake in a second or so a frame; what folds by itself, and what a few boxes carry. */
    private const FOLDS = 20_000;

    private const CARRIED = 10_000;

    /** Triangles that are as good to look at in motion, for each vertex of those. */
    private const GOOD = 0.6;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! self::moves($prop) || ! $prop->mover->has('vertices') || $prop->mover->has('led') || $prop->mover->has('staged') || $prop->prepare->int('even') > 0) {
            return null;
        }
        $many = $prop->mover->has('folds') ? self::FOLDS : self::CARRIED;
        if ($mesh->vertexCount() <= $many) {
            return null;
        }
        $good = (int) (self::GOOD * $many);

        return new Finding('warn', "{$at}/prepare/even", sprintf('%s has %s vertices, and each of them bends and meets the others: a bake will take about %d times as long as with %s even triangles.', $prop->name, number_format($mesh->vertexCount()), max(2, (int) round($mesh->vertexCount() / (0.5 * $good))), number_format($good)), [
            'label' => 'Make it of ' . number_format($good) . ' even triangles', 'pointer' => "{$at}/prepare/even", 'value' => $good,
        ]);
    }
}
