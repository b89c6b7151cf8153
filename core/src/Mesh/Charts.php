<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/** Parts of a surface whose triangles hang together, with the same look and without a seam of the texture coordinates between them. */
final class Charts
{
    /**
     * @param bool $seams whether seams of the texture coordinates part it, too
     *
     * @return list<int> the chart of each triangle, told by its first one
     */
    public static function of(TriangleMesh $m, bool $seams): array
    {
        $parent = range(0, max(0, $m->triangleCount() - 1));
        $edges = [];
        foreach ($m->triangles as $k => $a) {
            $next = $k % 3 === 2 ? $k - 2 : $k + 1;
            $b = $m->triangles[$next];
            $f = intdiv($k, 3);
            [$low, $high, $kl, $kh] = $a < $b ? [$a, $b, $k, $next] : [$b, $a, $next, $k];
            if (isset($edges[$low][$high])) {
                [$g, $gl, $gh] = $edges[$low][$high];
                if (($m->looks[$f] ?? 0) === ($m->looks[$g] ?? 0) && (! $seams || (self::sameUv($m, $kl, $gl) && self::sameUv($m, $kh, $gh)))) {
                    while ($parent[$f] !== $f) {
                        $f = $parent[$f] = $parent[$parent[$f]];
                    }
                    while ($parent[$g] !== $g) {
                        $g = $parent[$g] = $parent[$parent[$g]];
                    }
                    $parent[max($f, $g)] = min($f, $g);
                }
            } else {
                $edges[$low][$high] = [$f, $kl, $kh];
            }
        }
        $charts = [];
        foreach (array_keys($parent) as $f) {
            $root = $f;
            while ($parent[$root] !== $root) {
                $root = $parent[$root];
            }
            $charts[] = $root;
        }

        return $charts;
    }

    private static function sameUv(TriangleMesh $m, int $a, int $b): bool
    {
        return $m->uvs === null || (abs($m->uvs[2 * $a] - $m->uvs[2 * $b]) < 1e-6 && abs($m->uvs[2 * $a + 1] - $m->uvs[2 * $b + 1]) < 1e-6);
    }
}
