<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\State;

/**
 * Pairs of a surface's vertices that are so near each other that they may meet: each vertex is a ball nearly as large as its edges
 * are long. They are listed, and listed anew when they have come as far as the list foresaw (Verlet 1967).
 */
final class NearPairs
{
    /** Side of the cubes in which it is watched how far vertices move, in how near a pair must be to be listed. */
    private const CUBE = 3.0;

    /** Pairs are listed for so many substeps as the next one ... */
    private const FORESEEN = 12.0;

    /** ... where those take more than this share of the margin for each of two ... */
    private const LEAST = 0.5;

    /** ... and no more than this: a list that is too long costs as much as one that is made anew. */
    private const LARGEST = 1.0;

    /** So many pairs there are for each vertex at most: cloth that lies on itself in many layers has 5 to 15, and memory ends. */
    private const MOST = 150;

    /** @var list<float> of each vertex's ball, as woven, m */
    private readonly array $woven;

    /** @var list<float> in the shape it has at rest, m */
    private array $own;

    /** As what it lies at rest. */
    private RestShape $shape;

    /** @var list<float> as it has grown, m */
    public array $radius;

    /** By how much farther apart than they must be pairs are listed, half of it for each of two, where all goes its usual way, m. */
    private float $margin;

    /** Of the largest two balls, m. */
    private float $widest;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} where the pairs were listed */
    private array $listed = [[], [], []];

    /** How far vertices have come since; null: pairs have to be listed anew. */
    private ?Drift $drift = null;

    /** @var list<float> and how far they may, by its cubes: half of what brings two together, m */
    private array $room = [];

    /** @var list<int> a vertex of each pair; pairs with the same one stand together */
    public array $vertex = [];

    /** @var list<int> pairs of vertex[k] are from first[k] to first[k + 1] */
    public array $first = [0];

    /** @var list<int> the other one */
    public array $other = [];

    /** @var array<int, float> how far apart they must stay, m */
    public array $apart = [];

    /** @var array<int, true> edges, by their lower vertex times the number of all, plus the higher one */
    private readonly array $edges;

    /** @var array<int, float> pairs that are let be, and how far apart they should stay */
    private array $let = [];

    /**
     * @param float $close what is closer at rest may come as close as this share of it
     * @param float $within where that ends: what is at rest so many times as far apart as balls are that touch must stay as far as those; between, the farther the more
     */
    public function __construct(private readonly Weave $weave, private readonly float $close = ClothTuning::CLOSE, private readonly float $within = 1.0)
    {
        $n = $weave->count();
        $sum = array_fill(0, $n, 0.0);
        $count = array_fill(0, $n, 0);
        $edges = [];
        for ($a = 0; $a < $n; $a++) {
            for ($c = $weave->first[$a], $end = $weave->first[$a + 1]; $c < $end; $c++) {
                $b = $weave->other[$c];
                $edges[min($a, $b) * $n + max($a, $b)] = true;
                foreach ([$a, $b] as $v) {
                    // Diagonals of squares are longer, and no gap.
                    $sum[$v] += $weave->length[$c] * (1.0 - $weave->diagonal[$c]) + $weave->length[$c] * $weave->diagonal[$c] * M_SQRT1_2;
                    $count[$v]++;
                }
            }
        }
        $this->edges = $edges;
        $radius = [];
        foreach ($sum as $v => $of) {
            $radius[] = 0.5 * ClothTuning::BALL * $of / max(1, $count[$v]);
        }
        $this->woven = $this->own = $this->radius = $radius;
        $this->shape = RestShape::woven($weave);
        $this->widest = 2.0 * max([0.0, ...$radius]);
        $this->margin = 0.5 * $weave->meanEdge();
    }

    /** It lies otherwise at rest from now on, as far apart as it does there, and has not grown. */
    public function lieAs(RestShape $shape): void
    {
        $this->shape = $shape;
        $least = $shape->least(array_fill(0, count($this->woven), 1.0));
        $this->own = array_map(static fn (float $woven, float $by): float => $woven * $by, $this->woven, $least);
        $this->margin = 0.5 * $this->weave->meanEdge() * min(1.0, array_sum($least) / max(1, count($least)));
        $this->grow(array_fill(0, count($this->woven), 1.0));
    }

    /**
     * Longer edges need larger balls.
     *
     * @param list<float> $times how many times as long as at rest it is at each vertex
     */
    public function grow(array $times): void
    {
        $this->radius = array_map(static fn (float $own, float $by): float => $own * $by, $this->own, $times);
        $this->widest = 2.0 * max([0.0, ...$this->radius]);
        [$this->listed, $this->drift, $this->room] = [[[], [], []], null, []];
    }

    /**
     * Lists the pairs anew if they have come so far that one could be missed.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places a substep before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     *
     * @throws Crowded
     */
    public function watch(array $x, array $y, array $z, array $px, array $py, array $pz): void
    {
        if ($this->widest > 0.0 && $this->drift?->isWithin($x, $y, $z, $this->room, $this->widest) !== true) {
            $drift = $this->driftSince($x, $y, $z);
            $this->list($x, $y, $z, $drift, $drift->foreseen($x, $y, $z, $px, $py, $pz, self::FORESEEN, self::LEAST * $this->margin, self::LARGEST * $this->margin));
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function driftSince(array $x, array $y, array $z): Drift
    {
        return Drift::since($x, $y, $z, self::CUBE * ($this->widest + $this->margin));
    }

    /**
     * Whether none that lie near each other come farther against each other, if all go on as they went.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param float $times as far as from there
     * @param float $most m
     */
    public function isCalm(array $x, array $y, array $z, array $px, array $py, array $pz, float $times, float $most): bool
    {
        return $this->widest <= 0.0 || $this->drift?->staysWithin($x, $y, $z, $px, $py, $pz, $times, $most, $this->widest) === true;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param Drift $drift since they are there
     * @param list<float> $room how far they may come, by its cubes, m
     */
    private function list(array $x, array $y, array $z, Drift $drift, array $room): void
    {
        [$this->listed, $this->drift, $this->room] = [[$x, $y, $z], $drift, $room];
        $more = $drift->ofVertices($room);
        [$order, $start, $cell, $across, $layer] = self::cells($x, $y, $z, $this->widest + 2.0 * max([0.0, ...$room]));
        // In that order, so that what is looked at together lies side by side.
        $sx = $sy = $sz = $size = $wide = $rx = $ry = $rz = [];
        foreach ($order as $a) {
            $sx[] = $x[$a];
            $sy[] = $y[$a];
            $sz[] = $z[$a];
            $size[] = $own = $this->radius[$a];
            $wide[] = $own + $more[$a];
            $rx[] = $this->shape->x[$a];
            $ry[] = $this->shape->y[$a];
            $rz[] = $this->shape->z[$a];
        }
        // Behind its own cell, of each row of three cells: those that come after it in the order, so that each pair is found once.
        $from = [0, $across - 1, $layer - $across - 1, $layer - 1, $layer + $across - 1];
        $to = [2, $across + 2, $layer - $across + 2, $layer + 2, $layer + $across + 2];
        [$close, $within] = [$this->close, $this->within];
        $vertex = $other = $apart = [];
        $first = [0];
        $found = $before = 0;
        $most = self::MOST * count($order);
        foreach ($order as $place => $a) {
            $ax = $sx[$place];
            $ay = $sy[$place];
            $az = $sz[$place];
            $own = $size[$place];
            $ra = $wide[$place];
            $in = $cell[$a];
            for ($row = 0; $row < 5; ++$row) {
                $q = $row === 0 ? $place + 1 : $start[$in + $from[$row]];
                for ($end = $start[$in + $to[$row]]; $q < $end; ++$q) {
                    $dx = $ax - $sx[$q];
                    $dy = $ay - $sy[$q];
                    $dz = $az - $sz[$q];
                    $far = $ra + $wide[$q];
                    if ($dx * $dx + $dy * $dy + $dz * $dz < $far * $far) {
                        $other[] = $order[$q];
                        ++$found;
                        $far = $own + $size[$q];
                        $dx = $rx[$place] - $rx[$q];
                        $dy = $ry[$place] - $ry[$q];
                        $dz = $rz[$place] - $rz[$q];
                        $rest = $dx * $dx + $dy * $dy + $dz * $dz;
                        // Neighbours, and layers that lie closer than that at rest, may come a little nearer than they are there.
                        $ratio = sqrt($rest) / $far;
                        $apart[] = $ratio < 1.0 ? $close * sqrt($rest) : ($ratio < $within ? $far * ($close + (1.0 - $close) * ($ratio - 1.0) / ($within - 1.0)) : $far);
                    }
                }
            }
            if ($found > $before) {
                if ($found > $most) {
                    throw new Crowded();
                }
                $vertex[] = $a;
                $first[] = $before = $found;
            }
        }
        [$this->vertex, $this->first, $this->other, $this->apart, $this->let] = [$vertex, $first, $other, $apart, []];
    }

    public function isEdge(int $a, int $b): bool
    {
        return isset($this->edges[min($a, $b) * $this->weave->count() + max($a, $b)]);
    }

    /** Square of how near what is around two may have come through: faces that meet at an edge, or lie close at rest, only where they are crumpled. */
    public function tight(int $a, int $b, float $tight): float
    {
        $apart = $this->radius[$a] + $this->radius[$b];
        $shape = $this->shape;
        $rest = sqrt(($shape->x[$a] - $shape->x[$b]) ** 2 + ($shape->y[$a] - $shape->y[$b]) ** 2 + ($shape->z[$a] - $shape->z[$b]) ** 2) * $apart / ($this->own[$a] + $this->own[$b]);
        if ($this->isEdge($a, $b)) {
            return (ClothTuning::CRUMPLED * $rest) ** 2;
        }

        // Two that were one are torn apart: they are as any others.
        return ($tight * ($rest > 0.0 ? min($rest, $apart) : $apart)) ** 2;
    }

    /**
     * Vertices sorted into cubes; around them is a layer of empty ones.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     *
     * @return array{array<int, int>, array<int, int>, list<int>, int, int} vertices by their cube, where each cube begins, cube of each vertex, cubes along x, cubes in a layer
     */
    private static function cells(array $x, array $y, array $z, float $side): array
    {
        [$lx, $ly, $lz] = [$x === [] ? 0.0 : min($x), $y === [] ? 0.0 : min($y), $z === [] ? 0.0 : min($z)];
        [$hx, $hy, $hz] = [$x === [] ? 0.0 : max($x), $y === [] ? 0.0 : max($y), $z === [] ? 0.0 : max($z)];
        // What has run away is said elsewhere; it must not fill the memory with empty cubes first.
        while (($hx - $lx) / $side * (($hy - $ly) / $side) * (($hz - $lz) / $side) > 4e6) {
            $side *= 2.0;
        }
        $per = 1.0 / $side;
        $across = (int) (($hx - $lx) * $per) + 3;
        $deep = (int) (($hy - $ly) * $per) + 3;
        $layer = $across * $deep;
        $count = array_fill(0, $layer * ((int) (($hz - $lz) * $per) + 3) + 1, 0);
        $cell = [];
        foreach ($x as $i => $at) {
            $k = ((int) (($z[$i] - $lz) * $per) + 1) * $layer + ((int) (($y[$i] - $ly) * $per) + 1) * $across + (int) (($at - $lx) * $per) + 1;
            $cell[] = $k;
            ++$count[$k];
        }
        for ($k = 1, $cubes = count($count); $k < $cubes; ++$k) {
            $count[$k] += $count[$k - 1];
        }
        $order = array_fill(0, count($cell), 0);
        for ($i = count($cell) - 1; $i >= 0; --$i) {
            $order[--$count[$cell[$i]]] = $i;
        }

        return [$order, $count, $cell, $across, $layer];
    }

    /**
     * Pairs of these vertices do not push each other apart until they are to again.
     *
     * @param array<int, true> $vertices
     */
    public function letBe(array $vertices): void
    {
        foreach ($this->vertex as $k => $a) {
            for ($c = $this->first[$k], $end = isset($vertices[$a]) ? $this->first[$k + 1] : 0; $c < $end; ++$c) {
                if (isset($vertices[$this->other[$c]])) {
                    $this->let($c);
                }
            }
        }
    }

    private function let(int $pair): void
    {
        $this->let[$pair] = $this->apart[$pair];
        $this->apart[$pair] = 0.0;
    }

    /** All push each other apart again. */
    public function letNone(): void
    {
        foreach ($this->let as $c => $apart) {
            $this->apart[$c] = $apart;
        }
        $this->let = [];
    }

    /** @return list<int> vertices of pairs that are let be */
    public function tangled(): array
    {
        $tangled = [];
        foreach ($this->let === [] ? [] : $this->vertex as $k => $a) {
            for ($c = $this->first[$k], $end = $this->first[$k + 1]; $c < $end; ++$c) {
                if (isset($this->let[$c])) {
                    array_push($tangled, $a, $this->other[$c]);
                }
            }
        }

        return $tangled;
    }

    /**
     * @param array<int, true> $of vertices
     *
     * @return array{list<int>, list<int>, list<float>} both vertices of each pair with one of them, and how far apart they must stay, m
     */
    public function with(array $of): array
    {
        $one = $other = $apart = [];
        foreach ($this->vertex as $k => $a) {
            for ($c = $this->first[$k], $end = $this->first[$k + 1]; $c < $end; ++$c) {
                if (isset($of[$a]) || isset($of[$this->other[$c]])) {
                    [$one[], $other[], $apart[]] = [$a, $this->other[$c], $this->apart[$c]];
                }
            }
        }

        return [$one, $other, $apart];
    }

    /** @return array<string, mixed> where the pairs were listed: listed there again, they come in the same order */
    public function save(): array
    {
        return ['x' => $this->listed[0], 'y' => $this->listed[1], 'z' => $this->listed[2], 'room' => $this->room, 'let' => array_keys($this->let)];
    }

    public function restore(State $saved): void
    {
        [$x, $y, $z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        if ($x !== []) {
            $this->list($x, $y, $z, $this->driftSince($x, $y, $z), $saved->floats('room'));
            array_map($this->let(...), $saved->ints('let'));
        }
    }
}
