<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Math\Expansion;

/**
 * A partition of space into convex cells: cell i is where the affine function f_i(x) = a_i . x + b_i is the smallest.
 * Voronoi and power diagrams, parallel slabs and stretched (grain) cells are all of this form, so one exact cutter serves
 * them all.
 *
 * Nothing here depends on an epsilon. Ties are broken by simulation of simplicity (Edelsbrunner and Muecke 1990): f_i is
 * thought to be larger by e_i, where e_0 is infinitely larger than e_1 and so on, so no four cell walls ever meet in a
 * line, no corner of a mesh ever lies on a wall. "form(i, m)" is f_m - f_i, which is not negative inside cell i.
 *
 * Besides the cells there are six walls (numbers n to n + 5) that bound the region: form(i, wall) does not depend on i.
 */
final readonly class CellComplex
{
    /** Rounding of a form evaluated in doubles, relative to the sum of the magnitudes of its terms (9 unit roundoffs). */
    public const ROUNDING = 1.0e-15;

    public int $cells;

    /**
     * @param array<int, float> $ax gradients of the cells' functions, one number a cell
     * @param array<int, float> $ay
     * @param array<int, float> $az
     * @param array<int, float> $b constants of the cells' functions
     * @param array{float, float, float} $low the region's corner with the smallest coordinates
     * @param array{float, float, float} $high the opposite corner
     */
    public function __construct(
        public array $ax,
        public array $ay,
        public array $az,
        public array $b,
        public array $low,
        public array $high,
    ) {
        $this->cells = count($b);
    }

    /**
     * The Voronoi diagram of the sites: f_i(x) = |x - p_i|^2 - |x|^2.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     */
    public static function voronoi(array $x, array $y, array $z, array $low, array $high): self
    {
        $ax = $ay = $az = $b = [];
        foreach ($x as $i => $px) {
            $ax[] = -2.0 * $px;
            $ay[] = -2.0 * $y[$i];
            $az[] = -2.0 * $z[$i];
            $b[] = $px * $px + $y[$i] * $y[$i] + $z[$i] * $z[$i];
        }

        return new self($ax, $ay, $az, $b, $low, $high);
    }

    /**
     * The power diagram of the sites (Aurenhammer 1987): a cell is the larger the larger its weight.
     *
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $weights in squared lengths
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     */
    public static function power(array $x, array $y, array $z, array $weights, array $low, array $high): self
    {
        $plain = self::voronoi($x, $y, $z, $low, $high);
        $b = $plain->b;
        foreach (array_values($weights) as $i => $weight) {
            $b[$i] -= $weight;
        }

        return new self($plain->ax, $plain->ay, $plain->az, $b, $low, $high);
    }

    /**
     * Slabs between parallel planes: cell i lies between positions i - 1 and i along the normal.
     *
     * @param array{float, float, float} $normal of length 1
     * @param list<float> $positions of the planes, rising
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     */
    public static function slabs(array $normal, array $positions, array $low, array $high): self
    {
        $ax = $ay = $az = $b = [];
        $constant = 0.0;
        foreach ([...$positions, 0.0] as $i => $at) {
            // f_i = -2 i (n . x) + b_i, so f_(i+1) - f_i vanishes at the plane between the two.
            $ax[] = -2.0 * $i * $normal[0];
            $ay[] = -2.0 * $i * $normal[1];
            $az[] = -2.0 * $i * $normal[2];
            $b[] = $constant;
            $constant += 2.0 * $at;
        }

        return new self($ax, $ay, $az, $b, $low, $high);
    }

    /** The same with one cell's function raised: it gets smaller (a weight, as in power diagrams). */
    public function lifted(int $cell, float $by): self
    {
        $b = $this->b;
        $b[$cell] += $by;

        return new self($this->ax, $this->ay, $this->az, $b, $this->low, $this->high);
    }

    /**
     * The form of cell i and constraint m (a cell or a wall) in doubles: normal and constant.
     *
     * @return array{float, float, float, float}
     */
    public function form(int $i, int $m): array
    {
        $wall = $m - $this->cells;
        if ($wall < 0) {
            return [
                $this->ax[$m] - $this->ax[$i],
                $this->ay[$m] - $this->ay[$i],
                $this->az[$m] - $this->az[$i],
                $this->b[$m] - $this->b[$i],
            ];
        }
        $axis = $wall >> 1;
        $normal = [0.0, 0.0, 0.0];
        if (($wall & 1) === 0) {
            $normal[$axis] = 1.0;

            return [$normal[0], $normal[1], $normal[2], -$this->low[$axis]];
        }
        $normal[$axis] = -1.0;

        return [$normal[0], $normal[1], $normal[2], $this->high[$axis]];
    }

    /**
     * On which side of form(i, m) lies the corner where the forms of j, k and l vanish? Exact; never 0.
     *
     * @param array{int, int, int} $corner the constraints j, k, l that meet there, seen from cell i
     */
    public function sideOfCorner(int $i, array $corner, int $m): int
    {
        $ids = [$corner[0], $corner[1], $corner[2], $m];
        $normals = [];
        $rows = [];
        foreach ($ids as $id) {
            $row = $this->exactForm($i, $id);
            $rows[] = $row;
            $normals[] = [$row[0], $row[1], $row[2]];
        }
        // x solves N x = -d; form m there is det[N d; n_m d_m] / det N.
        $denominator = Expansion::determinant([$normals[0], $normals[1], $normals[2]])->sign();
        $value = Expansion::determinant($rows)->sign();
        if ($value === 0) {
            // The constants carry the perturbation, so the determinant is linear in it: cofactors of the last column.
            $cofactors = [];
            for ($row = 0; $row < 4; $row++) {
                $minor = $normals;
                array_splice($minor, $row, 1);
                $cofactor = Expansion::determinant($minor);
                $cofactors[$row] = ($row % 2 === 0) ? $cofactor->negated() : $cofactor;
            }
            $value = $this->tieBreak($i, $ids, $cofactors);
        }

        return $value * $denominator;
    }

    /**
     * Which of form(i, m)'s sides does a point of the mesh lie on? Exact; never 0. The point is where the forms of the
     * constraints in $on vanish on the simplex spanned by the mesh's vertices: a vertex itself ($on empty), a point of
     * an edge (one constraint), or of a triangle (two).
     *
     * @param list<array{float, float, float}> $simplex count($on) + 1 vertices
     * @param list<int> $on
     */
    public function sideOfPoint(int $i, array $simplex, array $on, int $m): int
    {
        $ids = [...$on, $m];
        $rows = [];
        foreach ($ids as $id) {
            $form = $this->exactForm($i, $id);
            $row = [];
            foreach ($simplex as $vertex) {
                $row[] = $form[0]->times(Expansion::of($vertex[0]))
                    ->plus($form[1]->times(Expansion::of($vertex[1])))
                    ->plus($form[2]->times(Expansion::of($vertex[2])))
                    ->plus($form[3]);
            }
            $rows[] = $row;
        }
        $last = count($rows) - 1;
        $ones = array_fill(0, $last + 1, Expansion::of(1.0));
        $value = Expansion::determinant($rows)->sign();
        $withOnes = [];
        for ($row = 0; $row <= $last; $row++) {
            $replaced = $rows;
            $replaced[$row] = $ones;
            $withOnes[$row] = Expansion::determinant($replaced);
        }
        if ($value === 0) {
            $value = $this->tieBreak($i, $ids, $withOnes);
        }

        return $value * $withOnes[$last]->sign();
    }

    /** @return array{Expansion, Expansion, Expansion, Expansion} */
    private function exactForm(int $i, int $m): array
    {
        if ($m >= $this->cells) {
            $form = $this->form($i, $m);

            return [Expansion::of($form[0]), Expansion::of($form[1]), Expansion::of($form[2]), Expansion::of($form[3])];
        }

        return [
            Expansion::difference($this->ax[$m], $this->ax[$i]),
            Expansion::difference($this->ay[$m], $this->ay[$i]),
            Expansion::difference($this->az[$m], $this->az[$i]),
            Expansion::difference($this->b[$m], $this->b[$i]),
        ];
    }

    /**
     * The sign of sum_r (e_{ids[r]} - e_i) coefficients[r], where lower numbers have infinitely larger e; walls carry no
     * - e_i.
     *
     * @param list<int> $ids
     * @param array<int, Expansion> $coefficients
     */
    private function tieBreak(int $i, array $ids, array $coefficients): int
    {
        $terms = [];
        $own = Expansion::of(0.0);
        foreach ($ids as $row => $id) {
            $terms[$id] = $coefficients[$row];
            if ($id < $this->cells) {
                $own = $own->minus($coefficients[$row]);
            }
        }
        $terms[$i] = $own;
        ksort($terms);
        foreach ($terms as $term) {
            if ($term->sign() !== 0) {
                return $term->sign();
            }
        }

        throw new BreakFailed('Two cells of the pattern are the same: remove the duplicate sites.');
    }
}
