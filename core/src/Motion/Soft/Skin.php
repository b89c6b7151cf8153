<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

/** The surface of a soft body in its lattice: vertices go with the eight nodes around them, and what pushes them pushes those. */
final readonly class Skin
{
    /** Where more than this share of all vertices is pushed, they are all placed anew. */
    private const MANY = 0.1;

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

    /** @var array<int, list<int>> vertices that go with each node */
    private array $with;

    /** @var list<int> all vertices */
    private array $all;

    /** @param list<float> $mass of each node, kg */
    public function __construct(private Lattice $lattice, array $mass)
    {
        [$nodes, $shares] = $lattice->around();
        $borne = array_fill(0, $lattice->nodes(), 0.0);
        $with = [];
        foreach ($nodes as $k => $node) {
            $borne[$node] += $shares[$k];
            $with[$node][] = $k >> 3;
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
        [$this->shares, $this->nodes, $this->mass, $this->pushed, $this->with, $this->all] = [$shares, $nodes, $own, $pushed, $with, array_keys($own)];
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
     * @param array{list<float>, list<float>, list<float>}|null $beside what each vertex is beside that; null: nothing
     *
     * @return array{list<float>, list<float>, list<float>} the same of each vertex
     */
    public function places(array $x, array $y, array $z, ?array $beside = null): array
    {
        return $this->placed([[], [], []], $this->all, $x, $y, $z, $beside);
    }

    /**
     * The same again, after some vertices have been pushed: only they and those beside them have moved.
     *
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places of each vertex before
     * @param list<int> $pushed vertices
     * @param array<int, float> $x of each node now
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array{list<float>, list<float>, list<float>}|null $beside
     *
     * @return array{list<float>, list<float>, list<float>}
     */
    public function placesAgain(array $places, array $pushed, array $x, array $y, array $z, ?array $beside): array
    {
        if (count($pushed) > self::MANY * count($this->all)) {
            return $this->places($x, $y, $z, $beside);
        }
        $moved = [];
        foreach ($pushed as $v) {
            for ($k = 8 * $v, $end = $k + 8; $k < $end; ++$k) {
                $moved[$this->nodes[$k]] = true;
            }
        }
        $again = [];
        foreach ($moved as $node => $_) {
            foreach ($this->with[$node] as $v) {
                $again[$v] = $v;
            }
        }

        return $this->placed($places, $again, $x, $y, $z, $beside);
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $places
     * @param array<int> $which vertices
     * @param array<int, float> $x of each node
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array{list<float>, list<float>, list<float>}|null $beside
     *
     * @return array{list<float>, list<float>, list<float>} with those put where their nodes take them
     */
    private function placed(array $places, array $which, array $x, array $y, array $z, ?array $beside): array
    {
        [$X, $Y, $Z] = $places;
        [$shares, $nodes] = [$this->shares, $this->nodes];
        foreach ($which as $i) {
            $k = 8 * $i;
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
            $X[$i] = $s * $x[$a] + $t * $x[$b] + $u * $x[$c] + $v * $x[$d] + $w * $x[$e] + $p * $x[$f] + $q * $x[$g] + $r * $x[$h];
            $Y[$i] = $s * $y[$a] + $t * $y[$b] + $u * $y[$c] + $v * $y[$d] + $w * $y[$e] + $p * $y[$f] + $q * $y[$g] + $r * $y[$h];
            $Z[$i] = $s * $z[$a] + $t * $z[$b] + $u * $z[$c] + $v * $z[$d] + $w * $z[$e] + $p * $z[$f] + $q * $z[$g] + $r * $z[$h];
        }
        if ($beside !== null) {
            [$u, $v, $w] = $beside;
            foreach ($which as $i) {
                $X[$i] += $u[$i];
                $Y[$i] += $v[$i];
                $Z[$i] += $w[$i];
            }
        }

        /** @var array{list<float>, list<float>, list<float>} */
        return [$X, $Y, $Z];
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was of each vertex, axis by axis
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is
     *
     * @return list<int> vertices that are elsewhere
     */
    public static function differing(array $was, array $is): array
    {
        $differing = [];
        [[$x, $y, $z], [$u, $v, $w]] = [$was, $is];
        foreach ($x as $i => $at) {
            if ($at !== $u[$i] || $y[$i] !== $v[$i] || $z[$i] !== $w[$i]) {
                $differing[] = $i;
            }
        }

        return $differing;
    }

    /**
     * How many times as far as alone the nodes must go so that vertices which were pushed get as far as they were pushed, on the
     * whole: those beside them, which were not, hold the nodes back.
     *
     * @param list<int> $pushed vertices that are elsewhere then
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was of each vertex before, axis by axis
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after
     * @param array<int, float> $w inverse masses of nodes
     */
    public function reach(array $pushed, array $was, array $is, array $w): float
    {
        $meant = $got = 0.0;
        [$shares, $nodes] = [$this->shares, $this->nodes];
        $none = array_fill(0, count($w), 0.0);
        foreach ($this->given($pushed, [$none, $none, $none], $was, $is, $w) as $axis => $moved) {
            foreach ($pushed as $v) {
                $d = $is[$axis][$v] - $was[$axis][$v];
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
     * @param list<int> $pushed vertices that are elsewhere then
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes numbers of each node, axis by axis
     * @param array{array<int, float>, array<int, float>, array<int, float>} $was of each vertex before
     * @param array{array<int, float>, array<int, float>, array<int, float>} $is and after
     * @param array<int, float> $w inverse masses of nodes; those with none stay
     * @param float $times as far as {@see reach()} says
     *
     * @return array{array<int, float>, array<int, float>, array<int, float>} of the nodes then
     */
    public function given(array $pushed, array $nodes, array $was, array $is, array $w, float $times = 1.0): array
    {
        return [
            $this->along($pushed, $nodes[0], $was[0], $is[0], $w, $times),
            $this->along($pushed, $nodes[1], $was[1], $is[1], $w, $times),
            $this->along($pushed, $nodes[2], $was[2], $is[2], $w, $times),
        ];
    }

    /**
     * @param list<int> $vertices
     * @param array<int, float> $x of the nodes, along one axis
     * @param array<int, float> $was
     * @param array<int, float> $is
     * @param array<int, float> $w
     *
     * @return array<int, float>
     */
    private function along(array $vertices, array $x, array $was, array $is, array $w, float $times): array
    {
        [$pushed, $nodes] = [$this->pushed, $this->nodes];
        foreach ($vertices as $v) {
            $d = $times * ($is[$v] - $was[$v]);
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
