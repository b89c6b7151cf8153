<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

/** Takes new vertices on edges into all faces that have the edge, so that faces keep meeting edge to edge. */
final readonly class EdgeInserter
{
    public function __construct(private PieceFaces $faces)
    {
    }

    /** Name of an edge: its lower vertex in the upper half, the higher one below, so that hashes spread. */
    public static function key(int $a, int $b): int
    {
        return $a < $b ? ($a << 32) | $b : ($b << 32) | $a;
    }

    /**
     * @param array<int, list<int>> $inserted vertices on each edge, in their order from the end with the lower number
     * @param list<int> $pieces those that may have such edges
     */
    public function insert(array $inserted, array $pieces): void
    {
        if ($inserted === []) {
            return;
        }
        $f = $this->faces->fracture;
        foreach ($pieces as $piece) {
            foreach ($this->faces->of($piece) as $face) {
                $k = 3 * $face;
                $a = $f->corner[$k];
                $b = $f->corner[$k + 1];
                $c = $f->corner[$k + 2];
                $ab = $inserted[$a < $b ? ($a << 32) | $b : ($b << 32) | $a] ?? [];
                $bc = $inserted[$b < $c ? ($b << 32) | $c : ($c << 32) | $b] ?? [];
                $ca = $inserted[$c < $a ? ($c << 32) | $a : ($a << 32) | $c] ?? [];
                if (($ab === [] && $bc === [] && $ca === []) || $f->back[$face] === Fracture::GONE) {
                    continue;
                }
                if ($ab === [$c] || $bc === [$a] || $ca === [$b]) {
                    // Its own corner comes onto the edge across: nothing of it is left, and its other edges meet.
                    $f->back[$face] = Fracture::GONE;
                    continue;
                }
                $sides = [$a < $b ? $ab : array_reverse($ab), $b < $c ? $bc : array_reverse($bc), $c < $a ? $ca : array_reverse($ca)];
                $w = array_slice($f->weight, 6 * $face, 6);
                $back = $f->back[$face];
                $f->back[$face] = Fracture::GONE;
                $this->split([$a, $b, $c], $sides, [[$w[0], $w[1]], [$w[2], $w[3]], [$w[4], $w[5]]], $back, $f->front[$face], $f->origin[$face]);
            }
        }
    }

    /**
     * A triangle with more vertices on its sides, as triangles: rungs between the longest such side and the other two, so
     * that no long diagonals come of it.
     *
     * @param array{int, int, int} $corners
     * @param array{list<int>, list<int>, list<int>} $sides the vertices on the sides 01, 12, 20; not all without any
     * @param array{array{float, float}, array{float, float}, array{float, float}} $weights at the corners
     */
    private function split(array $corners, array $sides, array $weights, int $back, int $front, int $origin): void
    {
        $e = 0;
        $longest = -1.0;
        foreach ($sides as $side => $list) {
            if ($list !== [] && ($length = $this->squaredLength($corners[$side], $corners[($side + 1) % 3])) > $longest) {
                $longest = $length;
                $e = $side;
            }
        }
        // From the corner where that side starts to the one where it ends: along it, and the other way round.
        [$a, $b, $c] = [$corners[$e], $corners[($e + 1) % 3], $corners[($e + 2) % 3]];
        [$wa, $wb, $wc] = [$weights[$e], $weights[($e + 1) % 3], $weights[($e + 2) % 3]];
        $w = [$a => $wa, $b => $wb, $c => $wc];
        foreach ([[$a, $b, $sides[$e]], [$b, $c, $sides[($e + 1) % 3]], [$c, $a, $sides[($e + 2) % 3]]] as [$from, $to, $list]) {
            foreach ($list as $v) {
                $w[$v] = $this->between($from, $to, $v, $w[$from], $w[$to]);
            }
        }
        $near = [$a, ...$sides[$e], $b];
        $far = [$a, ...array_reverse($sides[($e + 2) % 3]), $c, ...array_reverse($sides[($e + 1) % 3]), $b];
        $n = count($near) - 2;
        $m = count($far) - 2;
        $add = fn (int $p, int $q, int $r) => $this->faces->add([$p, $q, $r], $back, $front, $origin, [...$w[$p], ...$w[$q], ...$w[$r]]);
        $add($a, $near[1], $far[1]);
        for ($i = $j = 1; $i < $n || $j < $m;) {
            if ($j === $m || ($i < $n && $this->squaredLength($near[$i + 1], $far[$j]) <= $this->squaredLength($near[$i], $far[$j + 1]))) {
                $add($near[$i], $near[$i + 1], $far[$j]);
                $i++;
            } else {
                $add($near[$i], $far[$j + 1], $far[$j]);
                $j++;
            }
        }
        $add($near[$n], $b, $far[$m]);
    }

    private function squaredLength(int $a, int $b): float
    {
        $f = $this->faces->fracture;

        return ($f->x[$b] - $f->x[$a]) ** 2 + ($f->y[$b] - $f->y[$a]) ** 2 + ($f->z[$b] - $f->z[$a]) ** 2;
    }

    /**
     * @param array{float, float} $wa
     * @param array{float, float} $wb
     *
     * @return array{float, float}
     */
    private function between(int $a, int $b, int $v, array $wa, array $wb): array
    {
        $f = $this->faces->fracture;
        $ux = $f->x[$b] - $f->x[$a];
        $uy = $f->y[$b] - $f->y[$a];
        $uz = $f->z[$b] - $f->z[$a];
        $length = $ux * $ux + $uy * $uy + $uz * $uz;
        $t = $length > 0.0 ? (($f->x[$v] - $f->x[$a]) * $ux + ($f->y[$v] - $f->y[$a]) * $uy + ($f->z[$v] - $f->z[$a]) * $uz) / $length : 0.5;
        $t = $t < 0.0 ? 0.0 : ($t > 1.0 ? 1.0 : $t);

        return [$wa[0] + $t * ($wb[0] - $wa[0]), $wa[1] + $t * ($wb[1] - $wa[1])];
    }
}
