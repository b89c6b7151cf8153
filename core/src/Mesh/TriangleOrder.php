<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * How the triangles of a surface are sorted into a tree, for whatever places its vertices take: what is near each other along a surface
 * stays so when it bends. What only lies beside it at rest, as pieces do along a crack, goes where it likes: they are sorted piece
 * by piece. Sorted when it is asked for first.
 */
final class TriangleOrder
{
    /** @var array{list<int>, list<int>, list<int>}|null */
    private ?array $sorted = null;

    /** @param TriangleMesh $mesh where its vertices are at rest */
    public function __construct(private readonly TriangleMesh $mesh)
    {
    }

    /**
     * @param TriangleMesh $mesh the same triangles elsewhere
     *
     * @return array{list<int>, list<int>, list<int>}|null as {@see TriangleSort::of()} gives them; null: it would leave out others than at rest, as they have no area
     */
    public function of(TriangleMesh $mesh): ?array
    {
        $this->sorted ??= TriangleSort::of(self::laidOut($this->mesh));
        $faces = $this->sorted[2];
        if (count($faces) < $mesh->triangleCount()) {
            return null;
        }
        foreach ($faces as $face) {
            if (! $mesh->hasArea($face)) {
                return null;
            }
        }

        return $this->sorted;
    }

    /** Its pieces in a row, with room between them, each beside those that it lay beside. */
    private static function laidOut(TriangleMesh $mesh): TriangleMesh
    {
        $parts = Topology::parts($mesh);
        if (count($parts) < 2) {
            return $mesh;
        }
        [$low, $high] = $mesh->bounds();
        $size = max(1e-9, $high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
        $places = [];
        foreach ($parts as $k => $faces) {
            $corner = $mesh->triangles[3 * $faces[0]];
            $places[$k] = self::along(($mesh->x[$corner] - $low[0]) / $size, ($mesh->y[$corner] - $low[1]) / $size, ($mesh->z[$corner] - $low[2]) / $size);
        }
        asort($places);
        $x = $mesh->x;
        $moved = [];
        foreach (array_keys($places) as $rank => $k) {
            foreach ($parts[$k] as $face) {
                for ($c = 3 * $face; $c < 3 * $face + 3; $c++) {
                    $corner = $mesh->triangles[$c];
                    if (! isset($moved[$corner])) {
                        $moved[$corner] = true;
                        $x[$corner] += 2.0 * $size * $rank;
                    }
                }
            }
        }

        return new TriangleMesh($x, $mesh->y, $mesh->z, $mesh->triangles);
    }

    /** Where a place is along a way through all of a cube that keeps near what is near (Morton 1966). */
    private static function along(float $x, float $y, float $z): int
    {
        $way = 0;
        foreach ([$x, $y, $z] as $axis => $at) {
            $cell = min(1023, max(0, (int) (1024.0 * $at)));
            for ($bit = 0; $bit < 10; $bit++) {
                $way |= ($cell >> $bit & 1) << (3 * $bit + $axis);
            }
        }

        return $way;
    }
}
