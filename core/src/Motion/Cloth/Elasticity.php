<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Cloth;

/** How far a cloth's edges and hinges give in a substep, and what draws it together by that. */
final class Elasticity
{
    /** @var list<float> of each edge, in terms of the mean vertex */
    private array $compliance = [];

    /** @var list<float> of each hinge */
    private array $hingeCompliance = [];

    /** @var array<int, float> inverse masses of the vertices, as shares of the mean one's */
    private array $w = [];

    /** @var array{list<float>, list<float>, list<float>, list<float>} how far the vertices of each hinge go */
    private array $hingeShares = [[], [], [], []];

    /** @param float $mass of the mean vertex, kg */
    public function __construct(private readonly Weave $weave, private readonly float $mass)
    {
    }

    /** The fabric's stiffness is shared by so many: the edges, and the levels over them. */
    public static function scales(): int
    {
        return count(ClothTuning::LEVELS) + 1;
    }

    /** @param float $h how long substeps are from now on, s */
    public function pace(float $h): void
    {
        $mass = $this->mass / ($h * $h);
        $scales = self::scales();
        $this->compliance = $this->hingeCompliance = [];
        foreach ($this->weave->stiffness as $stiffness) {
            // Each pull is shared by a sweep there and one back.
            $this->compliance[] = 2.0 * $scales * $mass * max(ClothTuning::LEAST_COMPLIANCE, 1.0 / max(1e-12, $stiffness));
        }
        foreach ($this->weave->rigidity as $rigidity) {
            // As the edges: one way alone, even the other way each time, lets stiff cloth blow up.
            $this->hingeCompliance[] = 2.0 * $mass / $rigidity;
        }
        if ($this->w !== []) {
            $this->weigh($this->w);
        }
    }

    /** @param array<int, float> $w inverse masses of the vertices from now on, as shares of the mean one's */
    public function weigh(array $w): void
    {
        $this->w = $w;
        $this->hingeShares = Hinges::shares($w, $this->weave->hinge, $this->weave->factor, $this->hingeCompliance);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $w inverse masses to what draws it together
     * @param array<int, float> $length of the edges at rest, m
     * @param bool $back the last edge first
     */
    public function stretch(array &$x, array &$y, array &$z, array $w, array $length, bool $back): void
    {
        Springs::sweep($x, $y, $z, $w, $this->weave->first, $this->weave->other, $length, $this->compliance, $back);
    }

    /**
     * @param array<int, float> $x
     * @param array<int, float> $y
     * @param array<int, float> $z
     * @param array<int, float> $rest length of each hinge's sum at rest
     */
    public function bend(array &$x, array &$y, array &$z, array $rest): void
    {
        [$a, $b, $c, $d] = $this->weave->hinge;
        [$p, $q, $r, $s] = $this->weave->factor;
        [$i, $j, $k, $l] = $this->hingeShares;
        foreach ([false, true] as $back) {
            Hinges::sweep($x, $y, $z, $a, $b, $c, $d, $p, $q, $r, $s, $i, $j, $k, $l, $rest, $back);
        }
    }
}
