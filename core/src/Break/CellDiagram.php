<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * The corners and facets of a cell complex, each corner held once for all cells that share it.
 *
 * Facet f separates cell low[f] from cell high[f] (low < high; a high of n or more is a wall). Its corners are
 * corner[start[f]] to corner[start[f + 1] - 1], counter-clockwise as seen from the high side; edge[t] is the third cell
 * or wall along the edge from corner t to the next.
 */
final readonly class CellDiagram
{
    /**
     * @param array<int, float> $x corners
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, bool> $onWall whether a wall passes through the corner
     * @param array<int, int> $low
     * @param array<int, int> $high
     * @param array<int, int> $start
     * @param array<int, int> $corner
     * @param array<int, int> $edge
     * @param array<int, array<int, int>> $neighbours of each cell, without walls
     */
    public function __construct(
        public CellComplex $complex,
        public array $x,
        public array $y,
        public array $z,
        public array $onWall,
        public array $low,
        public array $high,
        public array $start,
        public array $corner,
        public array $edge,
        public array $neighbours,
    ) {
    }

    /**
     * Volume of each cell, by the divergence theorem over its facets.
     *
     * @return array<int, float>
     */
    public function volumes(): array
    {
        $volume = array_fill(0, $this->complex->cells, 0.0);
        // Relative to the middle of the region, so that far-away regions lose no digits.
        [$lx, $ly, $lz] = $this->complex->low;
        [$hx, $hy, $hz] = $this->complex->high;
        $ox = 0.5 * ($lx + $hx);
        $oy = 0.5 * ($ly + $hy);
        $oz = 0.5 * ($lz + $hz);
        foreach ($this->low as $f => $i) {
            $sum = 0.0;
            $first = $this->corner[$this->start[$f]];
            $ax = $this->x[$first] - $ox;
            $ay = $this->y[$first] - $oy;
            $az = $this->z[$first] - $oz;
            for ($t = $this->start[$f] + 2; $t < $this->start[$f + 1]; $t++) {
                $p = $this->corner[$t - 1];
                $q = $this->corner[$t];
                $px = $this->x[$p] - $ox;
                $py = $this->y[$p] - $oy;
                $pz = $this->z[$p] - $oz;
                $qx = $this->x[$q] - $ox;
                $qy = $this->y[$q] - $oy;
                $qz = $this->z[$q] - $oz;
                $sum += $ax * ($py * $qz - $pz * $qy) + $ay * ($pz * $qx - $px * $qz) + $az * ($px * $qy - $py * $qx);
            }
            $volume[$i] += $sum / 6.0;
            if ($this->high[$f] < $this->complex->cells) {
                $volume[$this->high[$f]] -= $sum / 6.0;
            }
        }

        return $volume;
    }
}
