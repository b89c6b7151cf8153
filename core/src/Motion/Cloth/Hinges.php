<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/**
 * Sweeps over hinges: pairs of triangles that share an edge resist being bent against each other. The four vertices, each
 * times a factor that only depends on the shape at rest, add up to a vector whose length says how far the surface is bent
 * there (Bergou, Wardetzky, Harmon, Zorin, Grinspun 2006, "A quadratic bending model for inextensible surfaces"); what is
 * curved at rest keeps the length it had.
 *
 * Of each hinge: four vertices and four factors in rows, the length at rest, and how far each of the four goes.
 */
final class Hinges
{
    /**
     * How far each vertex of a hinge goes against that vector, as shares of it: they change only with the masses.
     *
     * @param array<int, float> $w inverse masses
     * @param list<list<int>> $hinge the edge's ends, the corners across it
     * @param list<list<float>> $factor
     * @param array<int, float> $compliance in terms of the mean vertex
     *
     * @return array{list<float>, list<float>, list<float>, list<float>}
     */
    public static function shares(array $w, array $hinge, array $factor, array $compliance): array
    {
        [$va, $vb, $vc, $vd] = $hinge;
        [$fa, $fb, $fc, $fd] = $factor;
        $ga = $gb = $gc = $gd = [];
        foreach ($va as $k => $a) {
            $p = $fa[$k] * $w[$a];
            $q = $fb[$k] * $w[$vb[$k]];
            $r = $fc[$k] * $w[$vc[$k]];
            $s = $fd[$k] * $w[$vd[$k]];
            $l = 1.0 / ($p * $fa[$k] + $q * $fb[$k] + $r * $fc[$k] + $s * $fd[$k] + $compliance[$k]);
            $ga[] = $p * $l;
            $gb[] = $q * $l;
            $gc[] = $r * $l;
            $gd[] = $s * $l;
        }

        return [$ga, $gb, $gc, $gd];
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, int> $va the edge's ends
     * @param array<int, int> $vb
     * @param array<int, int> $vc the corners across it
     * @param array<int, int> $vd
     * @param array<int, float> $fa
     * @param array<int, float> $fb
     * @param array<int, float> $fc
     * @param array<int, float> $fd
     * @param array<int, float> $ga shares
     * @param array<int, float> $gb
     * @param array<int, float> $gc
     * @param array<int, float> $gd
     * @param array<int, float> $rest
     * @param bool $back in the other order
     */
    public static function sweep(
        array &$x,
        array &$y,
        array &$z,
        array $va,
        array $vb,
        array $vc,
        array $vd,
        array $fa,
        array $fb,
        array $fc,
        array $fd,
        array $ga,
        array $gb,
        array $gc,
        array $gd,
        array $rest,
        bool $back,
    ): void {
        [$X, $Y, $Z] = [$x, $y, $z];
        $x = $y = $z = [];
        $m = count($va);
        $step = $back ? -1 : 1;
        $k = $back ? $m - 1 : 0;
        for ($turn = 0; $turn < $m; ++$turn, $k += $step) {
            $a = $va[$k];
            $b = $vb[$k];
            $c = $vc[$k];
            $d = $vd[$k];
            $p = $fa[$k];
            $q = $fb[$k];
            $r = $fc[$k];
            $s = $fd[$k];
            $sx = $p * $X[$a] + $q * $X[$b] + $r * $X[$c] + $s * $X[$d];
            $sy = $p * $Y[$a] + $q * $Y[$b] + $r * $Y[$c] + $s * $Y[$d];
            $sz = $p * $Z[$a] + $q * $Z[$b] + $r * $Z[$c] + $s * $Z[$d];
            $length = $rest[$k];
            if ($length > 0.0) {
                $now = sqrt($sx * $sx + $sy * $sy + $sz * $sz) + 1e-30;
                $l = ($now - $length) / $now;
                $sx *= $l;
                $sy *= $l;
                $sz *= $l;
            }
            $p = $ga[$k];
            $q = $gb[$k];
            $r = $gc[$k];
            $s = $gd[$k];
            $X[$a] -= $p * $sx;
            $Y[$a] -= $p * $sy;
            $Z[$a] -= $p * $sz;
            $X[$b] -= $q * $sx;
            $Y[$b] -= $q * $sy;
            $Z[$b] -= $q * $sz;
            $X[$c] -= $r * $sx;
            $Y[$c] -= $r * $sy;
            $Z[$c] -= $r * $sz;
            $X[$d] -= $s * $sx;
            $Y[$d] -= $s * $sy;
            $Z[$d] -= $s * $sz;
        }
        [$x, $y, $z] = [$X, $Y, $Z];
    }
}
