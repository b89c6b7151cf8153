<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Mesh\SurfaceTree;
use YardBreak\Core\Mesh\TriangleMesh;

/**
 * Boxes that fill solid pieces, each piece a grid of its own that fits its bounds, and where the pieces' vertices lie in them. A
 * box counts as far as it is filled.
 */
final readonly class Lattice
{
    /** Places in a box, along each side, that say how far it is filled. */
    private const PROBES = 3;

    /** As near as this to the next box, in boxes, a place may as well be in that. */
    private const BETWEEN = 1e-6;

    /** A box in which there is a corner of the surface, and little else. */
    private const LEAST = 0.05;

    /**
     * @param list<float> $x nodes at rest, m
     * @param list<float> $y
     * @param list<float> $z
     * @param list<float> $volume of each node's share of what is filled, m3
     * @param list<int> $corners eight nodes of each box: bit 0 along x, bit 1 along y, bit 2 along z
     * @param list<float> $sides three sides of each box, m
     * @param list<float> $fill how far each box is filled, 0 to 1
     * @param list<int> $box in which each vertex of the surface lies
     * @param list<float> $share three numbers of each vertex: how far along each side
     * @param list<int> $piece of each node
     */
    private function __construct(
        public array $x,
        public array $y,
        public array $z,
        public array $volume,
        public array $corners,
        public array $sides,
        public array $fill,
        public array $box,
        public array $share,
        public array $piece,
    ) {
    }

    /**
     * @param iterable<int, TriangleMesh> $pieces closed
     * @param float $side no box is longer, m
     */
    public static function of(iterable $pieces, float $side): self
    {
        $x = $y = $z = $volume = $corners = $sides = $fill = $box = $share = $piece = [];
        foreach ($pieces as $number => $mesh) {
            [$low, $high] = $mesh->bounds();
            $count = $size = [];
            foreach ([0, 1, 2] as $axis) {
                $count[] = $n = max(1, (int) ceil(($high[$axis] - $low[$axis]) / $side - 1e-6));
                $size[] = max(1e-9, ($high[$axis] - $low[$axis]) / $n);
            }
            [$filled, $in, $along] = self::filled($mesh, $low, $size, $count);
            $nodes = $boxes = [];
            foreach ($filled as $cell => $of) {
                $i = $cell % $count[0];
                $j = intdiv($cell, $count[0]) % $count[1];
                $k = intdiv($cell, $count[0] * $count[1]);
                $boxes[$cell] = count($fill);
                $fill[] = $of;
                array_push($sides, ...$size);
                for ($c = 0; $c < 8; $c++) {
                    [$a, $b, $d] = [$i + ($c & 1), $j + ($c >> 1 & 1), $k + ($c >> 2)];
                    $name = ($d * ($count[1] + 1) + $b) * ($count[0] + 1) + $a;
                    if (! isset($nodes[$name])) {
                        $nodes[$name] = count($x);
                        $x[] = $low[0] + $a * $size[0];
                        $y[] = $low[1] + $b * $size[1];
                        $z[] = $low[2] + $d * $size[2];
                        $volume[] = 0.0;
                        $piece[] = $number;
                    }
                    $corners[] = $nodes[$name];
                    $volume[$nodes[$name]] += 0.125 * $of * $size[0] * $size[1] * $size[2];
                }
            }
            foreach ($in as $v => $cell) {
                $box[] = $boxes[$cell];
                array_push($share, ...$along[$v]);
            }
        }

        return new self($x, $y, $z, array_values($volume), $corners, $sides, $fill, $box, $share, $piece);
    }

    /**
     * @param array{float, float, float} $low
     * @param list<float> $size of a box
     * @param list<int> $count of boxes along each axis
     *
     * @return array{array<int, float>, list<int>, list<list<float>>} how far boxes are filled, by number; box of each vertex, and how far along its sides
     */
    private static function filled(TriangleMesh $mesh, array $low, array $size, array $count): array
    {
        $tree = SurfaceTree::of($mesh, true);
        $filled = [];
        $n = self::PROBES;
        // Where all of a box is farther from the surface than its middle is from its corners, one place tells.
        $half = 0.5 * sqrt($size[0] ** 2 + $size[1] ** 2 + $size[2] ** 2);
        for ($cell = 0, $end = $count[0] * $count[1] * $count[2]; $cell < $end; $cell++) {
            $corner = [$low[0] + $size[0] * ($cell % $count[0]), $low[1] + $size[1] * (intdiv($cell, $count[0]) % $count[1]), $low[2] + $size[2] * intdiv($cell, $count[0] * $count[1])];
            $middle = self::depth($tree, $corner[0] + 0.5 * $size[0], $corner[1] + 0.5 * $size[1], $corner[2] + 0.5 * $size[2]);
            if (abs($middle) > $half) {
                if ($middle > 0.0) {
                    $filled[$cell] = 1.0;
                }
                continue;
            }
            $inside = 0;
            for ($p = 0; $p < $n ** 3; $p++) {
                $at = [];
                foreach ([$p % $n, intdiv($p, $n) % $n, intdiv($p, $n * $n)] as $axis => $k) {
                    $at[] = $corner[$axis] + $size[$axis] * ($k + 0.5) / $n;
                }
                $inside += self::depth($tree, $at[0], $at[1], $at[2]) > 0.0 ? 1 : 0;
            }
            if ($inside > 0) {
                $filled[$cell] = $inside / $n ** 3;
            }
        }
        $in = $along = [];
        foreach ($mesh->x as $v => $px) {
            $ways = [($px - $low[0]) / $size[0], ($mesh->y[$v] - $low[1]) / $size[1], ($mesh->z[$v] - $low[2]) / $size[2]];
            [$cell, $at] = self::boxAt($ways, $count, $filled);
            $in[] = $cell;
            $along[] = [$ways[0] - $at[0], $ways[1] - $at[1], $ways[2] - $at[2]];
            $filled[$cell] = max(self::LEAST, $filled[$cell] ?? 0.0);
        }
        ksort($filled);

        return [$filled, $in, $along];
    }

    /**
     * @param array{float, float, float} $ways along the axes, in boxes
     * @param list<int> $count of boxes along each axis
     * @param array<int, float> $filled by number
     *
     * @return array{int, array{int, int, int}} the box a place lies in, one that is filled if it lies between two
     */
    private static function boxAt(array $ways, array $count, array $filled): array
    {
        $choices = [];
        foreach ($ways as $axis => $way) {
            $k = max(0, min($count[$axis] - 1, (int) floor($way)));
            $beside = max(0, min($count[$axis] - 1, (int) floor($way + ($way - $k < 0.5 ? -self::BETWEEN : self::BETWEEN))));
            $choices[] = [$k, $beside];
        }
        $first = null;
        for ($c = 0; $c < 8; $c++) {
            $at = [$choices[0][$c & 1], $choices[1][$c >> 1 & 1], $choices[2][$c >> 2]];
            $cell = ($at[2] * $count[1] + $at[1]) * $count[0] + $at[0];
            $first ??= [$cell, $at];
            if (isset($filled[$cell])) {
                return [$cell, $at];
            }
        }

        return $first;
    }

    /** How deep inside a place is, m; less than 0: outside. */
    private static function depth(SurfaceTree $tree, float $x, float $y, float $z): float
    {
        $triangle = $tree->nearest($x, $y, $z, INF, -1);
        if ($triangle < 0) {
            return -INF;
        }
        $tree->look($triangle, $x, $y, $z);

        return -$tree->distance;
    }

    public function nodes(): int
    {
        return count($this->x);
    }

    /** @return array{list<int>, list<int>} nodes at the other ends of box sides: of node n from first[n] to first[n + 1], each side once */
    public function neighbours(): array
    {
        $ends = array_fill(0, $this->nodes(), []);
        foreach (array_chunk($this->corners, 8) as $box) {
            foreach ($box as $c => $node) {
                foreach ([1, 2, 4] as $bit) {
                    if (($c & $bit) === 0) {
                        $ends[min($node, $box[$c | $bit])][max($node, $box[$c | $bit])] = true;
                    }
                }
            }
        }
        $first = [0];
        $other = [];
        foreach ($ends as $of) {
            array_push($other, ...array_keys($of));
            $first[] = count($other);
        }

        return [$first, $other];
    }

    /** @return array{list<int>, list<float>} eight nodes around each vertex of the surface, and how far it goes with each of them */
    public function around(): array
    {
        $nodes = $shares = [];
        foreach ($this->box as $v => $box) {
            [$a, $b, $c] = [$this->share[3 * $v], $this->share[3 * $v + 1], $this->share[3 * $v + 2]];
            for ($k = 0; $k < 8; $k++) {
                $nodes[] = $this->corners[8 * $box + $k];
                $shares[] = (($k & 1) !== 0 ? $a : 1.0 - $a) * (($k & 2) !== 0 ? $b : 1.0 - $b) * (($k & 4) !== 0 ? $c : 1.0 - $c);
            }
        }

        return [$nodes, $shares];
    }

    public function boxes(): int
    {
        return count($this->fill);
    }
}
