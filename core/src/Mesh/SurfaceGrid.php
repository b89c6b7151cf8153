<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** Finds the triangle of a mesh that is nearest to a place: triangles in the blocks of a grid, searched in growing shells. */
final class SurfaceGrid
{
    private const TRIANGLES_A_BLOCK = 3;

    private const MOST_BLOCKS = 96;

    /** @var array<int, list<int>> */
    private array $blocks = [];

    /** @var array{float, float, float} */
    private readonly array $low;

    private readonly float $block;

    /** @var array{int, int, int} */
    private readonly array $count;

    public function __construct(private readonly TriangleMesh $mesh)
    {
        [$low, $high] = $mesh->bounds();
        $size = max(1e-12, $mesh->size());
        $this->low = $low;
        // A surface meets about the square of the blocks along a side.
        $along = max(1.0, min((float) self::MOST_BLOCKS, sqrt($mesh->triangleCount() / self::TRIANGLES_A_BLOCK)));
        $this->block = $size / $along;
        $this->count = [
            (int) (($high[0] - $low[0]) / $this->block) + 1,
            (int) (($high[1] - $low[1]) / $this->block) + 1,
            (int) (($high[2] - $low[2]) / $this->block) + 1,
        ];
        $t = $mesh->triangles;
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            [$a, $b, $c] = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            [$x0, $x1] = $this->span(0, $mesh->x[$a], $mesh->x[$b], $mesh->x[$c]);
            [$y0, $y1] = $this->span(1, $mesh->y[$a], $mesh->y[$b], $mesh->y[$c]);
            [$z0, $z1] = $this->span(2, $mesh->z[$a], $mesh->z[$b], $mesh->z[$c]);
            for ($x = $x0; $x <= $x1; $x++) {
                for ($y = $y0; $y <= $y1; $y++) {
                    for ($z = $z0; $z <= $z1; $z++) {
                        $this->blocks[($x * $this->count[1] + $y) * $this->count[2] + $z][] = $f;
                    }
                }
            }
        }
    }

    /** @return array{int, int} */
    private function span(int $axis, float $a, float $b, float $c): array
    {
        return [$this->at($axis, min($a, $b, $c)), $this->at($axis, max($a, $b, $c))];
    }

    private function at(int $axis, float $value): int
    {
        $k = (int) floor(($value - $this->low[$axis]) / $this->block);

        return $k < 0 ? 0 : ($k >= $this->count[$axis] ? $this->count[$axis] - 1 : $k);
    }

    /**
     * @param array<int, int>|null $kind if given, only triangles of this kind count
     *
     * @return array{int, array{float, float, float}} triangle (-1: none) and the nearest place on it
     */
    public function nearest(float $px, float $py, float $pz, ?array $kind = null, int $wanted = 0): array
    {
        $m = $this->mesh;
        $cx = $this->at(0, $px);
        $cy = $this->at(1, $py);
        $cz = $this->at(2, $pz);
        $best = INF;
        $found = -1;
        $place = [$px, $py, $pz];
        $seen = [];
        $last = max($this->count);
        for ($k = 0; $k <= $last; $k++) {
            $reach = ($k - 1) * $this->block;
            if ($k > 1 && $reach * $reach > $best) {
                break;
            }
            for ($x = max(0, $cx - $k); $x <= $cx + $k && $x < $this->count[0]; $x++) {
                for ($y = max(0, $cy - $k); $y <= $cy + $k && $y < $this->count[1]; $y++) {
                    $rim = abs($x - $cx) === $k || abs($y - $cy) === $k;
                    for ($z = max(0, $cz - $k); $z <= $cz + $k && $z < $this->count[2]; $z++) {
                        if (! $rim && abs($z - $cz) !== $k) {
                            continue;
                        }
                        foreach ($this->blocks[($x * $this->count[1] + $y) * $this->count[2] + $z] ?? [] as $f) {
                            if (isset($seen[$f]) || ($kind !== null && $kind[$f] !== $wanted)) {
                                continue;
                            }
                            $seen[$f] = true;
                            [$a, $b, $c] = [$m->triangles[3 * $f], $m->triangles[3 * $f + 1], $m->triangles[3 * $f + 2]];
                            $q = ClosestPoint::onTriangle(
                                [$px, $py, $pz],
                                [$m->x[$a], $m->y[$a], $m->z[$a]],
                                [$m->x[$b], $m->y[$b], $m->z[$b]],
                                [$m->x[$c], $m->y[$c], $m->z[$c]],
                            );
                            $d = ($q[0] - $px) ** 2 + ($q[1] - $py) ** 2 + ($q[2] - $pz) ** 2;
                            if ($d < $best) {
                                $best = $d;
                                $found = $f;
                                $place = $q;
                            }
                        }
                    }
                }
            }
        }

        return [$found, $place];
    }
}
