<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/** The surface of a soft body in its lattice: vertices go with the eight nodes around them, and what pushes them pushes those. */
final readonly class Skin
{
    /** Farther at once would be a shot. */
    private const FARTHEST = 8.0;

    /** @var list<float> how far each vertex goes with each of its box's eight nodes */
    private array $shares;

    /** @var list<int> nodes of each vertex, eight each */
    private array $nodes;

    /** @var list<float> of each vertex, kg: what it stands for of the nodes around it */
    public array $mass;

    /** @var list<float> how far each node is pushed by a push of the vertex that has that share of it */
    private array $pushed;

    /** @param list<float> $mass of each node, kg */
    public function __construct(private Lattice $lattice, array $mass)
    {
        [$nodes, $shares] = $lattice->around();
        $borne = array_fill(0, $lattice->nodes(), 0.0);
        foreach ($nodes as $k => $node) {
            $borne[$node] += $shares[$k];
        }
        $own = $pushed = [];
        for ($v = 0, $count = count($lattice->box); $v < $count; $v++) {
            $sum = 0.0;
            for ($k = 8 * $v; $k < 8 * $v + 8; $k++) {
                // All that is around a node bears it together: what a push takes from whoever pushes, nodes get, no more.
                $part = $borne[$nodes[$k]] > 0.0 ? $shares[$k] / $borne[$nodes[$k]] : 0.0;
                $pushed[] = $part;
                $sum += $part * $mass[$nodes[$k]];
            }
            $own[] = $sum;
        }
        [$this->shares, $this->nodes, $this->mass, $this->pushed] = [$shares, $nodes, $own, $pushed];
    }

    /**
     * @param array<int, float> $x a number of each node
     *
     * @return list<float> the same of each vertex
     */
    public function over(array $x): array
    {
        $over = [];
        [$shares, $nodes] = [$this->shares, $this->nodes];
        for ($k = 0, $end = count($shares); $k < $end; $k += 8) {
            $over[] = $shares[$k] * $x[$nodes[$k]] + $shares[$k + 1] * $x[$nodes[$k + 1]] + $shares[$k + 2] * $x[$nodes[$k + 2]] + $shares[$k + 3] * $x[$nodes[$k + 3]]
                + $shares[$k + 4] * $x[$nodes[$k + 4]] + $shares[$k + 5] * $x[$nodes[$k + 5]] + $shares[$k + 6] * $x[$nodes[$k + 6]] + $shares[$k + 7] * $x[$nodes[$k + 7]];
        }

        return $over;
    }

    /**
     * Three numbers at once, which takes little more than half as long.
     *
     * @param array<int, float> $x of each node
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{list<float>, list<float>, list<float>} the same of each vertex
     */
    public function places(array $x, array $y, array $z): array
    {
        $X = $Y = $Z = [];
        [$shares, $nodes] = [$this->shares, $this->nodes];
        for ($k = 0, $end = count($shares); $k < $end; $k += 8) {
            $a = $nodes[$k];
            $b = $nodes[$k + 1];
            $c = $nodes[$k + 2];
            $d = $nodes[$k + 3];
            $e = $nodes[$k + 4];
            $f = $nodes[$k + 5];
            $g = $nodes[$k + 6];
            $h = $nodes[$k + 7];
            $s = $shares[$k];
            $t = $shares[$k + 1];
            $u = $shares[$k + 2];
            $v = $shares[$k + 3];
            $w = $shares[$k + 4];
            $p = $shares[$k + 5];
            $q = $shares[$k + 6];
            $r = $shares[$k + 7];
            $X[] = $s * $x[$a] + $t * $x[$b] + $u * $x[$c] + $v * $x[$d] + $w * $x[$e] + $p * $x[$f] + $q * $x[$g] + $r * $x[$h];
            $Y[] = $s * $y[$a] + $t * $y[$b] + $u * $y[$c] + $v * $y[$d] + $w * $y[$e] + $p * $y[$f] + $q * $y[$g] + $r * $y[$h];
            $Z[] = $s * $z[$a] + $t * $z[$b] + $u * $z[$c] + $v * $z[$d] + $w * $z[$e] + $p * $z[$f] + $q * $z[$g] + $r * $z[$h];
        }

        return [$X, $Y, $Z];
    }

    /**
     * How many times as far as alone the nodes must go so that vertices which were pushed get as far as they were pushed, on the
     * whole: those beside them, which were not, hold the nodes back.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was of each vertex before, axis by axis
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after
     * @param array<int, float> $w inverse masses of nodes
     */
    public function reach(array $was, array $is, array $w): float
    {
        $meant = $got = 0.0;
        [$shares, $nodes] = [$this->shares, $this->nodes];
        $none = array_fill(0, count($w), 0.0);
        foreach ($this->given([$none, $none, $none], $was, $is, $w) as $axis => $moved) {
            foreach ($is[$axis] as $v => $now) {
                $d = $now - $was[$axis][$v];
                if ($d !== 0.0) {
                    $meant += $this->mass[$v] * $d * $d;
                    for ($k = 8 * $v, $end = $k + 8; $k < $end; ++$k) {
                        $got += $this->mass[$v] * $d * $shares[$k] * $moved[$nodes[$k]];
                    }
                }
            }
        }

        return $got <= 0.0 ? 1.0 : max(1.0, min(self::FARTHEST, $meant / $got));
    }

    /**
     * Gives what was done to vertices to the nodes, so that momentum stays as it was.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes numbers of each node, axis by axis
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was of each vertex before
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after
     * @param array<int, float> $w inverse masses of nodes; those with none stay
     * @param float $times as far as {@see reach()} says
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} of the nodes then
     */
    public function given(array $nodes, array $was, array $is, array $w, float $times = 1.0): array
    {
        return [
            $this->along($nodes[0], $was[0], $is[0], $w, $times),
            $this->along($nodes[1], $was[1], $is[1], $w, $times),
            $this->along($nodes[2], $was[2], $is[2], $w, $times),
        ];
    }

    /**
     * @param array<int, float> $x of the nodes, along one axis
     * @param array<int, float> $was
     * @param array<int, float> $is
     * @param array<int, float> $w
     *
     * @return array<int, float>
     */
    private function along(array $x, array $was, array $is, array $w, float $times): array
    {
        if ($was === $is) {
            return $x;
        }
        [$pushed, $nodes] = [$this->pushed, $this->nodes];
        foreach ($is as $v => $now) {
            $d = $times * ($now - $was[$v]);
            if ($d !== 0.0) {
                for ($k = 8 * $v, $end = $k + 8; $k < $end; ++$k) {
                    if ($w[$nodes[$k]] > 0.0) {
                        $x[$nodes[$k]] += $pushed[$k] * $d;
                    }
                }
            }
        }

        return $x;
    }

    /** @return array{list<int>, list<float>} eight nodes around each vertex, and how far it goes with each */
    public function around(): array
    {
        return [$this->nodes, $this->shares];
    }

    public function count(): int
    {
        return count($this->lattice->box);
    }
}
