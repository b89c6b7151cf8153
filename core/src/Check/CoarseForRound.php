<?php

declare(strict_types=1);

namespace YardBreak\Core\Check;

use YardBreak\Core\Document\Prop;
use YardBreak\Core\Document\Shot;
use YardBreak\Core\Math\Vector;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Stage\Pipeline;

/** Cloth whose edges are so long that what is round shows through between its vertices, though these keep their distance. */
final class CoarseForRound extends PropCheck
{
    /** Where two faces meet at less than this they stand for something round, radians; cloth keeps off sharper edges all along them. */
    private const SMOOTH = 0.7;

    /** How far the middle of a triangle lies within a ball on which its corners are, in squares of its mean edge over the radius: half the square of its circumradius, of an even one a sixth, of half a square this. */
    private const SAG = 0.2;

    /** Triangles that tell how round a mesh is. */
    private const ENOUGH = 100_000;

    /** Who keeps off by no more than this part of an edge does not look as if it floated. */
    private const UNSEEN = 0.2;

    /** More triangles than this are not worth it. */
    private const MOST = 20000;

    /** So many times the distance are kept before it is seen. */
    private const AMPLE = 1.1;

    protected function of(Prop $prop, string $at, Shot $shot, TriangleMesh $mesh, Pipeline $pipeline): ?Finding
    {
        if (! $prop->mover->has('folds') || $prop->isSkin() || $mesh->isEmpty() || ClothMesh::isTooCoarse($prop, $mesh)) {
            return null;
        }
        $gap = $prop->mover->settings->float('gap');
        $edge = $mesh->meanEdge() * max($prop->transform->scaleAt(1.0));
        foreach ($shot->props as $other) {
            if ($other === $prop || ! $other->mover->has('collides') || $other->isSkin()) {
                continue;
            }
            $theirs = $pipeline->prepared($other);
            if ($theirs->isEmpty() || ! self::mayMeet(self::box($prop, $mesh), self::box($other, $theirs))) {
                continue;
            }
            [$bend, $facet] = self::curve($theirs);
            $large = max($other->transform->scaleAt(1.0));
            // A face's middle lies so far within an arc on which its corners are; and so do theirs.
            $deep = self::SAG * $edge * $edge * $bend / $large + $large * $facet;
            if ($deep > self::AMPLE * $gap) {
                $text = sprintf('%s will show through %s: between its vertices it is flat, and with edges of %s m what is so round comes out there by %s m. It keeps %s m off; finer triangles of both need less.', $other->name, $prop->name, round($edge, 3), round($deep, 4), round($gap, 4));

                return new Finding('warn', "{$at}/motion/{$prop->mover->kind}/gap", $text, self::remedy($prop, $at, $mesh, $edge, $gap, $deep, $large * $facet));
            }
        }

        return null;
    }

    /**
     * A little farther off is not seen; where that would float, finer cloth.
     *
     * @param float $deep how far the other comes out, m
     * @param float $facet how much of that its own faces do, m
     *
     * @return array{label: string, pointer: string, value: float|int}|null
     */
    private static function remedy(Prop $prop, string $at, TriangleMesh $mesh, float $edge, float $gap, float $deep, float $facet): ?array
    {
        $better = 0.0005 * ceil(self::AMPLE * $deep / 0.0005);
        if ($better <= self::UNSEEN * $edge) {
            return ['label' => "Keep {$better} m off", 'pointer' => "{$at}/motion/{$prop->mover->kind}/gap", 'value' => $better];
        }
        $room = $gap - $facet;
        // Triangles go with the square of how much shorter their edges are, and so does what comes out.
        $needed = $room > 0.0 ? 100 * ceil($mesh->triangleCount() * self::AMPLE * ($deep - $facet) / $room / 100) : INF;

        return $needed > self::MOST ? null : ['label' => 'Make it of ' . (int) $needed . ' even triangles', 'pointer' => "{$at}/prepare/even", 'value' => (int) $needed];
    }

    /**
     * How much it is curved outwards on average where it is round, 1/m: the mean curvature of a mesh (Steiner 1840: half of each edge's
     * length times its angle, over the area), 1/r of a ball. And how far the faces there lie within what they stand for, m.
     *
     * @return array{float, float}
     */
    private static function curve(TriangleMesh $mesh): array
    {
        $normals = $twice = $beside = [];
        $bent = $sag = $area = 0.0;
        $vertices = $mesh->vertexCount();
        foreach (array_chunk(array_slice($mesh->triangles, 0, 3 * self::ENOUGH), 3) as $f => $corners) {
            [$a, $b, $c] = $corners;
            $normal = Vector::cross(self::way($mesh, $a, $b), self::way($mesh, $a, $c));
            $twice[$f] = sqrt(Vector::dot($normal, $normal));
            if ($twice[$f] <= 0.0) {
                continue;
            }
            $area += 0.5 * $twice[$f];
            $normals[$f] = Vector::times($normal, 1.0 / $twice[$f]);
            foreach ([[$a, $b], [$b, $c], [$c, $a]] as [$from, $to]) {
                $other = $beside[$to * $vertices + $from] ?? null;
                if ($other === null) {
                    $beside[$from * $vertices + $to] = $f;
                    continue;
                }
                $along = self::way($mesh, $from, $to);
                $length = sqrt(Vector::dot($along, $along));
                // This face goes round along the edge: where the two lean away from each other, their normals turn about it that way.
                $angle = atan2(Vector::dot(Vector::cross($normals[$f], $normals[$other]), $along) / max(1e-12, $length), Vector::dot($normals[$f], $normals[$other]));
                if (abs($angle) < self::SMOOTH) {
                    $bent += 0.5 * $length * $angle;
                    // As wide as a face is across the edge.
                    $sag += 0.5 * $length * abs($angle) * self::SAG * $angle * 0.5 * ($twice[$f] + $twice[$other]) / max(1e-12, $length);
                }
            }
        }

        return $bent > 0.0 ? [$bent / $area, max(0.0, $sag / $bent)] : [0.0, 0.0];
    }

    /** @return array{float, float, float} */
    private static function way(TriangleMesh $mesh, int $from, int $to): array
    {
        return [$mesh->x[$to] - $mesh->x[$from], $mesh->y[$to] - $mesh->y[$from], $mesh->z[$to] - $mesh->z[$from]];
    }
}
