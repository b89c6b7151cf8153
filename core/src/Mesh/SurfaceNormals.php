<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Normals that tell inside from outside at every part of a triangle: of a face its own, of an edge the sum of its faces', of a
 * corner the sum weighted by angle (Baerentzen and Aanaes 2005, "Signed distance computation using the angle weighted
 * pseudonormal"). Vertices in the same place count as one. Made anew each step for what bends, so all arrays are flat.
 */
final class SurfaceNormals
{
    /** Surfaces that turn by more than this are sharp; its cosine. */
    private const SHARP = 0.76;

    /** @var array<int, float> three numbers a triangle */
    private array $face = [];

    /** @var array<int, float> three numbers a place */
    private array $corner = [];

    /** @var array<int, int> number of each edge, by its two places: the lower times the count of vertices, and the other */
    private array $name = [];

    /** @var array<int, float> three numbers an edge */
    private array $edge = [];

    /** @var array<int, int> an edge's ends and the corner across it, as its last triangle has them, and its last two triangles */
    private array $sides = [];

    /** @var array<int, int> how many triangles each edge has */
    private array $count = [];

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
        $normals->add();

        return $normals;
    }

    private function add(): void
    {
        $x = $this->mesh->x;
        $y = $this->mesh->y;
        $z = $this->mesh->z;
        $triangles = $this->mesh->triangles;
        $same = $this->same;
        $vertices = count($x);
        $face = $name = $edge = $sides = $many = [];
        $corner = array_fill(0, 3 * $vertices, 0.0);
        $edges = 0;
        for ($k = 0, $t = 0, $end = count($triangles); $k < $end; $k += 3, $t++) {
            $a = $same[$triangles[$k]];
            $b = $same[$triangles[$k + 1]];
            $c = $same[$triangles[$k + 2]];
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            $s = $l > 0.0 ? 1.0 / $l : 0.0;
            $face[] = $nx *= $s;
            $face[] = $ny *= $s;
            $face[] = $nz *= $s;
            for ($side = 0; $side < 3; $side++) {
                $ux = $x[$b] - $x[$a];
                $uy = $y[$b] - $y[$a];
                $uz = $z[$b] - $z[$a];
                $vx = $x[$c] - $x[$a];
                $vy = $y[$c] - $y[$a];
                $vz = $z[$c] - $z[$a];
                $cx = $uy * $vz - $uz * $vy;
                $cy = $uz * $vx - $ux * $vz;
                $cz = $ux * $vy - $uy * $vx;
                $angle = atan2(sqrt($cx * $cx + $cy * $cy + $cz * $cz), $ux * $vx + $uy * $vy + $uz * $vz);
                $i = 3 * $a;
                $corner[$i] += $angle * $nx;
                $corner[$i + 1] += $angle * $ny;
                $corner[$i + 2] += $angle * $nz;
                $key = $a < $b ? $a * $vertices + $b : $b * $vertices + $a;
                $e = $name[$key] ?? -1;
                if ($e < 0) {
                    $name[$key] = $edges++;
                    $edge[] = 0.0 + $nx;
                    $edge[] = 0.0 + $ny;
                    $edge[] = 0.0 + $nz;
                    $sides[] = $a;
                    $sides[] = $b;
                    $sides[] = $c;
                    $sides[] = $t;
                    $sides[] = $t;
                    $many[] = 1;
                } else {
                    $edge[3 * $e] += $nx;
                    $edge[3 * $e + 1] += $ny;
                    $edge[3 * $e + 2] += $nz;
                    $e *= 5;
                    $sides[$e] = $a;
                    $sides[$e + 1] = $b;
                    $sides[$e + 2] = $c;
                    $sides[$e + 3] = $sides[$e + 4];
                    $sides[$e + 4] = $t;
                    $many[intdiv($e, 5)]++;
                }
                // The next corner is the first one.
                $next = $b;
                $b = $c;
                $c = $a;
                $a = $next;
            }
        }
        $this->face = $face;
        $this->corner = $corner;
        $this->name = $name;
        $this->edge = $edge;
        $this->sides = $sides;
        $this->count = $many;
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
        foreach ($this->sharp() as $e) {
            [$a, $b] = [$this->sides[5 * $e], $this->sides[5 * $e + 1]];
            [$nx, $ny, $nz] = [$this->edge[3 * $e], $this->edge[3 * $e + 1], $this->edge[3 * $e + 2]];
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
            $ridges[] = [[$m->x[$a], $m->y[$a], $m->z[$a]], [$m->x[$b], $m->y[$b], $m->z[$b]], [$nx / $l, $ny / $l, $nz / $l]];
        }

        return $ridges;
    }

    /** @return list<int> triangles beside sharp edges that stand out */
    public function brink(): array
    {
        $beside = [];
        foreach ($this->sharp() as $e) {
            $beside[$this->sides[5 * $e + 3]] = $beside[$this->sides[5 * $e + 4]] = true;
        }
        ksort($beside);

        return array_keys($beside);
    }

    /** @return list<int> sharp edges that stand out */
    private function sharp(): array
    {
        $m = $this->mesh;
        $face = $this->face;
        $sharp = [];
        foreach ($this->count as $e => $faces) {
            if ($faces !== 2) {
                continue;
            }
            [$a, , $c, $one, $other] = array_slice($this->sides, 5 * $e, 5);
            [$px, $py, $pz] = [$face[3 * $one], $face[3 * $one + 1], $face[3 * $one + 2]];
            // The corner across belongs to the second face: below the first one if the surface turns away.
            $below = $px * ($m->x[$c] - $m->x[$a]) + $py * ($m->y[$c] - $m->y[$a]) + $pz * ($m->z[$c] - $m->z[$a]);
            if ($px * $face[3 * $other] + $py * $face[3 * $other + 1] + $pz * $face[3 * $other + 2] < self::SHARP && $below < 0.0) {
                $sharp[] = $e;
            }
        }

        return $sharp;
    }

    /**
     * @param list<int> $triangles
     *
     * @return list<float> 21 numbers each: normals of the corners a, b, c, the edges ab, bc, ac, and the face
     */
    public function of7(array $triangles): array
    {
        $same = $this->same;
        $of = $this->mesh->triangles;
        $vertices = count($same);
        $corner = $this->corner;
        $edge = $this->edge;
        $name = $this->name;
        $face = $this->face;
        $normals = [];
        foreach ($triangles as $t) {
            $a = $same[$of[3 * $t]];
            $b = $same[$of[3 * $t + 1]];
            $c = $same[$of[3 * $t + 2]];
            foreach ([3 * $a, 3 * $b, 3 * $c] as $k) {
                $normals[] = $corner[$k];
                $normals[] = $corner[$k + 1];
                $normals[] = $corner[$k + 2];
            }
            foreach ([$a < $b ? $a * $vertices + $b : $b * $vertices + $a, $b < $c ? $b * $vertices + $c : $c * $vertices + $b, $a < $c ? $a * $vertices + $c : $c * $vertices + $a] as $key) {
                $k = 3 * $name[$key];
                $normals[] = $edge[$k];
                $normals[] = $edge[$k + 1];
                $normals[] = $edge[$k + 2];
            }
            $normals[] = $face[3 * $t];
            $normals[] = $face[3 * $t + 1];
            $normals[] = $face[3 * $t + 2];
        }

        return $normals;
    }
}
