<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\GradientNoise;

/**
 * Fresh faces are made finer, and rough: their inner vertices are moved by noise. Vertices are shared by both
 * sides, so neighbours fit; those on the skin stay where they are, so the cracks seen from outside do not change.
 */
final class InnerFaces
{
    /** Faces at most; more could neither be kept nor looked at. */
    private const MOST = 150_000;

    /** Area of their triangles on average, in parts of the square of the fineness (measured). */
    private const TRIANGLE = 0.25;

    /** Layers of noise. */
    private const OCTAVES = 3;

    /** A face may not turn by more than about 60 degrees from where it was (cosine): nothing folds over. */
    private const LEAST_COSINE = 0.5;

    /** How often the strength is halved where a face would turn too far, before it is left flat. */
    private const TRIES = 6;

    /** No vertex moves by more than this part of the thickness of the thinnest piece that has it. */
    private const OF_THICKNESS = 0.2;

    /** Size of a bump in parts of the fineness. */
    private const BUMP = 2.2;

    /** Length of a fibre in parts of its width. */
    private const FIBRE = 9.0;

    /**
     * @param float $fineness edges of inner faces are made about this long, m
     *
     * @return float as long as they are made: longer, with a note, where that would be too many
     */
    public static function divide(Fracture $fracture, float $fineness): float
    {
        $fineness = self::affordable($fracture, $fineness);
        $inner = static fn (int $face): bool => $fracture->origin[$face] < 0;
        (new WallFiller(new PieceFaces($fracture)))->fill(range(0, max(0, $fracture->pieces - 1)), $fineness, $inner);
        $fracture->compact();

        return $fineness;
    }

    /**
     * @param float $depth height of the bumps, m
     * @param float $fineness what bumps go by: edges of inner faces are about so long, or shorter ({@see divide()}), m
     * @param int|null $fibres axis along which bumps are drawn out, as wood has them; 0: x, 1: y, 2: z
     */
    public static function roughen(Fracture $fracture, float $depth, float $fineness, int $seed, ?int $fibres = null): void
    {
        $limit = self::limits($fracture, $depth);
        $noise = GradientNoise::seeded($seed, 'inner faces');
        $scale = 1.0 / (self::BUMP * $fineness);
        $stretch = [1.0, 1.0, 1.0];
        if ($fibres !== null) {
            $stretch[$fibres] = 1.0 / self::FIBRE;
        }
        $moves = [];
        foreach ($limit as $v => $far) {
            // The same place gives the same shift, whatever face it is seen from.
            [$x, $y, $z] = [$fracture->x[$v] * $scale * $stretch[0], $fracture->y[$v] * $scale * $stretch[1], $fracture->z[$v] * $scale * $stretch[2]];
            $moves[$v] = [
                $far * $noise->layered($x, $y, $z, self::OCTAVES),
                $far * $noise->layered($x + 31.4, $y + 17.9, $z + 5.3, self::OCTAVES),
                $far * $noise->layered($x + 71.1, $y + 43.7, $z + 91.3, self::OCTAVES),
            ];
        }
        self::move($fracture, $moves);
        self::shade($fracture);
    }

    /** The fineness, or a coarser one with a note if there would be too many faces. */
    private static function affordable(Fracture $fracture, float $fineness): float
    {
        $area = 0.0;
        foreach ($fracture->origin as $f => $origin) {
            $area += $origin < 0 && $fracture->back[$f] !== Fracture::GONE ? $fracture->area($f) : 0.0;
        }
        $least = sqrt($area / (self::TRIANGLE * self::MOST));
        if ($fineness >= $least) {
            return $fineness;
        }
        $fracture->notes[] = sprintf(
            'Edges of %.3g mm would divide the fresh faces into %s triangles. They are made %.3g mm here.',
            1000.0 * $fineness,
            number_format($area / (self::TRIANGLE * $fineness * $fineness)),
            1000.0 * $least,
        );

        return $least;
    }

    /**
     * How far each vertex of inner faces may move: nothing on the skin.
     *
     * @return array<int, float>
     */
    private static function limits(Fracture $fracture, float $depth): array
    {
        $volume = $fracture->volumes();
        $area = array_fill(0, $fracture->pieces, 0.0);
        foreach ($fracture->back as $f => $piece) {
            $a = $fracture->area($f);
            $area[$piece] += $a;
            if ($fracture->front[$f] !== Fracture::OUTSIDE) {
                $area[$fracture->front[$f]] += $a;
            }
        }
        $limit = $skin = [];
        foreach ($fracture->back as $f => $piece) {
            $front = $fracture->front[$f];
            for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                if ($front === Fracture::OUTSIDE) {
                    $skin[$fracture->corner[$k]] = true;
                    continue;
                }
                $v = $fracture->corner[$k];
                foreach ([$piece, $front] as $side) {
                    $most = self::OF_THICKNESS * 2.0 * $volume[$side] / max(1e-300, $area[$side]);
                    $limit[$v] = min($limit[$v] ?? $depth, $most);
                }
            }
        }

        return array_diff_key($limit, $skin);
    }

    /** @param array<int, array{float, float, float}> $moves */
    private static function move(Fracture $fracture, array $moves): void
    {
        [$x, $y, $z] = [$fracture->x, $fracture->y, $fracture->z];
        $share = array_fill_keys(array_keys($moves), 1.0);
        for ($try = 0; $try <= self::TRIES; $try++) {
            foreach ($moves as $v => [$dx, $dy, $dz]) {
                $s = $share[$v];
                $fracture->x[$v] = $x[$v] + $s * $dx;
                $fracture->y[$v] = $y[$v] + $s * $dy;
                $fracture->z[$v] = $z[$v] + $s * $dz;
            }
            $calm = [];
            foreach ($fracture->origin as $f => $origin) {
                if ($origin >= 0) {
                    continue;
                }
                $wall = -3 * ($origin + 1);
                [$nx, $ny, $nz] = $fracture->cross($f);
                $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                $cosine = $nx * $fracture->wall[$wall] + $ny * $fracture->wall[$wall + 1] + $nz * $fracture->wall[$wall + 2];
                if ($cosine < self::LEAST_COSINE * $length) {
                    for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                        $calm[$fracture->corner[$k]] = true;
                    }
                }
            }
            if ($calm === []) {
                return;
            }
            foreach ($calm as $v => $_) {
                if (isset($share[$v])) {
                    $share[$v] = $try + 1 >= self::TRIES ? 0.0 : 0.5 * $share[$v];
                }
            }
        }
    }

    /** Normals at the corners: the mean of the faces of the same wall that meet there. */
    private static function shade(Fracture $fracture): void
    {
        $sum = [];
        foreach ($fracture->origin as $f => $origin) {
            if ($origin < 0) {
                [$nx, $ny, $nz] = $fracture->cross($f);
                for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                    $key = "{$origin},{$fracture->corner[$k]}";
                    [$sx, $sy, $sz] = $sum[$key] ?? [0.0, 0.0, 0.0];
                    $sum[$key] = [$sx + $nx, $sy + $ny, $sz + $nz];
                }
            }
        }
        foreach ($fracture->origin as $f => $origin) {
            if ($origin < 0) {
                for ($k = 3 * $f; $k < 3 * $f + 3; $k++) {
                    [$nx, $ny, $nz] = $sum["{$origin},{$fracture->corner[$k]}"];
                    $s = 1.0 / max(1e-300, sqrt($nx * $nx + $ny * $ny + $nz * $nz));
                    $fracture->innerNormal[3 * $k] = $nx * $s;
                    $fracture->innerNormal[3 * $k + 1] = $ny * $s;
                    $fracture->innerNormal[3 * $k + 2] = $nz * $s;
                }
            }
        }
    }
}
