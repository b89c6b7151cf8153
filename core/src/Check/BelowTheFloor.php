<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Plane;
use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** It starts in a floor and would be pushed out at once. */
final class BelowTheFloor extends PropCheck
{
    /** Less is not seen, m. */
    private const LEAST = 0.002;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        // What goes a way that is set feels no floor.
        if (! self::moves($prop) || $prop->mover->has('staged')) {
            return null;
        }
        $position = $prop->transform->positionAt(1.0);
        $stands = $mesh->scaled($prop->transform->scaleAt(1.0))->transformed(1.0, $prop->transform->rotationAt(1.0), $position);
        foreach ($shot->planes as $plane) {
            $depth = self::depth($stands, $plane);
            if ($depth > self::LEAST) {
                // Straight up until it is clear of the plane.
                $up = $depth / max(0.1, $plane->normal[1]);

                return new Finding('warn', "{$at}/position/y", sprintf('%s starts %.3f m below the floor and will be pushed out at once.', $prop->name, $depth), [
                    'label' => 'Stand it on the floor', 'pointer' => "{$at}/position/y", 'value' => round($position[1] + $up, 4),
                ]);
            }
        }

        return null;
    }

    private static function depth(TriangleMesh $mesh, Plane $plane): float
    {
        $lowest = INF;
        foreach ($mesh->x as $i => $x) {
            $lowest = min($lowest, $plane->above($x, $mesh->y[$i], $mesh->z[$i]));
        }

        return -$lowest;
    }
}
