<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

use YardBreak\Core\Math\Quaternion;

/**
 * Triangles over shared vertices, in metres. Looks, normals and texture coordinates belong to the corners of triangles, so
 * a crease or a seam needs no doubled vertex and the mesh stays watertight.
 */
final readonly class TriangleMesh
{
    public const LOOK_OUTER = 0;
    public const LOOK_INNER = 1;
    public const LOOK_SIDE = 2;

    /** The skin of layers laid open along a rim: this and the following ones, the innermost first. */
    public const LOOK_LAYER = 3;

    public const LAYERS = 4;

    /**
     * @param array<int, float> $x vertices
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $triangles three vertex numbers a triangle, counter-clockwise from outside
     * @param array<int, float>|null $normals nine numbers a triangle: the unit normal at each corner
     * @param array<int, float>|null $uvs six numbers a triangle: texture coordinates at each corner
     * @param array<int, int>|null $looks one of LOOK_* a triangle; null: all outer
     */
    public function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $triangles,
        public ?array $normals = null,
        public ?array $uvs = null,
        public ?array $looks = null,
    ) {
    }

    public function vertexCount(): int
    {
        return count($this->x);
    }

    public function triangleCount(): int
    {
        return intdiv(count($this->triangles), 3);
    }

    public function isEmpty(): bool
    {
        return $this->triangles === [];
    }

    /** @return array{array{float, float, float}, array{float, float, float}} lowest and highest corner; zeros if empty */
    public function bounds(): array
    {
        if ($this->x === [] || $this->y === [] || $this->z === []) {
            return [[0.0, 0.0, 0.0], [0.0, 0.0, 0.0]];
        }

        return [
            [min($this->x), min($this->y), min($this->z)],
            [max($this->x), max($this->y), max($this->z)],
        ];
    }

    /** The bounds' largest side. */
    public function size(): float
    {
        [$low, $high] = $this->bounds();

        return max($high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
    }

    /** Twice a triangle's area over its longest edge squared: 0.87 with even sides, towards 0 the more it is a needle. */
    public function shape(int $triangle): float
    {
        [$x, $y, $z] = $this->cross($triangle);
        $longest = 0.0;
        foreach ([[0, 1], [1, 2], [2, 0]] as [$k, $l]) {
            [$a, $b] = [$this->triangles[3 * $triangle + $k], $this->triangles[3 * $triangle + $l]];
            $longest = max($longest, ($this->x[$a] - $this->x[$b]) ** 2 + ($this->y[$a] - $this->y[$b]) ** 2 + ($this->z[$a] - $this->z[$b]) ** 2);
        }

        return $longest > 0.0 ? sqrt($x * $x + $y * $y + $z * $z) / $longest : 0.0;
    }

    /** m² */
    public function area(): float
    {
        $twice = 0.0;
        for ($t = 0, $count = $this->triangleCount(); $t < $count; $t++) {
            [$x, $y, $z] = $this->cross($t);
            $twice += sqrt($x * $x + $y * $y + $z * $z);
        }

        return 0.5 * $twice;
    }

    /** How long its edges are in the mean, m. */
    public function meanEdge(): float
    {
        $sum = 0.0;
        foreach ($this->triangles as $k => $a) {
            $b = $this->triangles[$k % 3 === 2 ? $k - 2 : $k + 1];
            $sum += sqrt(($this->x[$a] - $this->x[$b]) ** 2 + ($this->y[$a] - $this->y[$b]) ** 2 + ($this->z[$a] - $this->z[$b]) ** 2);
        }

        return $sum / max(1, count($this->triangles));
    }

    /**
     * The lowest and the highest place along a direction.
     *
     * @param array{float, float, float} $direction
     *
     * @return array{float, float}
     */
    public function extent(array $direction): array
    {
        $from = INF;
        $to = -INF;
        foreach ($this->x as $i => $x) {
            $t = $direction[0] * $x + $direction[1] * $this->y[$i] + $direction[2] * $this->z[$i];
            $from = $t < $from ? $t : $from;
            $to = $t > $to ? $t : $to;
        }

        return [$from, $to];
    }

    public function hasArea(int $triangle): bool
    {
        [$x, $y, $z] = $this->cross($triangle);

        return $x * $x + $y * $y + $z * $z > 0.0;
    }

    /**
     * The direction a triangle looks, twice its area long (its two first edges' cross product).
     *
     * @return array{float, float, float}
     */
    public function cross(int $triangle): array
    {
        $a = $this->triangles[3 * $triangle];
        $b = $this->triangles[3 * $triangle + 1];
        $c = $this->triangles[3 * $triangle + 2];
        $ux = $this->x[$b] - $this->x[$a];
        $uy = $this->y[$b] - $this->y[$a];
        $uz = $this->z[$b] - $this->z[$a];
        $vx = $this->x[$c] - $this->x[$a];
        $vy = $this->y[$c] - $this->y[$a];
        $vz = $this->z[$c] - $this->z[$a];

        return [$uy * $vz - $uz * $vy, $uz * $vx - $ux * $vz, $ux * $vy - $uy * $vx];
    }

    /**
     * Scaled, then turned, then moved.
     *
     * @param array{float, float, float} $move
     * @param array{float, float, float, float} $turn quaternion x, y, z, w
     */
    public function transformed(float $scale, array $turn, array $move): self
    {
        $m = Quaternion::matrix($turn);
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        foreach ($x as $i => $px) {
            $px *= $scale;
            $py = $y[$i] * $scale;
            $pz = $z[$i] * $scale;
            $x[$i] = $m[0] * $px + $m[1] * $py + $m[2] * $pz + $move[0];
            $y[$i] = $m[3] * $px + $m[4] * $py + $m[5] * $pz + $move[1];
            $z[$i] = $m[6] * $px + $m[7] * $py + $m[8] * $pz + $move[2];
        }
        $normals = $this->normals;
        if ($normals !== null) {
            for ($k = 0, $end = count($normals); $k < $end; $k += 3) {
                [$nx, $ny, $nz] = [$normals[$k], $normals[$k + 1], $normals[$k + 2]];
                $normals[$k] = $m[0] * $nx + $m[1] * $ny + $m[2] * $nz;
                $normals[$k + 1] = $m[3] * $nx + $m[4] * $ny + $m[5] * $nz;
                $normals[$k + 2] = $m[6] * $nx + $m[7] * $ny + $m[8] * $nz;
            }
        }

        return new self($x, $y, $z, $this->triangles, $normals, $this->uvs, $this->looks);
    }

    /**
     * That many times as large along each axis.
     *
     * @param array{float, float, float} $by each above 0
     */
    public function scaled(array $by): self
    {
        if ($by === [1.0, 1.0, 1.0]) {
            return $this;
        }
        [$a, $b, $c] = $by;
        $x = $this->x;
        $y = $this->y;
        $z = $this->z;
        foreach ($x as $i => $px) {
            $x[$i] = $a * $px;
            $y[$i] *= $b;
            $z[$i] *= $c;
        }
        $normals = $this->normals;
        if ($normals !== null) {
            for ($k = 0, $end = count($normals); $k < $end; $k += 3) {
                [$nx, $ny, $nz] = [$normals[$k] / $a, $normals[$k + 1] / $b, $normals[$k + 2] / $c];
                $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $s = $length > 0.0 ? 1.0 / $length : 0.0;
                [$normals[$k], $normals[$k + 1], $normals[$k + 2]] = [$s * $nx, $s * $ny, $s * $nz];
            }
        }

        return new self($x, $y, $z, $this->triangles, $normals, $this->uvs, $this->looks);
    }

    /** @param array<int, float> $normals */
    public function withNormals(array $normals): self
    {
        return new self($this->x, $this->y, $this->z, $this->triangles, $normals, $this->uvs, $this->looks);
    }

    /**
     * Only some of the triangles, over the vertices they use.
     *
     * @param list<int> $faces
     */
    public function picked(array $faces): self
    {
        $number = $x = $y = $z = $triangles = $normals = $uvs = $looks = [];
        foreach ($faces as $f) {
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                $v = $this->triangles[$k];
                if (! isset($number[$v])) {
                    $number[$v] = count($x);
                    $x[] = $this->x[$v];
                    $y[] = $this->y[$v];
                    $z[] = $this->z[$v];
                }
                $triangles[] = $number[$v];
            }
            if ($this->normals !== null) {
                array_push($normals, ...array_slice($this->normals, 9 * $f, 9));
            }
            if ($this->uvs !== null) {
                array_push($uvs, ...array_slice($this->uvs, 6 * $f, 6));
            }
            $looks[] = $this->looks[$f] ?? self::LOOK_OUTER;
        }

        return new self($x, $y, $z, $triangles, $this->normals === null ? null : $normals, $this->uvs === null ? null : $uvs, $this->looks === null ? null : $looks);
    }

    /**
     * Several meshes as one; vertices stay in their order, mesh after mesh. Normals and texture coordinates are kept where
     * all have them.
     *
     * @param iterable<self> $meshes
     */
    public static function together(iterable $meshes): self
    {
        $x = $y = $z = $triangles = $normals = $uvs = $looks = [];
        foreach ($meshes as $mesh) {
            $first = count($x);
            array_push($x, ...$mesh->x);
            array_push($y, ...$mesh->y);
            array_push($z, ...$mesh->z);
            foreach ($mesh->triangles as $v) {
                $triangles[] = $first + $v;
            }
            array_push($normals, ...$mesh->normals ?? []);
            array_push($uvs, ...$mesh->uvs ?? []);
            array_push($looks, ...$mesh->looks ?? array_fill(0, $mesh->triangleCount(), self::LOOK_OUTER));
        }
        $corners = count($triangles);

        return new self($x, $y, $z, $triangles, count($normals) === 3 * $corners ? $normals : null, count($uvs) === 2 * $corners ? $uvs : null, $looks);
    }

    /** @return list<int> number of each vertex's place: those at the very same place, to the bit, have one (-0 counts as 0) */
    public function places(): array
    {
        $places = $known = [];
        foreach ($this->x as $v => $x) {
            [$y, $z] = [$this->y[$v], $this->z[$v]];
            // Not by adding 0.0, which opcache may leave out: -0 would stay.
            $places[] = $known[pack('d3', $x === 0.0 ? 0.0 : $x, $y === 0.0 ? 0.0 : $y, $z === 0.0 ? 0.0 : $z)] ??= count($known);
        }

        return $places;
    }

    /** With one vertex at each place, in the order of the first at each; triangles that are nothing then are left out. */
    public function joined(): self
    {
        $to = $this->places();
        $x = $y = $z = [];
        foreach ($to as $v => $place) {
            if ($place === count($x)) {
                $x[] = $this->x[$v] === 0.0 ? 0.0 : $this->x[$v];
                $y[] = $this->y[$v] === 0.0 ? 0.0 : $this->y[$v];
                $z[] = $this->z[$v] === 0.0 ? 0.0 : $this->z[$v];
            }
        }
        $triangles = $normals = $uvs = $looks = [];
        for ($k = 0, $end = count($this->triangles); $k < $end; $k += 3) {
            [$a, $b, $c] = [$to[$this->triangles[$k]], $to[$this->triangles[$k + 1]], $to[$this->triangles[$k + 2]]];
            if ($a === $b || $b === $c || $c === $a) {
                continue;
            }
            array_push($triangles, $a, $b, $c);
            if ($this->normals !== null) {
                array_push($normals, ...array_slice($this->normals, 3 * $k, 9));
            }
            if ($this->uvs !== null) {
                array_push($uvs, ...array_slice($this->uvs, 2 * $k, 6));
            }
            $looks[] = $this->looks[intdiv($k, 3)] ?? self::LOOK_OUTER;
        }

        return new self($x, $y, $z, $triangles, $this->normals === null ? null : $normals, $this->uvs === null ? null : $uvs, $this->looks === null ? null : $looks);
    }

    /**
     * With some triangles turned around: they look the other way.
     *
     * @param list<int> $faces
     */
    public function turned(array $faces): self
    {
        [$t, $n, $u] = [$this->triangles, $this->normals, $this->uvs];
        foreach ($faces as $f) {
            [$t[3 * $f + 1], $t[3 * $f + 2]] = [$t[3 * $f + 2], $t[3 * $f + 1]];
            if ($n !== null) {
                for ($k = 9 * $f; $k < 9 * $f + 9; $k++) {
                    $n[$k] = -$n[$k];
                }
                for ($k = 9 * $f + 3; $k < 9 * $f + 6; $k++) {
                    [$n[$k], $n[$k + 3]] = [$n[$k + 3], $n[$k]];
                }
            }
            if ($u !== null) {
                for ($k = 6 * $f + 2; $k < 6 * $f + 4; $k++) {
                    [$u[$k], $u[$k + 2]] = [$u[$k + 2], $u[$k]];
                }
            }
        }

        return new self($this->x, $this->y, $this->z, $t, $n, $u, $this->looks);
    }
}
