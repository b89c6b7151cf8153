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
    public const SHARP = 0.76;

    /** @var array<int, float> three numbers a triangle */
    private array $face = [];

    /** @var array<int, float> three numbers a place */
    private array $corner = [];

    /** @var array<int, int> number of each edge, by its two places: the lower times the count of vertices, and the other */
    private array $name = [];

    /** @var array<int, float> three numbers an edge */
    private array $edge = [];

    /** @var array<int, int> the first vertex in the same place */
    private array $same = [];

    /** @var array<int, array{int, int, int, int, int}>|null known once asked for */
    private ?array $sharp = null;

    private function __construct(private readonly TriangleMesh $mesh)
    {
    }

    public static function on(TriangleMesh $mesh): self
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
        $face = $name = $edge = [];
        $corner = array_fill(0, 3 * $vertices, 0.0);
        $edges = 0;
        for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
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
            // The cross product of two sides is as long at each corner; their dot product is what is left of a side.
            $dot = $ux * $vx + $uy * $vy + $uz * $vz;
            $angle = atan2($l, $dot);
            $i = 3 * $a;
            $corner[$i] += $angle * $nx;
            $corner[$i + 1] += $angle * $ny;
            $corner[$i + 2] += $angle * $nz;
            $angle = atan2($l, $ux * $ux + $uy * $uy + $uz * $uz - $dot);
            $i = 3 * $b;
            $corner[$i] += $angle * $nx;
            $corner[$i + 1] += $angle * $ny;
            $corner[$i + 2] += $angle * $nz;
            $angle = atan2($l, $vx * $vx + $vy * $vy + $vz * $vz - $dot);
            $i = 3 * $c;
            $corner[$i] += $angle * $nx;
            $corner[$i + 1] += $angle * $ny;
            $corner[$i + 2] += $angle * $nz;
            for ($side = 0; $side < 3; ++$side) {
                $key = $a < $b ? $a * $vertices + $b : $b * $vertices + $a;
                $e = $name[$key] ?? -1;
                if ($e < 0) {
                    $name[$key] = $edges++;
                    $edge[] = $nx;
                    $edge[] = $ny;
                    $edge[] = $nz;
                } else {
                    $e *= 3;
                    $edge[$e] += $nx;
                    $edge[$e + 1] += $ny;
                    $edge[$e + 2] += $nz;
                }
                $next = $a;
                $a = $b;
                $b = $c;
                $c = $next;
            }
        }
        $this->face = $face;
        $this->corner = $corner;
        $this->name = $name;
        $this->edge = $edge;
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
        foreach ($this->sharp() as $e => [$a, $b]) {
            [$nx, $ny, $nz] = [$this->edge[3 * $e], $this->edge[3 * $e + 1], $this->edge[3 * $e + 2]];
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
            $ridges[] = [[$m->x[$a], $m->y[$a], $m->z[$a]], [$m->x[$b], $m->y[$b], $m->z[$b]], [$nx / $l, $ny / $l, $nz / $l]];
        }

        return $ridges;
    }

    /**
     * @param list<int> $vertices
     *
     * @return list<array{array{float, float, float}, array{float, float, float}}> where each is, and outward
     */
    public function at(array $vertices): array
    {
        $places = [];
        foreach ($vertices as $v) {
            [$nx, $ny, $nz] = [$this->corner[3 * $v], $this->corner[3 * $v + 1], $this->corner[3 * $v + 2]];
            $l = sqrt($nx * $nx + $ny * $ny + $nz * $nz) + 1e-30;
            $places[] = [[$this->mesh->x[$v], $this->mesh->y[$v], $this->mesh->z[$v]], [$nx / $l, $ny / $l, $nz / $l]];
        }

        return $places;
    }

    /**
     * @param list<int> $vertices tips
     *
     * @return list<int> triangles beside sharp edges that stand out, and around these
     */
    public function brink(array $vertices): array
    {
        $beside = [];
        $tips = array_flip($vertices);
        foreach ($tips === [] ? [] : $this->mesh->triangles as $c => $v) {
            if (isset($tips[$this->same[$v]])) {
                $beside[intdiv($c, 3)] = true;
            }
        }
        foreach ($this->sharp() as [, , , $one, $other]) {
            $beside[$one] = $beside[$other] = true;
        }
        ksort($beside);

        return array_keys($beside);
    }

    /** @return array<int, array{int, int, int, int, int}> by number: ends of each sharp edge that stands out, the corner across it in its second triangle, both triangles */
    private function sharp(): array
    {
        if ($this->sharp !== null) {
            return $this->sharp;
        }
        $m = $this->mesh;
        $face = $this->face;
        $sharp = [];
        foreach ($this->beside() as $e => [$a, $b, $c, $faces]) {
            if (count($faces) !== 2) {
                continue;
            }
            [$one, $other] = $faces;
            [$px, $py, $pz] = [$face[3 * $one], $face[3 * $one + 1], $face[3 * $one + 2]];
            // The corner across belongs to the second face: below the first one if the surface turns away.
            $below = $px * ($m->x[$c] - $m->x[$a]) + $py * ($m->y[$c] - $m->y[$a]) + $pz * ($m->z[$c] - $m->z[$a]);
            if ($px * $face[3 * $other] + $py * $face[3 * $other + 1] + $pz * $face[3 * $other + 2] < self::SHARP && $below < 0.0) {
                $sharp[$e] = [$a, $b, $c, $one, $other];
            }
        }

        return $this->sharp = $sharp;
    }

    /** @return array<int, array{int, int, int, list<int>}> each edge's ends and the corner across it, as its last triangle has them, and its triangles */
    private function beside(): array
    {
        $triangles = $this->mesh->triangles;
        $beside = [];
        for ($t = 0, $end = intdiv(count($triangles), 3); $t < $end; $t++) {
            [$a, $b, $c] = [$this->same[$triangles[3 * $t]], $this->same[$triangles[3 * $t + 1]], $this->same[$triangles[3 * $t + 2]]];
            foreach ([[$a, $b, $c], [$b, $c, $a], [$c, $a, $b]] as [$from, $to, $across]) {
                $e = $this->name[$this->key($from, $to)];
                $beside[$e] = [$from, $to, $across, [...$beside[$e][3] ?? [], $t]];
            }
        }

        return $beside;
    }

    private function key(int $a, int $b): int
    {
        return $a < $b ? $a * count($this->same) + $b : $b * count($this->same) + $a;
    }

    /**
     * @param int $part of a triangle: its corners a, b, c, its edges ab, bc, ac, its face
     *
     * @return array{float, float, float} not unit
     */
    public function of(int $triangle, int $part): array
    {
        $of = $this->mesh->triangles;
        [$a, $b, $c] = [$this->same[$of[3 * $triangle]], $this->same[$of[3 * $triangle + 1]], $this->same[$of[3 * $triangle + 2]]];
        [$list, $k] = match ($part) {
            0 => [$this->corner, $a],
            1 => [$this->corner, $b],
            2 => [$this->corner, $c],
            3 => [$this->edge, $this->name[$this->key($a, $b)]],
            4 => [$this->edge, $this->name[$this->key($b, $c)]],
            5 => [$this->edge, $this->name[$this->key($a, $c)]],
            default => [$this->face, $triangle],
        };

        return [$list[3 * $k], $list[3 * $k + 1], $list[3 * $k + 2]];
    }
}
