<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Ways over a surface, corner by corner outward (fast marching: Kimmel and Sethian 1998). What comes from one place is
 * unfolded exactly: the place where it set out is found in the plane of each triangle from the ways to two of its corners, as in
 * Reimers 2004; where two fronts meet, or a whole edge set out, the front through the triangle is straight.
 */
final readonly class SurfaceMarch
{
    /**
     * @param list<int> $start first entry of each vertex in the rings; one more at the end
     * @param list<int> $next its triangles' second and third corners
     * @param list<int> $after
     */
    private function __construct(private TriangleMesh $mesh, private array $start, private array $next, private array $after)
    {
    }

    public static function over(TriangleMesh $mesh): self
    {
        $n = $mesh->vertexCount();
        $start = array_fill(0, $n + 1, 0);
        foreach ($mesh->triangles as $v) {
            $start[$v]++;
        }
        for ($v = 1; $v <= $n; $v++) {
            $start[$v] += $start[$v - 1];
        }
        $next = $after = array_fill(0, count($mesh->triangles), 0);
        for ($k = count($mesh->triangles) - 3; $k >= 0; $k -= 3) {
            for ($c = 0; $c < 3; $c++) {
                $e = --$start[$mesh->triangles[$k + $c]];
                $next[$e] = $mesh->triangles[$k + ($c + 1) % 3];
                $after[$e] = $mesh->triangles[$k + ($c + 2) % 3];
            }
        }

        return new self($mesh, array_values($start), array_values($next), array_values($after));
    }

    /**
     * @param array<int, float> $begin way at which the front sets out, by vertex: how far it has gone elsewhere by then, m
     * @param array<int, float> $behind part of that which lies before the place where it set out, by the same vertices, m
     * @param list<float>|null $slowness by vertex, 1 or more: how many times as long a way counts there; INF: it never gets there
     *
     * @return list<float> way to each vertex, m; INF where nothing gets
     */
    public function from(array $begin, array $behind, ?array $slowness = null): array
    {
        [$x, $y, $z] = [$this->mesh->x, $this->mesh->y, $this->mesh->z];
        [$start, $next, $after] = [$this->start, $this->next, $this->after];
        $n = count($x);
        $way = $base = array_fill(0, $n, INF);
        $place = array_fill(0, $n, -1);
        $done = array_fill(0, $n, false);
        $heap = [];
        $size = 0;
        asort($begin);
        foreach ($begin as $v => $far) {
            // In order already: a sorted list is a heap.
            $way[$v] = $far;
            $base[$v] = $behind[$v] ?? $far;
            $heap[$size] = $v;
            $place[$v] = $size++;
        }
        while ($size > 0) {
            $v = $heap[0];
            $w = $heap[--$size];
            $at = 0;
            while (($child = 2 * $at + 1) < $size) {
                if ($child + 1 < $size && $way[$heap[$child + 1]] < $way[$heap[$child]]) {
                    ++$child;
                }
                if ($way[$heap[$child]] >= $way[$w]) {
                    break;
                }
                $heap[$at] = $heap[$child];
                $place[$heap[$at]] = $at;
                $at = $child;
            }
            $heap[$at] = $w;
            $place[$w] = $at;
            $place[$v] = -1;
            $done[$v] = true;
            for ($e = $start[$v], $end = $start[$v + 1]; $e < $end; ++$e) {
                for ($side = 0; $side < 2; ++$side) {
                    [$a, $b] = $side === 0 ? [$next[$e], $after[$e]] : [$after[$e], $next[$e]];
                    if ($done[$a] && ! $done[$b]) {
                        continue;
                    }
                    $slow = $slowness === null ? 1.0 : ($slowness[$a] + $slowness[$v] + $slowness[$b]) / 3.0;
                    if ($slow === INF) {
                        continue;
                    }
                    $same = $base[$v] === $base[$b];
                    $from = $same ? $base[$v] : 0.0;
                    $u = ($way[$v] - $from) / $slow;
                    [$px, $py, $pz] = [$x[$v] - $x[$a], $y[$v] - $y[$a], $z[$v] - $z[$a]];
                    $far = $done[$b]
                        ? self::across($px, $py, $pz, $x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a], $u, ($way[$b] - $from) / $slow, $same)
                        : $u + sqrt($px * $px + $py * $py + $pz * $pz);
                    $far = $from + $slow * $far;
                    // Where the straight way to a place leads past the far end of a long edge, the place was taken too early: once more.
                    if ($far < $way[$a] * (1.0 - 1e-9)) {
                        $way[$a] = $far;
                        $base[$a] = $base[$v];
                        $done[$a] = false;
                        $at = $place[$a] < 0 ? $size++ : $place[$a];
                        while ($at > 0 && $way[$heap[($at - 1) >> 1]] > $far) {
                            $heap[$at] = $heap[($at - 1) >> 1];
                            $place[$heap[$at]] = $at;
                            $at = ($at - 1) >> 1;
                        }
                        $heap[$at] = $a;
                        $place[$a] = $at;
                    }
                }
            }
        }

        return array_values($way);
    }

    /**
     * The way to a place of a triangle from the ways to the two ends of an edge, b and c as seen from it.
     *
     * @param float $u way to b, m
     * @param float $v way to c, m
     * @param bool $round whether both come from one place; else the front is straight
     */
    public static function across(float $bx, float $by, float $bz, float $cx, float $cy, float $cz, float $u, float $v, bool $round): float
    {
        $bb = $bx * $bx + $by * $by + $bz * $bz;
        $cc = $cx * $cx + $cy * $cy + $cz * $cz;
        $bc = $bx * $cx + $by * $cy + $bz * $cz;
        $best = min($u + sqrt($bb), $v + sqrt($cc));
        $area = $bb * $cc - $bc * $bc;
        $ll = $bb + $cc - 2.0 * $bc;
        if ($area <= 1e-30 || $ll <= 0.0 || $best === INF) {
            return $best;
        }
        // Along the edge from b: the place lies at (q, -k), what set out at (p, h).
        $l = sqrt($ll);
        if (abs($u - $v) >= $l) {
            return $best;
        }
        $q = ($bb - $bc) / $l;
        $k = sqrt($area) / $l;
        // Set out on the edge itself, both ways come to its length but for rounding.
        if ($round && $u + $v > $l * (1.0 - 1e-9)) {
            $p = ($u * $u - $v * $v + $ll) / (2.0 * $l);
            $h = sqrt(max(0.0, $u * $u - $p * $p));
            $through = $p + ($q - $p) * $h / ($h + $k);

            return $through >= 0.0 && $through <= $l ? min($best, sqrt(($p - $q) * ($p - $q) + ($h + $k) * ($h + $k))) : $best;
        }
        $s = ($v - $u) / $l;
        $r = sqrt(1.0 - $s * $s);
        $through = $q - $k * $s / $r;

        return $through >= 0.0 && $through <= $l ? min($best, $u + $s * $q + $r * $k) : $best;
    }
}
