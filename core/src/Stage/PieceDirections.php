<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Document\Prop;

/** Which ways lead away from a prop where its pieces are, in its axes. */
final readonly class PieceDirections
{
    public function __construct(private Prop $prop, private BrokenProp $broken, private Surfaces $others)
    {
    }

    /** @return array{float, float, float} away from the middle of the prop's bounds, unit; nought for what lies there */
    public function outward(int $piece): array
    {
        $centre = $this->broken->centre($piece);
        [$low, $high] = $this->broken->bounds;
        [$x, $y, $z] = [$centre[0] - 0.5 * ($low[0] + $high[0]), $centre[1] - 0.5 * ($low[1] + $high[1]), $centre[2] - 0.5 * ($low[2] + $high[2])];
        $far = sqrt($x * $x + $y * $y + $z * $z);

        return $far > 1e-9 ? [$x / $far, $y / $far, $z / $far] : [0.0, 0.0, 0.0];
    }

    /** @return array{float, float, float} where the place of its surface faces that is nearest to the piece, unit */
    public function offTheSurface(int $piece): array
    {
        $tree = $this->others->own($this->prop);
        [$x, $y, $z] = $this->broken->centre($piece);

        return $tree->facing($tree->nearest($x, $y, $z, INF), $x, $y, $z);
    }
}
