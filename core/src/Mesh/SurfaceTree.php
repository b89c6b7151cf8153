<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

use LogicException;

/**
 * The surface of a mesh, to be asked for its nearest place: a tree of boxes over triangles, split at the median of the longest
 * side, leaves of four, triangles in the leaves' order with their edges and dot products ready; the nearer child is looked at
 * first. Which side a place is on is told by angle weighted normals of faces, edges and corners (Baerentzen and Aanaes 2005).
 */
final class SurfaceTree
{
    /** Parts of a triangle that can be nearest: three corners, the edges ab, bc, ac, the face. */
    private const FACE = 6;

    /** @var array<int, int> first child of a node (the second follows it), or first triangle of a leaf */
    private array $left = [];

    /** @var array<int, int> triangles of a leaf; 0: it has children */
    private array $count = [];

    /** @var array<int, float> boxes of the nodes */
    private array $x0 = [];

    /** @var array<int, float> */
    private array $y0 = [];

    /** @var array<int, float> */
    private array $z0 = [];

    /** @var array<int, float> */
    private array $x1 = [];

    /** @var array<int, float> */
    private array $y1 = [];

    /** @var array<int, float> */
    private array $z1 = [];

    /** @var list<float> first corner of each triangle */
    private array $ax = [];

    /** @var list<float> */
    private array $ay = [];

    /** @var list<float> */
    private array $az = [];

    /** @var list<float> its edges from there */
    private array $ux = [];

    /** @var list<float> */
    private array $uy = [];

    /** @var list<float> */
    private array $uz = [];

    /** @var list<float> */
    private array $vx = [];

    /** @var list<float> */
    private array $vy = [];

    /** @var list<float> */
    private array $vz = [];

    /** @var list<float> their dot products */
    private array $uu = [];

    /** @var list<float> */
    private array $uv = [];

    /** @var list<float> */
    private array $vv = [];

    /** @var list<int> number in the mesh of each triangle */
    private array $faces = [];

    /** @var list<float> 21 numbers a triangle: the normal of each of its parts, not unit; none until one asks */
    private array $normals = [];

    /** The same as they were kept. */
    private string $keptNormals = '';

    /** Outward direction at the place that was found last, unit, and the signed distance to it. */
    public float $nx = 0.0;

    public float $ny = 1.0;

    public float $nz = 0.0;

    public float $distance = INF;

    /** How many times as large as its mesh it is. */
    private float $size = 1.0;

    private readonly ?SharpEdges $sharp;

    /** @param bool $closed whether it has an inside */
    private function __construct(private readonly ?TriangleMesh $mesh, public readonly bool $closed)
    {
        $this->sharp = $mesh === null ? null : new SharpEdges($mesh);
    }

    /** @param bool $closed whether it has an inside; without one, both sides are outside */
    public static function of(TriangleMesh $mesh, bool $closed): self
    {
        $tree = new self($mesh, $closed);
        [$tree->left, $tree->count, $order] = TriangleSort::of($mesh);
        $tree->faces = $order;
        foreach ($order as $t) {
            [$a, $b, $c] = [$mesh->triangles[3 * $t], $mesh->triangles[3 * $t + 1], $mesh->triangles[3 * $t + 2]];
            $tree->ax[] = $x = $mesh->x[$a];
            $tree->ay[] = $y = $mesh->y[$a];
            $tree->az[] = $z = $mesh->z[$a];
            $tree->ux[] = $ux = $mesh->x[$b] - $x;
            $tree->uy[] = $uy = $mesh->y[$b] - $y;
            $tree->uz[] = $uz = $mesh->z[$b] - $z;
            $tree->vx[] = $vx = $mesh->x[$c] - $x;
            $tree->vy[] = $vy = $mesh->y[$c] - $y;
            $tree->vz[] = $vz = $mesh->z[$c] - $z;
            $tree->uu[] = $ux * $ux + $uy * $uy + $uz * $uz;
            $tree->uv[] = $ux * $vx + $uy * $vy + $uz * $vz;
            $tree->vv[] = $vx * $vx + $vy * $vy + $vz * $vz;
        }
        $tree->enclose();

        return $tree;
    }

    /** The same surface, so many times as large: what is sorted stays sorted, and faces face the same way. */
    public function grown(float $by): self
    {
        if ($this->normals === [] && $this->keptNormals === '' && $this->faces !== []) {
            $this->tellSides();
        }
        $tree = clone $this;
        $tree->size = $by * $this->size;
        [$tree->x0, $tree->y0, $tree->z0] = [self::times($this->x0, $by), self::times($this->y0, $by), self::times($this->z0, $by)];
        [$tree->x1, $tree->y1, $tree->z1] = [self::times($this->x1, $by), self::times($this->y1, $by), self::times($this->z1, $by)];
        [$tree->ax, $tree->ay, $tree->az] = [self::times($this->ax, $by), self::times($this->ay, $by), self::times($this->az, $by)];
        [$tree->ux, $tree->uy, $tree->uz] = [self::times($this->ux, $by), self::times($this->uy, $by), self::times($this->uz, $by)];
        [$tree->vx, $tree->vy, $tree->vz] = [self::times($this->vx, $by), self::times($this->vy, $by), self::times($this->vz, $by)];
        [$tree->uu, $tree->uv, $tree->vv] = [self::times($this->uu, $by * $by), self::times($this->uv, $by * $by), self::times($this->vv, $by * $by)];

        return $tree;
    }

    /**
     * @param array<int, float> $numbers
     *
     * @return list<float>
     */
    private static function times(array $numbers, float $by): array
    {
        $grown = [];
        foreach ($numbers as $number) {
            $grown[] = $by * $number;
        }

        return $grown;
    }

    /** @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}> sharp edges: from, to, outward */
    public function ridges(): array
    {
        if ($this->sharp === null) {
            throw new LogicException('A surface that was kept has no sharp edges with it.');
        }

        return $this->closed ? $this->sharp->grown($this->size) : [];
    }

    /** The triangles beside its sharp edges. */
    public function brink(): TriangleMesh
    {
        return $this->sharp?->brink($this->size) ?? throw new LogicException('A surface that was kept has no sharp edges with it.');
    }

    public function mesh(): TriangleMesh
    {
        if ($this->mesh === null) {
            throw new LogicException('A surface that was kept has no mesh with it.');
        }

        return $this->size === 1.0 ? $this->mesh : $this->mesh->scaled([$this->size, $this->size, $this->size]);
    }

    /** Many only ask how far it is: what tells the sides apart is made when it is needed. */
    private function tellSides(): void
    {
        if ($this->mesh === null) {
            throw new LogicException('A surface that was kept has its normals with it.');
        }
        $this->normals = SurfaceNormals::of($this->mesh)->of7($this->faces);
    }

    /** @return array{float, float, float} of a part of a triangle, not unit */
    private function normal(int $triangle, int $part): array
    {
        $n = 21 * $triangle + 3 * $part;
        if ($this->keptNormals !== '') {
            /** @var array{1: float, 2: float, 3: float} $kept */
            $kept = unpack('e3', $this->keptNormals, 8 * $n);

            return [$kept[1], $kept[2], $kept[3]];
        }
        if ($this->normals === []) {
            $this->tellSides();
        }

        return [$this->normals[$n], $this->normals[$n + 1], $this->normals[$n + 2]];
    }

    /** All but its sharp edges, to be kept. */
    public function packed(): string
    {
        if ($this->normals === [] && $this->faces !== []) {
            $this->tellSides();
        }
        $bytes = pack('CVV', $this->closed ? 1 : 0, count($this->left), count($this->faces)) . pack('V*', ...$this->left) . pack('V*', ...$this->count) . pack('V*', ...$this->faces);
        foreach ([$this->x0, $this->y0, $this->z0, $this->x1, $this->y1, $this->z1] as $box) {
            $bytes .= pack('e*', ...$box);
        }
        foreach ([$this->ax, $this->ay, $this->az, $this->ux, $this->uy, $this->uz, $this->vx, $this->vy, $this->vz, $this->uu, $this->uv, $this->vv] as $numbers) {
            $bytes .= pack('e*', ...$numbers);
        }

        return $bytes . pack('e*', ...$this->normals);
    }

    public static function unpacked(string $bytes): self
    {
        /** @var array{closed: int, nodes: int, triangles: int} $head */
        $head = unpack('Cclosed/Vnodes/Vtriangles', $bytes);
        $tree = new self(null, $head['closed'] === 1);
        $at = 9;
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
        [$tree->x0, $tree->y0, $tree->z0, $tree->x1, $tree->y1, $tree->z1] = [$real($n), $real($n), $real($n), $real($n), $real($n), $real($n)];
        [$tree->ax, $tree->ay, $tree->az, $tree->ux, $tree->uy, $tree->uz] = [$real($t), $real($t), $real($t), $real($t), $real($t), $real($t)];
        [$tree->vx, $tree->vy, $tree->vz, $tree->uu, $tree->uv, $tree->vv] = [$real($t), $real($t), $real($t), $real($t), $real($t), $real($t)];
        // Read one by one: most are never asked for.
        $tree->keptNormals = substr($bytes, $at);

        return $tree;
    }

    /** The boxes, from the leaves up: children come after their parents. */
    private function enclose(): void
    {
        $nodes = count($this->left);
        [$this->x0, $this->x1] = $this->enclosed($nodes, $this->ax, $this->ux, $this->vx);
        [$this->y0, $this->y1] = $this->enclosed($nodes, $this->ay, $this->uy, $this->vy);
        [$this->z0, $this->z1] = $this->enclosed($nodes, $this->az, $this->uz, $this->vz);
    }

    /**
     * @param list<float> $first along one axis: the first corner of each triangle
     * @param list<float> $u its edges from there
     * @param list<float> $v
     *
     * @return array{array<int, float>, array<int, float>} lowest and highest place in each node
     */
    private function enclosed(int $nodes, array $first, array $u, array $v): array
    {
        $low = array_fill(0, $nodes, INF);
        $high = array_fill(0, $nodes, -INF);
        for ($k = $nodes - 1; $k >= 0; $k--) {
            $l = $this->left[$k];
            if ($this->count[$k] === 0 && $l > 0) {
                $low[$k] = min($low[$l], $low[$l + 1]);
                $high[$k] = max($high[$l], $high[$l + 1]);
            }
            for ($t = $l; $t < $l + $this->count[$k]; $t++) {
                $a = $first[$t];
                $low[$k] = min($low[$k], $a, $a + $u[$t], $a + $v[$t]);
                $high[$k] = max($high[$k], $a, $a + $u[$t], $a + $v[$t]);
            }
        }

        return [$low, $high];
    }

    public function isEmpty(): bool
    {
        return $this->ax === [];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} */
    public function bounds(): array
    {
        return [[$this->x0[0], $this->y0[0], $this->z0[0]], [$this->x1[0], $this->y1[0], $this->z1[0]]];
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
        [$left, $count, $x0, $y0, $z0, $x1, $y1, $z1] = [$this->left, $this->count, $this->x0, $this->y0, $this->z0, $this->x1, $this->y1, $this->z1];
        [$ax, $ay, $az, $ux, $uy, $uz] = [$this->ax, $this->ay, $this->az, $this->ux, $this->uy, $this->uz];
        [$vx, $vy, $vz, $uu, $uv, $vv] = [$this->vx, $this->vy, $this->vz, $this->uu, $this->uv, $this->vv];
        $best = $limit * $limit;
        $found = -1;
        if ($seed >= 0) {
            $q = self::squared($px - $ax[$seed], $py - $ay[$seed], $pz - $az[$seed], $ux[$seed], $uy[$seed], $uz[$seed], $vx[$seed], $vy[$seed], $vz[$seed], $uu[$seed], $uv[$seed], $vv[$seed]);
            if ($q < $best) {
                $best = $q;
                $found = $seed;
            }
        }
        $stack = $far = [];
        $depth = 0;
        $k = 0;
        while ($k >= 0) {
            $l = $left[$k];
            $c = $count[$k];
            $k = -1;
            if ($c > 0) {
                $end = $l + $c;
                for ($t = $l; $t < $end; ++$t) {
                    $q = self::squared($px - $ax[$t], $py - $ay[$t], $pz - $az[$t], $ux[$t], $uy[$t], $uz[$t], $vx[$t], $vy[$t], $vz[$t], $uu[$t], $uv[$t], $vv[$t]);
                    if ($q < $best) {
                        $best = $q;
                        $found = $t;
                    }
                }
            } else {
                $r = $l + 1;
                $a = $px < $x0[$l] ? $x0[$l] - $px : ($px > $x1[$l] ? $px - $x1[$l] : 0.0);
                $b = $py < $y0[$l] ? $y0[$l] - $py : ($py > $y1[$l] ? $py - $y1[$l] : 0.0);
                $g = $pz < $z0[$l] ? $z0[$l] - $pz : ($pz > $z1[$l] ? $pz - $z1[$l] : 0.0);
                $dl = $a * $a + $b * $b + $g * $g;
                $a = $px < $x0[$r] ? $x0[$r] - $px : ($px > $x1[$r] ? $px - $x1[$r] : 0.0);
                $b = $py < $y0[$r] ? $y0[$r] - $py : ($py > $y1[$r] ? $py - $y1[$r] : 0.0);
                $g = $pz < $z0[$r] ? $z0[$r] - $pz : ($pz > $z1[$r] ? $pz - $z1[$r] : 0.0);
                $dr = $a * $a + $b * $b + $g * $g;
                if ($dl <= $dr) {
                    if ($dl < $best) {
                        $k = $l;
                        if ($dr < $best) {
                            $stack[$depth] = $r;
                            $far[$depth] = $dr;
                            ++$depth;
                        }
                    }
                } elseif ($dr < $best) {
                    $k = $r;
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

        return $found;
    }

    /**
     * The first triangle that a straight way crosses (Moeller and Trumbore 1997; boxes by slabs).
     *
     * @return array{int, float}|null its number here, and the share of the way to there; null: it crosses none
     */
    public function crossed(float $px, float $py, float $pz, float $dx, float $dy, float $dz): ?array
    {
        [$left, $count, $x0, $y0, $z0, $x1, $y1, $z1] = [$this->left, $this->count, $this->x0, $this->y0, $this->z0, $this->x1, $this->y1, $this->z1];
        [$ax, $ay, $az, $ux, $uy, $uz, $vx, $vy, $vz] = [$this->ax, $this->ay, $this->az, $this->ux, $this->uy, $this->uz, $this->vx, $this->vy, $this->vz];
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
            // 0 times INF is no number, and no number compares as false: such a slab leaves all in.
            $a = ($x0[$k] - $px) * $rx;
            $b = ($x1[$k] - $px) * $rx;
            $enter = $a < $b ? $a : $b;
            $leave = $a < $b ? $b : $a;
            $a = ($y0[$k] - $py) * $ry;
            $b = ($y1[$k] - $py) * $ry;
            $c = $a < $b ? $a : $b;
            $enter = $c > $enter ? $c : $enter;
            $c = $a < $b ? $b : $a;
            $leave = $c < $leave ? $c : $leave;
            $a = ($z0[$k] - $pz) * $rz;
            $b = ($z1[$k] - $pz) * $rz;
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
            $end = $l + $count[$k];
            for ($t = $l; $t < $end; ++$t) {
                $hx = $dy * $vz[$t] - $dz * $vy[$t];
                $hy = $dz * $vx[$t] - $dx * $vz[$t];
                $hz = $dx * $vy[$t] - $dy * $vx[$t];
                $det = $ux[$t] * $hx + $uy[$t] * $hy + $uz[$t] * $hz;
                if ($det === 0.0) {
                    continue;
                }
                $f = 1.0 / $det;
                $sx = $px - $ax[$t];
                $sy = $py - $ay[$t];
                $sz = $pz - $az[$t];
                $p = $f * ($sx * $hx + $sy * $hy + $sz * $hz);
                if ($p < 0.0 || $p > 1.0) {
                    continue;
                }
                $qx = $sy * $uz[$t] - $sz * $uy[$t];
                $qy = $sz * $ux[$t] - $sx * $uz[$t];
                $qz = $sx * $uy[$t] - $sy * $ux[$t];
                $q = $f * ($dx * $qx + $dy * $qy + $dz * $qz);
                if ($q < 0.0 || $p + $q > 1.0) {
                    continue;
                }
                $at = $f * ($vx[$t] * $qx + $vy[$t] * $qy + $vz[$t] * $qz);
                if ($at >= 0.0 && $at < $best) {
                    $best = $at;
                    $found = $t;
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

    /** Sets the outward direction and the signed distance of a place whose nearest triangle is known. */
    public function look(int $triangle, float $x, float $y, float $z): void
    {
        $px = $x - $this->ax[$triangle];
        $py = $y - $this->ay[$triangle];
        $pz = $z - $this->az[$triangle];
        [$s, $t, $part] = $this->part($triangle, $px, $py, $pz);
        $dx = $px - $s * $this->ux[$triangle] - $t * $this->vx[$triangle];
        $dy = $py - $s * $this->uy[$triangle] - $t * $this->vy[$triangle];
        $dz = $pz - $s * $this->uz[$triangle] - $t * $this->vz[$triangle];
        [$nx, $ny, $nz] = $this->normal($triangle, $part);
        $length = sqrt($dx * $dx + $dy * $dy + $dz * $dz);
        $side = $dx * $nx + $dy * $ny + $dz * $nz < 0.0 && $this->closed ? -1.0 : 1.0;
        if ($length > 1e-9) {
            [$nx, $ny, $nz] = [$side * $dx / $length, $side * $dy / $length, $side * $dz / $length];
        } else {
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
            [$nx, $ny, $nz] = [$nx / $l, $ny / $l, $nz / $l];
        }
        [$this->nx, $this->ny, $this->nz] = [$nx, $ny, $nz];
        $this->distance = $side * $length;
    }

    /**
     * Where on its nearest triangle the place of the surface lies that is nearest to a place.
     *
     * @return array{int, float, float} triangle of the mesh, shares of its second and third corner
     */
    public function seat(int $triangle, float $x, float $y, float $z): array
    {
        [$s, $t] = $this->part($triangle, $x - $this->ax[$triangle], $y - $this->ay[$triangle], $z - $this->az[$triangle]);

        return [$this->faces[$triangle], $s, $t];
    }

    /** @return array{float, float, float} unit, outward from the place of its nearest triangle that is nearest, whichever side a place is on */
    public function facing(int $triangle, float $x, float $y, float $z): array
    {
        [, , $part] = $this->part($triangle, $x - $this->ax[$triangle], $y - $this->ay[$triangle], $z - $this->az[$triangle]);
        [$nx, $ny, $nz] = $this->normal($triangle, $part);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;

        return [$nx / $l, $ny / $l, $nz / $l];
    }

    /** @return array{float, float, int} the place of a triangle that is nearest, in shares of its edges, and the part it lies on */
    private function part(int $triangle, float $px, float $py, float $pz): array
    {
        [$uu, $uv, $vv] = [$this->uu[$triangle], $this->uv[$triangle], $this->vv[$triangle]];
        $d1 = $px * $this->ux[$triangle] + $py * $this->uy[$triangle] + $pz * $this->uz[$triangle];
        $d2 = $px * $this->vx[$triangle] + $py * $this->vy[$triangle] + $pz * $this->vz[$triangle];
        [$d3, $d4, $d5, $d6] = [$d1 - $uu, $d2 - $uv, $d1 - $uv, $d2 - $vv];
        [$va, $vb, $vc] = [$d3 * $d6 - $d5 * $d4, $d5 * $d2 - $d1 * $d6, $d1 * $d4 - $d3 * $d2];

        return match (true) {
            $d1 <= 0.0 && $d2 <= 0.0 => [0.0, 0.0, 0],
            $d3 >= 0.0 && $d4 <= $d3 => [1.0, 0.0, 1],
            $d6 >= 0.0 && $d5 <= $d6 => [0.0, 1.0, 2],
            $vc <= 0.0 && $d1 >= 0.0 && $d3 <= 0.0 => [$d1 / $uu, 0.0, 3],
            $vb <= 0.0 && $d2 >= 0.0 && $d6 <= 0.0 => [0.0, $d2 / $vv, 5],
            $va <= 0.0 && $d4 - $d3 >= 0.0 && $d5 - $d6 >= 0.0 => [($d5 - $d6) / (($d4 - $d3) + ($d5 - $d6)), ($d4 - $d3) / (($d4 - $d3) + ($d5 - $d6)), 4],
            default => [$vb / ($va + $vb + $vc), $vc / ($va + $vb + $vc), self::FACE],
        };
    }
}
