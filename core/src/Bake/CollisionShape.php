<?php

declare(strict_types=1);

namespace YardBreak\Core\Bake;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Break\Piece;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\ConvexHull;
use YardBreak\Core\Motion\Rigid\HullBuilder;

/**
 * What others bump into: the convex hull of a piece, or, where that would fill an opening or a hollow, the hulls of the
 * cells it is cut into. Cutting is our own, so the parts fill the piece.
 */
final readonly class CollisionShape
{
    /** A hull this much larger than its piece would be felt where there is nothing. */
    private const TOO_LARGE = 1.05;

    /** Cells are tried in these numbers, until the hulls are not too large all together; more would slow every step. */
    private const CELLS = [8, 16, 32, 64];

    /**
     * @param array{float, float, float} $centre in the prop's space
     */
    private function __construct(public ConvexHull $hull, public array $centre)
    {
    }

    /**
     * @param array{float, float, float} $centre of the piece
     * @param bool $large whether the piece makes up so much of its prop that its hollows matter
     *
     * @return list<self>
     */
    public static function of(TriangleMesh $mesh, array $centre, float $volume, bool $large): array
    {
        $whole = new self(self::hull($mesh, $centre), $centre);
        if (! $large || $volume <= 0.0 || $whole->hull->volume() < self::TOO_LARGE * $volume) {
            return [$whole];
        }
        $parts = [$whole];
        foreach (self::CELLS as $cells) {
            try {
                $pieces = MeshCutter::cut($mesh, (new CellularPattern($cells, 1, 1.0))->diagram($mesh));
            } catch (BreakFailed) {
                // What cannot be cut is felt as its hull.
                break;
            }
            $parts = array_map(static fn (Piece $part): self => new self(self::hull($part->mesh, $part->mass->centre), $part->mass->centre), $pieces);
            if (array_sum(array_map(static fn (self $part): float => $part->hull->volume(), $parts)) < self::TOO_LARGE * $volume) {
                break;
            }
        }

        return $parts;
    }

    /** @param array{float, float, float} $centre */
    private static function hull(TriangleMesh $mesh, array $centre): ConvexHull
    {
        $x = $y = $z = [];
        foreach ($mesh->x as $i => $px) {
            $x[] = $px - $centre[0];
            $y[] = $mesh->y[$i] - $centre[1];
            $z[] = $mesh->z[$i] - $centre[2];
        }

        return HullBuilder::of($x, $y, $z);
    }
}
