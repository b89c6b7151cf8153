<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

/** Where a source of a weight is at a frame, as it can be drawn. */
final readonly class Outline
{
    /**
     * @param string $shape ball, box, cylinder, circle or plane: each reaches from -1 to 1 along its axes; circle and plane lie across their own y
     * @param bool $inShot whether it stands in the shot, else in the prop's own space
     * @param array{float, float, float} $position of its middle, m
     * @param array{float, float, float, float} $rotation quaternion x, y, z, w
     * @param array{float, float, float} $size half of it along its own axes, m
     */
    public function __construct(public string $shape, public bool $inShot, public array $position, public array $rotation, public array $size)
    {
    }

    /** @return list<float> position, rotation, size */
    public function numbers(): array
    {
        return [...$this->position, ...$this->rotation, ...$this->size];
    }
}
