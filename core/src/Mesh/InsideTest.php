<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Is a point inside a closed mesh? Counts crossings of the ray upwards in z; the triangles are sorted into a flat grid
 * over x and y, so a query looks at a few dozen of them. For sampling, where a point exactly on an edge may go either way.
 */
final class InsideTest
{
    /** @var array<int, list<int>> */
    private array $bins = [];

    private float $x0;

    private float $y0;

    private float $cellX;

    private float $cellY;

    private int $side;

    public function __construct(private readonly TriangleMesh $mesh)
    {
        [$low, $high] = $mesh->bounds();
        $this->side = max(1, min(256, (int) sqrt($mesh->triangleCount())));
        $this->x0 = $low[0];
        $this->y0 = $low[1];
        $this->cellX = max(($high[0] - $low[0]) / $this->side, 1e-30);
        $this->cellY = max(($high[1] - $low[1]) / $this->side, 1e-30);
        $t = $mesh->triangles;
        $x = $mesh->x;
        $y = $mesh->y;
        $side = $this->side;
        $last = $side - 1;
        $bins = [];
        for ($k = 0, $end = count($t); $k < $end; $k += 3) {
            $xa = $x[$t[$k]];
            $xb = $x[$t[$k + 1]];
            $xc = $x[$t[$k + 2]];
            $ya = $y[$t[$k]];
            $yb = $y[$t[$k + 1]];
            $yc = $y[$t[$k + 2]];
            $lowX = $xa < $xb ? ($xa < $xc ? $xa : $xc) : ($xb < $xc ? $xb : $xc);
            $highX = $xa > $xb ? ($xa > $xc ? $xa : $xc) : ($xb > $xc ? $xb : $xc);
            $lowY = $ya < $yb ? ($ya < $yc ? $ya : $yc) : ($yb < $yc ? $yb : $yc);
            $highY = $ya > $yb ? ($ya > $yc ? $ya : $yc) : ($yb > $yc ? $yb : $yc);
            $i0 = (int) (($lowX - $this->x0) / $this->cellX);
            $i1 = (int) (($highX - $this->x0) / $this->cellX);
            $i1 = $i1 > $last ? $last : $i1;
            $j1 = (int) (($highY - $this->y0) / $this->cellY);
            $j1 = $j1 > $last ? $last : $j1;
            for ($j = (int) (($lowY - $this->y0) / $this->cellY); $j <= $j1; $j++) {
                for ($i = $i0; $i <= $i1; $i++) {
                    $bins[$j * $side + $i][] = $k;
                }
            }
        }
        $this->bins = $bins;
    }

    public function contains(float $px, float $py, float $pz): bool
    {
        $bin = $this->bin($py, $this->y0, $this->cellY) * $this->side + $this->bin($px, $this->x0, $this->cellX);
        $x = $this->mesh->x;
        $y = $this->mesh->y;
        $z = $this->mesh->z;
        $t = $this->mesh->triangles;
        $inside = false;
        foreach ($this->bins[$bin] ?? [] as $k) {
            $a = $t[$k];
            $b = $t[$k + 1];
            $c = $t[$k + 2];
            $ax = $x[$a] - $px;
            $ay = $y[$a] - $py;
            $bx = $x[$b] - $px;
            $by = $y[$b] - $py;
            $cx = $x[$c] - $px;
            $cy = $y[$c] - $py;
            $wa = $bx * $cy - $by * $cx;
            $wb = $cx * $ay - $cy * $ax;
            $wc = $ax * $by - $ay * $bx;
            if (($wa > 0.0 && $wb > 0.0 && $wc > 0.0) || ($wa < 0.0 && $wb < 0.0 && $wc < 0.0)) {
                if (($wa * $z[$a] + $wb * $z[$b] + $wc * $z[$c]) / ($wa + $wb + $wc) > $pz) {
                    $inside = ! $inside;
                }
            }
        }

        return $inside;
    }

    private function bin(float $at, float $origin, float $cell): int
    {
        return max(0, min($this->side - 1, (int) (($at - $origin) / $cell)));
    }
}
