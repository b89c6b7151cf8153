<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * The same surface in triangles whose edges are no longer than a length: long edges are halved, of all triangles at once, so that
 * neighbours stay neighbours; what two halved edges leave of a triangle is parted along its shorter diagonal. Vertices keep
 * their numbers, new ones follow. Normals, looks and texture coordinates are left behind.
 */
final class EdgeSplit
{
    private const ROUNDS = 12;

    /** @param float $longest m */
    public static function of(TriangleMesh $mesh, float $longest): TriangleMesh
    {
        [$x, $y, $z, $triangles] = [$mesh->x, $mesh->y, $mesh->z, $mesh->triangles];
        for ($round = 0; $round < self::ROUNDS; $round++) {
            $middle = [];
            $out = [];
            $halved = function (int $a, int $b) use (&$middle, &$x, &$y, &$z, $longest): int {
                $name = $a < $b ? "{$a} {$b}" : "{$b} {$a}";
                if (! isset($middle[$name])) {
                    $middle[$name] = -1;
                    if (($x[$a] - $x[$b]) ** 2 + ($y[$a] - $y[$b]) ** 2 + ($z[$a] - $z[$b]) ** 2 > $longest * $longest) {
                        $middle[$name] = count($x);
                        $x[] = 0.5 * ($x[$a] + $x[$b]);
                        $y[] = 0.5 * ($y[$a] + $y[$b]);
                        $z[] = 0.5 * ($z[$a] + $z[$b]);
                    }
                }

                return $middle[$name];
            };
            for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
                [$a, $b, $c] = [$triangles[$k], $triangles[$k + 1], $triangles[$k + 2]];
                [$p, $q, $r] = [$halved($a, $b), $halved($b, $c), $halved($c, $a)];
                // Turned until its whole edges come last.
                for ($turn = 0; $turn < 2 && ($p < 0 || ($q < 0 && $r >= 0)); $turn++) {
                    [$a, $b, $c, $p, $q, $r] = [$b, $c, $a, $q, $r, $p];
                }
                if ($p < 0) {
                    array_push($out, $a, $b, $c);
                } elseif ($q < 0) {
                    array_push($out, $a, $p, $c, $p, $b, $c);
                } elseif ($r < 0) {
                    array_push($out, $p, $b, $q);
                    $first = ($x[$a] - $x[$q]) ** 2 + ($y[$a] - $y[$q]) ** 2 + ($z[$a] - $z[$q]) ** 2;
                    $other = ($x[$p] - $x[$c]) ** 2 + ($y[$p] - $y[$c]) ** 2 + ($z[$p] - $z[$c]) ** 2;
                    array_push($out, ...($first < $other ? [$a, $p, $q, $a, $q, $c] : [$a, $p, $c, $p, $q, $c]));
                } else {
                    array_push($out, $a, $p, $r, $p, $b, $q, $r, $q, $c, $p, $q, $r);
                }
            }
            if (count($out) === count($triangles)) {
                break;
            }
            $triangles = $out;
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    /** The length at which a surface comes to about so many triangles. */
    public static function length(TriangleMesh $mesh, int $triangles): float
    {
        $area = 0.0;
        for ($f = 0, $end = $mesh->triangleCount(); $f < $end; $f++) {
            [$nx, $ny, $nz] = $mesh->cross($f);
            $area += 0.5 * sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        }

        // Halving leaves edges between half of it and all of it.
        return 2.0 * sqrt($area / (0.433 * $triangles));
    }
}
