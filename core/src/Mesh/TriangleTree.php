<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Triangles to be asked for the nearest one, and for the first one on a way: a tree of boxes, those of a leaf in a disc of their own,
 * with edges and dot products ready; the nearer child is looked at first.
 */
final class TriangleTree
{
    /** The part of a triangle that is neither a corner (0 to 2) nor an edge (ab, bc, ac: 3 to 5). */
    private const FACE = 6;

    /** So many parts a triangle has. */
    public const PARTS = 7;

    /** Numbers packed at once: each is an argument. */
    private const AT_ONCE = 6000;

    /** @var array<int, int> first child of a node (the second follows it), or first triangle of a leaf */
    private array $left = [];

    /** @var array<int, int> triangles of a leaf; 0: it has children */
    private array $count = [];

    /** @var list<float> 6 numbers a node: its box, from and to along each axis */
    private array $boxes = [];

    /** @var list<float> 8 numbers a node: the disc around the triangles of a leaf */
    private array $discs = [];

    /** @var list<float> 12 numbers a triangle: its first corner, its two edges from there, their dot products (uu, uv, vv) */
    private array $corners = [];

    /** @var list<int> number in the mesh of each triangle */
    public array $faces = [];

    private function __construct()
    {
    }

    /** @param TriangleOrder|null $order of the same triangles elsewhere: they need not be sorted anew */
    public static function of(TriangleMesh $mesh, ?TriangleOrder $order = null): self
    {
        $tree = new self();
        [$tree->left, $tree->count, $tree->faces] = $order?->of($mesh) ?? TriangleSort::of($mesh);
        foreach ($tree->faces as $t) {
            [$a, $b, $c] = [$mesh->triangles[3 * $t], $mesh->triangles[3 * $t + 1], $mesh->triangles[3 * $t + 2]];
            [$x, $y, $z] = [$mesh->x[$a], $mesh->y[$a], $mesh->z[$a]];
            [$ux, $uy, $uz] = [$mesh->x[$b] - $x, $mesh->y[$b] - $y, $mesh->z[$b] - $z];
            [$vx, $vy, $vz] = [$mesh->x[$c] - $x, $mesh->y[$c] - $y, $mesh->z[$c] - $z];
            array_push($tree->corners, $x, $y, $z, $ux, $uy, $uz, $vx, $vy, $vz, $ux * $ux + $uy * $uy + $uz * $uz, $ux * $vx + $uy * $vy + $uz * $vz, $vx * $vx + $vy * $vy + $vz * $vz);
        }
        $tree->enclose();

        return $tree;
    }

    public function packed(): string
    {
        $bytes = pack('VV', count($this->left), count($this->faces)) . pack('V*', ...$this->left) . pack('V*', ...$this->count) . pack('V*', ...$this->faces);
        foreach ([$this->boxes, $this->discs, $this->corners] as $numbers) {
            $bytes .= self::real($numbers);
        }

        return $bytes;
    }

    /** @param list<float> $numbers */
    public static function real(array $numbers): string
    {
        return implode('', array_map(static fn (array $some): string => pack('e*', ...$some), array_chunk($numbers, self::AT_ONCE)));
    }

    /**
     * @param int $at where it begins in the bytes
     *
     * @return array{self, int} and where it ends
     */
    public static function unpacked(string $bytes, int $at): array
    {
        /** @var array{nodes: int, triangles: int} $head */
        $head = unpack('Vnodes/Vtriangles', $bytes, $at);
        $tree = new self();
        $at += 8;
        $whole = static function (int $count) use ($bytes, &$at): array {
            /** @var array<int, int> $numbers */
            $numbers = $count === 0 ? [] : unpack("V{$count}", $bytes, $at);
            $at += 4 * $count;

            return array_values($numbers);
        };
        $real = static function (int $count) use ($bytes, &$at): array {
            /** @var array<int, float> $numbers */
            $numbers = $count === 0 ? [] : unpack("e{$count}", $bytes, $at);
            $at += 8 * $count;

            return array_values($numbers);
        };
        [$n, $t] = [$head['nodes'], $head['triangles']];
        [$tree->left, $tree->count, $tree->faces] = [$whole($n), $whole($n), $whole($t)];
        [$tree->boxes, $tree->discs, $tree->corners] = [$real(6 * $n), $real(8 * $n), $real(12 * $t)];

        return [$tree, $at];
    }

    /** Boxes and discs, from the leaves up: children come after their parents. */
    private function enclose(): void
    {
        $nodes = count($this->left);
        $boxes = array_fill(0, 6 * $nodes, 0.0);
        $discs = array_fill(0, 8 * $nodes, 0.0);
        for ($k = $nodes - 1; $k >= 0; $k--) {
            [$l, $count] = [$this->left[$k], $this->count[$k]];
            if ($count > 0) {
                foreach (LeafDisc::around($this->corners, $l, $count) as $i => $number) {
                    $discs[8 * $k + $i] = $number;
                }
            }
            foreach ([0, 1, 2] as $axis) {
                [$low, $high] = [INF, -INF];
                if ($count === 0 && $l > 0) {
                    $low = min($boxes[6 * $l + 2 * $axis], $boxes[6 * $l + 6 + 2 * $axis]);
                    $high = max($boxes[6 * $l + 2 * $axis + 1], $boxes[6 * $l + 6 + 2 * $axis + 1]);
                }
                for ($t = 12 * $l + $axis, $end = $t + 12 * $count; $t < $end; $t += 12) {
                    $a = $this->corners[$t];
                    $low = min($low, $a, $a + $this->corners[$t + 3], $a + $this->corners[$t + 6]);
                    $high = max($high, $a, $a + $this->corners[$t + 3], $a + $this->corners[$t + 6]);
                }
                $boxes[6 * $k + 2 * $axis] = $low;
                $boxes[6 * $k + 2 * $axis + 1] = $high;
            }
        }
        $this->boxes = array_values($boxes);
        $this->discs = array_values($discs);
    }

    public function isEmpty(): bool
    {
        return $this->corners === [];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} */
    public function bounds(): array
    {
        [$x0, $x1, $y0, $y1, $z0, $z1] = $this->boxes;

        return [[$x0, $y0, $z0], [$x1, $y1, $z1]];
    }

    /**
     * The nearest triangle, nearer than a limit.
     *
     * @param float $limit m
     * @param int $seed a triangle that may be the nearest; -1: none
     *
     * @return int its number here; -1: none is that near
     */
    public function nearest(float $px, float $py, float $pz, float $limit, int $seed = -1): int
    {
        $left = $this->left;
        $count = $this->count;
        $boxes = $this->boxes;
        $discs = $this->discs;
        $corners = $this->corners;
        $best = $limit * $limit;
        $found = -1;
        if ($seed >= 0) {
            $t = 12 * $seed;
            $q = self::squared($px - $corners[$t], $py - $corners[$t + 1], $pz - $corners[$t + 2], $corners[$t + 3], $corners[$t + 4], $corners[$t + 5], $corners[$t + 6], $corners[$t + 7], $corners[$t + 8], $corners[$t + 9], $corners[$t + 10], $corners[$t + 11]);
            if ($q < $best) {
                $best = $q;
                $found = $t;
            }
        }
        $stack = $far = [];
        $depth = 0;
        $k = 0;
        while ($k >= 0) {
            $l = $left[$k];
            $c = $count[$k];
            if ($c > 0) {
                // How far the disc is: aside of it, and above or below it.
                $o = 8 * $k;
                $k = -1;
                $a = $px - $discs[$o];
                $b = $py - $discs[$o + 1];
                $g = $pz - $discs[$o + 2];
                $up = $a * $discs[$o + 3] + $b * $discs[$o + 4] + $g * $discs[$o + 5];
                $q = $a * $a + $b * $b + $g * $g - $up * $up;
                $radius = $discs[$o + 6];
                $q = $q > $radius * $radius ? sqrt($q) - $radius : 0.0;
                $up = ($up < 0.0 ? -$up : $up) - $discs[$o + 7];
                if ($q * $q + ($up > 0.0 ? $up * $up : 0.0) < $best) {
                    $end = 12 * ($l + $c);
                    for ($t = 12 * $l; $t < $end; $t += 12) {
                        $q = self::squared($px - $corners[$t], $py - $corners[$t + 1], $pz - $corners[$t + 2], $corners[$t + 3], $corners[$t + 4], $corners[$t + 5], $corners[$t + 6], $corners[$t + 7], $corners[$t + 8], $corners[$t + 9], $corners[$t + 10], $corners[$t + 11]);
                        if ($q < $best) {
                            $best = $q;
                            $found = $t;
                        }
                    }
                }
            } else {
                $k = -1;
                // Both boxes side by side, written out: a call for each of six sides costs a twentieth of all.
                $o = 6 * $l;
                $a = $boxes[$o] - $px;
                if ($a < 0.0) {
                    $a = $px - $boxes[$o + 1];
                    $a = $a > 0.0 ? $a : 0.0;
                }
                $b = $boxes[$o + 2] - $py;
                if ($b < 0.0) {
                    $b = $py - $boxes[$o + 3];
                    $b = $b > 0.0 ? $b : 0.0;
                }
                $g = $boxes[$o + 4] - $pz;
                if ($g < 0.0) {
                    $g = $pz - $boxes[$o + 5];
                    $g = $g > 0.0 ? $g : 0.0;
                }
                $dl = $a * $a + $b * $b + $g * $g;
                $a = $boxes[$o + 6] - $px;
                if ($a < 0.0) {
                    $a = $px - $boxes[$o + 7];
                    $a = $a > 0.0 ? $a : 0.0;
                }
                $b = $boxes[$o + 8] - $py;
                if ($b < 0.0) {
                    $b = $py - $boxes[$o + 9];
                    $b = $b > 0.0 ? $b : 0.0;
                }
                $g = $boxes[$o + 10] - $pz;
                if ($g < 0.0) {
                    $g = $pz - $boxes[$o + 11];
                    $g = $g > 0.0 ? $g : 0.0;
                }
                $dr = $a * $a + $b * $b + $g * $g;
                if ($dl <= $dr) {
                    if ($dl < $best) {
                        $k = $l;
                        if ($dr < $best) {
                            $stack[$depth] = $l + 1;
                            $far[$depth] = $dr;
                            ++$depth;
                        }
                    }
                } elseif ($dr < $best) {
                    $k = $l + 1;
                    if ($dl < $best) {
                        $stack[$depth] = $l;
                        $far[$depth] = $dl;
                        ++$depth;
                    }
                }
            }
            while ($k < 0 && $depth > 0) {
                --$depth;
                if ($far[$depth] < $best) {
                    $k = $stack[$depth];
                }
            }
        }

        return $found < 0 ? -1 : intdiv($found, 12);
    }

    /**
     * The first triangle that a straight way crosses (Moeller and Trumbore 1997; boxes by slabs).
     *
     * @return array{int, float}|null its number here, and the share of the way to there; null: it crosses none
     */
    public function crossed(float $px, float $py, float $pz, float $dx, float $dy, float $dz): ?array
    {
        [$left, $count, $boxes, $corners] = [$this->left, $this->count, $this->boxes, $this->corners];
        // What does not move along an axis is between two slabs for ever or never.
        $rx = $dx !== 0.0 ? 1.0 / $dx : INF;
        $ry = $dy !== 0.0 ? 1.0 / $dy : INF;
        $rz = $dz !== 0.0 ? 1.0 / $dz : INF;
        $best = 1.0;
        $found = -1;
        $stack = [0];
        $depth = 1;
        while ($depth > 0) {
            $k = $stack[--$depth];
            $o = 6 * $k;
            // 0 times INF is no number, and no number compares as false: such a slab leaves all in.
            $a = ($boxes[$o] - $px) * $rx;
            $b = ($boxes[$o + 1] - $px) * $rx;
            $enter = $a < $b ? $a : $b;
            $leave = $a < $b ? $b : $a;
            $a = ($boxes[$o + 2] - $py) * $ry;
            $b = ($boxes[$o + 3] - $py) * $ry;
            $c = $a < $b ? $a : $b;
            $enter = $c > $enter ? $c : $enter;
            $c = $a < $b ? $b : $a;
            $leave = $c < $leave ? $c : $leave;
            $a = ($boxes[$o + 4] - $pz) * $rz;
            $b = ($boxes[$o + 5] - $pz) * $rz;
            $c = $a < $b ? $a : $b;
            $enter = $c > $enter ? $c : $enter;
            $c = $a < $b ? $b : $a;
            $leave = $c < $leave ? $c : $leave;
            if ($enter > $leave || $leave < 0.0 || $enter > $best) {
                continue;
            }
            $l = $left[$k];
            if ($count[$k] === 0) {
                $stack[$depth++] = $l;
                $stack[$depth++] = $l + 1;

                continue;
            }
            $end = 12 * ($l + $count[$k]);
            for ($t = 12 * $l; $t < $end; $t += 12) {
                [$ux, $uy, $uz] = [$corners[$t + 3], $corners[$t + 4], $corners[$t + 5]];
                [$vx, $vy, $vz] = [$corners[$t + 6], $corners[$t + 7], $corners[$t + 8]];
                $hx = $dy * $vz - $dz * $vy;
                $hy = $dz * $vx - $dx * $vz;
                $hz = $dx * $vy - $dy * $vx;
                $det = $ux * $hx + $uy * $hy + $uz * $hz;
                if ($det === 0.0) {
                    continue;
                }
                $f = 1.0 / $det;
                $sx = $px - $corners[$t];
                $sy = $py - $corners[$t + 1];
                $sz = $pz - $corners[$t + 2];
                $p = $f * ($sx * $hx + $sy * $hy + $sz * $hz);
                if ($p < 0.0 || $p > 1.0) {
                    continue;
                }
                $qx = $sy * $uz - $sz * $uy;
                $qy = $sz * $ux - $sx * $uz;
                $qz = $sx * $uy - $sy * $ux;
                $q = $f * ($dx * $qx + $dy * $qy + $dz * $qz);
                if ($q < 0.0 || $p + $q > 1.0) {
                    continue;
                }
                $at = $f * ($vx * $qx + $vy * $qy + $vz * $qz);
                if ($at >= 0.0 && $at < $best) {
                    $best = $at;
                    $found = intdiv($t, 12);
                }
            }
        }

        return $found < 0 ? null : [$found, $best];
    }

    /** Squared distance of a place, seen from a triangle's first corner, to the triangle (Ericson 2005, 5.1.5). */
    private static function squared(
        float $px,
        float $py,
        float $pz,
        float $ux,
        float $uy,
        float $uz,
        float $vx,
        float $vy,
        float $vz,
        float $uu,
        float $uv,
        float $vv,
    ): float {
        $d1 = $px * $ux + $py * $uy + $pz * $uz;
        $d2 = $px * $vx + $py * $vy + $pz * $vz;
        if ($d1 <= 0.0 && $d2 <= 0.0) {
            return $px * $px + $py * $py + $pz * $pz;
        }
        $d3 = $d1 - $uu;
        $d4 = $d2 - $uv;
        $d5 = $d1 - $uv;
        $d6 = $d2 - $vv;
        if ($d3 >= 0.0 && $d4 <= $d3) {
            $s = 1.0;
            $t = 0.0;
        } elseif ($d6 >= 0.0 && $d5 <= $d6) {
            $s = 0.0;
            $t = 1.0;
        } else {
            $vc = $d1 * $d4 - $d3 * $d2;
            if ($vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0) {
                $s = $d1 / $uu;
                $t = 0.0;
            } else {
                $vb = $d5 * $d2 - $d1 * $d6;
                $va = $d3 * $d6 - $d5 * $d4;
                if ($vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0) {
                    $s = 0.0;
                    $t = $d2 / $vv;
                } elseif ($va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0) {
                    $t = ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6));
                    $s = 1.0 - $t;
                } else {
                    $q = 1.0 / ($va + $vb + $vc);
                    $s = $vb * $q;
                    $t = $vc * $q;
                }
            }
        }
        $px -= $s * $ux + $t * $vx;
        $py -= $s * $uy + $t * $vy;
        $pz -= $s * $uz + $t * $vz;

        return $px * $px + $py * $py + $pz * $pz;
    }

    /** @return array{float, float, int, float, float, float} the place of a triangle that is nearest, in shares of its edges, the part it lies on, and the way from there */
    public function part(int $triangle, float $x, float $y, float $z): array
    {
        [$ax, $ay, $az, $ux, $uy, $uz, $vx, $vy, $vz, $uu, $uv, $vv] = array_slice($this->corners, 12 * $triangle, 12);
        [$px, $py, $pz] = [$x - $ax, $y - $ay, $z - $az];
        $d1 = $px * $ux + $py * $uy + $pz * $uz;
        $d2 = $px * $vx + $py * $vy + $pz * $vz;
        [$d3, $d4, $d5, $d6] = [$d1 - $uu, $d2 - $uv, $d1 - $uv, $d2 - $vv];
        [$va, $vb, $vc] = [$d3 * $d6 - $d5 * $d4, $d5 * $d2 - $d1 * $d6, $d1 * $d4 - $d3 * $d2];

        [$s, $t, $part] = match (true) {
            $d1 <= 0.0 && $d2 <= 0.0 => [0.0, 0.0, 0],
            $d3 >= 0.0 && $d4 <= $d3 => [1.0, 0.0, 1],
            $d6 >= 0.0 && $d5 <= $d6 => [0.0, 1.0, 2],
            $vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0 => [$d1 / $uu, 0.0, 3],
            $vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0 => [0.0, $d2 / $vv, 5],
            $va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0 => [($d5 - $d6) / (($d4 - $d3) + ($d5 - $d6)), ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6)), 4],
            default => [$vb / ($va + $vb + $vc), $vc / ($va + $vb + $vc), self::FACE],
        };

        return [$s, $t, $part, $px - $s * $ux - $t * $vx, $py - $s * $uy - $t * $vy, $pz - $s * $uz - $t * $vz];
    }
}
