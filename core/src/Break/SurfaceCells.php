<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/**
 * The cells of sites on a surface: the part of each triangle that is nearest to each site (restricted Voronoi diagram, Yan
 * et al. 2009; neighbours by the security radius, Levy and Bonneel 2013). Corners are named by what meets in them, so parts
 * in neighbouring triangles and cells share them bit for bit. A site on the far side of a thin wall does not count.
 *
 * In doubles only: where rounding makes two triangles disagree, a cell has a slit of no width.
 *
 * Cost: linear in triangles and sites.
 */
final class SurfaceCells
{
    /** Neighbours are looked for within so many times the sites' spacing; farther ones one by one. */
    private const NEIGHBOURS = 3.0;

    /** Sites whose surface looks away from a triangle (cosine of the angle) do not count for it. */
    private const AWAY = -0.25;

    /** @var array<int, list<int>> the sites around each site, nearest first */
    private array $neighbours = [];

    /** @var array<int, list<float>> how far they are, squared */
    private array $distances = [];

    /** @var list<float> */
    private array $nx = [];

    /** @var list<float> */
    private array $ny = [];

    /** @var list<float> */
    private array $nz = [];

    /**
     * @param array{list<float>, list<float>, list<float>, list<int>} $sites places and triangles
     */
    public function __construct(private readonly TriangleMesh $mesh, private readonly array $sites, private readonly float $spacing)
    {
        [$x, $y, $z, $in] = $sites;
        foreach ($in as $f) {
            [$this->nx[], $this->ny[], $this->nz[]] = $this->normal($f);
        }
        $this->findNeighbours($x, $y, $z, self::NEIGHBOURS * $spacing);
    }

    /**
     * @return array<int, list<Patch>> parts of triangles by site
     */
    public function patches(Progress $progress): array
    {
        $mesh = $this->mesh;
        $t = $mesh->triangles;
        $vertices = $mesh->vertexCount();
        $n = count($this->sites[0]);
        $start = $this->starts();
        /** @var array<int, list<Patch>> $patches */
        $patches = [];
        $edges = [];
        $last = 0;
        $triangles = $mesh->triangleCount();
        for ($f = 0; $f < $triangles; $f++) {
            if (($f & 4095) === 0) {
                $progress->at('flakes', $f, $triangles);
            }
            $corners = [$t[3 * $f], $t[3 * $f + 1], $t[3 * $f + 2]];
            $edge = [];
            foreach ([[0, 1], [1, 2], [2, 0]] as [$i, $j]) {
                $key = $corners[$i] < $corners[$j] ? $corners[$i] * $vertices + $corners[$j] : $corners[$j] * $vertices + $corners[$i];
                $edge[] = $edges[$key] ??= count($edges);
            }
            $normal = $this->normal($f);
            $inside = [];
            $queue = [$start[$f]];
            $seen = [$start[$f] => true];
            while ($queue !== []) {
                $site = array_pop($queue);
                $polygon = $this->clip($site, $corners, $normal);
                $names = $weights = [];
                foreach ($polygon as [$kind, $on1, $on2, $label, $w0, $w1]) {
                    if ($label >= 0 && ! isset($seen[$label])) {
                        $seen[$label] = true;
                        $queue[] = $label;
                    }
                    if ($kind < 3) {
                        $names[] = $corners[$kind];
                    } elseif ($kind < 6) {
                        $names[] = $vertices + ($edge[$kind - 3] * $n + ($site < $on1 ? $site : $on1)) * $n + ($site < $on1 ? $on1 : $site);
                    } else {
                        $cells = [$site, $on1, $on2];
                        sort($cells);
                        $names[] = $inside[implode(',', $cells)] ??= --$last;
                    }
                    $weights[] = $w0;
                    $weights[] = $w1;
                }
                if (count($names) > 2) {
                    $patches[$site][] = new Patch($f, $names, $weights);
                }
            }
        }
        ksort($patches);

        return $patches;
    }

    /** @return array{float, float, float} of length 1; none for a triangle without area */
    private function normal(int $f): array
    {
        [$nx, $ny, $nz] = $this->mesh->cross($f);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);

        return $l > 0.0 ? [$nx / $l, $ny / $l, $nz / $l] : [0.0, 0.0, 0.0];
    }

    /**
     * A site that is nearest to some place of each triangle: the one nearest to its first corner, of those that count.
     *
     * @return array<int, int>
     */
    private function starts(): array
    {
        $m = $this->mesh;
        [$x, $y, $z] = $this->sites;
        $qx = $qy = $qz = [];
        for ($f = 0, $end = $m->triangleCount(); $f < $end; $f++) {
            $v = $m->triangles[3 * $f];
            $qx[] = $m->x[$v];
            $qy[] = $m->y[$v];
            $qz[] = $m->z[$v];
        }
        $start = SiteGrid::of($x, $y, $z, $this->spacing)->nearest($x, $y, $z, $qx, $qy, $qz);
        foreach ($start as $f => $site) {
            [$nx, $ny, $nz] = $this->normal($f);
            if ($nx * $this->nx[$site] + $ny * $this->ny[$site] + $nz * $this->nz[$site] >= self::AWAY) {
                continue;
            }
            $best = INF;
            foreach ($x as $i => $sx) {
                $d = ($sx - $qx[$f]) ** 2 + ($y[$i] - $qy[$f]) ** 2 + ($z[$i] - $qz[$f]) ** 2;
                if ($d < $best && $nx * $this->nx[$i] + $ny * $this->ny[$i] + $nz * $this->nz[$i] >= self::AWAY) {
                    $best = $d;
                    $start[$f] = $i;
                }
            }
        }

        return $start;
    }

    /**
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     */
    private function findNeighbours(array $x, array $y, array $z, float $reach): void
    {
        $low = [min($x ?: [0.0]), min($y ?: [0.0]), min($z ?: [0.0])];
        $s = 1.0 / $reach;
        $ny = (int) ((max($y ?: [0.0]) - $low[1]) * $s) + 3;
        $nz = (int) ((max($z ?: [0.0]) - $low[2]) * $s) + 3;
        $grid = $blocks = [];
        foreach ($x as $i => $px) {
            $key = ((int) (($px - $low[0]) * $s) * $ny + (int) (($y[$i] - $low[1]) * $s)) * $nz + (int) (($z[$i] - $low[2]) * $s);
            $grid[$key][] = $i;
            $blocks[$i] = $key;
        }
        $reach2 = $reach * $reach;
        foreach ($x as $i => $px) {
            $py = $y[$i];
            $pz = $z[$i];
            $near = [];
            $key = $blocks[$i];
            for ($ix = -1; $ix <= 1; $ix++) {
                for ($iy = -1; $iy <= 1; $iy++) {
                    for ($iz = -1; $iz <= 1; $iz++) {
                        foreach ($grid[$key + ($ix * $ny + $iy) * $nz + $iz] ?? [] as $j) {
                            $dx = $x[$j] - $px;
                            $dy = $y[$j] - $py;
                            $dz = $z[$j] - $pz;
                            $d = $dx * $dx + $dy * $dy + $dz * $dz;
                            if ($d < $reach2 && $j !== $i) {
                                $near[$j] = $d;
                            }
                        }
                    }
                }
            }
            asort($near);
            $this->neighbours[$i] = array_keys($near);
            $this->distances[$i] = array_values($near);
        }
    }

    /**
     * The part of a triangle that is nearest to a site, as corners [kind, cell, cell, label of the edge that starts here,
     * weight of the first corner, of the second]; kinds and labels as in {@see SurfaceCutter}.
     *
     * @param array{int, int, int} $corners
     * @param array{float, float, float} $normal
     *
     * @return array<int, array{int, int, int, int, float, float}>
     */
    private function clip(int $site, array $corners, array $normal): array
    {
        $m = $this->mesh;
        [$X, $Y, $Z] = $this->sites;
        $sx = $X[$site];
        $sy = $Y[$site];
        $sz = $Z[$site];
        [$nx, $ny, $nz] = $normal;
        // Corners from the site.
        $x0 = $m->x[$corners[0]] - $sx;
        $y0 = $m->y[$corners[0]] - $sy;
        $z0 = $m->z[$corners[0]] - $sz;
        $x1 = $m->x[$corners[1]] - $sx;
        $y1 = $m->y[$corners[1]] - $sy;
        $z1 = $m->z[$corners[1]] - $sz;
        $x2 = $m->x[$corners[2]] - $sx;
        $y2 = $m->y[$corners[2]] - $sy;
        $z2 = $m->z[$corners[2]] - $sz;
        /** @var array<int, array{int, int, int, int, float, float}> $polygon */
        $polygon = [[0, -1, -1, -1, 1.0, 0.0], [1, -1, -1, -2, 0.0, 1.0], [2, -1, -1, -3, 0.0, 0.0]];
        $far = max($x0 * $x0 + $y0 * $y0 + $z0 * $z0, $x1 * $x1 + $y1 * $y1 + $z1 * $z1, $x2 * $x2 + $y2 * $y2 + $z2 * $z2);
        $distances = $this->distances[$site];
        $near = $this->neighbours[$site];
        $all = false;
        for ($k = 0;; $k++) {
            if (! isset($near[$k])) {
                // The cell is larger than the list reaches: all other sites, once.
                if ($all || self::NEIGHBOURS * self::NEIGHBOURS * $this->spacing * $this->spacing > 4.0 * $far) {
                    break;
                }
                [$near, $distances] = $this->allAround($site);
                $all = true;
                $k = -1;
                continue;
            }
            $j = $near[$k];
            if ($distances[$k] > 4.0 * $far) {
                break;
            }
            if ($nx * $this->nx[$j] + $ny * $this->ny[$j] + $nz * $this->nz[$j] < self::AWAY) {
                continue;
            }
            // Nearer to the site than to j: b - d . p is positive.
            $dx = $X[$j] - $sx;
            $dy = $Y[$j] - $sy;
            $dz = $Z[$j] - $sz;
            $half = 0.5 * $distances[$k];
            $g0 = $half - ($dx * $x0 + $dy * $y0 + $dz * $z0);
            $g1 = $half - ($dx * $x1 + $dy * $y1 + $dz * $z1);
            $g2 = $half - ($dx * $x2 + $dy * $y2 + $dz * $z2);
            if ($g0 > 0.0 && $g1 > 0.0 && $g2 > 0.0) {
                continue;
            }
            $values = [];
            $out = false;
            foreach ($polygon as [$kind, , , , $w0, $w1]) {
                $values[] = $value = $kind < 3 ? ($kind === 0 ? $g0 : ($kind === 1 ? $g1 : $g2)) : $w0 * $g0 + $w1 * $g1 + (1.0 - $w0 - $w1) * $g2;
                $out = $out || $value <= 0.0;
            }
            if (! $out) {
                continue;
            }
            $clipped = [];
            $count = count($polygon);
            for ($c = 0; $c < $count; $c++) {
                $n = $c + 1 === $count ? 0 : $c + 1;
                $in = $values[$c] > 0.0;
                if ($in) {
                    $clipped[] = $polygon[$c];
                }
                if ($in === ($values[$n] > 0.0)) {
                    continue;
                }
                [, , , $label, $a0, $a1] = $polygon[$c];
                [, , , , $b0, $b1] = $polygon[$n];
                $s = $values[$c] / ($values[$c] - $values[$n]);
                // On a mesh edge: from the edge's own ends, so both triangles beside it find the same place.
                if ($label < 0) {
                    [$p, $q, $gp, $gq] = $label === -1 ? [0, 1, $g0, $g1] : ($label === -2 ? [1, 2, $g1, $g2] : [2, 0, $g2, $g0]);
                    if ($corners[$p] > $corners[$q]) {
                        $s = 1.0 - $gq / ($gq - $gp);
                    } else {
                        $s = $gp / ($gp - $gq);
                    }
                    [$a0, $a1] = [$p === 0 ? 1.0 : 0.0, $p === 1 ? 1.0 : 0.0];
                    [$b0, $b1] = [$q === 0 ? 1.0 : 0.0, $q === 1 ? 1.0 : 0.0];
                }
                $clipped[] = [
                    $label < 0 ? 2 - $label : 6,
                    $j,
                    $label < 0 ? -1 : $label,
                    $in ? $j : $label,
                    $a0 + $s * ($b0 - $a0),
                    $a1 + $s * ($b1 - $a1),
                ];
            }
            $polygon = $clipped;
            if ($polygon === []) {
                return [];
            }
            $far = 0.0;
            foreach ($polygon as [, , , , $w0, $w1]) {
                $w2 = 1.0 - $w0 - $w1;
                $px = $w0 * $x0 + $w1 * $x1 + $w2 * $x2;
                $py = $w0 * $y0 + $w1 * $y1 + $w2 * $y2;
                $pz = $w0 * $z0 + $w1 * $z1 + $w2 * $z2;
                $d = $px * $px + $py * $py + $pz * $pz;
                $far = $d > $far ? $d : $far;
            }
        }

        return $polygon;
    }

    /** @return array{list<int>, list<float>} */
    private function allAround(int $site): array
    {
        [$x, $y, $z] = $this->sites;
        $near = [];
        foreach ($x as $j => $px) {
            if ($j !== $site) {
                $near[$j] = ($px - $x[$site]) ** 2 + ($y[$j] - $y[$site]) ** 2 + ($z[$j] - $z[$site]) ** 2;
            }
        }
        asort($near);

        return [array_keys($near), array_values($near)];
    }
}
