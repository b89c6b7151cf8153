<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Makes the triangles of flat regions well shaped by flipping edges until they are Delaunay (Lawson 1977). Without it cuts
 * of cuts would cross ever more needles, and faces would multiply. A region is what has the same pieces on both sides and
 * lies in one wall, or in one triangle of the skin; nothing moves, and no vertex comes or goes.
 */
final class EdgeFlipper
{
    /** An edge is flipped if the angles across from it exceed two right ones by more than this (sine), so rounding cannot make it flip for ever. */
    private const CLEARLY = 1e-9;

    /** Triangles that flipping would make must keep this much of the area (relative): the two must form a convex shape. */
    private const CONVEX = 1e-9;

    /** Two triangles lie in one plane if the sine between them, weighed by their areas, is below a millionth: squared. */
    private const FLAT = 1e-12;

    /** Flips at most, per edge: a guard against rounding; Lawson's count is far below it in practice. */
    private const MOST = 40;

    /**
     * @param list<int> $faces of any number of regions
     * @param list<int> $others faces around them, where walls are curved: an edge that they have already is not made again
     */
    public static function fair(Fracture $fracture, array $faces, array $others = []): void
    {
        $C = $fracture->corner;
        $X = $fracture->x;
        $Y = $fracture->y;
        $Z = $fracture->z;
        $back = $fracture->back;
        $front = $fracture->front;
        $origin = $fracture->origin;
        /** @var array<int, list<int>> $users faces on each edge */
        $users = [];
        $stack = [];
        foreach ($faces as $f) {
            for ($e = 0; $e < 3; $e++) {
                $a = $C[3 * $f + $e];
                $b = $C[3 * $f + ($e === 2 ? 0 : $e + 1)];
                $key = $a < $b ? ($a << 32) | $b : ($b << 32) | $a;
                foreach ($users[$key] ?? [] as $g) {
                    if ($back[$g] === $back[$f] && $front[$g] === $front[$f] && $origin[$g] === $origin[$f]) {
                        $stack[$key] = true;
                    }
                }
                $users[$key][] = $f;
            }
        }
        foreach ($others as $f) {
            for ($e = 0; $e < 3; $e++) {
                $a = $C[3 * $f + $e];
                $b = $C[3 * $f + ($e === 2 ? 0 : $e + 1)];
                $users[$a < $b ? ($a << 32) | $b : ($b << 32) | $a][] = $f;
            }
        }
        $left = self::MOST * count($stack);
        while ($stack !== [] && $left-- > 0) {
            $key = (int) array_key_last($stack);
            unset($stack[$key]);
            [$f, $g] = self::pair($users[$key], $back, $front, $origin);
            if ($f < 0) {
                continue;
            }
            // Face f is a, b, c and face g is b, a, d, seen from the front.
            $low = $key >> 32;
            $high = $key & 0xFFFFFFFF;
            $i = $C[3 * $f] === $low || $C[3 * $f] === $high ? ($C[3 * $f + 1] === $low || $C[3 * $f + 1] === $high ? 0 : 2) : 1;
            $a = $C[3 * $f + $i];
            $b = $C[3 * $f + ($i + 1) % 3];
            $c = $C[3 * $f + ($i + 2) % 3];
            $j = $C[3 * $g] === $b ? 0 : ($C[3 * $g + 1] === $b ? 1 : 2);
            if ($C[3 * $g + ($j + 1) % 3] !== $a) {
                continue;
            }
            $d = $C[3 * $g + ($j + 2) % 3];
            $acx = $X[$a] - $X[$c];
            $acy = $Y[$a] - $Y[$c];
            $acz = $Z[$a] - $Z[$c];
            $bcx = $X[$b] - $X[$c];
            $bcy = $Y[$b] - $Y[$c];
            $bcz = $Z[$b] - $Z[$c];
            $adx = $X[$a] - $X[$d];
            $ady = $Y[$a] - $Y[$d];
            $adz = $Z[$a] - $Z[$d];
            $bdx = $X[$b] - $X[$d];
            $bdy = $Y[$b] - $Y[$d];
            $bdz = $Z[$b] - $Z[$d];
            // Twice the areas' vectors of the two triangles.
            $px = $acy * $bcz - $acz * $bcy;
            $py = $acz * $bcx - $acx * $bcz;
            $pz = $acx * $bcy - $acy * $bcx;
            $qx = $bdy * $adz - $bdz * $ady;
            $qy = $bdz * $adx - $bdx * $adz;
            $qz = $bdx * $ady - $bdy * $adx;
            $sineC = sqrt($px * $px + $py * $py + $pz * $pz);
            $sineD = sqrt($qx * $qx + $qy * $qy + $qz * $qz);
            $cosineC = $acx * $bcx + $acy * $bcy + $acz * $bcz;
            $cosineD = $adx * $bdx + $ady * $bdy + $adz * $bdz;
            $sizes = sqrt(($sineC * $sineC + $cosineC * $cosineC) * ($sineD * $sineD + $cosineD * $cosineD));
            if ($sineC * $cosineD + $cosineC * $sineD >= -self::CLEARLY * $sizes) {
                continue;
            }
            $kx = $py * $qz - $pz * $qy;
            $ky = $pz * $qx - $px * $qz;
            $kz = $px * $qy - $py * $qx;
            $both = $sineC + $sineD;
            if ($kx * $kx + $ky * $ky + $kz * $kz > self::FLAT * $both * $both * $both * $both) {
                continue;
            }
            // The triangles a, d, c and d, b, c must both face the same way.
            $nx = $px + $qx;
            $ny = $py + $qy;
            $nz = $pz + $qz;
            $ux = $X[$d] - $X[$c];
            $uy = $Y[$d] - $Y[$c];
            $uz = $Z[$d] - $Z[$c];
            $one = ($acy * $uz - $acz * $uy) * $nx + ($acz * $ux - $acx * $uz) * $ny + ($acx * $uy - $acy * $ux) * $nz;
            $two = ($uy * $bcz - $uz * $bcy) * $nx + ($uz * $bcx - $ux * $bcz) * $ny + ($ux * $bcy - $uy * $bcx) * $nz;
            $least = self::CONVEX * ($nx * $nx + $ny * $ny + $nz * $nz);
            if ($one <= $least || $two <= $least) {
                continue;
            }
            $cd = $c < $d ? ($c << 32) | $d : ($d << 32) | $c;
            if (isset($users[$cd]) && $users[$cd] !== []) {
                // The edge is there already: the region touches itself.
                continue;
            }
            $W = [];
            foreach ([[$f, $i], [$f, ($i + 1) % 3], [$f, ($i + 2) % 3], [$g, ($j + 2) % 3]] as [$face, $at]) {
                $o = 6 * $face + 2 * $at;
                $W[] = [$fracture->weight[$o], $fracture->weight[$o + 1]];
            }
            foreach ([[$f, [$a, $d, $c], [0, 3, 2]], [$g, [$d, $b, $c], [3, 1, 2]]] as [$face, $corners, $from]) {
                foreach ([0, 1, 2] as $e) {
                    $C[3 * $face + $e] = $corners[$e];
                    [$fracture->weight[6 * $face + 2 * $e], $fracture->weight[6 * $face + 2 * $e + 1]] = $W[$from[$e]];
                }
            }
            $users[$key] = array_values(array_diff($users[$key], [$f, $g]));
            $users[$cd] = [$f, $g];
            $ad = $a < $d ? ($a << 32) | $d : ($d << 32) | $a;
            $bc = $b < $c ? ($b << 32) | $c : ($c << 32) | $b;
            $users[$ad] = array_map(static fn (int $face): int => $face === $g ? $f : $face, $users[$ad]);
            $users[$bc] = array_map(static fn (int $face): int => $face === $f ? $g : $face, $users[$bc]);
            $ca = $c < $a ? ($c << 32) | $a : ($a << 32) | $c;
            $db = $d < $b ? ($d << 32) | $b : ($b << 32) | $d;
            $stack[$ad] = $stack[$bc] = $stack[$ca] = $stack[$db] = true;
        }
        $fracture->corner = $C;
    }

    /**
     * The two faces of one region on an edge, or -1.
     *
     * @param list<int> $users
     * @param array<int, int> $back
     * @param array<int, int> $front
     * @param array<int, int> $origin
     *
     * @return array{int, int}
     */
    private static function pair(array $users, array $back, array $front, array $origin): array
    {
        foreach ($users as $n => $f) {
            for ($m = $n + 1; $m < count($users); $m++) {
                $g = $users[$m];
                if ($back[$g] === $back[$f] && $front[$g] === $front[$f] && $origin[$g] === $origin[$f]) {
                    return [$f, $g];
                }
            }
        }

        return [-1, -1];
    }
}
