<?php

declare(strict_types=1);

namespace YardBreak\Core\Break;

use YardBreak\Core\Mesh\TriangleMesh;

/** The space in which lengths along an axis are divided by a factor: what is even there is slender here. */
final readonly class Squeeze
{
    /** @param array{float, float, float} $axis of length 1 */
    public function __construct(private float $factor, private array $axis)
    {
    }

    public function squeezed(TriangleMesh $mesh): TriangleMesh
    {
        [$x, $y, $z] = Sites::squeezed($mesh->x, $mesh->y, $mesh->z, $this->factor, $this->axis);

        return new TriangleMesh($x, $y, $z, $mesh->triangles);
    }

    /** @return array{float, float, float} */
    public function back(float $x, float $y, float $z): array
    {
        [$px, $py, $pz] = Sites::squeezed([$x], [$y], [$z], 1.0 / $this->factor, $this->axis);

        return [$px[0], $py[0], $pz[0]];
    }
}
