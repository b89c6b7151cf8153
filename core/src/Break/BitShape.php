<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\RandomStream;
use YardBreak\Core\Mesh\Normals;
use YardBreak\Core\Mesh\Primitive\Solids;
use YardBreak\Core\Mesh\TriangleMesh;

/** What a bit looks like, about its middle and a metre long: a stock shape, or anybody's. */
final class BitShape
{
    /** Thickness of a chip, in parts of its length. */
    private const CHIP = 0.22;

    /** Width of a splinter. */
    private const SPLINTER = 0.16;

    private ?TriangleMesh $same = null;

    /**
     * @param string $kind cube, tetrahedron, chip or splinter
     * @param TriangleMesh|null $own instead of a stock shape
     */
    public function __construct(private readonly string $kind, ?TriangleMesh $own = null)
    {
        if ($own !== null) {
            [$low, $high] = $own->bounds();
            $scale = 1.0 / max(1e-9, $high[0] - $low[0], $high[1] - $low[1], $high[2] - $low[2]);
            $this->same = $own->transformed($scale, [0.0, 0.0, 0.0, 1.0], [-0.5 * $scale * ($low[0] + $high[0]), -0.5 * $scale * ($low[1] + $high[1]), -0.5 * $scale * ($low[2] + $high[2])]);
        }
    }

    /** No two chips or splinters are alike. */
    public function next(RandomStream $random): TriangleMesh
    {
        return match ($this->same === null ? $this->kind : '') {
            'chip' => self::prism(5 + (int) (3.0 * $random->float()), 0.55, self::CHIP, 0.85, $random),
            'splinter' => self::splinter($random),
            default => $this->same ??= $this->kind === 'tetrahedron' ? self::tetrahedron() : self::inner(Solids::box(1.0, 1.0, 1.0, 1)),
        };
    }

    private static function tetrahedron(): TriangleMesh
    {
        // Every other corner of a cube whose diagonal of a face is a metre.
        $a = 0.5 * M_SQRT1_2;

        return self::inner(new TriangleMesh([$a, -$a, -$a, $a], [$a, $a, -$a, -$a], [$a, -$a, $a, -$a], [0, 1, 2, 0, 3, 1, 0, 2, 3, 1, 3, 2]));
    }

    /**
     * A flat plate with an uneven rim.
     *
     * @param float $least nearest corner of the rim, in parts of the farthest
     * @param float $top size of its other side
     */
    private static function prism(int $corners, float $least, float $thickness, float $top, RandomStream $random): TriangleMesh
    {
        $x = $y = $z = $triangles = [];
        for ($side = 0; $side < 2; $side++) {
            for ($k = 0; $k < $corners; $k++) {
                if ($side === 1) {
                    $x[] = $top * $x[$k];
                    $y[] = 0.5 * $thickness;
                    $z[] = $top * $z[$k];

                    continue;
                }
                $angle = 2.0 * M_PI * ($k + $random->between(-0.3, 0.3)) / $corners;
                $far = 0.5 * $random->between($least, 1.0);
                $x[] = $far * cos($angle);
                $y[] = -0.5 * $thickness;
                $z[] = $far * sin($angle);
            }
        }
        for ($k = 0; $k < $corners; $k++) {
            $n = ($k + 1) % $corners;
            array_push($triangles, $k, $corners + $k, $n, $n, $corners + $k, $corners + $n);
            if ($k > 0 && $k < $corners - 1) {
                array_push($triangles, 0, $k, $k + 1, $corners, $corners + $k + 1, $corners + $k);
            }
        }

        return self::inner(new TriangleMesh($x, $y, $z, $triangles));
    }

    /** Long, with a wedge at either end. */
    private static function splinter(RandomStream $random): TriangleMesh
    {
        $w = 0.5 * self::SPLINTER;
        $turn = $random->between(0.3, 1.0);
        [$a, $b] = [$random->between(0.1, 0.35), $random->between(0.1, 0.35)];
        $x = [-0.5, -$a, -$a, -$a, $b, $b, $b, 0.5];
        $y = [0.0, $w, -$w, -0.2 * $w, $turn * $w, -$w, 0.1 * $w, 0.1 * $w];
        $z = [0.0, -0.4 * $w, -0.6 * $w, $w, -0.5 * $w, -0.4 * $w, $turn * $w, -0.1 * $w];
        $triangles = [0, 3, 1, 0, 2, 3, 0, 1, 2];
        foreach ([[1, 2], [2, 3], [3, 1]] as [$p, $q]) {
            array_push($triangles, $p, $p + 3, $q, $q, $p + 3, $q + 3, $p + 3, 7, $q + 3);
        }

        return self::inner(new TriangleMesh($x, $y, $z, $triangles));
    }

    /** Bits show what is inside. */
    private static function inner(TriangleMesh $mesh): TriangleMesh
    {
        return Normals::computed(new TriangleMesh($mesh->x, $mesh->y, $mesh->z, $mesh->triangles, looks: array_fill(0, $mesh->triangleCount(), TriangleMesh::LOOK_INNER)));
    }
}
