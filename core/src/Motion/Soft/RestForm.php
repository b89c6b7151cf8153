<?php

declare(strict_types=1);

namespace YardBreak\Core\Motion\Soft;

use YardBreak\Core\Motion\Cloth\RestShape;

/** What a soft body wants to be: in which shape and how large, and each of its boxes how stiff and how far grown. */
final class RestForm
{
    /** @var list<float> how many times as stiff each box is as its matter */
    public array $stiff;

    /** @var list<float> how many times as large each box wants to be as in that shape */
    public array $grown;

    /** @var list<list<float>> what its nodes were told last: stiffness, size; none: nothing */
    public array $told = [];

    /** What its surface is beside its boxes; null: nothing. */
    private ?Relief $relief = null;

    /** @var array{array<int, float>, array<int, float>, array<int, float>} its nodes, m */
    private array $nodes;

    /** @var array{list<float>, list<float>, list<float>}|null where the vertices of its surface are beside where its boxes carry them, m; null: they are there */
    private ?array $beside = null;

    /** @var array{float, float, float} how many times as large as that it wants to be, along the prop's axes */
    private array $size = [1.0, 1.0, 1.0];

    public function __construct(private readonly Lattice $lattice, private readonly Skin $skin)
    {
        $this->nodes = [$lattice->x, $lattice->y, $lattice->z];
        $this->stiff = $this->grown = array_fill(0, $lattice->boxes(), 1.0);
    }

    /**
     * @param list<float> $stiff of each node
     * @param list<float> $grown of each node
     *
     * @return bool whether that is new to a box
     */
    public function become(array $stiff, array $grown): bool
    {
        $this->told = [$stiff, $grown];
        [$stiff, $grown] = [$this->ofBoxes($stiff), $this->ofBoxes($grown)];
        if ($stiff === $this->stiff && $grown === $this->grown) {
            return false;
        }
        [$this->stiff, $this->grown] = [$stiff, $grown];

        return true;
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes in another shape, m
     * @param array{list<float>, list<float>, list<float>} $beside where the vertices of its surface then are beside where its boxes carry them, m
     *
     * @return bool whether that is new
     */
    public function draw(array $nodes, array $beside): bool
    {
        return $this->lie($nodes, $beside, $this->size);
    }

    /**
     * @param array{float, float, float} $size
     *
     * @return bool whether that is new
     */
    public function size(array $size): bool
    {
        return $this->lie($this->nodes, $this->beside, $size);
    }

    public function boxes(): RestBoxes
    {
        return RestBoxes::of($this->lattice, ...RestShape::sized($this->nodes, $this->size));
    }

    /** @return array{list<float>, list<float>, list<float>} its surface, m */
    public function surface(): array
    {
        return $this->skin->places(...RestShape::sized($this->nodes, $this->size), beside: $this->besideAsLarge());
    }

    /**
     * @param array<int, float> $turns of its boxes
     *
     * @return array{list<float>, list<float>, list<float>}|null where the vertices of its surface are beside where boxes that are turned so carry them, m; null: they are there
     */
    public function raised(array $turns): ?array
    {
        return $this->relief?->turned($turns, $this->grown);
    }

    /**
     * @param array{array<int, float>, array<int, float>, array<int, float>} $nodes
     * @param array{list<float>, list<float>, list<float>}|null $beside
     * @param array{float, float, float} $size
     */
    private function lie(array $nodes, ?array $beside, array $size): bool
    {
        if ($nodes === $this->nodes && $size === $this->size) {
            return false;
        }
        [$this->nodes, $this->beside, $this->size] = [$nodes, $beside, $size];
        $beside = $this->besideAsLarge();
        $this->relief = $beside === null ? null : new Relief($this->lattice, $this->skin->around(), ...$beside);

        return true;
    }

    /** @return array{list<float>, list<float>, list<float>}|null */
    private function besideAsLarge(): ?array
    {
        return $this->beside === null ? null : RestShape::sized($this->beside, $this->size);
    }

    /**
     * @param list<float> $values of each node
     *
     * @return list<float> mean of each box's nodes
     */
    private function ofBoxes(array $values): array
    {
        $means = [];
        for ($b = 0, $n = $this->lattice->boxes(); $b < $n; $b++) {
            $sum = 0.0;
            for ($c = 8 * $b; $c < 8 * $b + 8; $c++) {
                $sum += $values[$this->lattice->corners[$c]];
            }
            $means[] = 0.125 * $sum;
        }

        return $means;
    }
}
