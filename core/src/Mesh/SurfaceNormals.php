<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Normals that tell inside from outside at every part of a triangle: of a face its own, of an edge the sum of its faces', of a
 * corner the sum weighted by angle (Baerentzen and Aanaes 2005, "Signed distance computation using the angle weighted
 * pseudonormal"). Vertices in the same place count as one.
 */
final class SurfaceNormals
{
    /** @var list<array{float, float, float}> of each triangle */
    private array $face = [];

    /** Surfaces that turn by more than this are sharp; its cosine. */
    private const SHARP = 0.76;

    /** @var array<string, array{float, float, float}> by the two places */
    private array $edge = [];

    /** @var array<string, array{int, int, int, list<int>}> the edge's ends, a corner across it, its triangles */
    private array $sides = [];

    /** @var array<int, array{float, float, float}> by place */
    private array $corner = [];

    /** @var array<int, int> the first vertex in the same place */
    private array $same = [];

    private function __construct(private readonly TriangleMesh $mesh)
    {
    }

    public static function of(TriangleMesh $mesh): self
    {
        $normals = new self($mesh);
        $known = [];
        foreach ($mesh->x as $v => $x) {
            $normals->same[$v] = $known[pack('e3', $x, $mesh->y[$v], $mesh->z[$v])] ??= $v;
        }
        for ($t = 0, $count = $mesh->triangleCount(); $t < $count; $t++) {
            $normals->add($t);
        }

        return $normals;
    }

    private function add(int $t): void
    {
        [$nx, $ny, $nz] = $this->mesh->cross($t);
        $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        $s = $l > 0.0 ? 1.0 / $l : 0.0;
        $n = [$nx * $s, $ny * $s, $nz * $s];
        $this->face[] = $n;
        $v = $this->places($t);
        foreach ([0, 1, 2] as $k) {
            [$a, $b, $c] = [$v[$k], $v[($k + 1) % 3], $v[($k + 2) % 3]];
            $angle = $this->angle($a, $b, $c);
            $at = $this->corner[$a] ?? [0.0, 0.0, 0.0];
            $this->corner[$a] = [$at[0] + $angle * $n[0], $at[1] + $angle * $n[1], $at[2] + $angle * $n[2]];
            $name = self::name($a, $b);
            $at = $this->edge[$name] ?? [0.0, 0.0, 0.0];
            $this->edge[$name] = [$at[0] + $n[0], $at[1] + $n[1], $at[2] + $n[2]];
            $this->sides[$name] = [$a, $b, $c, [...$this->sides[$name][3] ?? [], $t]];
        }
    }

    /** @return array{int, int, int} */
    private function places(int $t): array
    {
        $v = $this->mesh->triangles;

        return [$this->same[$v[3 * $t]], $this->same[$v[3 * $t + 1]], $this->same[$v[3 * $t + 2]]];
    }

    private static function name(int $a, int $b): string
    {
        return $a < $b ? "{$a} {$b}" : "{$b} {$a}";
    }

    private function angle(int $a, int $b, int $c): float
    {
        $m = $this->mesh;
        [$ux, $uy, $uz] = [$m->x[$b] - $m->x[$a], $m->y[$b] - $m->y[$a], $m->z[$b] - $m->z[$a]];
        [$vx, $vy, $vz] = [$m->x[$c] - $m->x[$a], $m->y[$c] - $m->y[$a], $m->z[$c] - $m->z[$a]];
        $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);

        return atan2($cross, $ux * $vx + $uy * $vy + $uz * $vz);
    }

    /**
     * Edges at which the surface turns away sharply, from end to end, with the direction outward.
     *
     * @return list<array{array{float, float, float}, array{float, float, float}, array{float, float, float}}>
     */
    public function ridges(): array
    {
        $m = $this->mesh;
        $ridges = [];
        foreach ($this->sides as $name => [$a, $b, $c, $faces]) {
            if (count($faces) !== 2) {
                continue;
            }
            [$p, $q] = [$this->face[$faces[0]], $this->face[$faces[1]]];
            // The corner across belongs to the second face: below the first one if the surface turns away.
            $below = $p[0] * ($m->x[$c] - $m->x[$a]) + $p[1] * ($m->y[$c] - $m->y[$a]) + $p[2] * ($m->z[$c] - $m->z[$a]);
            if ($p[0] * $q[0] + $p[1] * $q[1] + $p[2] * $q[2] < self::SHARP && $below < 0.0) {
                $n = $this->edge[$name];
                $l = sqrt($n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2) + 1e-30;
                $ridges[] = [[$m->x[$a], $m->y[$a], $m->z[$a]], [$m->x[$b], $m->y[$b], $m->z[$b]], [$n[0] / $l, $n[1] / $l, $n[2] / $l]];
            }
        }

        return $ridges;
    }

    /** @return list<float> normals of the corners a, b, c, the edges ab, bc, ac, and the face of a triangle */
    public function of7(int $t): array
    {
        [$a, $b, $c] = $this->places($t);

        return [
            ...$this->corner[$a], ...$this->corner[$b], ...$this->corner[$c],
            ...$this->edge[self::name($a, $b)], ...$this->edge[self::name($b, $c)], ...$this->edge[self::name($a, $c)],
            ...$this->face[$t],
        ];
    }
}
