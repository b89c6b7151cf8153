<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Mesh\SurfaceMarch;
use YardBreak\Core\Mesh\TriangleMesh;
use YardBreak\Core\Mesh\TriangleOrder;

/**
 * How a cloth hangs together, at rest: its edges by their first vertex, its hinges, the mass of each vertex. The threads run
 * along the axes of the prop as they lie in the surface; edges across their diagonal give more.
 */
final readonly class Weave
{
    /**
     * With 1 a sheet laid on a cylinder has the energy of a plate (half the rigidity times the curvature squared, for each
     * area); left to itself it finds a shape with two thirds of it, hinges next to each other not being bent alike. Measured
     * on Peirce's cantilever with very small substeps.
     */
    private const ZIGZAG = 1.5;

    /** Flatter corners than this say nothing of the shape. */
    private const MOST_COTANGENT = 20.0;

    /**
     * @param array<int, float> $x at rest, m
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles three vertices each
     * @param array<int, float> $mass of each vertex, kg; 0: no triangle uses it
     * @param array<int, float> $area of each vertex, m2
     * @param list<int> $first edges of vertex a are from first[a] to first[a + 1]
     * @param list<int> $other
     * @param list<float> $length of each edge, m
     * @param list<float> $diagonal how far each edge runs across the threads, 0 to 1
     * @param list<float> $stiffness of each edge, N/m
     * @param list<list<int>> $hinge vertices of each hinge: the edge's ends, the corners across it; four lists
     * @param list<list<float>> $factor of each of them
     * @param list<float> $rest length of the sum of each hinge
     * @param list<float> $rigidity of each hinge, N/m
     * @param list<list<int>> $around triangles at each vertex, by the number of their first corner
     * @param TriangleOrder $order of its triangles
     */
    private function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $triangles,
        public array $mass,
        public array $area,
        public array $first,
        public array $other,
        public array $length,
        public array $diagonal,
        public array $stiffness,
        public array $hinge,
        public array $factor,
        public array $rest,
        public array $rigidity,
        public array $around,
        public TriangleOrder $order,
    ) {
    }

    public static function of(TriangleMesh $mesh, Fabric $fabric): self
    {
        [$x, $y, $z] = [array_values($mesh->x), array_values($mesh->y), array_values($mesh->z)];
        $triangles = array_values($mesh->triangles);
        $area = array_fill(0, count($x), 0.0);
        /** @var array<int, array<int, list<int>>> $sides triangles at each edge, by its lower and its higher vertex */
        $sides = array_fill(0, count($x), []);
        $areas = [];
        $around = array_fill(0, count($x), []);
        for ($t = 0, $count = intdiv(count($triangles), 3); $t < $count; $t++) {
            [$nx, $ny, $nz] = $mesh->cross($t);
            $areas[$t] = 0.5 * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
            for ($e = 0; $e < 3; $e++) {
                $a = $triangles[3 * $t + $e];
                $b = $triangles[3 * $t + ($e + 1) % 3];
                $area[$a] += $areas[$t] / 3.0;
                $around[$a][] = 3 * $t;
                if ($a !== $b) {
                    $sides[min($a, $b)][max($a, $b)][] = $t;
                }
            }
        }
        $first = $other = $length = $diagonal = $stiffness = $rest = $rigidity = [];
        $hinge = $factor = [[], [], [], []];
        foreach ($sides as $a => $edges) {
            $first[] = count($other);
            ksort($edges);
            foreach ($edges as $b => $faces) {
                $l2 = ($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2;
                $beside = array_sum(array_map(static fn (int $t): float => $areas[$t], $faces));
                if ($l2 <= 0.0 || $beside <= 0.0) {
                    continue;
                }
                $across = self::across($mesh, $faces, [$x[$b] - $x[$a], $y[$b] - $y[$a], $z[$b] - $z[$a]]);
                $other[] = $b;
                $length[] = sqrt($l2);
                $diagonal[] = $across;
                // Van Gelder 1998, "Approximate simulation of elastic membranes by triangulated spring meshes".
                $stiffness[] = $fabric->stretch * (1.0 - $across + $fabric->shear * $across) * $beside / $l2;
                if (count($faces) === 2 && $fabric->bend > 0.0) {
                    [$c, $d] = [self::third($triangles, $faces[0], $a, $b), self::third($triangles, $faces[1], $a, $b)];
                    foreach ([$a, $b, $c, $d] as $k => $v) {
                        $hinge[$k][] = $v;
                    }
                    $factors = self::factors($mesh, $a, $b, $c, $d);
                    foreach ($factors as $k => $f) {
                        $factor[$k][] = $f;
                    }
                    $rest[] = self::sum($mesh, [$a, $b, $c, $d], $factors);
                    $rigidity[] = self::ZIGZAG * $fabric->bend / $beside;
                }
            }
        }
        $first[] = count($other);

        return new self(
            $x,
            $y,
            $z,
            $triangles,
            array_map(static fn (float $of): float => $fabric->mass * $of, $area),
            $area,
            $first,
            $other,
            $length,
            $diagonal,
            $stiffness,
            $hinge,
            array_values($factor),
            $rest,
            $rigidity,
            $around,
            new TriangleOrder(new TriangleMesh($x, $y, $z, $triangles)),
        );
    }

    public function count(): int
    {
        return count($this->x);
    }

    /**
     * @param list<int> $triangles by their first corner
     *
     * @return list<int> their vertices
     */
    public function cornersOf(array $triangles): array
    {
        $corners = [];
        foreach ($triangles as $t) {
            array_push($corners, $this->triangles[$t], $this->triangles[$t + 1], $this->triangles[$t + 2]);
        }

        return $corners;
    }

    /** Ways over it at rest. */
    public function fronts(): SurfaceMarch
    {
        return SurfaceMarch::over(new TriangleMesh($this->x, $this->y, $this->z, $this->triangles));
    }

    /** @return float m, 0 if there is no edge */
    public function meanEdge(): float
    {
        return $this->length === [] ? 0.0 : array_sum($this->length) / count($this->length);
    }

    /**
     * @param list<int> $triangles
     */
    private static function third(array $triangles, int $face, int $a, int $b): int
    {
        foreach ([0, 1] as $k) {
            $v = $triangles[3 * $face + $k];
            if ($v !== $a && $v !== $b) {
                return $v;
            }
        }

        return $triangles[3 * $face + 2];
    }

    /**
     * How far an edge runs across the threads: the square of the sine of twice its angle with them.
     *
     * @param list<int> $faces beside it
     * @param array{float, float, float} $edge
     */
    private static function across(TriangleMesh $mesh, array $faces, array $edge): float
    {
        $n = [0.0, 0.0, 0.0];
        foreach ($faces as $face) {
            [$nx, $ny, $nz] = $mesh->cross($face);
            $n = [$n[0] + $nx, $n[1] + $ny, $n[2] + $nz];
        }
        $n2 = $n[0] ** 2 + $n[1] ** 2 + $n[2] ** 2;
        if ($n2 <= 0.0) {
            return 0.0;
        }
        // Along the axis that lies flattest in the surface.
        $axis = abs($n[0]) <= abs($n[1]) && abs($n[0]) <= abs($n[2]) ? 0 : (abs($n[1]) <= abs($n[2]) ? 1 : 2);
        $thread = [-$n[0] * $n[$axis] / $n2, -$n[1] * $n[$axis] / $n2, -$n[2] * $n[$axis] / $n2];
        $thread[$axis] += 1.0;
        $dot = $thread[0] * $edge[0] + $thread[1] * $edge[1] + $thread[2] * $edge[2];
        $cosine = $dot * $dot / (($thread[0] ** 2 + $thread[1] ** 2 + $thread[2] ** 2) * ($edge[0] ** 2 + $edge[1] ** 2 + $edge[2] ** 2));
        $twice = 2.0 * $cosine - 1.0;

        return max(0.0, 1.0 - $twice * $twice);
    }

    /** @return list<float> of a, b, c and d; their sum is 0, so that where it lies does not matter */
    private static function factors(TriangleMesh $mesh, int $a, int $b, int $c, int $d): array
    {
        $atA = self::cotangent($mesh, $a, $b, $c);
        $atA2 = self::cotangent($mesh, $a, $b, $d);
        $atB = self::cotangent($mesh, $b, $a, $c);
        $atB2 = self::cotangent($mesh, $b, $a, $d);

        return [$atB + $atB2, $atA + $atA2, -$atA - $atB, -$atA2 - $atB2];
    }

    private static function cotangent(TriangleMesh $mesh, int $at, int $b, int $c): float
    {
        $ux = $mesh->x[$b] - $mesh->x[$at];
        $uy = $mesh->y[$b] - $mesh->y[$at];
        $uz = $mesh->z[$b] - $mesh->z[$at];
        $vx = $mesh->x[$c] - $mesh->x[$at];
        $vy = $mesh->y[$c] - $mesh->y[$at];
        $vz = $mesh->z[$c] - $mesh->z[$at];
        $dot = $ux * $vx + $uy * $vy + $uz * $vz;
        $cross = sqrt(($uy * $vz - $uz * $vy) ** 2 + ($uz * $vx - $ux * $vz) ** 2 + ($ux * $vy - $uy * $vx) ** 2);
        if ($cross <= abs($dot) / self::MOST_COTANGENT) {
            return $dot < 0.0 ? -self::MOST_COTANGENT : self::MOST_COTANGENT;
        }

        return $dot / $cross;
    }

    /**
     * @param list<int> $vertices
     * @param list<float> $factors
     */
    private static function sum(TriangleMesh $mesh, array $vertices, array $factors): float
    {
        $sum = [0.0, 0.0, 0.0];
        $size = 0.0;
        foreach ($vertices as $k => $v) {
            $sum = [$sum[0] + $factors[$k] * $mesh->x[$v], $sum[1] + $factors[$k] * $mesh->y[$v], $sum[2] + $factors[$k] * $mesh->z[$v]];
            $size += abs($factors[$k]) * (abs($mesh->x[$v]) + abs($mesh->y[$v]) + abs($mesh->z[$v]));
        }

        return self::bend($sum[0], $sum[1], $sum[2], $size);
    }

    /**
     * How far a hinge is bent: what is flat but for rounding is flat.
     *
     * @param float $size of what its sum is made of
     */
    public static function bend(float $x, float $y, float $z, float $size): float
    {
        $length = sqrt($x ** 2 + $y ** 2 + $z ** 2);

        return $length > 1e-9 * $size ? $length : 0.0;
    }
}
