<?php

declare(strict_types=1);

namespace YardBreak\Core\Mesh;

/**
 * A thick disc around a few triangles that lie side by side: it faces the way they do, so it fits a surface much closer than a box
 * along the axes where the surface is aslant.
 */
final class LeafDisc
{
    /** Wider than its triangles by this share of its size: what rounding makes of a distance to it stays below theirs. */
    private const SLACK = 1e-7;

    /**
     * @param list<float> $corners 12 numbers a triangle, of which the first nine are a corner and the two edges from there
     *
     * @return array{float, float, float, float, float, float, float, float} its middle, the way it faces (unit), its radius and half its height
     */
    public static function around(array $corners, int $first, int $count): array
    {
        $x = $y = $z = [];
        [$nx, $ny, $nz] = [0.0, 0.0, 0.0];
        for ($k = 12 * $first, $end = 12 * ($first + $count); $k < $end; $k += 12) {
            $ux = $corners[$k + 3];
            $uy = $corners[$k + 4];
            $uz = $corners[$k + 5];
            $vx = $corners[$k + 6];
            $vy = $corners[$k + 7];
            $vz = $corners[$k + 8];
            $x[] = $px = $corners[$k];
            $x[] = $px + $ux;
            $x[] = $px + $vx;
            $y[] = $py = $corners[$k + 1];
            $y[] = $py + $uy;
            $y[] = $py + $vy;
            $z[] = $pz = $corners[$k + 2];
            $z[] = $pz + $uz;
            $z[] = $pz + $vz;
            $nx += $uy * $vz - $uz * $vy;
            $ny += $uz * $vx - $ux * $vz;
            $nz += $ux * $vy - $uy * $vx;
        }
        // Triangles back to back face no way: any will do.
        $length = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
        [$nx, $ny, $nz] = $length > 1e-150 ? [$nx / $length, $ny / $length, $nz / $length] : [0.0, 1.0, 0.0];
        // Around the middle of the corners, halfway between the lowest and the highest.
        $by = 1.0 / (3 * $count);
        [$cx, $cy, $cz] = [$by * array_sum($x), $by * array_sum($y), $by * array_sum($z)];
        [$low, $high] = [INF, -INF];
        foreach ($x as $k => $px) {
            $up = ($px - $cx) * $nx + ($y[$k] - $cy) * $ny + ($z[$k] - $cz) * $nz;
            $low = $up < $low ? $up : $low;
            $high = $up > $high ? $up : $high;
        }
        $up = 0.5 * ($low + $high);
        [$cx, $cy, $cz] = [$cx + $up * $nx, $cy + $up * $ny, $cz + $up * $nz];
        [$radius, $height] = [0.0, 0.0];
        foreach ($x as $k => $px) {
            $wx = $px - $cx;
            $wy = $y[$k] - $cy;
            $wz = $z[$k] - $cz;
            $up = $wx * $nx + $wy * $ny + $wz * $nz;
            $aside = $wx * $wx + $wy * $wy + $wz * $wz - $up * $up;
            $radius = $aside > $radius ? $aside : $radius;
            $up = $up < 0.0 ? -$up : $up;
            $height = $up > $height ? $up : $height;
        }
        $radius = sqrt($radius);
        $slack = self::SLACK * ($radius + $height);

        return [$cx, $cy, $cz, $nx, $ny, $nz, $radius + $slack, $height + $slack];
    }
}
