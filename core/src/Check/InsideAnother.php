<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Fastenings;
use YardBreak\Core\Stage\Pipeline;

/** It begins inside something that it feels, and would be thrown out of it at once. */
final class InsideAnother extends PropCheck
{
    /** Less is not seen, m. */
    private const LEAST = 0.002;

    /** So many of its corners are looked at: what is inside is so with more than one. */
    private const CORNERS = 1500;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('folds') && ! $prop->startsFree()) {
            return null;
        }
        $corners = self::corners($prop, $mesh);
        foreach ($shot->props as $other) {
            // What is fastened to it is led by it there, and not thrown out.
            if ($other === $prop || ! ($other->mover->has('collides') || $other->mover->has('felt')) || Fastenings::fastens($prop, $other, $shot)) {
                continue;
            }
            $depth = self::depth($corners, $other, $pipeline);
            if ($depth > self::LEAST) {
                $lifts = $prop->pattern->settings->has('lift');

                return new Finding('warn', $lifts ? "{$at}/break/{$prop->pattern->kind}/lift" : "{$at}/position", sprintf(
                    '%s begins up to %s m inside %s and will be thrown out of it at once. Move one of them, %s.',
                    $prop->name,
                    round($depth, 3),
                    $other->name,
                    $lifts ? 'lift the skin higher off its core, or make the other smaller' : 'or make one smaller',
                ));
            }
        }

        return null;
    }

    /** @return list<array{float, float, float}> in the shot at its first frame */
    private static function corners(Prop $prop, TriangleMesh $mesh): array
    {
        // A skin lies off the surface that it is made of.
        $lift = $prop->pattern->settings->has('lift') ? $prop->pattern->settings->float('lift') : 0.0;
        $step = max(1, intdiv(count($mesh->triangles), self::CORNERS));
        $corners = [];
        for ($k = 0, $end = count($mesh->triangles); $k < $end; $k += $step) {
            $i = $mesh->triangles[$k];
            [$nx, $ny, $nz] = $lift === 0.0 || $mesh->normals === null ? [0.0, 0.0, 0.0] : [$mesh->normals[3 * $k], $mesh->normals[3 * $k + 1], $mesh->normals[3 * $k + 2]];
            $corners[] = $prop->transform->carried([$mesh->x[$i] + $lift * $nx, $mesh->y[$i] + $lift * $ny, $mesh->z[$i] + $lift * $nz], 1.0);
        }

        return $corners;
    }

    /**
     * How deep the deepest is inside another prop, m; 0: none is.
     *
     * @param list<array{float, float, float}> $corners
     */
    private static function depth(array $corners, Prop $other, Pipeline $pipeline): float
    {
        [$tree, $scale] = $pipeline->surfaces->of($other, 1.0);
        if (! $tree->closed || $tree->isEmpty() || $scale <= 0.0) {
            return 0.0;
        }
        $position = $other->transform->positionAt(1.0);
        $back = Quaternion::conjugate($other->transform->rotationAt(1.0));
        [$low, $high] = $tree->bounds();
        $deepest = 0.0;
        foreach ($corners as [$x, $y, $z]) {
            [$x, $y, $z] = Quaternion::rotate($back, [$x - $position[0], $y - $position[1], $z - $position[2]]);
            [$x, $y, $z] = [$x / $scale, $y / $scale, $z / $scale];
            if ($x < $low[0] || $x > $high[0] || $y < $low[1] || $y > $high[1] || $z < $low[2] || $z > $high[2]) {
                continue;
            }
            $tree->look($tree->nearest($x, $y, $z, INF), $x, $y, $z);
            $deepest = max($deepest, -$scale * $tree->distance);
        }

        return $deepest;
    }
}
