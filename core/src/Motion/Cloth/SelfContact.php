<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

use YardBreak\Core\Motion\State;
use YardBreak\Core\Motion\Surface\Tangles;

/**
 * Cloth that lies on itself: each vertex is a ball nearly as large as its edges are long, and no two of them overlap; as long as
 * edges are not stretched, no edge fits between. Pairs that may meet are listed, and listed anew when they have come as far as
 * the list foresaw (Verlet 1967).
 */
final class SelfContact
{
    /** Side of the cubes in which it is watched how far vertices move, in how near a pair must be to be listed. */
    private const CUBE = 3.0;

    /** @var list<float> of each vertex's ball, as woven, m */
    private readonly array $woven;

    /** @var list<float> in the shape it has at rest, m */
    private array $own;

    /** As what it lies at rest. */
    private RestShape $shape;

    /** @var list<float> as it has grown, m */
    private array $radius;

    /** How much nearer than they must a pair may be, and still not be listed, m. */
    private readonly float $margin;

    /** Of the largest two balls, m. */
    private float $widest;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} where the pairs were listed */
    private array $listed = [[], [], []];

    /** How far vertices have come since; null: pairs have to be listed anew. */
    private ?Drift $drift = null;

    /** @var list<int> a vertex of each pair; pairs with the same one stand together */
    private array $vertex = [];

    /** @var list<int> pairs of vertex[k] are from first[k] to first[k + 1] */
    private array $first = [0];

    /** @var list<int> the other one */
    private array $other = [];

    /** @var array<int, float> how far apart they must stay, m */
    private array $apart = [];

    /** @var array<int, true> edges, by their lower vertex times the number of all, plus the higher one */
    private readonly array $edges;

    /** @var array<int, float> pairs that are let be, as they are on the wrong side of each other, and how far apart they should stay */
    private array $let = [];

    /**
     * @param float $close what is closer at rest may come as close as this share of it
     * @param float $within where that ends: what is at rest so many times as far apart as balls are that touch must stay as far as those; between, the farther the more
     */
    public function __construct(private readonly Weave $weave, private readonly float $friction, private readonly float $close = ClothTuning::CLOSE, private readonly float $within = 1.0)
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
        $this->own = array_map(static fn (float $woven, float $by): float => $woven * $by, $this->woven, $shape->least(array_fill(0, count($this->woven), 1.0)));
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
        [$this->listed, $this->drift] = [[[], [], []], null];
    }

    /**
     * Lists the pairs anew if they have come so far that one could be missed.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    public function watch(array $x, array $y, array $z): void
    {
        if ($this->widest > 0.0 && $this->drift?->isWithin($x, $y, $z, $this->margin, $this->widest) !== true) {
            $this->list($x, $y, $z);
        }
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     */
    private function list(array $x, array $y, array $z): void
    {
        $this->listed = [$x, $y, $z];
        $this->drift = Drift::since($x, $y, $z, self::CUBE * ($this->widest + $this->margin));
        [$order, $start, $cell, $across, $layer] = self::cells($x, $y, $z, $this->widest + $this->margin);
        // In that order, so that what is looked at together lies side by side.
        $sx = $sy = $sz = $size = $rx = $ry = $rz = [];
        foreach ($order as $a) {
            $sx[] = $x[$a];
            $sy[] = $y[$a];
            $sz[] = $z[$a];
            $size[] = $this->radius[$a];
            $rx[] = $this->shape->x[$a];
            $ry[] = $this->shape->y[$a];
            $rz[] = $this->shape->z[$a];
        }
        // Behind its own cell, of each row of three cells: those that come after it in the order, so that each pair is found once.
        $from = [0, $across - 1, $layer - $across - 1, $layer - 1, $layer + $across - 1];
        $to = [2, $across + 2, $layer - $across + 2, $layer + 2, $layer + $across + 2];
        [$margin, $close, $within] = [$this->margin, $this->close, $this->within];
        $vertex = $other = $apart = [];
        $first = [0];
        $found = $before = 0;
        foreach ($order as $place => $a) {
            $ax = $sx[$place];
            $ay = $sy[$place];
            $az = $sz[$place];
            $own = $size[$place];
            $ra = $own + $margin;
            $in = $cell[$a];
            for ($row = 0; $row < 5; ++$row) {
                $q = $row === 0 ? $place + 1 : $start[$in + $from[$row]];
                for ($end = $start[$in + $to[$row]]; $q < $end; ++$q) {
                    $dx = $ax - $sx[$q];
                    $dy = $ay - $sy[$q];
                    $dz = $az - $sz[$q];
                    $far = $ra + $size[$q];
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
                $vertex[] = $a;
                $first[] = $before = $found;
            }
        }
        [$this->vertex, $this->first, $this->other, $this->apart, $this->let] = [$vertex, $first, $other, $apart, []];
    }

    /** Square of how near what is around two may have come through: faces that meet at an edge, or lie close at rest, only where they are crumpled. */
    private function tight(int $a, int $b, float $tight): float
    {
        $apart = $this->radius[$a] + $this->radius[$b];
        $shape = $this->shape;
        $rest = sqrt(($shape->x[$a] - $shape->x[$b]) ** 2 + ($shape->y[$a] - $shape->y[$b]) ** 2 + ($shape->z[$a] - $shape->z[$b]) ** 2) * $apart / ($this->own[$a] + $this->own[$b]);
        if (isset($this->edges[min($a, $b) * $this->weave->count() + max($a, $b)])) {
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
     * Pushes apart what overlaps, with friction. A push is felt as speed only as far as they came towards each other.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param bool $rubs false: places are only put right, and no speed changes
     */
    public function resolve(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, bool $rubs): void
    {
        if ($this->other === []) {
            return;
        }
        [$X, $Y, $Z, $P, $Q, $R] = [$x, $y, $z, $px, $py, $pz];
        $x = $y = $z = $px = $py = $pz = [];
        [$first, $other, $apart] = [$this->first, $this->other, $this->apart];
        $friction = $rubs ? $this->friction : 0.0;
        foreach ($this->vertex as $k => $a) {
            $wa = $w[$a];
            for ($c = $first[$k], $end = $first[$k + 1]; $c < $end; ++$c) {
                $b = $other[$c];
                $dx = $X[$a] - $X[$b];
                $dy = $Y[$a] - $Y[$b];
                $dz = $Z[$a] - $Z[$b];
                $d = $apart[$c];
                $l = $dx * $dx + $dy * $dy + $dz * $dz;
                if ($l >= $d * $d || $l < 1e-18) {
                    continue;
                }
                $wb = $w[$b];
                $sum = $wa + $wb;
                if ($sum <= 0.0) {
                    continue;
                }
                $l = sqrt($l);
                $nx = $dx / $l;
                $ny = $dy / $l;
                $nz = $dz / $l;
                // Deep overlaps are undone over several turns: at once they would be shots.
                $push = $d - $l;
                $most = ClothTuning::PUSH * $d;
                $push = $push > $most ? $most : $push;
                $sa = $wa / $sum;
                $sb = $wb / $sum;
                $tx = $X[$a] - $P[$a] - $X[$b] + $P[$b];
                $ty = $Y[$a] - $Q[$a] - $Y[$b] + $Q[$b];
                $tz = $Z[$a] - $R[$a] - $Z[$b] + $R[$b];
                $along = $tx * $nx + $ty * $ny + $tz * $nz;
                $ma = $sa * $push;
                $mb = $sb * $push;
                $X[$a] += $ma * $nx;
                $Y[$a] += $ma * $ny;
                $Z[$a] += $ma * $nz;
                $X[$b] -= $mb * $nx;
                $Y[$b] -= $mb * $ny;
                $Z[$b] -= $mb * $nz;
                // What is more than they approached must not fling them apart.
                $came = $rubs && $along < 0.0 ? -$along : 0.0;
                $more = $push - $came;
                if ($more > 0.0) {
                    $ma = $sa * $more;
                    $mb = $sb * $more;
                    $P[$a] += $ma * $nx;
                    $Q[$a] += $ma * $ny;
                    $R[$a] += $ma * $nz;
                    $P[$b] -= $mb * $nx;
                    $Q[$b] -= $mb * $ny;
                    $R[$b] -= $mb * $nz;
                }
                if ($friction > 0.0) {
                    $tx -= $along * $nx;
                    $ty -= $along * $ny;
                    $tz -= $along * $nz;
                    $t = sqrt($tx * $tx + $ty * $ty + $tz * $tz);
                    $most = $friction * $push;
                    $f = $t > $most ? $most / $t : 1.0;
                    $ma = $sa * $f;
                    $mb = $sb * $f;
                    $X[$a] -= $ma * $tx;
                    $Y[$a] -= $ma * $ty;
                    $Z[$a] -= $ma * $tz;
                    $X[$b] += $mb * $tx;
                    $Y[$b] += $mb * $ty;
                    $Z[$b] += $mb * $tz;
                }
            }
        }
        [$x, $y, $z, $px, $py, $pz] = [$X, $Y, $Z, $P, $Q, $R];
    }

    /**
     * Where it has come through itself it is drawn back, without a change of speed; until that is done, what is tangled does not push
     * itself apart.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $px places before
     * @param array<int, float> $py
     * @param array<int, float> $pz
     * @param array<int, float> $w inverse masses
     * @param float $tight share of how far two must stay apart, below which what is around them may have come through
     * @param bool $folds whether to look at sharp folds too, whose own faces come through each other
     *
     * @return bool whether it had come through itself
     */
    public function untangle(array &$x, array &$y, array &$z, array &$px, array &$py, array &$pz, array $w, float $tight = ClothTuning::TIGHT, bool $folds = false): bool
    {
        foreach ($this->let as $c => $apart) {
            $this->apart[$c] = $apart;
        }
        $this->let = [];
        $changed = null;
        for ($round = 0; $round < ClothTuning::UNTANGLE; ++$round) {
            $near = $this->near($x, $y, $z, $w, $tight, $changed, $folds ? Folds::sharp($x, $y, $z, $this->weave->triangles) : []);
            $ways = $near === [] ? [] : Tangles::waysOut(Tangles::facing($near, $x, $y, $z, $this->weave->triangles, $this->weave->around), $x, $y, $z, $this->weave->triangles, $this->weave->around);
            if ($ways === []) {
                return $round > 0;
            }
            foreach ($ways as $i => [$a, $b, $c]) {
                $by = $w[$i] > 0.0 ? ClothTuning::WAY_OUT * $this->radius[$i] : 0.0;
                $x[$i] += $by * $a;
                $y[$i] += $by * $b;
                $z[$i] += $by * $c;
                $px[$i] += $by * $a;
                $py[$i] += $by * $b;
                $pz[$i] += $by * $c;
            }
            // Elsewhere all is as it was when it was looked at.
            $changed = $this->beside($ways);
        }
        // With those beside them: the tip of what hangs through is pushed the wrong way too.
        $tangled = $this->beside($ways);
        foreach ($this->vertex as $k => $a) {
            for ($c = $this->first[$k], $end = isset($tangled[$a]) ? $this->first[$k + 1] : 0; $c < $end; ++$c) {
                if (isset($tangled[$this->other[$c]])) {
                    $this->let[$c] = $this->apart[$c];
                    $this->apart[$c] = 0.0;
                }
            }
        }

        return true;
    }

    /**
     * @param array<int, mixed> $vertices
     *
     * @return array<int, true> corners of the triangles at these vertices
     */
    private function beside(array $vertices): array
    {
        $beside = [];
        $triangles = $this->weave->triangles;
        foreach ($vertices as $i => $_) {
            foreach ($this->weave->around[$i] as $t) {
                $beside[$triangles[$t]] = true;
                $beside[$triangles[$t + 1]] = true;
                $beside[$triangles[$t + 2]] = true;
            }
        }

        return $beside;
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w
     * @param array<int, true>|null $of pairs with one of these only; null: all
     * @param array<int, true> $sharp vertices in sharp folds
     *
     * @return list<array{int, int}> pairs so near that what is around them may have come through, and not both held
     */
    private function near(array $x, array $y, array $z, array $w, float $tight, ?array $of, array $sharp): array
    {
        $near = [];
        [$first, $other, $radius] = [$this->first, $this->other, $this->radius];
        $share = $tight ** 2;
        foreach ($this->vertex as $k => $a) {
            $all = $of === null || isset($of[$a]);
            for ($c = $first[$k], $end = $first[$k + 1]; $c < $end; ++$c) {
                $b = $other[$c];
                if (! $all && ! isset($of[$b])) {
                    continue;
                }
                $dx = $x[$a] - $x[$b];
                $dy = $y[$a] - $y[$b];
                $dz = $z[$a] - $z[$b];
                $l = $dx * $dx + $dy * $dy + $dz * $dz;
                $d = $radius[$a] + $radius[$b];
                if (($w[$a] > 0.0 || $w[$b] > 0.0) && (($l < $share * $d * $d && $l < $this->tight($a, $b, $tight)) || (isset($sharp[$a], $sharp[$b]) && isset($this->edges[min($a, $b) * $this->weave->count() + max($a, $b)])))) {
                    $near[] = [$a, $b];
                }
            }
        }

        return $near;
    }

    /** @return list<int> vertices that have come through it, and could not be drawn back yet */
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
    public function pairs(array $of): array
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
        return ['x' => $this->listed[0], 'y' => $this->listed[1], 'z' => $this->listed[2], 'let' => array_keys($this->let)];
    }

    public function restore(State $saved): void
    {
        [$x, $y, $z] = [$saved->floats('x'), $saved->floats('y'), $saved->floats('z')];
        if ($x !== []) {
            $this->list($x, $y, $z);
            foreach ($saved->ints('let') as $c) {
                $this->let[$c] = $this->apart[$c];
                $this->apart[$c] = 0.0;
            }
        }
    }
}
