<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use YardBreak\Core\Mesh\MassProperties;
use YardBreak\Core\Mesh\Primitive\Lathe;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** Solids of our own that make cutters fail: teeth, tunnels, hollows, needles, thin walls, far away, tiny, touching themselves. */
final class HardMeshes
{
    private const STILL = [0.0, 0.0, 0.0, 1.0];

    /** @return array<string, callable(): TriangleMesh> each a sound solid: closed, or closed but for edges in which it touches itself */
    public static function all(): array
    {
        return [
            'block' => static fn (): TriangleMesh => Solids::box(1, 1, 1, 4),
            'cubes at an edge' => static fn (): TriangleMesh => self::voxels(2, static fn (int $i, int $j, int $k): bool => $i === $j && $k === 0),
            'staircase' => static fn (): TriangleMesh => self::voxels(5, static fn (int $i, int $j, int $k): bool => $i === $j && $k < 3),
            'cubes at a corner' => static fn (): TriangleMesh => self::voxels(2, static fn (int $i, int $j, int $k): bool => $i === $j && $j === $k),
            'checkerboard' => static fn (): TriangleMesh => self::voxels(4, static fn (int $i, int $j, int $k): bool => ($i + $j) % 2 === 0 && $k < 2),
            'rubble' => static fn (): TriangleMesh => self::voxels(6, static fn (int $i, int $j, int $k): bool => ($i * 73 + $j * 179 + $k * 283 + $i * $j * 31 + $j * $k * 17) % 7 > 2),
            'sponge' => static fn (): TriangleMesh => self::voxels(9, self::menger(...)),
            'tunnels' => static fn (): TriangleMesh => self::voxels(5, static fn (int $i, int $j, int $k): bool => ($i % 2 === 0 ? 1 : 0) + ($j % 2 === 0 ? 1 : 0) + ($k % 2 === 0 ? 1 : 0) > 1),
            'comb' => static fn (): TriangleMesh => self::voxels(15, static fn (int $i, int $j, int $k): bool => $k < 2 && ($j < 3 || ($i % 2 === 0 && $j < 12))),
            'gear' => static fn (): TriangleMesh => self::prism(self::star(64, 0.42, 0.5), 0.1),
            'sharp star' => static fn (): TriangleMesh => self::prism(self::star(7, 0.02, 0.5), 0.2),
            'thin plate' => static fn (): TriangleMesh => Solids::box(1, 1, 0.002, 6),
            'rod' => static fn (): TriangleMesh => Solids::box(0.01, 1, 0.01, 3),
            'needle' => static fn (): TriangleMesh => Solids::box(1, 1e-4, 1e-3, 1),
            'fan' => static fn (): TriangleMesh => self::prism(self::star(360, 0.5, 0.5), 0.05),
            'tall cone' => static fn (): TriangleMesh => Solids::cone(0.2, 2.0, 180, 1),
            'torus' => static fn (): TriangleMesh => Solids::torus(0.4, 0.12, 40, 20),
            'linked rings' => static fn (): TriangleMesh => self::both(Solids::torus(0.4, 0.1, 36, 14), Solids::torus(0.4, 0.1, 36, 14)->transformed(1.0, [M_SQRT1_2, 0.0, 0.0, M_SQRT1_2], [0.4, 0.0, 0.0])),
            'knot' => static fn (): TriangleMesh => self::tube(static fn (float $t): array => [sin($t) + 2.0 * sin(2.0 * $t), cos($t) - 2.0 * cos(2.0 * $t), -sin(3.0 * $t)], 0.35, 160, 10),
            'spring' => static fn (): TriangleMesh => Meshes::implicit(static fn (float $x, float $y, float $z): float => max(hypot(hypot($x, $z) - 0.4, self::turns($y - 0.2 * atan2($z, $x) / M_PI, 0.4)) - 0.08, abs($y) - 0.5), 0.6, 30),
            'hollow ball' => static fn (): TriangleMesh => self::both(Solids::ball(0.5, 12), self::inward(Solids::ball(0.4, 10))),
            'nest of boxes' => static fn (): TriangleMesh => self::both(self::both(Solids::box(1, 1, 1, 2), self::inward(Solids::box(0.8, 0.8, 0.8, 2))), Solids::box(0.4, 0.5, 0.3, 2)),
            'bowl' => static fn (): TriangleMesh => Lathe::turn([[0.0, -0.3], [0.26, -0.28], [0.41, -0.1], [0.5, 0.2], [0.49, 0.2], [0.4, -0.09], [0.25, -0.27], [0.0, -0.29]], 40),
            'vase' => static fn (): TriangleMesh => Meshes::vase(18),
            'waves' => static fn (): TriangleMesh => Meshes::implicit(static fn (float $x, float $y, float $z): float => max(abs(sin(9.0 * $x) * cos(9.0 * $y) + sin(9.0 * $y) * cos(9.0 * $z) + sin(9.0 * $z) * cos(9.0 * $x)) - 0.5, max(abs($x), abs($y), abs($z)) - 0.5), 0.56, 26),
            'bur' => static fn (): TriangleMesh => self::pushed(Solids::ball(0.4, 14), static fn (int $v): float => $v % 7 === 0 ? 1.8 : 1.0),
            'pitted ball' => static fn (): TriangleMesh => self::pushed(Solids::ball(0.5, 16), static fn (int $v): float => 1.0 - 0.35 * (($v * 7919 % 101) / 101.0) ** 3),
            'far away' => static fn (): TriangleMesh => Solids::torus(0.4, 0.12, 24, 12)->transformed(1.0, self::STILL, [1e6, -1e6, 1e6]),
            'tiny' => static fn (): TriangleMesh => Solids::ball(5e-5, 8),
            'huge' => static fn (): TriangleMesh => Solids::cylinder(2e4, 9e4, 32, 6),
            'squashed' => static fn (): TriangleMesh => Solids::ball(0.5, 10)->scaled([1.0, 0.01, 1.0]),
        ];
    }

    /**
     * Cubes of a grid over the unit cube, their skin welded: where two cubes touch along an edge, four faces share it.
     *
     * @param callable(int, int, int): bool $filled
     */
    public static function voxels(int $n, callable $filled): TriangleMesh
    {
        $in = static fn (int $i, int $j, int $k): bool => min($i, $j, $k) >= 0 && max($i, $j, $k) < $n && $filled($i, $j, $k);
        $number = $x = $y = $z = $triangles = [];
        for ($cell = 0; $cell < $n ** 3; $cell++) {
            $at = [intdiv($cell, $n * $n), intdiv($cell, $n) % $n, $cell % $n];
            for ($side = 0; $in(...$at) && $side < 6; $side++) {
                $axis = intdiv($side, 2);
                $beside = $at;
                $beside[$axis] += $side % 2 === 0 ? 1 : -1;
                if ($in(...$beside)) {
                    continue;
                }
                $corners = [];
                foreach ([[0, 0], [1, 0], [1, 1], [0, 1]] as [$u, $v]) {
                    $place = $at;
                    $place[$axis] += $side % 2 === 0 ? 1 : 0;
                    $place[($axis + 1) % 3] += $u;
                    $place[($axis + 2) % 3] += $v;
                    $key = implode(',', $place);
                    if (! isset($number[$key])) {
                        $number[$key] = count($x);
                        [$x[], $y[], $z[]] = [$place[0] / $n - 0.5, $place[1] / $n - 0.5, $place[2] / $n - 0.5];
                    }
                    $corners[] = $number[$key];
                }
                [$a, $b, $c, $d] = $side % 2 === 0 ? $corners : array_reverse($corners);
                array_push($triangles, $a, $b, $c, $a, $c, $d);
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    public static function both(TriangleMesh $a, TriangleMesh $b): TriangleMesh
    {
        return TriangleMesh::together([$a, $b]);
    }

    private static function menger(int $i, int $j, int $k): bool
    {
        for ($step = 1; $step < 9; $step *= 3) {
            $middle = (intdiv($i, $step) % 3 === 1 ? 1 : 0) + (intdiv($j, $step) % 3 === 1 ? 1 : 0) + (intdiv($k, $step) % 3 === 1 ? 1 : 0);
            if ($middle > 1) {
                return false;
            }
        }

        return true;
    }

    private static function inward(TriangleMesh $mesh): TriangleMesh
    {
        return $mesh->turned(range(0, $mesh->triangleCount() - 1));
    }

    /** How far a height is from the next whole turn of a pitch. */
    private static function turns(float $height, float $pitch): float
    {
        return $height - $pitch * round($height / $pitch);
    }

    /** @return list<array{float, float}> an outline of so many teeth */
    private static function star(int $teeth, float $inner, float $outer): array
    {
        $points = [];
        for ($k = 0; $k < 2 * $teeth; $k++) {
            $r = $k % 2 === 0 ? $outer : $inner;
            $points[] = [$r * cos(M_PI * $k / $teeth), $r * sin(M_PI * $k / $teeth)];
        }

        return $points;
    }

    /**
     * An outline about the origin, drawn out along z; front and back are fans from the middle.
     *
     * @param list<array{float, float}> $outline
     */
    private static function prism(array $outline, float $depth): TriangleMesh
    {
        $n = count($outline);
        $x = [...array_column($outline, 0), ...array_column($outline, 0), 0.0, 0.0];
        $y = [...array_column($outline, 1), ...array_column($outline, 1), 0.0, 0.0];
        $z = [...array_fill(0, $n, 0.5 * $depth), ...array_fill(0, $n, -0.5 * $depth), 0.5 * $depth, -0.5 * $depth];
        $triangles = [];
        for ($k = 0; $k < $n; $k++) {
            $l = ($k + 1) % $n;
            array_push($triangles, 2 * $n, $k, $l, 2 * $n + 1, $n + $l, $n + $k, $k, $n + $k, $l, $l, $n + $k, $n + $l);
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    /**
     * A tube about a closed curve.
     *
     * @param callable(float): array{float, float, float} $curve over a turn
     */
    private static function tube(callable $curve, float $radius, int $segments, int $sides): TriangleMesh
    {
        $x = $y = $z = $triangles = [];
        for ($s = 0; $s < $segments; $s++) {
            $t = 2.0 * M_PI * $s / $segments;
            [$p, $q] = [$curve($t), $curve($t + 1e-4)];
            $d = [$q[0] - $p[0], $q[1] - $p[1], $q[2] - $p[2]];
            // Across the curve and away from its middle: turns once with the curve, so that the ends meet.
            $out = [$p[0], $p[1], 0.0];
            $u = [$d[1] * $out[2] - $d[2] * $out[1], $d[2] * $out[0] - $d[0] * $out[2], $d[0] * $out[1] - $d[1] * $out[0]];
            $u = array_map(static fn (float $c): float => $c / hypot(hypot($u[0], $u[1]), $u[2]), $u);
            $v = [$u[1] * $d[2] - $u[2] * $d[1], $u[2] * $d[0] - $u[0] * $d[2], $u[0] * $d[1] - $u[1] * $d[0]];
            $v = array_map(static fn (float $c): float => $c / hypot(hypot($v[0], $v[1]), $v[2]), $v);
            for ($k = 0; $k < $sides; $k++) {
                [$a, $b] = [$radius * cos(2.0 * M_PI * $k / $sides), $radius * sin(2.0 * M_PI * $k / $sides)];
                [$x[], $y[], $z[]] = [$p[0] + $a * $u[0] + $b * $v[0], $p[1] + $a * $u[1] + $b * $v[1], $p[2] + $a * $u[2] + $b * $v[2]];
                [$next, $l] = [($s + 1) % $segments * $sides, ($k + 1) % $sides];
                array_push($triangles, $s * $sides + $k, $next + $k, $next + $l, $s * $sides + $k, $next + $l, $s * $sides + $l);
            }
        }

        return self::outward(new TriangleMesh($x, $y, $z, $triangles));
    }

    private static function outward(TriangleMesh $mesh): TriangleMesh
    {
        return MassProperties::of($mesh)->volume < 0.0 ? self::inward($mesh) : $mesh;
    }

    /**
     * Vertices so many times as far from the origin.
     *
     * @param callable(int): float $by
     */
    private static function pushed(TriangleMesh $mesh, callable $by): TriangleMesh
    {
        [$x, $y, $z] = [$mesh->x, $mesh->y, $mesh->z];
        foreach ($x as $v => $_) {
            [$x[$v], $y[$v], $z[$v]] = [$x[$v] * $by($v), $y[$v] * $by($v), $z[$v] * $by($v)];
        }

        return new TriangleMesh($x, $y, $z, $mesh->triangles);
    }
}
