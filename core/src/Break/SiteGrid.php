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

    /** In parts of a block. */
    private const SLACK = 1e-6;

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
     * The site nearest to each query point; the lower number wins a tie. Rows of blocks that lie farther off than the best
     * site so far are passed over.
     *
     * @param array<int, float> $x the sites the grid was made of
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $qx
     * @param array<int, float> $qy
     * @param array<int, float> $qz
     * @param array<int, int> $guess a site that is near each point; saves time, changes nothing
     *
     * @return array<int, int>
     */
    public function nearest(array $x, array $y, array $z, array $qx, array $qy, array $qz, array $guess = []): array
    {
        $found = [];
        $start = $this->start;
        $items = $this->items;
        $x0 = $this->x0;
        $y0 = $this->y0;
        $z0 = $this->z0;
        $nx = $this->nx;
        $ny = $this->ny;
        $nz = $this->nz;
        $block = $this->block;
        // Blocks are a hair wider than they are, for sites that rounding put on the other side of a border.
        $slack = self::SLACK * $block;
        $guessed = $guess !== [];
        $shells = max($nx, $ny, $nz);
        foreach ($qx as $q => $px) {
            $py = $qy[$q];
            $pz = $qz[$q];
            $rx = $px - $x0;
            $ry = $py - $y0;
            $rz = $pz - $z0;
            $cx = (int) ($rx / $block);
            $cy = (int) ($ry / $block);
            $cz = (int) ($rz / $block);
            $cx = $cx < 0 ? 0 : ($cx >= $nx ? $nx - 1 : $cx);
            $cy = $cy < 0 ? 0 : ($cy >= $ny ? $ny - 1 : $cy);
            $cz = $cz < 0 ? 0 : ($cz >= $nz ? $nz - 1 : $cz);
            $best = INF;
            $bestSite = 0;
            if ($guessed) {
                $bestSite = $guess[$q];
                $dx = $x[$bestSite] - $px;
                $dy = $y[$bestSite] - $py;
                $dz = $z[$bestSite] - $pz;
                $best = $dx * $dx + $dy * $dy + $dz * $dz;
            }
            for ($k = 0; $k <= $shells; $k++) {
                $reach = ($k - 1) * $block;
                if ($k > 1 && $reach * $reach > $best) {
                    break;
                }
                $last = $cz + $k < $nz ? $cz + $k : $nz - 1;
                for ($bz = $cz - $k > 0 ? $cz - $k : 0; $bz <= $last; $bz++) {
                    $off = $bz > $cz ? $bz * $block - $rz - $slack : ($bz < $cz ? $rz - ($bz + 1) * $block - $slack : 0.0);
                    $offZ = $off > 0.0 ? $off * $off : 0.0;
                    if ($offZ > $best) {
                        continue;
                    }
                    $edgeZ = $bz === $cz - $k || $bz === $cz + $k;
                    $lastY = $cy + $k < $ny ? $cy + $k : $ny - 1;
                    for ($by = $cy - $k > 0 ? $cy - $k : 0; $by <= $lastY; $by++) {
                        $off = $by > $cy ? $by * $block - $ry - $slack : ($by < $cy ? $ry - ($by + 1) * $block - $slack : 0.0);
                        $offYZ = $off > 0.0 ? $off * $off + $offZ : $offZ;
                        if ($offYZ > $best) {
                            continue;
                        }
                        $step = $k === 0 || $edgeZ || $by === $cy - $k || $by === $cy + $k ? 1 : 2 * $k;
                        for ($bx = $cx - $k; $bx <= $cx + $k; $bx += $step) {
                            if ($bx < 0 || $bx >= $nx) {
                                continue;
                            }
                            $off = $bx > $cx ? $bx * $block - $rx - $slack : ($bx < $cx ? $rx - ($bx + 1) * $block - $slack : 0.0);
                            if ($off > 0.0 && $off * $off + $offYZ > $best) {
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
