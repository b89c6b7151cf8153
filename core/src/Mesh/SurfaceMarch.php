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
    /** A place is only taken up again for as much as this part of an edge: less is rounding, and never ends on what is round. */
    private const AGAIN = 0.001;

    /**
     * @param list<int> $start first entry of each vertex in the rings; one more at the end
     * @param list<int> $next its triangles' second and third corners
     * @param list<int> $after
     * @param list<float> $out length of the edge to the second corner, m
     * @param list<float> $back and to the third
     * @param list<float> $dot product of the two
     * @param list<float> $twice the triangle's area
     */
    private function __construct(private TriangleMesh $mesh, private array $start, private array $next, private array $after, private array $out, private array $back, private array $dot, private array $twice)
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


        return new self($mesh, array_values($start), array_values($next), array_values($after), ...self::measured($mesh, $start, $next, $after));
    }

    /**
     * What does not change from one front to the next.
     *
     * @param array<int, int> $start
     * @param array<int, int> $next
     * @param array<int, int> $after
     *
     * @return array{list<float>, list<float>, list<float>, list<float>} two edges of each triangle of each ring, their product, and twice its area
     */
    private static function measured(TriangleMesh $mesh, array $start, array $next, array $after): array
    {
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        $out = $back = $dot = $twice = [];
        foreach ($x as $v => $vx) {
            $vy = $y[$v];
            $vz = $z[$v];
            for ($e = $start[$v], $end = $start[$v + 1]; $e < $end; ++$e) {
                $a = $next[$e];
                $b = $after[$e];
                $ax = $x[$a] - $vx;
                $ay = $y[$a] - $vy;
                $az = $z[$a] - $vz;
                $bx = $x[$b] - $vx;
                $by = $y[$b] - $vy;
                $bz = $z[$b] - $vz;
                $aa = $ax * $ax + $ay * $ay + $az * $az;
                $bb = $bx * $bx + $by * $by + $bz * $bz;
                $ab = $ax * $bx + $ay * $by + $az * $bz;
                $area = $aa * $bb - $ab * $ab;
                $out[] = sqrt($aa);
                $back[] = sqrt($bb);
                $dot[] = $ab;
                $twice[] = $area > 1e-30 ? sqrt($area) : 0.0;
            }
        }

        return [$out, $back, $dot, $twice];
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
        [$start, $next, $after, $out, $back, $dot, $twice] = [$this->start, $this->next, $this->after, $this->out, $this->back, $this->dot, $this->twice];
        $n = count($x);
        $way = $base = array_fill(0, $n, INF);
        $place = array_fill(0, $n, -1);
        $done = array_fill(0, $n, false);
        // Which way it comes in at each vertex, unit, and whether that is known.
        $tx = $ty = $tz = array_fill(0, $n, 0.0);
        $told = array_fill(0, $n, false);
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
            $far = $way[$w];
            while (($child = 2 * $at + 1) < $size) {
                $least = $heap[$child];
                $here = $way[$least];
                if ($child + 1 < $size) {
                    $other = $heap[$child + 1];
                    if ($way[$other] < $here) {
                        ++$child;
                        $least = $other;
                        $here = $way[$other];
                    }
                }
                if ($here >= $far) {
                    break;
                }
                $heap[$at] = $least;
                $place[$least] = $at;
                $at = $child;
            }
            $heap[$at] = $w;
            $place[$w] = $at;
            $place[$v] = -1;
            $done[$v] = true;
            $vx = $x[$v];
            $vy = $y[$v];
            $vz = $z[$v];
            $vWay = $way[$v];
            $vBase = $base[$v];
            for ($e = $start[$v], $end = $start[$v + 1]; $e < $end; ++$e) {
                for ($side = 0; $side < 2; ++$side) {
                    if ($side === 0) {
                        $a = $next[$e];
                        $b = $after[$e];
                        $edge = $out[$e];
                        $l = $back[$e];
                    } else {
                        $a = $after[$e];
                        $b = $next[$e];
                        $edge = $back[$e];
                        $l = $out[$e];
                    }
                    $across = $done[$b];
                    $again = $done[$a];
                    if ($again && ! $across) {
                        continue;
                    }
                    $slow = 1.0;
                    $fast = 1.0;
                    if ($slowness !== null) {
                        $slow = ($slowness[$a] + $slowness[$v] + $slowness[$b]) / 3.0;
                        if ($slow === INF) {
                            continue;
                        }
                        $fast = 1.0 / $slow;
                    }
                    $same = $vBase === $base[$b];
                    $from = $same ? $vBase : 0.0;
                    $u = ($vWay - $from) * $fast;
                    $far = $u + $edge;
                    $along = 0.0;
                    if ($across) {
                        $w = ($way[$b] - $from) * $fast;
                        if ($twice[$e] > 0.0 && $u - $w < $l && $w - $u < $l) {
                            // Seen from a: v and b; along the edge between them a lies at (q, -k).
                            $per = 1.0 / $l;
                            $k = $twice[$e] * $per;
                            // No way over that edge is shorter than to its nearest place and from there straight across.
                            if ($again && 0.5 * ($u + $w - $l) + $k >= ($way[$a] - $from) * $fast) {
                                continue;
                            }
                            $q = $dot[$e] * $per;
                            if ($same && $u + $w > $l * (1.0 - 1e-9)) {
                                // What set out lies at (p, h), unfolded.
                                $p = 0.5 * (($u * $u - $w * $w) * $per + $l);
                                $hh = $u * $u - $p * $p;
                                $h = $hh > 0.0 ? sqrt($hh) : 0.0;
                                $through = $p + ($q - $p) * $h / ($h + $k);
                                if ($through >= 0.0 && $through <= $l) {
                                    $straight = sqrt(($p - $q) * ($p - $q) + ($h + $k) * ($h + $k));
                                    // On a surface that bends ways come in at other angles than unfolded: that much further between the ends.
                                    if ($told[$v] && $told[$b] && $w > 0.0 && $u > 0.0) {
                                        $ex = ($x[$b] - $vx) * $per;
                                        $ey = ($y[$b] - $vy) * $per;
                                        $ez = ($z[$b] - $vz) * $per;
                                        $r = $tx[$v] * $ex + $ty[$v] * $ey + $tz[$v] * $ez + $p / $u;
                                        $s = $tx[$b] * $ex + $ty[$b] * $ey + $tz[$b] * $ez - ($l - $p) / $w;
                                        $t = $through * $per;
                                        $straight += $through * (1.0 - $t) * ((1.0 - $t) * $r - $t * $s);
                                    }
                                    if ($straight < $far) {
                                        $far = $straight;
                                        $along = $through * $per;
                                    }
                                }
                            } else {
                                $s = ($w - $u) * $per;
                                $r = sqrt(1.0 - $s * $s);
                                $through = $q - $k * $s / $r;
                                $straight = $u + $s * $q + $r * $k;
                                if ($through >= 0.0 && $through <= $l && $straight < $far) {
                                    $far = $straight;
                                    $along = $through * $per;
                                }
                            }
                        }
                    }
                    $far = $from + $slow * $far;
                    // Where the straight way to a place leads past the far end of a long edge, the place was taken too early: once more.
                    if ($far < $way[$a] - ($again ? self::AGAIN * $slow * $edge : 0.0)) {
                        $way[$a] = $far;
                        $base[$a] = $vBase;
                        $done[$a] = false;
                        // Which way it comes in, unit; along an edge it may only seem to.
                        if ($along > 0.0) {
                            $dx = $x[$a] - $vx - $along * ($x[$b] - $vx);
                            $dy = $y[$a] - $vy - $along * ($y[$b] - $vy);
                            $dz = $z[$a] - $vz - $along * ($z[$b] - $vz);
                            $d = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
                            $tx[$a] = $dx / $d;
                            $ty[$a] = $dy / $d;
                            $tz[$a] = $dz / $d;
                            $told[$a] = true;
                        } else {
                            $told[$a] = false;
                        }
                        $at = $place[$a] < 0 ? $size++ : $place[$a];
                        while ($at > 0) {
                            $up = ($at - 1) >> 1;
                            $w = $heap[$up];
                            if ($way[$w] <= $far) {
                                break;
                            }
                            $heap[$at] = $w;
                            $place[$w] = $at;
                            $at = $up;
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
