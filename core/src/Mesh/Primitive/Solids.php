<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh\Primitive;

use YardBreak\Core\Mesh\TriangleMesh;

/** Simple closed solids about the origin, y up, in metres. */
final class Solids
{
    /** @param int $divisions squares along each side of a face */
    public static function box(float $width, float $height, float $depth, int $divisions = 1): TriangleMesh
    {
        return self::fromCube($divisions, static fn (float $u, float $v, float $w): array => [
            0.5 * $width * $u, 0.5 * $height * $v, 0.5 * $depth * $w,
        ]);
    }

    /** A ball of even quads: a divided cube whose grid lines are spread by equal angles, pushed out to the sphere. */
    public static function ball(float $radius, int $divisions = 16): TriangleMesh
    {
        return self::fromCube($divisions, static function (float $u, float $v, float $w) use ($radius): array {
            $u = tan(0.25 * M_PI * $u);
            $v = tan(0.25 * M_PI * $v);
            $w = tan(0.25 * M_PI * $w);
            $s = $radius / sqrt($u * $u + $v * $v + $w * $w);

            return [$u * $s, $v * $s, $w * $s];
        });
    }

    public static function cylinder(float $radius, float $height, int $segments = 48, int $rings = 8): TriangleMesh
    {
        $outline = [[0.0, -0.5 * $height]];
        for ($k = 0; $k <= $rings; $k++) {
            $outline[] = [$radius, $height * ($k / $rings - 0.5)];
        }
        $outline[] = [0.0, 0.5 * $height];

        return Lathe::turn($outline, $segments);
    }

    public static function cone(float $radius, float $height, int $segments = 48, int $rings = 8): TriangleMesh
    {
        $outline = [[0.0, -0.5 * $height]];
        for ($k = 0; $k <= $rings; $k++) {
            $outline[] = [$radius * (1.0 - $k / $rings), $height * ($k / $rings - 0.5)];
        }

        return Lathe::turn($outline, $segments);
    }

    /** Four-sided, with a square base. */
    public static function pyramid(float $width, float $height): TriangleMesh
    {
        $h = 0.5 * $width;
        $b = -0.5 * $height;

        return new TriangleMesh(
            [-$h, $h, $h, -$h, 0.0],
            [$b, $b, $b, $b, -$b],
            [$h, $h, -$h, -$h, 0.0],
            [0, 2, 1, 0, 3, 2, 0, 1, 4, 1, 2, 4, 2, 3, 4, 3, 0, 4],
            null,
            [0.0, 0.0, 1.0, 1.0, 1.0, 0.0, 0.0, 0.0, 0.0, 1.0, 1.0, 1.0,
                0.0, 0.0, 1.0, 0.0, 0.5, 1.0, 0.0, 0.0, 1.0, 0.0, 0.5, 1.0,
                0.0, 0.0, 1.0, 0.0, 0.5, 1.0, 0.0, 0.0, 1.0, 0.0, 0.5, 1.0],
        );
    }

    /**
     * @param float $radius from the middle of the ring to the middle of the tube
     * @param float $tube radius of the tube
     */
    public static function torus(float $radius, float $tube, int $segments = 48, int $sides = 24): TriangleMesh
    {
        $outline = [];
        for ($k = 0; $k < $sides; $k++) {
            $angle = 2.0 * M_PI * $k / $sides;
            $outline[] = [$radius + $tube * cos($angle), $tube * sin($angle)];
        }

        return Lathe::turn($outline, $segments);
    }

    /**
     * A flat, open sheet in the plane of x and z.
     *
     * @param int $across divisions of its width
     * @param int|null $along divisions of its depth; null: as many
     */
    public static function sheet(float $width, float $depth, int $across = 32, ?int $along = null): TriangleMesh
    {
        $along ??= $across;
        $x = $y = $z = $triangles = $uvs = [];
        $row = $across + 1;
        for ($j = 0; $j <= $along; $j++) {
            for ($i = 0; $i <= $across; $i++) {
                $x[] = $width * ($i / $across - 0.5);
                $y[] = 0.0;
                $z[] = $depth * ($j / $along - 0.5);
            }
        }
        for ($j = 0; $j < $along; $j++) {
            for ($i = 0; $i < $across; $i++) {
                $a = $j * $row + $i;
                // Diagonals alternate, so that cloth folds as well one way as the other.
                $turned = ($i + $j) % 2 === 1;
                array_push($triangles, ...($turned ? [$a, $a + $row, $a + 1, $a + $row, $a + $row + 1, $a + 1] : [$a, $a + $row, $a + $row + 1, $a, $a + $row + 1, $a + 1]));
                $u0 = $i / $across;
                $u1 = ($i + 1) / $across;
                $v0 = $j / $along;
                $v1 = ($j + 1) / $along;
                array_push($uvs, ...($turned ? [$u0, $v0, $u0, $v1, $u1, $v0, $u0, $v1, $u1, $v1, $u1, $v0] : [$u0, $v0, $u0, $v1, $u1, $v1, $u0, $v0, $u1, $v1, $u1, $v0]));
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, $uvs);
    }

    /**
     * A divided cube of [-1, 1] with shared vertices, each point put in its place by $place.
     *
     * @param callable(float, float, float): array{float, float, float} $place
     */
    private static function fromCube(int $divisions, callable $place): TriangleMesh
    {
        // Each face: the fixed axis and its sign, then the two running axes, right-handed from outside.
        $faces = [[0, 1, 1, 2], [0, -1, 2, 1], [1, 1, 2, 0], [1, -1, 0, 2], [2, 1, 0, 1], [2, -1, 1, 0]];
        $x = $y = $z = $triangles = $uvs = [];
        /** @var array<string, int> $byPlace */
        $byPlace = [];
        foreach ($faces as [$axis, $sign, $first, $second]) {
            /** @var array<int, array<int, int>> $grid */
            $grid = [];
            for ($j = 0; $j <= $divisions; $j++) {
                for ($i = 0; $i <= $divisions; $i++) {
                    $steps = [0, 0, 0];
                    $steps[$axis] = $sign > 0 ? $divisions : 0;
                    $steps[$first] = $i;
                    $steps[$second] = $j;
                    $name = implode(',', $steps);
                    if (! isset($byPlace[$name])) {
                        $byPlace[$name] = count($x);
                        [$px, $py, $pz] = $place(
                            2.0 * $steps[0] / $divisions - 1.0,
                            2.0 * $steps[1] / $divisions - 1.0,
                            2.0 * $steps[2] / $divisions - 1.0,
                        );
                        $x[] = $px;
                        $y[] = $py;
                        $z[] = $pz;
                    }
                    $grid[$j][$i] = $byPlace[$name];
                }
            }
            for ($j = 0; $j < $divisions; $j++) {
                for ($i = 0; $i < $divisions; $i++) {
                    array_push(
                        $triangles,
                        $grid[$j][$i],
                        $grid[$j][$i + 1],
                        $grid[$j + 1][$i + 1],
                        $grid[$j][$i],
                        $grid[$j + 1][$i + 1],
                        $grid[$j + 1][$i],
                    );
                    $u0 = $i / $divisions;
                    $u1 = ($i + 1) / $divisions;
                    $v0 = $j / $divisions;
                    $v1 = ($j + 1) / $divisions;
                    array_push($uvs, $u0, $v0, $u1, $v0, $u1, $v1, $u0, $v0, $u1, $v1, $u0, $v1);
                }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles, null, $uvs);
    }
}
