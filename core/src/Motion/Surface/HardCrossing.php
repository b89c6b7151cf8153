<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Surface;

use YardBreak\Core\Math\Quaternion;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Motion\Collider;

/**
 * Cloth that something hard has come through, though none of its vertices is inside: at a frame's end it is drawn out, without a change of
 * speed. That happens at sharp edges, and where all of a thing is as thin as cloth is coarse: only there is looked.
 */
final class HardCrossing
{
    /** What is thinner than so many edges of the cloth, two ways, is looked at all over. */
    private const THIN = 4.0;

    private readonly TriangleMesh $hard;

    /**
     * @param list<int> $corners of the cloth's triangles that may be crossed
     * @param float $edge how long those of the cloth are on average, m
     */
    public function __construct(private readonly Collider $collider, private readonly array $corners, private readonly float $edge)
    {
        $surface = $collider->surface();
        $this->hard = self::isThin($collider, $edge) ? $surface->mesh() : $surface->brink();
    }

    public static function isThin(Collider $collider, float $edge): bool
    {
        [$low, $high] = $collider->surface()->bounds();
        $sides = [$high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]];
        sort($sides);

        return $sides[1] < self::THIN * $edge;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     *
     * @return bool whether anything was moved
     */
    public function part(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w): bool
    {
        [[$tx, $ty, $tz], $rotation] = $this->collider->pose();
        [$m0, $m1, $m2, $m3, $m4, $m5, $m6, $m7, $m8] = Quaternion::matrix($rotation);
        $a = $b = $c = [];
        foreach ($this->hard->x as $v => $p) {
            $q = $this->hard->y[$v];
            $r = $this->hard->z[$v];
            $a[] = $m0 * $p + $m1 * $q + $m2 * $r + $tx;
            $b[] = $m3 * $p + $m4 * $q + $m5 * $r + $ty;
            $c[] = $m6 * $p + $m7 * $q + $m8 * $r + $tz;
        }
        $cloth = new Bending($x, $y, $z, $px, $py, $pz, $w, $this->corners, false, 0.0, 0.0, 1.0);
        $hard = new Bending($a, $b, $c, $a, $b, $c, array_fill(0, count($a), 0.0), $this->hard->triangles, true, 0.0, 0.0, 1.0);
        $crossed = CrossedSurfaces::part($cloth, $hard, $this->edge);
        if ($crossed) {
            [$x, $y, $z, $px, $py, $pz] = [$cloth->x, $cloth->y, $cloth->z, $cloth->px, $cloth->py, $cloth->pz];
        }

        return $crossed;
    }
}
