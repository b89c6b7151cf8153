<?php

declare(strict_types=1);

namespace YardBreak\Core\Tests\Fixture;

use PHPUnit\Framework\TestCase;
use YardBreak\Core\Mesh\TriangleMesh;

/** Meshes that only tests need. */
final class Meshes
{
    /** Corners of a cube by number, and the six tetrahedra about its diagonal. */
    private const TETRAHEDRA = [[0, 1, 3, 7], [0, 3, 2, 7], [0, 2, 6, 7], [0, 6, 4, 7], [0, 4, 5, 7], [0, 5, 1, 7]];

    public static function fromPackage(string $name, string $part = ''): TriangleMesh
    {
        $root = dirname(__DIR__, 3);
        if (! is_dir("{$root}/node_modules/{$name}")) {
            TestCase::fail("npm package {$name} is not installed: bin/prepare --with-tests installs it.");
        }
        exec('cd ' . escapeshellarg($root) . ' && node -e ' . escapeshellarg("const m=require('{$name}{$part}');console.log(JSON.stringify({p:m.positions,c:m.cells}))"), $lines);
        /** @var array{p: list<array{float, float, float}>, c: list<array{int, int, int}>} $data */
        $data = json_decode(implode('', $lines), true);

        return new TriangleMesh(
            array_map(floatval(...), array_column($data['p'], 0)),
            array_map(floatval(...), array_column($data['p'], 1)),
            array_map(floatval(...), array_column($data['p'], 2)),
            array_merge(...$data['c']),
        );
    }

    public static function moebius(): TriangleMesh
    {
        $x = $y = $z = $triangles = [];
        $n = 24;
        for ($i = 0; $i < $n; $i++) {
            $a = 2.0 * M_PI * $i / $n;
            foreach ([-0.2, 0.2] as $w) {
                $x[] = (1.0 + $w * cos(0.5 * $a)) * cos($a);
                $y[] = $w * sin(0.5 * $a);
                $z[] = (1.0 + $w * cos(0.5 * $a)) * sin($a);
            }
        }
        for ($i = 0; $i < $n; $i++) {
            [$a, $b] = [2 * $i, 2 * $i + 1];
            [$c, $d] = $i + 1 < $n ? [2 * $i + 2, 2 * $i + 3] : [1, 0];
            array_push($triangles, $a, $b, $d, $a, $d, $c);
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    /**
     * Where a function is negative, as a closed mesh: marching tetrahedra (Doi and Koide 1991) on a grid.
     *
     * @param callable(float, float, float): float $inside
     */
    public static function implicit(callable $inside, float $half, int $n): TriangleMesh
    {
        $at = static fn (int $i): float => $half * (2.0 * $i / $n - 1.0) + 1e-7 * $i;
        $value = $x = $y = $z = $triangles = $named = [];
        for ($i = 0; $i <= $n; $i++) {
            for ($j = 0; $j <= $n; $j++) {
                for ($k = 0; $k <= $n; $k++) {
                    $value[($i * ($n + 1) + $j) * ($n + 1) + $k] = $inside($at($i), $at($j), $at($k));
                }
            }
        }
        $place = static fn (int $v): array => [$at(intdiv($v, ($n + 1) ** 2)), $at(intdiv($v, $n + 1) % ($n + 1)), $at($v % ($n + 1))];
        $on = static function (int $a, int $b) use (&$x, &$y, &$z, &$named, $value, $place): int {
            [$a, $b] = [min($a, $b), max($a, $b)];
            if (! isset($named["{$a},{$b}"])) {
                $named["{$a},{$b}"] = count($x);
                $s = max(0.02, min(0.98, $value[$a] / ($value[$a] - $value[$b])));
                [$p, $q] = [$place($a), $place($b)];
                $x[] = $p[0] + $s * ($q[0] - $p[0]);
                $y[] = $p[1] + $s * ($q[1] - $p[1]);
                $z[] = $p[2] + $s * ($q[2] - $p[2]);
            }

            return $named["{$a},{$b}"];
        };
        for ($i = 0; $i < $n; $i++) {
            for ($j = 0; $j < $n; $j++) {
                for ($k = 0; $k < $n; $k++) {
                    foreach (self::TETRAHEDRA as $corners) {
                        $v = array_map(static fn (int $c): int => (($i + ($c & 1)) * ($n + 1) + $j + (($c >> 1) & 1)) * ($n + 1) + $k + (($c >> 2) & 1), $corners);
                        $in = array_values(array_filter([0, 1, 2, 3], static fn (int $c): bool => $value[$v[$c]] < 0.0));
                        $out = array_values(array_diff([0, 1, 2, 3], $in));
                        $faces = match (count($in)) {
                            1 => [[[$in[0], $out[0]], [$in[0], $out[1]], [$in[0], $out[2]]]],
                            2 => [[[$in[0], $out[0]], [$in[0], $out[1]], [$in[1], $out[1]]], [[$in[0], $out[0]], [$in[1], $out[1]], [$in[1], $out[0]]]],
                            3 => [[[$in[0], $out[0]], [$in[1], $out[0]], [$in[2], $out[0]]]],
                            default => [],
                        };
                        foreach ($faces as $face) {
                            $t = array_map(static fn (array $edge): int => $on($v[$edge[0]], $v[$edge[1]]), $face);
                            // Away from a corner that lies inside.
                            [$px, $py, $pz] = $place($v[$in[0]]);
                            $u = [$x[$t[1]] - $x[$t[0]], $y[$t[1]] - $y[$t[0]], $z[$t[1]] - $z[$t[0]]];
                            $w = [$x[$t[2]] - $x[$t[0]], $y[$t[2]] - $y[$t[0]], $z[$t[2]] - $z[$t[0]]];
                            $side = ($u[1] * $w[2] - $u[2] * $w[1]) * ($x[$t[0]] - $px) + ($u[2] * $w[0] - $u[0] * $w[2]) * ($y[$t[0]] - $py) + ($u[0] * $w[1] - $u[1] * $w[0]) * ($z[$t[0]] - $pz);
                            array_push($triangles, $t[0], $side > 0.0 ? $t[1] : $t[2], $side > 0.0 ? $t[2] : $t[1]);
                        }
                    }
                }
            }
        }

        return new TriangleMesh($x, $y, $z, $triangles);
    }

    /** A thin-walled vase, open above, with a handle. */
    public static function vase(int $n = 26): TriangleMesh
    {
        $vase = static function (float $x, float $y, float $z): float {
            $r = hypot($x, $z);
            $belly = 0.26 + 0.1 * cos(3.2 * $y);
            $wall = max(abs($r - $belly) - 0.05, abs($y) - 0.5);
            $floor = max($r - $belly, abs($y + 0.45) - 0.05);
            $ring = hypot(hypot($x - 0.36, 0.8 * ($y - 0.05)) - 0.17, $z) - 0.055;

            return min($wall, $floor, max($ring, $belly - 0.02 - $r));
        };

        return self::implicit($vase, 0.62, $n);
    }
}
