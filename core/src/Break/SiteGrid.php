<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Sites sorted into the blocks of a uniform grid (counting sort), about four a block, for finding a site's neighbours in
 * growing shells and the site nearest to a point.
 */
final readonly class SiteGrid
{
    private const SITES_A_BLOCK = 4;

    /** Along the longest side, for sites on a surface. */
    private const MOST_BLOCKS = 160.0;

    /**
     * @param array<int, int> $start first item of each block, plus one past the end
     * @param array<int, int> $items site numbers, block by block
     */
    private function __construct(
        public float $x0,
        public float $y0,
        public float $z0,
        public float $block,
        public int $nx,
        public int $ny,
        public int $nz,
        public array $start,
        public array $items,
    ) {
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param float $spacing how far apart they lie, if they lie on a surface; 0: they fill a volume
     */
    public static function of(array $x, array $y, array $z, float $spacing = 0.0): self
    {
        $n = count($x);
        if ($x === [] || $y === [] || $z === []) {
            return new self(0.0, 0.0, 0.0, 1.0, 1, 1, 1, [0, 0], []);
        }
        $x0 = min($x);
        $y0 = min($y);
        $z0 = min($z);
        $wx = max($x) - $x0;
        $wy = max($y) - $y0;
        $wz = max($z) - $z0;
        $largest = max($wx, $wy, $wz, 1e-30);
        // Flat or thin sets: a missing dimension counts as one block.
        $floor = $largest * 1e-3;
        $volume = max($wx, $floor) * max($wy, $floor) * max($wz, $floor);
        $block = $spacing > 0.0
            ? max($spacing, $largest / self::MOST_BLOCKS)
            : max(($volume * self::SITES_A_BLOCK / $n) ** (1.0 / 3.0), $largest / 256.0);
        $nx = (int) ($wx / $block) + 1;
        $ny = (int) ($wy / $block) + 1;
        $nz = (int) ($wz / $block) + 1;
        $cell = array_fill(0, $n, 0);
        $start = array_fill(0, $nx * $ny * $nz + 1, 0);
        for ($i = 0; $i < $n; $i++) {
            $h = ((int) (($z[$i] - $z0) / $block) * $ny + (int) (($y[$i] - $y0) / $block)) * $nx
                + (int) (($x[$i] - $x0) / $block);
            $cell[$i] = $h;
            $start[$h + 1]++;
        }
        for ($h = 0, $end = $nx * $ny * $nz; $h < $end; $h++) {
            $start[$h + 1] += $start[$h];
        }
        $next = $start;
        $items = array_fill(0, $n, 0);
        for ($i = 0; $i < $n; $i++) {
            $items[$next[$cell[$i]]++] = $i;
        }

        return new self($x0, $y0, $z0, $block, $nx, $ny, $nz, $start, $items);
    }

    /**
     * The site nearest to each query point; the lower number wins a tie.
     *
     * @param array<int, float> $x the sites the grid was made of
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $qx
     * @param array<int, float> $qy
     * @param array<int, float> $qz
     *
     * @return array<int, int>
     */
    public function nearest(array $x, array $y, array $z, array $qx, array $qy, array $qz): array
    {
        $found = [];
        $start = $this->start;
        $items = $this->items;
        $nx = $this->nx;
        $ny = $this->ny;
        $nz = $this->nz;
        $block = $this->block;
        $shells = max($nx, $ny, $nz);
        foreach ($qx as $q => $px) {
            $py = $qy[$q];
            $pz = $qz[$q];
            $cx = (int) (($px - $this->x0) / $block);
            $cy = (int) (($py - $this->y0) / $block);
            $cz = (int) (($pz - $this->z0) / $block);
            $cx = $cx < 0 ? 0 : ($cx >= $nx ? $nx - 1 : $cx);
            $cy = $cy < 0 ? 0 : ($cy >= $ny ? $ny - 1 : $cy);
            $cz = $cz < 0 ? 0 : ($cz >= $nz ? $nz - 1 : $cz);
            $best = INF;
            $bestSite = 0;
            for ($k = 0; $k <= $shells; $k++) {
                $reach = ($k - 1) * $block;
                if ($k > 1 && $reach * $reach > $best) {
                    break;
                }
                for ($bz = $cz - $k; $bz <= $cz + $k; $bz++) {
                    if ($bz < 0 || $bz >= $nz) {
                        continue;
                    }
                    for ($by = $cy - $k; $by <= $cy + $k; $by++) {
                        if ($by < 0 || $by >= $ny) {
                            continue;
                        }
                        $inner = $k > 0 && $bz !== $cz - $k && $bz !== $cz + $k && $by !== $cy - $k && $by !== $cy + $k;
                        for ($bx = $cx - $k; $bx <= $cx + $k; $bx += $inner ? 2 * $k : 1) {
                            if ($bx < 0 || $bx >= $nx) {
                                continue;
                            }
                            $h = ($bz * $ny + $by) * $nx + $bx;
                            for ($t = $start[$h], $end = $start[$h + 1]; $t < $end; $t++) {
                                $s = $items[$t];
                                $dx = $x[$s] - $px;
                                $dy = $y[$s] - $py;
                                $dz = $z[$s] - $pz;
                                $d = $dx * $dx + $dy * $dy + $dz * $dz;
                                if ($d < $best || ($d === $best && $s < $bestSite)) {
                                    $best = $d;
                                    $bestSite = $s;
                                }
                            }
                        }
                    }
                }
            }
            $found[$q] = $bestSite;
        }

        return $found;
    }
}
