<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * Normals of a mesh whose vertices move by themselves: corners of a vertex that had one normal at rest go on sharing one, of
 * all triangles around that it is shared with, the larger ones counting more; a crease stays a crease.
 */
final class BentNormals
{
    /** @var list<int> which normal each corner has */
    public readonly array $shared;

    public readonly int $count;

    /** @param TriangleMesh $rest with normals */
    public function __construct(private readonly TriangleMesh $rest)
    {
        $known = $shared = [];
        foreach ($rest->triangles as $k => $v) {
            $name = $v . ($rest->normals === null ? '' : pack('g3', $rest->normals[3 * $k], $rest->normals[3 * $k + 1], $rest->normals[3 * $k + 2]));
            $shared[] = $known[$name] ??= count($known);
        }
        $this->shared = $shared;
        $this->count = count($known);
    }

    /** @return list<float> three numbers a normal, unit, as they are at rest */
    public function resting(): array
    {
        if ($this->rest->normals === null) {
            $places = [];
            foreach ($this->rest->x as $v => $x) {
                array_push($places, $x, $this->rest->y[$v], $this->rest->z[$v]);
            }

            return $this->at($places);
        }
        $normals = [];
        foreach ($this->shared as $k => $n) {
            // Numbers come in their order.
            for ($axis = 0; $axis < 3; $axis++) {
                $normals[3 * $n + $axis] = $this->rest->normals[3 * $k + $axis];
            }
        }

        return array_values($normals);
    }

    /**
     * @param array<int, float|int> $places three numbers a vertex
     *
     * @return list<float> three numbers a normal, unit
     */
    public function at(array $places): array
    {
        return self::of($places, $this->rest->triangles, $this->shared, $this->count, 1.0);
    }

    /**
     * @param array<int, float|int> $places three numbers a vertex
     * @param array<int, int> $triangles
     * @param list<int> $shared which normal each corner has
     * @param float $none z of a normal where there is none
     *
     * @return list<float> three numbers a normal, unit
     */
    public static function of(array $places, array $triangles, array $shared, int $count, float $none): array
    {
        $normals = array_fill(0, 3 * $count, 0.0);
        for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
            $a = 3 * $triangles[$k];
            $b = 3 * $triangles[$k + 1];
            $c = 3 * $triangles[$k + 2];
            $ux = $places[$b] - $places[$a];
            $uy = $places[$b + 1] - $places[$a + 1];
            $uz = $places[$b + 2] - $places[$a + 2];
            $vx = $places[$c] - $places[$a];
            $vy = $places[$c + 1] - $places[$a + 1];
            $vz = $places[$c + 2] - $places[$a + 2];
            $nx = $uy * $vz - $uz * $vy;
            $ny = $uz * $vx - $ux * $vz;
            $nz = $ux * $vy - $uy * $vx;
            for ($corner = $k; $corner < $k + 3; ++$corner) {
                $o = 3 * $shared[$corner];
                $normals[$o] += $nx;
                $normals[$o + 1] += $ny;
                $normals[$o + 2] += $nz;
            }
        }
        for ($o = 0, $end = count($normals); $o < $end; $o += 3) {
            $l = sqrt($normals[$o] * $normals[$o] + $normals[$o + 1] * $normals[$o + 1] + $normals[$o + 2] * $normals[$o + 2]);
            if ($l > 0.0) {
                $normals[$o] /= $l;
                $normals[$o + 1] /= $l;
                $normals[$o + 2] /= $l;
            } else {
                $normals[$o + 2] = $none;
            }
        }

        return array_values($normals);
    }

    /**
     * The mesh with its vertices elsewhere.
     *
     * @param array<int, float|int> $places three numbers a vertex
     */
    public function bent(array $places): TriangleMesh
    {
        $x = $y = $z = $corners = [];
        for ($k = 0, $end = 3 * $this->rest->vertexCount(); $k < $end; $k += 3) {
            $x[] = (float) $places[$k];
            $y[] = (float) $places[$k + 1];
            $z[] = (float) $places[$k + 2];
        }
        $normals = $this->at($places);
        foreach ($this->shared as $n) {
            array_push($corners, $normals[3 * $n], $normals[3 * $n + 1], $normals[3 * $n + 2]);
        }

        return new TriangleMesh($x, $y, $z, $this->rest->triangles, $corners, $this->rest->uvs, $this->rest->looks);
    }
}
