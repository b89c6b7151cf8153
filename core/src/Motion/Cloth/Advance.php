<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Force\Pushes;

/**
 * Moves free vertices on by their speed, which is where they are less where they were (Verlet 1967), and by what acts on
 * them. The air takes from the speed across the surface, with its square and implicitly, so that the thinnest silk stays
 * calm; along the surface it slips by.
 */
final class Advance
{
    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses; what has none stays, and is moved by whoever holds it
     * @param array{array<int, float>, array<int, float>, array<int, float>} $way of what acts in a substep, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $air its way in a substep, m
     * @param array{array<int, float>, array<int, float>, array<int, float>} $normal unit
     * @param float $keep share of the speed that damping leaves
     * @param float $resistance 1/m; see Fabric
     */
    public static function vertices(
        array &$x,
        array &$y,
        array &$z,
        array &$px,
        array &$py,
        array &$pz,
        array $w,
        array $way,
        array $air,
        array $normal,
        float $keep,
        float $resistance,
    ): void {
        [$X, $Y, $Z, $P, $Q, $R] = [$x, $y, $z, $px, $py, $pz];
        $x = $y = $z = $px = $py = $pz = [];
        [$gx, $gy, $gz] = $way;
        [$u, $v, $o] = $air;
        [$nx, $ny, $nz] = $normal;
        $n = count($w);
        for ($i = 0; $i < $n; ++$i) {
            $a = $X[$i];
            $b = $Y[$i];
            $c = $Z[$i];
            if ($w[$i] > 0.0) {
                $dx = ($a - $P[$i]) * $keep;
                $dy = ($b - $Q[$i]) * $keep;
                $dz = ($c - $R[$i]) * $keep;
                $l = $nx[$i];
                $m = $ny[$i];
                $k = $nz[$i];
                $through = ($dx - $u[$i]) * $l + ($dy - $v[$i]) * $m + ($dz - $o[$i]) * $k;
                $q = $resistance * ($through < 0.0 ? 0.0 - $through : $through);
                $q = $through * $q / (1.0 + $q);
                $X[$i] = $a + $dx - $q * $l + $gx[$i];
                $Y[$i] = $b + $dy - $q * $m + $gy[$i];
                $Z[$i] = $c + $dz - $q * $k + $gz[$i];
            }
            $P[$i] = $a;
            $Q[$i] = $b;
            $R[$i] = $c;
        }
        [$x, $y, $z, $px, $py, $pz] = [$X, $Y, $Z, $P, $Q, $R];
    }

    /**
     * Takes from the speed of free vertices through the air what forces slow, once a step and implicitly.
     *
     * @param list<float> $x
     * @param list<float> $y
     * @param list<float> $z
     * @param array<int, float> $px places before; changed, as the speed is in them
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param float $h a substep, s
     * @param float $dt the step, s
     */
    public static function slowed(array $x, array $y, array $z, array &$px, array &$py, array &$pz, array $w, Pushes $pushes, float $h, float $dt): void
    {
        foreach ($w as $i => $free) {
            if ($free <= 0.0) {
                continue;
            }
            [$u, $v, $o] = [$pushes->u[$i] * $h, $pushes->v[$i] * $h, $pushes->w[$i] * $h];
            $dx = $x[$i] - $px[$i] - $u;
            $dy = $y[$i] - $py[$i] - $v;
            $dz = $z[$i] - $pz[$i] - $o;
            $s = 1.0 / (1.0 + $dt * ($pushes->linear[$i] + $pushes->square[$i] * sqrt($dx * $dx + $dy * $dy + $dz * $dz) / $h));
            $px[$i] = $x[$i] - $u - $s * $dx;
            $py[$i] = $y[$i] - $v - $s * $dy;
            $pz[$i] = $z[$i] - $o - $s * $dz;
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     *
     * @return array{list<float>, list<float>, list<float>} unit normal of each vertex
     */
    public static function normals(array $x, array $y, array $z, array $triangles): array
    {
        $n = count($x);
        // On each corner of a triangle acts a third of its area times the pressure: with 6 Pa, the cross product of two edges.
        [$f, $g, $h] = self::pressed($x, $y, $z, $triangles, array_fill(0, $n, 6.0));
        for ($i = 0; $i < $n; ++$i) {
            $l = sqrt($f[$i] * $f[$i] + $g[$i] * $g[$i] + $h[$i] * $h[$i]);
            $s = $l > 0.0 ? 1.0 / $l : 0.0;
            $f[$i] *= $s;
            $g[$i] *= $s;
            $h[$i] *= $s;
        }

        return [array_values($f), array_values($g), array_values($h)];
    }

    /**
     * What a pressure behind a surface does to its vertices: a third of that on each triangle around.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param list<int> $triangles
     * @param list<float> $pressure at each vertex, Pa
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} N
     */
    public static function pressed(array $x, array $y, array $z, array $triangles, array $pressure): array
    {
        $f = $g = $h = array_fill(0, count($x), 0.0);
        for ($k = 0, $end = count($triangles); $k < $end; $k += 3) {
            $a = $triangles[$k];
            $b = $triangles[$k + 1];
            $c = $triangles[$k + 2];
            $p = ($pressure[$a] + $pressure[$b] + $pressure[$c]) / 18.0;
            if ($p === 0.0) {
                continue;
            }
            $ux = $x[$b] - $x[$a];
            $uy = $y[$b] - $y[$a];
            $uz = $z[$b] - $z[$a];
            $vx = $x[$c] - $x[$a];
            $vy = $y[$c] - $y[$a];
            $vz = $z[$c] - $z[$a];
            $nx = $p * ($uy * $vz - $uz * $vy);
            $ny = $p * ($uz * $vx - $ux * $vz);
            $nz = $p * ($ux * $vy - $uy * $vx);
            $f[$a] += $nx;
            $g[$a] += $ny;
            $h[$a] += $nz;
            $f[$b] += $nx;
            $g[$b] += $ny;
            $h[$b] += $nz;
            $f[$c] += $nx;
            $g[$c] += $ny;
            $h[$c] += $nz;
        }

        return [$f, $g, $h];
    }
}
