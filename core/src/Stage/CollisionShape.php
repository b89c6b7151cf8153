<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Break\BreakFailed;
use YardBreak\Core\Break\CellularPattern;
use YardBreak\Core\Break\MeshCutter;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Rigid\ConvexHull;
use YardBreak\Core\Motion\Rigid\HullBuilder;

/**
 * What others bump into: the convex hull of a piece, or, where that would fill an opening or a hollow, the hulls of the
 * cells it is cut into (cutting is our own, so the parts fill the piece); or a ball, smaller than the piece if wanted, so
 * that pieces that begin in each other's way do not push each other off.
 */
final readonly class CollisionShape
{
    /** A hull this much larger than its piece would be felt where there is nothing. */
    private const TOO_LARGE = 1.03;

    /** Parts at most; more would slow every step. */
    private const PARTS = 80;

    /** Cells that the part with the most empty room in its hull is cut into. */
    private const CELLS = 4;

    /** They are to be of one size, but not to the last digit. */
    private const EVENNESS = 0.8;

    /** What it looks like from afar: what the wind finds. */
    public ConvexHull $outline;

    /**
     * @param array{float, float, float} $centre in the prop's space
     * @param ConvexHull|null $outline null: as it is felt
     */
    private function __construct(public ConvexHull $hull, public array $centre, ?ConvexHull $outline = null)
    {
        $this->outline = $outline ?? $hull;
    }

    /**
     * One hull around all of a piece.
     *
     * @param array{float, float, float} $centre of the piece
     *
     * @return list<self>
     */
    public static function convex(TriangleMesh $mesh, array $centre): array
    {
        return [new self(self::hull($mesh, $centre), $centre)];
    }

    /**
     * A ball.
     *
     * @param array{float, float, float} $centre of the piece
     * @param float $radius m
     *
     * @return list<self>
     */
    public static function ball(TriangleMesh $mesh, array $centre, float $radius): array
    {
        return [new self(ConvexHull::ball($radius), $centre, self::hull($mesh, $centre))];
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
        // The part with the most empty room in its hull is cut first, so parts are small where the piece is most hollow.
        $empty = $whole->hull->volume() - $volume;
        /** @var non-empty-list<array{self, TriangleMesh, float}> $parts shape, mesh, empty room */
        $parts = [[$whole, $mesh, $empty]];
        while (count($parts) < self::PARTS && $empty > (self::TOO_LARGE - 1.0) * $volume) {
            $worst = 0;
            foreach ($parts as $k => [, , $room]) {
                $worst = $room > $parts[$worst][2] ? $k : $worst;
            }
            try {
                $pieces = MeshCutter::cut($parts[$worst][1], (new CellularPattern(self::CELLS, count($parts), self::EVENNESS))->diagram($parts[$worst][1]));
            } catch (BreakFailed) {
                // What cannot be cut is felt as its hull.
                break;
            }
            $empty -= $parts[$worst][2];
            $new = [];
            foreach ($pieces as $piece) {
                $part = new self(self::hull($piece->mesh, $piece->mass->centre), $piece->mass->centre);
                $room = $part->hull->volume() - $piece->mass->volume;
                $new[] = [$part, $piece->mesh, $room];
                $empty += $room;
            }
            $parts = [...array_slice($parts, 0, $worst), ...array_slice($parts, $worst + 1), ...$new];
            if ($parts === []) {
                return [$whole];
            }
        }

        return array_column($parts, 0);
    }

    /** @param array{float, float, float} $by how many times as large along each of the prop's axes */
    public function scaled(array $by): self
    {
        return new self($this->hull->scaled($by), [$by[0] * $this->centre[0], $by[1] * $this->centre[1], $by[2] * $this->centre[2]], $this->outline === $this->hull ? null : $this->outline->scaled($by));
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
