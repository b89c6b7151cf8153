<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Cloth whose edges are about as long as the hard pieces it will meet are wide: they poke through between its vertices, and it trembles on them. */
final class CoarseForPieces extends PropCheck
{
    /** A piece is felt well where so many edges go across it. */
    private const ACROSS = 3.0;

    /** More triangles than this are not worth it. */
    private const MOST = 20000;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('folds') || $prop->isSkin() || $mesh->isEmpty() || ClothMesh::isTooCoarse($prop, $mesh)) {
            // What is too coarse anyhow is told so, with a remedy of its own.
            return null;
        }
        $edge = $mesh->meanEdge() * max($prop->transform->scaleAt(1.0));
        foreach ($shot->props as $other) {
            if ($other === $prop || ! $other->mover->has('collides') || ! self::moves($other) || $other->isSkin()) {
                continue;
            }
            $theirs = $pipeline->prepared($other);
            if ($theirs->isEmpty() || ! self::mayMeet(self::box($prop, $mesh), self::box($other, $theirs))) {
                continue;
            }
            $across = self::across($other, $pipeline);
            if ($across > 0.0 && $across < self::ACROSS * $edge) {
                $text = sprintf('%s is coarse beside the pieces of %s: its edges are %s m long, these are some %s m across. They will poke through between its vertices, and it takes long to come to rest on them.', $prop->name, $other->name, round($edge, 3), round($across, 3));
                // Triangles go with the square of how much shorter their edges are.
                $needed = (int) round(intdiv(count($mesh->triangles), 3) * (self::ACROSS * $edge / $across) ** 2, -2);

                return new Finding('warn', "{$at}/prepare/even", $text, $needed > self::MOST ? null : [
                    'label' => "Make it of {$needed} even triangles", 'pointer' => "{$at}/prepare/even", 'value' => $needed,
                ]);
            }
        }

        return null;
    }

    /** How wide a piece is, as a cube of the mean volume, m; 0: they are one, which is met as it is. */
    private static function across(Prop $prop, Pipeline $pipeline): float
    {
        $broken = $pipeline->broken($prop);
        $count = count($broken->pieces);
        if ($count < 2) {
            return 0.0;
        }
        [$x, $y, $z] = $prop->transform->scaleAt(1.0);

        return (abs($x * $y * $z) * array_sum(array_column($broken->mass, 'volume')) / $count) ** (1.0 / 3.0);
    }

    /**
     * Whether one is over the other at the first frame, so that they may meet.
     *
     * @param array{array{float, float, float}, array{float, float, float}} $one
     * @param array{array{float, float, float}, array{float, float, float}} $other
     */
    private static function mayMeet(array $one, array $other): bool
    {
        return $one[0][0] < $other[1][0] && $other[0][0] < $one[1][0] && $one[0][2] < $other[1][2] && $other[0][2] < $one[1][2];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} low and high corner in the shot at the first frame */
    private static function box(Prop $prop, TriangleMesh $mesh): array
    {
        [$low, $high] = $mesh->bounds();
        $corners = [];
        foreach ([$low[0], $high[0]] as $x) {
            foreach ([$low[1], $high[1]] as $y) {
                foreach ([$low[2], $high[2]] as $z) {
                    $corners[] = $prop->transform->carried([$x, $y, $z], 1.0);
                }
            }
        }

        return [
            [min(array_column($corners, 0)), min(array_column($corners, 1)), min(array_column($corners, 2))],
            [max(array_column($corners, 0)), max(array_column($corners, 1)), max(array_column($corners, 2))],
        ];
    }
}
