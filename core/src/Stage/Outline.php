<?php

declare(strict_types=1);

namespace YardBreak\Core\Stage;

use YardBreak\Core\Math\Quaternion;

/** Where a source of a weight is at a frame, as it can be drawn. */
final readonly class Outline
{
    /**
     * @param string $shape ball, box, cylinder, circle, plane or line: each reaches from -1 to 1 along its axes; circle and plane lie across their own y, a line along it
     * @param bool $inShot whether it stands in the shot, else in the prop's own space
     * @param array{float, float, float} $position of its middle, m
     * @param array{float, float, float, float} $rotation quaternion x, y, z, w
     * @param array{float, float, float} $size half of it along its own axes, m
     */
    public function __construct(public string $shape, public bool $inShot, public array $position, public array $rotation, public array $size)
    {
    }

    /**
     * @param array{float, float, float} $from m
     * @param array{float, float, float} $to
     */
    public static function line(array $from, array $to): self
    {
        $way = [$to[0] - $from[0], $to[1] - $from[1], $to[2] - $from[2]];
        $length = sqrt($way[0] ** 2 + $way[1] ** 2 + $way[2] ** 2);
        $turn = $length > 0.0 ? Quaternion::between([0.0, 1.0, 0.0], [$way[0] / $length, $way[1] / $length, $way[2] / $length]) : Quaternion::IDENTITY;

        return new self('line', false, [$from[0] + 0.5 * $way[0], $from[1] + 0.5 * $way[1], $from[2] + 0.5 * $way[2]], $turn, [0.0, 0.5 * $length, 0.0]);
    }

    /** @return list<float> position, rotation, size */
    public function numbers(): array
    {
        return [...$this->position, ...$this->rotation, ...$this->size];
    }
}
