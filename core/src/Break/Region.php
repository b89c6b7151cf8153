<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** The box around a mesh in which a cell complex is laid out: its bounds and a little more. */
final readonly class Region
{
    /** Of the mesh's size: how far the region reaches beyond its bounds. */
    private const MARGIN = 0.015625;

    /**
     * @param array{float, float, float} $low
     * @param array{float, float, float} $high
     */
    private function __construct(public array $low, public array $high)
    {
    }

    public static function around(TriangleMesh $mesh): self
    {
        [$low, $high] = $mesh->bounds();
        $margin = self::MARGIN * $mesh->size();

        return new self(
            [$low[0] - $margin, $low[1] - $margin, $low[2] - $margin],
            [$high[0] + $margin, $high[1] + $margin, $high[2] + $margin],
        );
    }

    /**
     * The lowest and highest place of the region along a direction.
     *
     * @param array{float, float, float} $direction
     *
     * @return array{float, float}
     */
    public function along(array $direction): array
    {
        $from = $to = 0.0;
        foreach ([0, 1, 2] as $axis) {
            $from += min($direction[$axis] * $this->low[$axis], $direction[$axis] * $this->high[$axis]);
            $to += max($direction[$axis] * $this->low[$axis], $direction[$axis] * $this->high[$axis]);
        }

        return [$from, $to];
    }
}
