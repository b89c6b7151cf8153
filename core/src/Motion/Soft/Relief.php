<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/**
 * What the surface of a soft body is beside what its boxes carry: finer than they are, and turned with them; between the middles of
 * boxes as their turns are on the whole, so that it has no steps where one box ends.
 */
final readonly class Relief
{
    /**
     * @param array{list<int>, list<float>} $around eight nodes around each vertex, and how far it goes with each
     * @param list<float> $x of each vertex, along the prop's axes, m
     * @param list<float> $y
     * @param list<float> $z
     */
    public function __construct(private Lattice $lattice, private array $around, private array $x, private array $y, private array $z)
    {
    }

    /**
     * @param array<int, float> $turns of the boxes: x, y, z, w
     * @param list<float> $grown how many times as large each box is
     *
     * @return array{list<float>, list<float>, list<float>} where each vertex is beside where its box carries it, m
     */
    public function turned(array $turns, array $grown): array
    {
        $X = $Y = $Z = [];
        [$rx, $ry, $rz] = [$this->x, $this->y, $this->z];
        [$nodes, $shares] = $this->around;
        [$I, $J, $K, $R] = $this->ofNodes($turns);
        foreach ($this->lattice->box as $v => $box) {
            $i = $j = $k = $r = 0.0;
            for ($c = 8 * $v, $end = $c + 8; $c < $end; ++$c) {
                $s = $shares[$c];
                $n = $nodes[$c];
                $i += $s * $I[$n];
                $j += $s * $J[$n];
                $k += $s * $K[$n];
                $r += $s * $R[$n];
            }
            // Not of length 1 yet: where boxes are turned against each other it is shorter.
            $s = 2.0 / ($i * $i + $j * $j + $k * $k + $r * $r + 1e-30);
            $by = $grown[$box];
            $a = $by * $rx[$v];
            $b = $by * $ry[$v];
            $c = $by * $rz[$v];
            // Twice the vector part across, as quaternions turn.
            $p = $s * ($j * $c - $k * $b);
            $q = $s * ($k * $a - $i * $c);
            $s *= $i * $b - $j * $a;
            $X[] = $a + $r * $p + $j * $s - $k * $q;
            $Y[] = $b + $r * $q + $k * $p - $i * $s;
            $Z[] = $c + $r * $s + $i * $q - $j * $p;
        }

        return [$X, $Y, $Z];
    }

    /**
     * @param array<int, float> $turns of the boxes
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>, array<int, float>} sums of the turns of the boxes around each node
     */
    private function ofNodes(array $turns): array
    {
        $I = $J = $K = $R = array_fill(0, $this->lattice->nodes(), 0.0);
        foreach ($this->lattice->corners as $c => $node) {
            $b = 4 * ($c >> 3);
            $I[$node] += $turns[$b];
            $J[$node] += $turns[$b + 1];
            $K[$node] += $turns[$b + 2];
            $R[$node] += $turns[$b + 3];
        }

        return [$I, $J, $K, $R];
    }
}
