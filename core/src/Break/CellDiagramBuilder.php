<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/**
 * Voronoi cells by clipping: every cell starts as the region's box and is cut by the bisectors with its neighbours in
 * order of distance, until the next neighbour is farther than twice the cell's radius (Rycroft 2009, Chaos 19, 041111;
 * "security radius", Levy and Bonneel 2013). Whether a corner lies beyond a bisector is decided in doubles with a bound on
 * their error, and exactly where that bound does not suffice, so all cells agree on every shared corner.
 *
 * Cost: about 40 bisectors are tried and 15 kept a cell; linear in the number of sites.
 */
final class CellDiagramBuilder
{
    private const MAX_CORNERS = 1024;

    /**
     * @param array<int, float> $x sites; no two may be equal
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $weights of a power diagram; none: a Voronoi diagram
     */
    public static function voronoi(array $x, array $y, array $z, CellComplex $complex, Progress $progress = new Progress(), array $weights = []): CellDiagram
    {
        $n = $complex->cells;
        $facets = self::clip($x, $y, $z, $complex, SiteGrid::of($x, $y, $z), $progress, $weights);

        return self::share($facets, $n, $complex);
    }

    /**
     * Few cells of any kind (slabs, wedges): every cell is clipped by every other, so keep it below some dozens.
     */
    public static function general(CellComplex $complex): CellDiagram
    {
        $n = $complex->cells;
        $middle = [];
        foreach ([0, 1, 2] as $axis) {
            $middle[] = array_fill(0, $n, 0.5 * ($complex->low[$axis] + $complex->high[$axis]));
        }

        return self::share(self::clip($middle[0], $middle[1], $middle[2], $complex, null), $n, $complex);
    }

    /**
     * The kernel. All buffers are local and flat; faces and corners are double buffered.
     *
     * @param array<int, float> $sx
     * @param array<int, float> $sy
     * @param array<int, float> $sz
     * @param array<int, float> $weights
     *
     * @return array{array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, float>, array<int, float>, array<int, float>}
     *                                                                                                                                                                    facet's low cell, high cell, start; then per facet corner: the three constraints beside the low cell, x, y, z
     */
    private static function clip(array $sx, array $sy, array $sz, CellComplex $complex, ?SiteGrid $grid, Progress $progress = new Progress(), array $weights = []): array
    {
        $n = $complex->cells;
        $ax = $complex->ax;
        $ay = $complex->ay;
        $az = $complex->az;
        $bb = $complex->b;
        [$lx, $ly, $lz] = $complex->low;
        [$hx, $hy, $hz] = $complex->high;
        $reach = max(abs($lx), abs($hx), abs($ly), abs($hy), abs($lz), abs($hz)) * 2.0;
        $rounding = CellComplex::ROUNDING;
        $size = self::MAX_CORNERS;
        $VX = $VY = $VZ = $VE = $UX = $UY = $UZ = $UE = $D = array_fill(0, $size, 0.0);
        $VA = $VB = $VC = $UA = $UB = $UC = $NI = $EK = $CN = array_fill(0, $size, 0);
        $FL = $GL = array_fill(0, 8 * $size, 0);
        $FS = $GS = $FT = $GT = array_fill(0, $size, 0);
        // Constraints met by the current cell: number and form.
        $CI = array_fill(0, $size, 0);
        $CX = $CY = $CZ = $CD = $CL = array_fill(0, $size, 0.0);
        $boxX = [$lx, $hx, $hx, $lx, $lx, $hx, $hx, $lx];
        $boxY = [$ly, $ly, $hy, $hy, $ly, $ly, $hy, $hy];
        $boxZ = [$lz, $lz, $lz, $lz, $hz, $hz, $hz, $hz];
        $boxF = [0, 3, 2, 1, 4, 5, 6, 7, 0, 1, 5, 4, 1, 2, 6, 5, 2, 3, 7, 6, 3, 0, 4, 7];
        $boxT = [4, 5, 2, 1, 3, 0]; // wall of each box face: -x +x -y +y -z +z are 0 to 5
        $outLow = $outHigh = $outStart = $outA = $outB = $outC = [];
        $outX = $outY = $outZ = [];
        // Without a grid: one block that holds everything.
        $gs = $grid === null ? [0, $n] : $grid->start;
        $gi = $grid === null ? range(0, max(0, $n - 1)) : $grid->items;
        $gx = $grid === null ? 1 : $grid->nx;
        $gy = $grid === null ? 1 : $grid->ny;
        $gz = $grid === null ? 1 : $grid->nz;
        $block = $grid === null ? 1.0 : $grid->block;
        $ox = $grid === null ? 0.0 : $grid->x0;
        $oy = $grid === null ? 0.0 : $grid->y0;
        $oz = $grid === null ? 0.0 : $grid->z0;
        $secure = $grid === null ? INF : 4.000001;
        $shells = max($gx, $gy, $gz);
        $heaviest = $weights === [] ? 0.0 : max($weights);
        $outCount = 0;
        for ($c = 0; $c < $n; $c++) {
            if (($c & 255) === 0) {
                $progress->at('cells', $c, $n);
            }
            $px = 1.0 * $sx[$c];
            $py = 1.0 * $sy[$c];
            $pz = 1.0 * $sz[$c];
            for ($i = 0; $i < 8; $i++) {
                $VX[$i] = $boxX[$i];
                $VY[$i] = $boxY[$i];
                $VZ[$i] = $boxZ[$i];
                $VE[$i] = 0.0;
                // Slots 0 to 5 hold the walls.
                $VA[$i] = $boxX[$i] === $lx ? 0 : 1;
                $VB[$i] = $boxY[$i] === $ly ? 2 : 3;
                $VC[$i] = $boxZ[$i] === $lz ? 4 : 5;
            }
            for ($i = 0; $i < 24; $i++) {
                $FL[$i] = $boxF[$i];
            }
            for ($i = 0; $i < 6; $i++) {
                $FS[$i] = 4 * $i;
                $FT[$i] = $boxT[$i];
                $form = $complex->form($c, $n + $i);
                $CI[$i] = $n + $i;
                $CX[$i] = $form[0];
                $CY[$i] = $form[1];
                $CZ[$i] = $form[2];
                $CD[$i] = $form[3];
                $CL[$i] = 1.0;
            }
            $FS[6] = 24;
            $nv = 8;
            $nf = 6;
            $nc = 6;
            $r4 = INF;
            // A heavier site cuts from farther off: from r + sqrt(r2 + how much heavier), where r reaches to the farthest corner.
            $heavier = $weights === [] ? 0.0 : $heaviest - $weights[$c];
            $cx = $grid === null ? 0 : (int) (($px - $ox) / $block);
            $cy = $grid === null ? 0 : (int) (($py - $oy) / $block);
            $cz = $grid === null ? 0 : (int) (($pz - $oz) / $block);
            for ($k = 1; $k <= $shells; $k++) {
                $q = ($k - 1) * $block;
                if ($k > 1 && $q * $q > $r4) {
                    break;
                }
                $near = [];
                $x0 = $cx - $k;
                $x1 = $cx + $k;
                $y0 = $cy - $k;
                $y1 = $cy + $k;
                $z0 = $cz - $k;
                $z1 = $cz + $k;
                for ($z = ($z0 < 0 ? 0 : $z0); $z <= $z1 && $z < $gz; $z++) {
                    for ($y = ($y0 < 0 ? 0 : $y0); $y <= $y1 && $y < $gy; $y++) {
                        $all = $k === 1 || $z === $z0 || $z === $z1 || $y === $y0 || $y === $y1;
                        for ($x = ($x0 < 0 ? 0 : $x0); $x <= $x1 && $x < $gx; $x++) {
                            if ($all || $x === $x0 || $x === $x1) {
                                $h = ($z * $gy + $y) * $gx + $x;
                                $e = $gs[$h + 1];
                                for ($j = $gs[$h]; $j < $e; $j++) {
                                    $s = $gi[$j];
                                    if ($s !== $c) {
                                        $dx = $sx[$s] - $px;
                                        $dy = $sy[$s] - $py;
                                        $dz = $sz[$s] - $pz;
                                        $d2 = $dx * $dx + $dy * $dy + $dz * $dz;
                                        if ($d2 <= $r4) {
                                            $near[$s] = $d2;
                                        }
                                    }
                                }
                            }
                        }
                    }
                }
                asort($near);
                foreach ($near as $s => $d2) {
                    if ($d2 > $r4) {
                        break;
                    }
                    $nx = $ax[$s] - $ax[$c];
                    $ny = $ay[$s] - $ay[$c];
                    $nz = $az[$s] - $az[$c];
                    $d = $bb[$s] - $bb[$c];
                    $nl = sqrt($nx * $nx + $ny * $ny + $nz * $nz);
                    $blur = $rounding * (3.0 * $nl * $reach + ($d < 0.0 ? -$d : $d));
                    $out = 0;
                    for ($i = 0; $i < $nv; $i++) {
                        $t = $nx * $VX[$i] + $ny * $VY[$i] + $nz * $VZ[$i] + $d;
                        $w = $blur + $nl * $VE[$i];
                        if ($t <= $w && $t >= -$w) {
                            $t = 1.0 * $complex->sideOfCorner($c, [$CI[$VA[$i]], $CI[$VB[$i]], $CI[$VC[$i]]], $s);
                        }
                        $D[$i] = $t;
                        if ($t < 0.0) {
                            $out++;
                        }
                    }
                    if ($out === 0) {
                        continue;
                    }
                    if ($out === $nv) {
                        $nf = 0;
                        break 2;
                    }
                    $slot = $nc++;
                    $CI[$slot] = $s;
                    $CX[$slot] = $nx;
                    $CY[$slot] = $ny;
                    $CZ[$slot] = $nz;
                    $CD[$slot] = $d;
                    $CL[$slot] = $nl;
                    $m = 0;
                    for ($i = 0; $i < $nv; $i++) {
                        if ($D[$i] > 0.0) {
                            $NI[$i] = $m;
                            $UX[$m] = $VX[$i];
                            $UY[$m] = $VY[$i];
                            $UZ[$m] = $VZ[$i];
                            $UE[$m] = $VE[$i];
                            $UA[$m] = $VA[$i];
                            $UB[$m] = $VB[$i];
                            $UC[$m] = $VC[$i];
                            $m++;
                        }
                    }
                    $ne = 0;
                    $mf = 0;
                    $w = 0;
                    for ($f = 0; $f < $nf; $f++) {
                        $j = $FS[$f];
                        $e = $FS[$f + 1];
                        $face = $FT[$f];
                        $w0 = $w;
                        $xo = -1;
                        $xi = -1;
                        $a = $FL[$e - 1];
                        $ina = $D[$a] > 0.0;
                        for (; $j < $e; $j++) {
                            $b = $FL[$j];
                            $inb = $D[$b] > 0.0;
                            if ($ina !== $inb) {
                                $key = $a < $b ? $a * $size + $b : $b * $size + $a;
                                for ($q = 0; $q < $ne; $q++) {
                                    if ($EK[$q] === $key) {
                                        break;
                                    }
                                }
                                if ($q === $ne) {
                                    $EK[$ne] = $key;
                                    $o = $m + $ne;
                                    $ne++;
                                    // The other face of this edge: the constraint that both ends share beside this one.
                                    $g = $VA[$a];
                                    if ($g === $face || ($g !== $VA[$b] && $g !== $VB[$b] && $g !== $VC[$b])) {
                                        $g = $VB[$a];
                                        if ($g === $face || ($g !== $VA[$b] && $g !== $VB[$b] && $g !== $VC[$b])) {
                                            $g = $VC[$a];
                                        }
                                    }
                                    $UA[$o] = $face;
                                    $UB[$o] = $g;
                                    $UC[$o] = $slot;
                                }
                                $GL[$w] = $m + $q;
                                $w++;
                                if ($inb) {
                                    $xi = $q;
                                } else {
                                    $xo = $q;
                                }
                            }
                            if ($inb) {
                                $GL[$w] = $NI[$b];
                                $w++;
                            }
                            $a = $b;
                            $ina = $inb;
                        }
                        if ($xo >= 0) {
                            $CN[$xi] = $xo;
                        }
                        if ($w > $w0) {
                            $GS[$mf] = $w0;
                            $GT[$mf] = $face;
                            $mf++;
                        }
                    }
                    for ($q = 0; $q < $ne; $q++) {
                        // Cramer's rule, with a bound on its rounding.
                        $o = $m + $q;
                        $f = $UA[$o];
                        $g = $UB[$o];
                        $bx = $CY[$f] * $CZ[$g] - $CZ[$f] * $CY[$g];
                        $by = $CZ[$f] * $CX[$g] - $CX[$f] * $CZ[$g];
                        $bz = $CX[$f] * $CY[$g] - $CY[$f] * $CX[$g];
                        $det = $nx * $bx + $ny * $by + $nz * $bz;
                        $scale = $CL[$f] * $CL[$g] * $nl;
                        $quality = $det < 0.0 ? -$det : $det;
                        if ($quality <= 1e-14 * $scale) {
                            $UX[$o] = $px;
                            $UY[$o] = $py;
                            $UZ[$o] = $pz;
                            $UE[$o] = INF;
                            continue;
                        }
                        $u = -1.0 / $det;
                        $df = $CD[$f];
                        $dg = $CD[$g];
                        $UX[$o] = $u * ($d * $bx + $df * ($CY[$g] * $nz - $CZ[$g] * $ny) + $dg * ($ny * $CZ[$f] - $nz * $CY[$f]));
                        $UY[$o] = $u * ($d * $by + $df * ($CZ[$g] * $nx - $CX[$g] * $nz) + $dg * ($nz * $CX[$f] - $nx * $CZ[$f]));
                        $UZ[$o] = $u * ($d * $bz + $df * ($CX[$g] * $ny - $CY[$g] * $nx) + $dg * ($nx * $CY[$f] - $ny * $CX[$f]));
                        $far = $reach * $scale + ($d < 0.0 ? -$d : $d) * $CL[$f] * $CL[$g]
                            + ($df < 0.0 ? -$df : $df) * $CL[$g] * $nl + ($dg < 0.0 ? -$dg : $dg) * $CL[$f] * $nl;
                        $UE[$o] = 8.0 * $rounding * $far / $quality;
                    }
                    $GS[$mf] = $w;
                    $GT[$mf] = $slot;
                    $mf++;
                    $a = 0;
                    for ($q = 0; $q < $ne; $q++) {
                        $GL[$w] = $m + $a;
                        $w++;
                        $a = $CN[$a];
                    }
                    $GS[$mf] = $w;
                    $T = $VX;
                    $VX = $UX;
                    $UX = $T;
                    $T = $VY;
                    $VY = $UY;
                    $UY = $T;
                    $T = $VZ;
                    $VZ = $UZ;
                    $UZ = $T;
                    $T = $VE;
                    $VE = $UE;
                    $UE = $T;
                    $T = $VA;
                    $VA = $UA;
                    $UA = $T;
                    $T = $VB;
                    $VB = $UB;
                    $UB = $T;
                    $T = $VC;
                    $VC = $UC;
                    $UC = $T;
                    $T = $FL;
                    $FL = $GL;
                    $GL = $T;
                    $T = $FS;
                    $FS = $GS;
                    $GS = $T;
                    $T = $FT;
                    $FT = $GT;
                    $GT = $T;
                    $T = 0;
                    $nv = $m + $ne;
                    $nf = $mf;
                    if ($nv * 2 > $size || $nc + 1 > $size) {
                        throw new BreakFailed('One cell has more than ' . ($size / 2) . ' corners: spread the sites out, or ask for fewer pieces.');
                    }
                    $r4 = 0.0;
                    for ($i = 0; $i < $nv; $i++) {
                        $dx = $VX[$i] - $px;
                        $dy = $VY[$i] - $py;
                        $dz = $VZ[$i] - $pz;
                        $t = sqrt($dx * $dx + $dy * $dy + $dz * $dz) + $VE[$i];
                        if ($t > $r4) {
                            $r4 = $t;
                        }
                    }
                    if ($heavier > 0.0) {
                        $r4 = 0.5 * ($r4 + sqrt($r4 * $r4 + $heavier));
                    }
                    $r4 = $secure * $r4 * $r4;
                }
            }
            for ($f = 0; $f < $nf; $f++) {
                $id = $CI[$FT[$f]];
                if ($id < $c) {
                    continue;
                }
                $outLow[] = $c;
                $outHigh[] = $id;
                $outStart[] = $outCount;
                for ($j = $FS[$f], $e = $FS[$f + 1]; $j < $e; $j++) {
                    $i = $FL[$j];
                    $outA[] = $CI[$VA[$i]];
                    $outB[] = $CI[$VB[$i]];
                    $outC[] = $CI[$VC[$i]];
                    $outX[] = $VX[$i];
                    $outY[] = $VY[$i];
                    $outZ[] = $VZ[$i];
                    $outCount++;
                }
            }
        }
        $outStart[] = $outCount;

        return [$outLow, $outHigh, $outStart, $outA, $outB, $outC, $outX, $outY, $outZ];
    }

    /**
     * Corners that several cells found are made one: the four constraints that meet in it are its name. The coordinates
     * are those that the lowest cell computed.
     *
     * @param array{array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, int>, array<int, float>, array<int, float>, array<int, float>} $facets
     */
    private static function share(array $facets, int $n, CellComplex $complex): CellDiagram
    {
        [$low, $high, $start, $A, $B, $C, $X, $Y, $Z] = $facets;
        $base = $n + 6;
        $byName = $x = $y = $z = $onWall = $corner = $edge = [];
        $neighbours = array_fill(0, $n, []);
        foreach ($low as $f => $i) {
            $j = $high[$f];
            if ($j < $n) {
                $neighbours[$i][] = $j;
                $neighbours[$j][] = $i;
            }
            $from = $start[$f];
            $to = $start[$f + 1];
            for ($t = $from; $t < $to; $t++) {
                // The four in order; i is the lowest cell of its facets, but not always of the corner.
                $n0 = $i;
                $n1 = $A[$t];
                $n2 = $B[$t];
                $n3 = $C[$t];
                if ($n0 > $n1) {
                    [$n0, $n1] = [$n1, $n0];
                }
                if ($n2 > $n3) {
                    [$n2, $n3] = [$n3, $n2];
                }
                if ($n0 > $n2) {
                    [$n0, $n2] = [$n2, $n0];
                }
                if ($n1 > $n3) {
                    [$n1, $n3] = [$n3, $n1];
                }
                if ($n1 > $n2) {
                    [$n1, $n2] = [$n2, $n1];
                }
                $name = $base < 50000 ? (($n0 * $base + $n1) * $base + $n2) * $base + $n3 : "{$n0},{$n1},{$n2},{$n3}";
                if (! isset($byName[$name])) {
                    $byName[$name] = count($x);
                    $x[] = $X[$t];
                    $y[] = $Y[$t];
                    $z[] = $Z[$t];
                    $onWall[] = $n3 >= $n;
                }
                $corner[$t] = $byName[$name];
                // The third constraint of the edge to the next corner: shared by both, beside this facet's own.
                $u = $t + 1 === $to ? $from : $t + 1;
                $third = $A[$t];
                if ($third === $j || ($third !== $A[$u] && $third !== $B[$u] && $third !== $C[$u])) {
                    $third = $B[$t];
                    if ($third === $j || ($third !== $A[$u] && $third !== $B[$u] && $third !== $C[$u])) {
                        $third = $C[$t];
                    }
                }
                $edge[$t] = $third;
            }
        }

        return new CellDiagram($complex, $x, $y, $z, $onWall, $low, $high, $start, $corner, $edge, $neighbours);
    }
}
